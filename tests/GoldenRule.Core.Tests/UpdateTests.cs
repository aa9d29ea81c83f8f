using System.Collections.Immutable;
using FsCheck;
using FsCheck.Fluent;
using FsCheck.Xunit;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Core.Governance;
using GoldenRule.Core.History;
using GoldenRule.Core.Updates;
using GoldenRule.Core.Validation;

namespace GoldenRule.Core.Tests;

/// <summary>Taking newer releases, going back in time, and going on from the email before.</summary>
public sealed class UpdateTests
{
    private static readonly ImmutableSortedDictionary<string, int> NoRows = ImmutableSortedDictionary<string, int>.Empty;

    /// <summary>Every value that someone filled in, wherever it is now, as text.</summary>
    private static List<string> Filled(Email email) =>
        [
            .. email
                .Fills.Concat(
                    email
                        .Zones.Values.Concat(email.Unplaced.Values.Select(a => a.Rows))
                        .SelectMany(z => z)
                        .Select(r => KeyValuePair.Create(r.Id, r.Fills))
                )
                .SelectMany(row =>
                    row.Value.SelectMany(fill =>
                        fill.Value.Content.Select(c => $"{row.Key}/{fill.Key}/{c.Key}={DocumentJson.Write(c.Value)}")
                            .Concat(fill.Value.Look.Select(l => $"{row.Key}/{fill.Key}/{l.Key}={l.Value}"))
                            .Concat(fill.Value.Shown is { } shown ? [$"{row.Key}/{fill.Key}={shown}"] : [])
                    )
                ),
            .. email
                .Unplaced.Values.Where(a => a.Piece.Length > 0)
                .Select(a =>
                    a switch
                    {
                        { Field: not null } => $"{a.Row}/{a.Piece}/{a.Field}={DocumentJson.Write(a.Value!)}",
                        { Property: not null } => $"{a.Row}/{a.Piece}/{a.Property}={a.Choice}",
                        _ => $"{a.Row}/{a.Piece}={a.Shown}",
                    }
                ),
        ];

    // Random legal work of an author and a designer on the governed library's email.
    private static Email Fill(IEnumerable<int> seeds)
    {
        Document email = GovernedLibrary.Email;
        foreach (var n in seeds)
        {
            var order = RunningOrder.From((Email)email, GovernedLibrary.Masters);
            var row = order.Rows[n % order.Rows.Length];
            var blocks = row.Row.Blocks.Where(b => !b.Content.IsEmpty && !b.Look.IsEmpty).ToList();
            var block = blocks.Count == 0 ? GovernedLibrary.Block("none", "text") : blocks[n / 7 % blocks.Count];
            Edit edit = (n / 31 % 5) switch
            {
                0 or 1 => new SetFill(
                    row.Id,
                    block.Id,
                    block.Content.First().Key,
                    block.Content.First().Value is FieldValue.Prose
                        ? new FieldValue.Prose(RichText.FromParagraphs(new string('p', n % 40)))
                        : new FieldValue.Words(new string('w', n % 40))
                ),
                2 => new SetLook(row.Id, block.Id, block.Look.First().Key, n % 2 == 0 ? "secondary" : "primary"),
                3 => new SetShown(row.Id, block.Id, Visibility.PhoneOnly),
                _ when row is { IsOwn: true, Zone: not null } => (n / 155 % 6) switch
                {
                    0 => new DuplicateBlock(row.Id, block.Id, $"c{n}"),
                    1 => new MoveBlock(row.Id, block.Id, row.Id, row.Row.Columns[^1].Id, 0),
                    2 => new RemoveBlock(row.Id, block.Id),
                    3 => new SetLayout(
                        row.Id,
                        n % 2 == 0
                            ? [new ColumnShare($"k{n}", 1), new ColumnShare(row.Row.Columns[0].Id, 2)]
                            : [new ColumnShare(row.Row.Columns[^1].Id, 1)]
                    ),
                    4 => new SetBackground(row.Id, n % 2 == 0 ? "viaduct" : null),
                    _ => new SplitText(row.Id, block.Id, "text", RichText.FromParagraphs("a"), GovernedLibrary.Block($"s{n}", "text")),
                },
                _ when row.Zone?.Id == "free" && n / 155 % 2 == 0 => new DetachRow(row.Id, Detached.FromRow(row)),
                _ when n / 155 % 3 == 0 => new InsertRow("free", 0, new PlacedRow { Id = $"n{n}", Own = GovernedLibrary.Built($"n{n}") }),
                _ => new InsertRow(
                    "free",
                    0,
                    new PlacedRow
                    {
                        Id = $"n{n}",
                        Master = GovernedLibrary.MainId,
                        Release = 1,
                    }
                ),
            };
            var open = new OpenDocument.OfEmail((Email)email, order, GovernedLibrary.Masters, EmailState.Draft);
            if (Governor.Decide(new Person(Guid.Empty, "", [n % 3 == 0 ? Role.Designer : Role.Author]), edit, open) is Decision.Allowed)
            {
                try
                {
                    email = Structure.Complete(EditApplication.Apply(edit, email), GovernedLibrary.Masters);
                }
                catch (StructureException)
                {
                    // What cannot be is refused whoever asks.
                }
            }
        }

        return (Email)email;
    }

