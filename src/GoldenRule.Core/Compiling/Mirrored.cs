using System.Text.RegularExpressions;

namespace GoldenRule.Core.Compiling;

/// <summary>
/// Compiled HTML for languages that run from right to left: what stood at the left stands at the right. Sides are turned where the
/// compiler wrote them, in style and in attributes; words are not touched, and columns, which follow the direction by themselves, run
/// the other way.
/// </summary>
public static partial class Mirrored
{
    public static string Html(string html)
    {
        var turned = InStyle().Replace(html, m => $"style=\"{Declarations(m.Groups["css"].Value)}\"");
        turned = StyleBlock().Replace(turned, m => $"<style>{Declarations(m.Groups["css"].Value)}</style>");
        turned = Side().Replace(turned, m => $" {m.Groups["name"].Value}=\"{Other(m.Groups["side"].Value)}\"");
        // Words of a VML button stand apart from the page; those of a VML text box stand in a table.
        turned = turned.Replace("<center style", "<center dir=\"rtl\" style", StringComparison.Ordinal);
        return Table().Replace(turned, "<table dir=\"rtl\" role");
    }

    /// <summary>Declarations of CSS with their sides turned.</summary>
    public static string Declarations(string css)
    {
        var turned = Sided().Replace(css, m => $"{m.Groups["property"].Value}-{Other(m.Groups["side"].Value)}");
        turned = Aligned().Replace(turned, m => $"{m.Groups["property"].Value}:{Other(m.Groups["side"].Value)}");
        // Top, right, bottom, left.
        turned = FourSides().Replace(turned, "${property}:${a} ${d} ${c} ${b}");
        // The corners from the top left on, clockwise.
        return FourCorners().Replace(turned, "border-radius:${b} ${a} ${d} ${c}");
    }

    private static string Other(string side) =>
        side switch
        {
            "left" => "right",
            "right" => "left",
            "ltr" => "rtl",
            _ => "ltr",
        };

    private const RegexOptions Plain = RegexOptions.ExplicitCapture | RegexOptions.CultureInvariant;

    // What a person wrote holds no quotation mark: it is escaped.
    [GeneratedRegex("style=\"(?<css>[^\"]*)\"", Plain)]
    private static partial Regex InStyle();

    [GeneratedRegex("<style>(?<css>[^<]*)</style>", Plain)]
    private static partial Regex StyleBlock();

    [GeneratedRegex(" (?<name>align|dir)=\"(?<side>left|right|ltr|rtl)\"", Plain)]
    private static partial Regex Side();

    [GeneratedRegex("<table role", Plain)]
    private static partial Regex Table();

    [GeneratedRegex(@"(?<![\w-])(?<property>padding|margin|border)-(?<side>left|right)(?=[-:])", Plain)]
    private static partial Regex Sided();

    [GeneratedRegex(@"(?<![\w-])(?<property>text-align|float|clear):\s*(?<side>left|right)\b", Plain)]
    private static partial Regex Aligned();

    [GeneratedRegex(
        @"(?<![\w-])(?<property>padding|margin):(?<a>[\w.%-]+) (?<b>[\w.%-]+) (?<c>[\w.%-]+) (?<d>[\w.%-]+)(?=[;}!""\s]|$)",
        Plain
    )]
    private static partial Regex FourSides();

    [GeneratedRegex(@"(?<![\w-])border-radius:(?<a>[\w.%]+) (?<b>[\w.%]+) (?<c>[\w.%]+) (?<d>[\w.%]+)(?=[;}!""\s]|$)", Plain)]
    private static partial Regex FourCorners();
}
