using System.Collections.Immutable;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Tests;

/// <summary>What a piece inherits is what holds for it once it says nothing itself, and it is said what says so.</summary>
public sealed class InheritedLockTests
{
    private static readonly Lock[] Said = [new Lock.Open(), new Lock.Sealed(), new Lock.Reserved { Roles = [Role.Designer] }];

    /// <summary>Every piece of a row that stands in a template and in a zone, with every lock around it.</summary>
    [Fact]
    public void What_holds_without_a_word_of_its_own_is_what_is_inherited()
    {
        var row = GovernedLibrary.Main;
        var pieces = row.Row.Columns.SelectMany(c => c.Blocks.Select(b => b.Id).Prepend(c.Id)).Prepend(row.Row.Id).ToList();
        var asked = 0;
        foreach (var place in Places(row))
        {
            foreach (var piece in pieces)
            {
                foreach (var aspect in Enum.GetValues<Aspect>())
                {
                    asked++;
                    var (inherited, from) = EffectiveLocks.Inherited(place, piece, aspect);
                    Assert.NotEmpty(from);
                    Assert.Equal(
                        DocumentJson.Write(EffectiveLocks.ForPiece(Silent(place, piece), piece, aspect)),
                        DocumentJson.Write(inherited)
                    );
                }
            }
        }

        Assert.True(asked > 300, $"{asked}");
    }

    [Fact]
    public void It_is_said_what_a_lock_comes_from()
    {
        var locked = GovernedLibrary.Main.Row.Columns[0].Blocks[0].Id;
        var by = new Locks { Look = new Lock.Sealed(), Content = new Lock.Sealed() };
        var own = GovernedLibrary.Main;
        var column = own with { Row = own.Row with { Columns = [own.Row.Columns[0] with { Locks = by }, .. own.Row.Columns.Skip(1)] } };
        Assert.Equal("its column", EffectiveLocks.Inherited(Own(column), locked, Aspect.Content).From);
        Assert.Equal("the saved row", EffectiveLocks.Inherited(Placed(own, Locks.Unset, null), locked, Aspect.Look).From);
        Assert.Equal("the row where it stands", EffectiveLocks.Inherited(Placed(own, by, null), locked, Aspect.Content).From);
        Assert.Equal(
            "the zone \"Stories\"",
            EffectiveLocks
                .Inherited(
                    Placed(
                        own,
                        Locks.Unset,
                        new Zone
                        {
                            Id = "z",
                            Name = "Stories",
                            Locks = by,
                        }
                    ),
                    locked,
                    Aspect.Content
                )
                .From
        );
    }

    private static readonly ImmutableSortedDictionary<string, PieceFill> Nothing = ImmutableSortedDictionary<string, PieceFill>.Empty;

    private static IEnumerable<OrderedRow> Places(SavedRow row)
    {
        foreach (var (of, around) in Said.SelectMany(a => Said.Select(b => (a, b))))
        {
            var locks = new Locks { Content = of, Look = of };
            var zone = new Zone
            {
                Id = "z",
                Locks = new Locks { Content = around, Look = around },
            };
            yield return Own(row with { Row = row.Row with { Locks = locks } });
            yield return Placed(row, locks, null);
            yield return Placed(row, locks, zone);
            yield return Placed(row, Locks.Unset, zone);
        }
    }

    private static OrderedRow Own(SavedRow row) => new(new PlacedRow { Id = "p", Own = row }, row, null, Nothing, Nothing);

    private static OrderedRow Placed(SavedRow row, Locks locks, Zone? zone) =>
        new(
            new PlacedRow
            {
                Id = "p",
                Master = GovernedLibrary.MainId,
                Release = 1,
                Locks = locks,
            },
            row,
            zone,
            Nothing,
            Nothing
        );

    // The same row, in which one piece says nothing where it stands.
    private static OrderedRow Silent(OrderedRow row, string piece)
    {
        if (!row.IsOwn)
        {
            return row with { Placed = row.Placed with { Rules = row.Placed.Rules.Remove(piece) } };
        }

        var own = row.Master.Row;
        own = own with
        {
            Locks = piece == own.Id ? Locks.Unset : own.Locks,
            Columns =
            [
                .. own.Columns.Select(c =>
                    c with
                    {
                        Locks = piece == c.Id ? Locks.Unset : c.Locks,
                        Blocks = [.. c.Blocks.Select(b => b.Id == piece ? b with { Locks = Locks.Unset } : b)],
                    }
                ),
            ],
        };
        return Own(row.Master with { Row = own });
    }
}