    // A next release of the row and the template, with random things gone, sealed, bounded or of another kind.
    private static ReleaseCatalog Change(IList<int> seeds)
    {
        var main = GovernedLibrary.Main;
        var template = (Template)BlockKinds.Complete(GovernedLibrary.Template);
        foreach (var n in seeds)
        {
            var blocks = main.Row.Columns[0].Blocks;
            var at = blocks.Length == 0 ? 0 : n / 11 % blocks.Length;
            ImmutableArray<Block> changed = (n % 7, blocks.Length) switch
            {
                (_, 0) => blocks,
                (0, _) => blocks.RemoveAt(at),
                (1, _) => blocks.SetItem(
                    at,
                    blocks[at] with
                    {
                        Locks = new Locks { Content = new Lock.Sealed(), Look = new Lock.Sealed() },
                    }
                ),
                (2, _) when !blocks[at].Content.IsEmpty => blocks.SetItem(
                    at,
                    blocks[at] with
                    {
                        Limits = blocks[at].Limits.SetItem(blocks[at].Content.First().Key, new Limit { Characters = 1 + (n % 30) }),
                    }
                ),
                (3 or 2, _) => blocks.SetItem(at, GovernedLibrary.Block(blocks[at].Id, "divider")),
                (4, _) => blocks.SetItem(at, GovernedLibrary.Block(blocks[at].Id, "text")),
                (5, _) => blocks.SetItem(at, blocks[at] with { Offers = blocks[at].Offers.Clear() }),
                _ => blocks,
            };
            main = main with { Row = main.Row with { Columns = [main.Row.Columns[0] with { Blocks = changed }] } };
            template = (n % 5) switch
            {
                0 when template.Order.Length > 1 => template with { Order = template.Order.RemoveAt(n / 13 % template.Order.Length) },
                1 => template with
                {
                    Order =
                    [
                        .. template.Order.Select(i =>
                            i is PlacedRow { Master: { } m } placed && m == GovernedLibrary.MainId ? placed with { Release = 2 } : i
                        ),
                    ],
                },
                _ => template,
            };
        }

        return new ReleaseCatalog(
            ImmutableDictionary<(Guid, int), SavedRow>
                .Empty.Add((GovernedLibrary.MainId, 1), GovernedLibrary.Main)
                .Add((GovernedLibrary.MainId, 2), (SavedRow)BlockKinds.Complete(main))
                .Add((GovernedLibrary.AdvertId, 1), GovernedLibrary.Advert)
                .Add((GovernedLibrary.MastId, 1), GovernedLibrary.Mast),
            ImmutableDictionary<(Guid, int), Template>
                .Empty.Add((GovernedLibrary.TemplateId, 1), (Template)BlockKinds.Complete(GovernedLibrary.Template))
                .Add((GovernedLibrary.TemplateId, 2), template)
        );
    }

