using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Checking;

/// <summary>
/// What an email's author has to fill in: wording that says what belongs there, links that lead nowhere as the layer beneath has
/// them, and what the inbox shows.
/// </summary>
internal static class Fillable
{
    /// <summary>Sender's name, sending address and subject.</summary>
    public const int Details = 3;

    /// <summary>How many places of a block there are, filled in or not.</summary>
    public static int Count(InspectedBlock entry)
    {
        var master = entry.Block.Master;
        var wording = !master.Placeholder ? 0 : master.Content.Count(c => c.Key != "alt" && c.Value.HasWords());
        return wording
            + master.Content.Count(c =>
                c.Value is FieldValue.Link link && Links.IsPlaceholder(link.Href) && entry.Links.Any(l => l.Field == c.Key)
            );
    }
}
