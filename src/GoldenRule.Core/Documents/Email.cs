using System.Collections.Immutable;

namespace GoldenRule.Core.Documents;

/// <summary>Where an email is on its way out.</summary>
public enum EmailState
{
    Draft,
    InReview,
    Approved,
    HandedOff,
}

/// <summary>What the inbox shows of an email before it is opened.</summary>
public sealed record EmailDetails
{
    public string Subject { get; init; } = "";

    public string Preheader { get; init; } = "";

    public string SenderName { get; init; } = "";

    public string SenderAddress { get; init; } = "";

    /// <summary>Reads one detail by its field name. Null: there is no such field.</summary>
    public string? Get(string field) => field switch
    {
        "subject" => Subject,
        "preheader" => Preheader,
        "senderName" => SenderName,
        "senderAddress" => SenderAddress,
        _ => null,
    };

    public EmailDetails With(string field, string value) => field switch
    {
        "subject" => this with { Subject = value },
        "preheader" => this with { Preheader = value },
        "senderName" => this with { SenderName = value },
        "senderAddress" => this with { SenderAddress = value },
        _ => throw new StructureException($"An email has no detail \"{field}\"; it has subject, preheader, senderName and senderAddress."),
    };
}

/// <summary>
/// An email: a reference to a template's release and only what its author was allowed to change.
/// </summary>
public sealed record Email : Document
{
    public required Guid Template { get; init; }

    public required int TemplateRelease { get; init; }

    /// <summary>BCP 47 tag, written as the document's language.</summary>
    public string Language { get; init; } = "en-GB";

    public EmailDetails Details { get; init; } = new();

    /// <summary>Fills of the template's own rows: placed row id, then piece id.</summary>
    public ImmutableSortedDictionary<string, ImmutableSortedDictionary<string, PieceFill>> Fills { get; init; } =
        ImmutableSortedDictionary<string, ImmutableSortedDictionary<string, PieceFill>>.Empty;

    /// <summary>What stands in each zone, by zone id.</summary>
    public ImmutableSortedDictionary<string, ImmutableArray<PlacedRow>> Zones { get; init; } =
        ImmutableSortedDictionary<string, ImmutableArray<PlacedRow>>.Empty;

    /// <summary>A new email from a template's release: its details, and its zones' first contents under new ids.</summary>
    public static Email StartFrom(Guid template, int release, Template master, string name, Func<string> newId) => new()
    {
        Name = name,
        Template = template,
        TemplateRelease = release,
        Details = master.Details,
        Zones = master.Order.OfType<Zone>().ToImmutableSortedDictionary(
            z => z.Id,
            z => z.Default.Select(r => r with { Id = newId() }).ToImmutableArray()),
    };

    /// <summary>The zone and the place in it where a row stands. Null: it is not in a zone.</summary>
    public (string Zone, int Index, PlacedRow Row)? FindInZones(string rowId)
    {
        foreach (var (zone, rows) in Zones)
        {
            for (var i = 0; i < rows.Length; i++)
            {
                if (rows[i].Id == rowId)
                {
                    return (zone, i, rows[i]);
                }
            }
        }

        return null;
    }
}