    /// <summary>
    /// Whatever changes in the library, every fill is in its place or set aside; none vanishes, none that stays breaks a rule,
    /// and it is all taken back.
    /// </summary>
    [Property(MaxTest = 2_000)]
    public Property Every_fill_survives_an_update() =>
        Prop.ForAll(Gen.Choose(0, 100_000).ListOf(14).ToArbitrary(), Gen.Choose(0, 100_000).ListOf(4).ToArbitrary(), (fills, changes) =>
        {
            var (email, masters) = (Fill(fills), Change(changes));
            var rows = email
                .Zones.Values.SelectMany(z => z)
                .Where(r => r.Own is null && r.Master == GovernedLibrary.MainId)
                .ToImmutableSortedDictionary(r => r.Id, _ => 2);
            var update = Rebase.Plan(email, 2, rows, masters, PictureCatalog.Empty);
            var open = new OpenDocument.OfEmail(email, RunningOrder.From(email, masters), masters, EmailState.Draft);
            Assert.IsType<Decision.Allowed>(Governor.Decide(Larkfell.Author, update, open));

            var after = (Email)Inverses.RoundTrip(update).Apply(email);
            Structure.Complete(after, masters);
            Assert.Equal(Filled(email).Order(StringComparer.Ordinal), Filled(after).Order(StringComparer.Ordinal));
            foreach (var row in RunningOrder.From(after, masters).Rows)
            {
                foreach (var (piece, field) in row.Fills.SelectMany(f => f.Value.Content.Keys.Select(c => (f.Key, c))))
                {
                    Assert.False(
                        EffectiveLocks.ForPiece(row, piece, Aspect.Content) is Lock.Sealed,
                        $"{row.Id}/{piece} is sealed and filled."
                    );
                    Assert.NotNull(row.FindBlock(piece)?.Content.GetValueOrDefault(field));
                }
            }

            var back = Inverses.RoundTrip(update.Invert(email));
            Assert.Equal(Inverses.Json(email), Inverses.Json(back.Apply(after)));
            Assert.Equal(Inverses.Json(after), Inverses.Json(back.Invert(after).Apply(back.Apply(after))));
            Assert.Equal(after.Unplaced.Count, after.Unplaced.Values.Count(a => a.Why.Length > 0 && a.Where.Length > 0));

            // What has to be set aside cannot be kept in place by leaving it out.
            if (update.Aside.Count > 0)
            {
                Assert.IsType<Decision.Refused>(
                    Governor.Decide(Larkfell.Author, update with { Aside = update.Aside.Remove(update.Aside.Keys.First()) }, open)
                );
            }
        });

    [Fact]
    public void An_update_leads_forward_and_invents_nothing()
    {
        var email = Fill([.. Enumerable.Range(0, 40)]);
        var masters = Change([6, 6]);
        var open = new OpenDocument.OfEmail(email, RunningOrder.From(email, masters), masters, EmailState.Draft);
        var none = ImmutableSortedDictionary<string, UnplacedContent>.Empty;
        TakeUpdate[] refused =
        [
            new(3, NoRows, none, []),
            new(0, NoRows, none, []),
            new(2, NoRows.Add("mast", 2), none, []),
            new(2, NoRows.Add("r0", 9), none, []),
            new(
                2,
                NoRows,
                none.Add(
                    "x",
                    new UnplacedContent("r0", "headline", "Somewhere", "Because")
                    {
                        Field = "text",
                        Value = new FieldValue.Words("never written"),
                    }
                ),
                []
            ),
            new(2, NoRows, none.Add("x", new UnplacedContent("free", "", "Free", "Because") { Rows = email.Zones["free"] }), []),
        ];
        Assert.All(refused, u => Assert.IsType<Decision.Refused>(Governor.Decide(Larkfell.Author, u, open)));
        Assert.IsType<Decision.Refused>(Governor.Decide(Larkfell.Reviewer, new TakeUpdate(2, NoRows, none, []), open));
        Assert.IsType<Decision.Allowed>(Governor.Decide(Larkfell.Author, new TakeUpdate(2, NoRows, none, []), open));
    }

    /// <summary>The difference between any two states of an email, applied to the one, gives the other.</summary>
    [Property(MaxTest = 1_000)]
    public Property Any_state_is_gone_back_to() =>
        Prop.ForAll(Gen.Choose(0, 100_000).ListOf(10).ToArbitrary(), Gen.Choose(0, 100_000).ListOf(10).ToArbitrary(), (some, more) =>
        {
            var then = Fill(some);
            var now = Fill([.. some, .. more]);
            if (more.Count > 3)
            {
                now = (Email)new SetDetail("subject", "Later").Apply(new SetLanguage("cy").Apply(now));
                var rows = now.Zones["free"];
                now = now with { Zones = now.Zones.SetItem("free", [.. rows.Reverse()]) };
            }

            foreach (var (a, b) in new[] { (now, then), (then, now) })
            {
                var result = (Email)
                    Flat(Difference.Between(a, b, GovernedLibrary.Masters))
                        .Aggregate((Document)a, (d, e) => Inverses.RoundTrip(e).Apply(d));
                Assert.Equal(Inverses.Json(b), Inverses.Json(result));
            }
        });

