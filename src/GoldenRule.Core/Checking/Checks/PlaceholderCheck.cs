using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Checking.Checks;

/// <summary>Default wording that only says what belongs there and was left standing.</summary>
public sealed class PlaceholderCheck : Check
{
    public override string Name => "placeholder-wording";

    public override string Why => "The template's wording says what belongs here; readers must not get it.";

    public override IEnumerable<Finding> Run(Inspection inspection) =>
        from entry in inspection.Blocks
        let block = entry.View.Block
        where block.Master.Placeholder
        from field in block.Content
        where field.Value is FieldValue.Words { Text.Length: > 0 } or FieldValue.Prose { Text.IsEmpty: false }
        where field.Key != "alt" && !IsFilled(entry.Row, block, field.Key) && !FilledByTemplate(entry.Row.Source, block.Id, field.Key)
        select Found(Severity.Stop, new Place(entry.Row.Id, block.Id, field.Key), $"\"{Label(block)}\" still says what belongs there.");

    private static bool FilledByTemplate(OrderedRow row, string block, string field) =>
        row.TemplateFills.GetValueOrDefault(block)?.Content.ContainsKey(field) == true;
}
