namespace GoldenRule.Core.Documents;

/// <summary>The lock that holds for one aspect of a piece once all layers have spoken.</summary>
public static class EffectiveLocks
{
    /// <summary>
    /// For a piece of a row: the nearest of block, column and row in the master, tightened by what the template added and
    /// by the zone it stands in.
    /// </summary>
    /// <param name="piece">A block, a column, or the row's own piece.</param>
    /// <param name="added">False: what the template adds is left out, as it is for the template itself.</param>
    public static Lock ForPiece(OrderedRow row, string piece, Aspect aspect, bool added = true)
    {
        var master = row.Master.Row;
        var column = row.ColumnOf(piece);
        var own = column?.Blocks.FirstOrDefault(b => b.Id == piece)?.Locks[aspect]
            ?? column?.Locks[aspect]
            ?? master.Locks[aspect]
            ?? Locks.Root[aspect]!;
        if (!added)
        {
            return own;
        }

        var here = row.AddedLock(piece, aspect) ?? row.Placed.Locks[aspect];
        var tightest = here is null ? own : Lock.Tightest(own, here);
        // How rows are arranged in a zone is the zone's own business, see ForArrangement.
        return aspect != Aspect.Arrangement && row.Zone?.Locks[aspect] is { } around ? Lock.Tightest(tightest, around) : tightest;
    }

    /// <summary>What holds for a piece that says nothing itself where it stands, and what says so.</summary>
    public static (Lock Lock, string From) Inherited(OrderedRow row, string piece, Aspect aspect)
    {
        var (inherited, from) = row.IsOwn ? InRow(row.Row, piece, aspect) : (ForPiece(row, piece, aspect, added: false), "the saved row");
        Tighten(row.IsOwn ? null : AroundHere(row, piece, aspect), "the row where it stands");
        // How rows are arranged in a zone is the zone's own business, see ForArrangement.
        Tighten(aspect == Aspect.Arrangement ? null : row.Zone?.Locks[aspect], $"the zone \"{row.Zone?.Name ?? row.Zone?.Id}\"");
        return (inherited, from);

        void Tighten(Lock? by, string what)
        {
            if (by is not null && !inherited.IsAsTightAs(by))
            {
                (inherited, from) = (Lock.Tightest(inherited, by), what);
            }
        }
    }

    private static (Lock Lock, string From) InRow(Row row, string piece, Aspect aspect)
    {
        var column = row.Columns.FirstOrDefault(c => c.Blocks.Any(b => b.Id == piece));
        if (column?.Locks[aspect] is { } ofColumn)
        {
            return (ofColumn, "its column");
        }

        return piece != row.Id && row.Locks[aspect] is { } ofRow ? (ofRow, "the row") : (Locks.Root[aspect]!, "the usual rules");
    }

    // What the template says of the pieces around this one.
    private static Lock? AroundHere(OrderedRow row, string piece, Aspect aspect)
    {
        var column = row.ColumnOf(piece)?.Id;
        return Said(column == piece ? null : column) ?? Said(piece == row.Row.Id ? null : row.Row.Id) ?? row.Placed.Locks[aspect];

        Lock? Said(string? id) => id is null ? null : row.Placed.Rules.GetValueOrDefault(id)?.Locks[aspect];
    }

    /// <summary>
    /// For arranging rows. The template's own rows stay where they are; in a zone rows are free unless the zone is locked.
    /// </summary>
    public static Lock ForArrangement(Zone? zone) => zone is null ? new Lock.Sealed() : zone.Locks.Arrangement ?? new Lock.Open();

    public static bool Admits(Lock @lock, Person person) =>
        @lock switch
        {
            Lock.Open => true,
            Lock.Sealed => false,
            Lock.Reserved reserved => reserved.People.Contains(person.Id)
                || reserved.Roles.Any(person.Roles.Contains)
                || person.InTeams.Any(held => reserved.Teams.Contains(held.Team)),
            _ => throw new InvalidOperationException("Unknown lock."),
        };

    /// <summary>Who may, as the second half of a sentence.</summary>
    public static string WhoMay(Lock @lock) =>
        @lock switch
        {
            Lock.Open => "Anyone who may edit the email can.",
            Lock.Sealed => "A lead or a designer can change that, in the library.",
            Lock.Reserved reserved => string.Join(" and ", Named(reserved)) is { Length: > 0 } who
                ? $"Reserved for {who}."
                : "Only the people it is reserved for can.",
            _ => throw new InvalidOperationException("Unknown lock."),
        };

    private static IEnumerable<string> Named(Lock.Reserved reserved) =>
        reserved.Roles.Select(Plural).Concat(reserved.Teams.IsEmpty ? [] : ["the teams it names"]);

    private static string Plural(Role role) =>
        role switch
        {
            Role.Lead => "leads",
            Role.Designer => "designers",
            Role.Author => "authors",
            Role.Reviewer => "reviewers",
            _ => throw new ArgumentOutOfRangeException(nameof(role)),
        };
}
