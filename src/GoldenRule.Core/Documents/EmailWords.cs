using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Documents;

/// <summary>The words that an email says itself: what search looks through. What its template says is said by all of them.</summary>
public static class EmailWords
{
    public static string Collect(Email email)
    {
        IEnumerable<string> details = [email.Name, email.Details.Subject, email.Details.Preheader, email.Details.CampaignName];
        var placed = email.Zones.Values.SelectMany(z => z).ToList();
        var fills = email.Fills.Values.Concat(placed.Select(r => r.Fills)).SelectMany(f => f.Values).SelectMany(f => f.Content.Values);
        var own = placed.Where(r => r.Own is not null).SelectMany(r => r.Own!.Row.Blocks).SelectMany(b => b.Content.Values);
        return string.Join('\n', details.Concat(fills.Concat(own).SelectMany(Collect)).Where(t => t.Length > 0)).ToLowerInvariant();
    }

    private static IEnumerable<string> Collect(FieldValue value) =>
        value switch
        {
            FieldValue.Words words => [words.Text],
            FieldValue.Prose prose => [prose.Text.PlainText],
            FieldValue.LinkList list => list.Links.Select(l => l.Name),
            FieldValue.Cells cells => cells.Rows.SelectMany(r => r),
            FieldValue.Entries entries => entries.Items.SelectMany(i => i.Values).SelectMany(Collect),
            _ => [],
        };
}
