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
        var words = new WordsOfValues();
        foreach (var value in fills.Concat(own))
        {
            value.Visit(words);
        }

        return string.Join('\n', details.Concat(words.Found).Select(InlineNode.WithoutNodes).Where(t => t.Length > 0));
    }

    private sealed class WordsOfValues : FieldVisitor
    {
        public List<string> Found { get; } = [];

        public override void Words(string text, FieldPart part) => Found.Add(text);

        public override void Prose(RichText text, FieldPart part) => Found.Add(text.PlainText);
    }
}
