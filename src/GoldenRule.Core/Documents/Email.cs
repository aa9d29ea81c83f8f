using System.Collections.Immutable;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json.Serialization;

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
    /// <summary>The names of all of them.</summary>
    public static ImmutableArray<string> Fields { get; } =
    ["subject", "preheader", "senderName", "senderAddress", "sendDay", "campaignName"];

    public string Subject { get; init; } = "";

    public string Preheader { get; init; } = "";

    public string SenderName { get; init; } = "";

    public string SenderAddress { get; init; } = "";

    /// <summary>The day the email goes out, "2027-03-02"; empty: not settled. A countdown counts from it.</summary>
    public string SendDay { get; init; } = "";

    /// <summary>What the campaign is called in the addresses of links, see <see cref="LinkTags"/>. Empty: as the email is.</summary>
    public string CampaignName { get; init; } = "";

    /// <summary>Reads one detail by its field name. Null: there is no such field.</summary>
    public string? Get(string field) =>
        field switch
        {
            "subject" => Subject,
            "preheader" => Preheader,
            "senderName" => SenderName,
            "senderAddress" => SenderAddress,
            "sendDay" => SendDay,
            "campaignName" => CampaignName,
            _ => null,
        };

    public EmailDetails With(string field, string value) =>
        field switch
        {
            "subject" => this with { Subject = value },
            "preheader" => this with { Preheader = value },
            "senderName" => this with { SenderName = value },
            "senderAddress" => this with { SenderAddress = value },
            "sendDay" => this with { SendDay = value },
            "campaignName" => this with { CampaignName = value },
            _ => throw new StructureException(
                $"An email has no detail \"{field}\"; it has subject, preheader, senderName, senderAddress, sendDay and campaignName."
            ),
        };
}

/// <summary>Plain text written by hand, and what the email said then.</summary>
/// <param name="Of">SHA-256, in lower-case hexadecimal, of the plain text that was made from the email.</param>
public sealed record WrittenText(string Text, string Of)
{
    public static WrittenText Over(string made, string text) => new(text, Hash(made));

    /// <summary>Whether the email still says what it said when this was written.</summary>
    public bool IsOf(string made) => Of == Hash(made);

    private static string Hash(string made) => Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(made)));
}

/// <summary>A file of the library that goes out with an email.</summary>
/// <param name="File">SHA-256 of its bytes, in lower-case hexadecimal.</param>
/// <param name="Name">What readers see it called.</param>
/// <param name="MediaType">"application/pdf" for example.</param>
public sealed record Attachment(string File, string Name, string MediaType, int Bytes);

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

    /// <summary>Plain text written by hand in place of what is made from the email. Null: it is made from the email.</summary>
    public WrittenText? PlainText { get; init; }

    /// <summary>Files that go out with it, in order.</summary>
    public ImmutableArray<Attachment> Attachments { get; init; } = [];

    /// <summary>Whom it is written to, where its template is for one person. Null: nobody is named.</summary>
    public Recipient? Recipient { get; init; }

    /// <summary>Fills of the template's own rows: placed row id, then piece id.</summary>
    public ImmutableSortedDictionary<string, ImmutableSortedDictionary<string, PieceFill>> Fills { get; init; } =
        ImmutableSortedDictionary<string, ImmutableSortedDictionary<string, PieceFill>>.Empty;

    /// <summary>What stands in each zone, by zone id.</summary>
    public ImmutableSortedDictionary<string, ImmutableArray<PlacedRow>> Zones { get; init; } =
        ImmutableSortedDictionary<string, ImmutableArray<PlacedRow>>.Empty;

    /// <summary>What found no place when an update was taken, by the key it is kept under.</summary>
    [JsonPropertyName("setAside")]
    public ImmutableSortedDictionary<string, UnplacedContent> Unplaced { get; init; } =
        ImmutableSortedDictionary<string, UnplacedContent>.Empty;

    /// <summary>
    /// What was written in the email this one goes on from, by the place it stands at here (as an edit's target). While
    /// the same still stands there it is to be renewed, unless it is <see cref="ConfirmedUnchanged"/>.
    /// </summary>
    [JsonPropertyName("lastTime")]
    public ImmutableSortedDictionary<string, FieldValue> PreviousContent { get; init; } =
        ImmutableSortedDictionary<string, FieldValue>.Empty;

    /// <summary>Places of <see cref="PreviousContent"/> that someone has looked at and left as they were.</summary>
    [JsonPropertyName("stillRight")]
    public ImmutableSortedSet<string> ConfirmedUnchanged { get; init; } = [];

    /// <summary>A new email from a template's release: its details, and its zones' first contents under new ids.</summary>
    public static Email StartFrom(Guid template, int release, Template master, string name, Func<string> newId) =>
        new()
        {
            Name = name,
            Template = template,
            TemplateRelease = release,
            Details = master.Details,
            Zones = master
                .Order.OfType<Zone>()
                .ToImmutableSortedDictionary(z => z.Id, z => z.Default.Select(r => r with { Id = newId() }).ToImmutableArray()),
        };

    /// <summary>Whether what stands at a place is left from the email before, and nobody has said that it still holds.</summary>
    public bool IsToRenew(string place, FieldValue standing) =>
        PreviousContent.TryGetValue(place, out var last) && !ConfirmedUnchanged.Contains(place) && DocumentJson.Same(last, standing);

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