    private static IEnumerable<Edit> Flat(ImmutableArray<DifferencePart> parts) => parts.SelectMany(p => p.Together.Concat(p.Further));

    [Fact]
    public void The_next_of_a_series_keeps_rows_and_marks_what_was_written()
    {
        var next = 0;
        var april = NextIssue.Next(Larkfell.Gazette, "April", () => $"id{next++}");
        Assert.Equal(Larkfell.Gazette.Zones["stories"].Select(r => r.Master), april.Zones["stories"].Select(r => r.Master));
        Assert.Empty(
            april
                .Zones.Values.SelectMany(z => z)
                .Select(r => r.Id)
                .Intersect(Larkfell.Gazette.Zones.Values.SelectMany(z => z).Select(r => r.Id))
        );
        var headline = april.Fills["hero"]["headline"].Content["text"];
        Assert.True(april.IsToRenew("hero/headline/text", headline));
        Assert.False(april.IsToRenew("hero/headline/text", new FieldValue.Words("New words")));
        var left = Larkfell.Check(april).Where(f => f.Check == "left-from-before").ToList();
        Assert.Contains(left, f => f.Place is { Row: "hero", Piece: "headline" });

        // "It still holds" ends it, and next month it stands unasked.
        var held = (Email)left.First(f => f.Place.Piece == "headline").Remedy!.Edits.Aggregate((Document)april, (d, e) => e.Apply(d));
        Assert.DoesNotContain(Larkfell.Check(held), f => f.Check == "left-from-before" && f.Place is { Row: "hero", Piece: "headline" });
        var may = NextIssue.Next(held, "May", () => $"id{next++}");
        Assert.False(may.IsToRenew("hero/headline/text", headline));

        var copy = NextIssue.Copy(Larkfell.Gazette, "Copy", () => $"id{next++}");
        Assert.Equal(Larkfell.Gazette.Fills, copy.Fills);
        Assert.Empty(copy.PreviousContent);
    }

    [Theory]
    [InlineData("March: the viaduct reopens", "April: the viaduct reopens")]
    [InlineData("Gazette, December 2026", "Gazette, January 2027")]
    [InlineData("GAZETTE FOR MAY", "GAZETTE FOR JUNE")]
    [InlineData("Sep 2026 news", "Oct 2026 news")]
    [InlineData("Winter 2026 timetable", "Spring 2027 timetable")]
    [InlineData("Autumn walks", "Winter walks")]
    [InlineData("Results Q4 2026", "Results Q1 2027")]
    [InlineData("2026-12 bulletin", "2027-01 bulletin")]
    [InlineData("Gazette no. 9", "Gazette no. 10")]
    [InlineData("Issue 099", "Issue 100")]
    [InlineData("Week 7 rota", "Week 8 rota")]
    [InlineData("Gala 2026", "Gala 2027")]
    [InlineData("You may march on", "You may march on")]
    [InlineData("The 10:40 to Harrow", "The 10:40 to Harrow")]
    [InlineData("Engine No4", "Engine No5")]
    [InlineData("", "")]
    public void A_name_is_rolled_on(string name, string next) => Assert.Equal(next, NextName.After(name));

    [Theory]
    [InlineData("de-DE", "Rundbrief, Dezember 2026", "Rundbrief, Januar 2027")]
    [InlineData("fr-FR", "La lettre de mars 2027", "La lettre de avril 2027")]
    [InlineData("fr-FR", "Mars : le viaduc rouvre", "Avril : le viaduc rouvre")]
    [InlineData("cy-GB", "CYLCHLYTHYR MAWRTH", "CYLCHLYTHYR EBRILL")]
    [InlineData("pl-PL", "Wieści, marzec 2027", "Wieści, kwiecień 2027")]
    [InlineData("pl-PL", "2 marca w parowozowni", "2 kwietnia w parowozowni")]
    [InlineData("de-DE", "May in Harrow", "June in Harrow")]
    [InlineData("ja", "3月のお知らせ", "3月のお知らせ")]
    public void A_subject_is_rolled_on_in_its_language(string language, string subject, string next) =>
        Assert.Equal(next, NextName.After(subject, language));
}
