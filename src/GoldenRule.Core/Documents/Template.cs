using System.Collections.Immutable;
using System.Text.Json.Serialization;

namespace GoldenRule.Core.Documents;

/// <summary>Ordered rows and zones for one campaign type.</summary>
public sealed record Template : Document
{
    /// <summary>Key of the campaign type.</summary>
    public required string CampaignType { get; init; }

    public string Description { get; init; } = "";

    /// <summary>The house style it is dressed in.</summary>
    public required Guid HouseStyle { get; init; }

    /// <summary>Words to find it by.</summary>
    public ImmutableArray<string> Tags { get; init; } = [];

    public ImmutableArray<OrderItem> Order { get; init; } = [];

    /// <summary>The rows that stand in it, in its order and where its zones begin with some.</summary>
    [JsonIgnore]
    public IEnumerable<PlacedRow> PlacedRows =>
        Order.SelectMany(item =>
            item switch
            {
                Zone zone => zone.Default.AsEnumerable(),
                PlacedRow row => [row],
                _ => [],
            }
        );

    /// <summary>Whether authors may write an email's plain text by hand.</summary>
    public bool PlainTextOpen { get; init; }

    /// <summary>Whether its emails are each written to one person.</summary>
    public bool ForOnePerson { get; init; }

    /// <summary>Brand variables that come to something else here, by key.</summary>
    public ImmutableSortedDictionary<string, NarrowedValue> Narrowed { get; init; } =
        ImmutableSortedDictionary<string, NarrowedValue>.Empty;

    /// <summary>What subject, preheader and sender a new email starts with.</summary>
    public EmailDetails Details { get; init; } = new();
}
