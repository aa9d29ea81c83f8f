using System.Collections.Immutable;

namespace GoldenRule.Core.Documents;

/// <summary>How rows of a kind come to be in an email: checks and the laying out of copy go by it.</summary>
public enum RowPurpose
{
    /// <summary>Written anew in each email.</summary>
    Message,

    /// <summary>Comes ready, as adverts and sign-offs do.</summary>
    Ready,

    /// <summary>Stands around every email: header, footer, legal text.</summary>
    Frame,
}

/// <summary>What rows of the library are for in an email.</summary>
/// <param name="Key">Technical name; it never changes.</param>
/// <param name="Retired">Nothing new is made for it.</param>
/// <param name="MergedInto">Key of the kind that took its place; null: it stands for itself.</param>
public sealed record RowKind(
    string Key,
    string Name,
    RowPurpose Purpose = RowPurpose.Message,
    bool Retired = false,
    string? MergedInto = null
)
{
    public const string Header = "header";
    public const string Hero = "hero";
    public const string Main = "main";
    public const string Secondary = "secondary";
    public const string Supporting = "supporting";
    public const string Advert = "advert";
    public const string SignOff = "sign-off";
    public const string Footer = "footer";
    public const string Legal = "legal";
}

/// <summary>The row kinds of a library, in the lead's order, also those that are retired or merged.</summary>
public sealed class RowKindPlan(ImmutableArray<RowKind> kinds)
{
    private readonly ImmutableDictionary<string, RowKind> byKey = kinds.ToImmutableDictionary(k => k.Key, StringComparer.Ordinal);

    /// <summary>What a library begins with.</summary>
    public static RowKindPlan Usual { get; } =
        new([
            new(RowKind.Header, "Header", RowPurpose.Frame),
            new(RowKind.Hero, "Hero"),
            new(RowKind.Main, "Main"),
            new(RowKind.Secondary, "Secondary"),
            new(RowKind.Supporting, "Supporting"),
            new(RowKind.Advert, "Advert", RowPurpose.Ready),
            new(RowKind.SignOff, "Sign-off", RowPurpose.Ready),
            new(RowKind.Footer, "Footer", RowPurpose.Frame),
            new(RowKind.Legal, "Legal", RowPurpose.Frame),
        ]);

    public ImmutableArray<RowKind> Kinds => kinds;

    public MergedKeys Merged { get; } =
        new(kinds.Where(k => k.MergedInto is not null).ToImmutableDictionary(k => k.Key, k => k.MergedInto!, StringComparer.Ordinal));

    /// <summary>Those that rows are made for.</summary>
    public IEnumerable<RowKind> Offered => kinds.Where(k => k is { Retired: false, MergedInto: null });

    /// <summary>The kind of that key, or the one that took its place. Null: there is none.</summary>
    public RowKind? Find(string key) => byKey.GetValueOrDefault(Merged.Current(key));

    /// <summary>As it stands in a sentence: "sign-off".</summary>
    public string Words(string key) => Find(key)?.Name.ToLowerInvariant() ?? key;

    public RowPurpose PurposeOf(string key) => Find(key)?.Purpose ?? RowPurpose.Message;

    /// <summary>Where it stands among the others.</summary>
    public int OrderOf(string key) => Find(key) is { } kind ? kinds.IndexOf(kind) : kinds.Length;
}
