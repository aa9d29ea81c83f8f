using System.Globalization;
using System.Text.RegularExpressions;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Checking;

/// <summary>What hand-written HTML says of its own look. Everything else is dressed by the house style and cannot stray.</summary>
internal static partial class HandWritten
{
    /// <summary>Every declaration of the hand-written HTML in a row.</summary>
    public static IEnumerable<(InspectedBlock Entry, string Field, string Property, string Value)> In(InspectedRow row) =>
        // Most rows hold none.
        row.Blocks.Any(static e => e.Kind.HoldsCode)
            ? Declared(row)
            : [];

    private static IEnumerable<(InspectedBlock Entry, string Field, string Property, string Value)> Declared(InspectedRow row)
    {
        foreach (var entry in row.Blocks.Where(e => e.Kind.HoldsCode))
        {
            foreach (var (field, value) in entry.Content)
            {
                if (value is FieldValue.Code { Html.Length: > 0 } code)
                {
                    foreach (var (property, said) in code.Sanitised().Declared)
                    {
                        yield return (entry, field, property, said);
                    }
                }
            }
        }
    }

    /// <summary>The colours in a value, as they are written.</summary>
    public static IEnumerable<Colour> Colours(string value) =>
        Rgba().Matches(value).Select(m => new Colour(Channel(m, "r"), Channel(m, "g"), Channel(m, "b")));

    /// <summary>A remedy that writes one value for another all through the HTML. Null: it is not written that way.</summary>
    public static Remedy? Replace(InspectedBlock entry, string field, string former, string now, string label)
    {
        var html = ((FieldValue.Code)entry.Block.Content[field]).Sanitised().Html;
        return html.Contains(former, StringComparison.Ordinal)
            ? new Remedy(
                label,
                [new SetFill(entry.Row.Id, entry.Block.Id, field, new FieldValue.Code(html.Replace(former, now, StringComparison.Ordinal)))]
            )
            : null;
    }

    private static byte Channel(Match match, string name) => byte.Parse(match.Groups[name].ValueSpan, CultureInfo.InvariantCulture);

    [GeneratedRegex(@"rgba?\((?<r>\d{1,3}), (?<g>\d{1,3}), (?<b>\d{1,3})(, [\d.]+)?\)", RegexOptions.ExplicitCapture)]
    private static partial Regex Rgba();
}
