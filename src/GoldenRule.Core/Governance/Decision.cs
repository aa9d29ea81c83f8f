namespace GoldenRule.Core.Governance;

/// <summary>Whether an edit may happen.</summary>
public abstract record Decision
{
    private Decision() { }

    public static Decision Yes { get; } = new Allowed();

    public sealed record Allowed : Decision;

    /// <param name="Rule">Stable name of the rule, see <see cref="Rules"/>.</param>
    /// <param name="Piece">The piece it is about, as "row/piece"; null: the whole document.</param>
    /// <param name="Reason">One line: what is not allowed and who may.</param>
    public sealed record Refused(string Rule, string? Piece, string Reason) : Decision;
}

/// <summary>Names of the rules of governance, as they stand in refusals.</summary>
public static class Rules
{
    public const string Role = "role";

    /// <summary>It belongs to teams in which the person has no such role.</summary>
    public const string Team = "team";

    public const string State = "state";
    public const string Unknown = "unknown-piece";
    public const string WrongType = "wrong-type";
    public const string LockArrangement = "lock.arrangement";
    public const string LockContent = "lock.content";
    public const string LockLook = "lock.look";
    public const string Offer = "offer";
    public const string ZoneAccepts = "zone.accepts";
    public const string ZoneMost = "zone.most";
    public const string ZoneLeast = "zone.least";

    /// <summary>An update leads to a newer release and sets aside what has no place there.</summary>
    public const string Update = "update";

    public const string ZoneOwnRows = "zone.own-rows";

    /// <summary>Locks, limits and instructions are set in the library, not in emails.</summary>
    public const string Library = "library";

    /// <summary>The pieces of a saved row are arranged in the saved row itself.</summary>
    public const string SavedRow = "saved-row";
}
