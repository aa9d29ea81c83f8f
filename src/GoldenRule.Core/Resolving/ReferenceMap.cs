using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Resolving;

/// <summary>Puts what brand variables say in the place of the references to them.</summary>
/// <param name="block">The block whose fields are read. Null: the row's own.</param>
internal sealed class ReferenceMap(StyleLayers style, string row, string? block) : FieldMap
{
    /// <summary>The field that is read.</summary>
    public string Field { get; set; } = "";

    // What was stored into a list of links once was not asked for its type, and still opens.
    public override string Address(string href, FieldPart part) =>
        BrandVariable.Reference(href) is { } key
            ? style.Variable(key, Place(part), part is { Item: > 0, Name: null } ? null : VariableType.Link)
            : href;

    public override string Picture(string picture, FieldPart part) =>
        BrandVariable.Reference(picture) is { } key ? style.Variable(key, Place(part), VariableType.Picture) : picture;

    public override RichText Prose(RichText text, FieldPart part) =>
        text.Paragraphs.Any(p => p.Runs.Any(Refers))
            ? text with
            {
                Paragraphs = [.. text.Paragraphs.Select(p => p with { Runs = [.. p.Runs.Select(r => Filled(r, part))] })],
            }
            : text;

    // The key stays beside the words, so that checks know an address from any other text.
    private Run Filled(Run run, FieldPart part) =>
        run with
        {
            Text = run.Variable is null ? run.Text : style.Variable(run.Variable, Place(part)),
            Href = run.Href is null ? null : InProse(run.Href, part),
        };

    private string InProse(string href, FieldPart part) =>
        BrandVariable.Reference(href) is { } key ? style.Variable(key, Place(part)) : href;

    private static bool Refers(Run run) =>
        run.Variable is not null || (run.Href is not null && BrandVariable.Reference(run.Href) is not null);

    // Put together only where there is a reference.
    private string Place(FieldPart part) => block is null ? $"{row}/{Field}" : $"{row}/{block}/{Field}{part}";
}
