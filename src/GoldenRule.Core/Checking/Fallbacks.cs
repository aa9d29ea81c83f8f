using System.Collections.Frozen;

namespace GoldenRule.Core.Checking;

/// <summary>What readers see where a mail client leaves out a feature that the compiler uses and provides for.</summary>
public static class Fallbacks
{
    private static readonly FrozenDictionary<string, string> BySlug = new Dictionary<string, string>(StringComparer.Ordinal)
    {
        ["css-at-media"] = "columns that stack all the same, and text at the desktop's sizes",
        ["css-at-media-prefers-color-scheme"] = "the light colours, or dark ones of the client's own",
        ["css-background-image"] = "the colour of the row's surface",
        ["css-background-position"] = "the picture from its top left corner",
        ["css-background-size"] = "the picture at its own size",
        ["css-border-radius"] = "square corners",
        ["css-box-sizing"] = "a content area wider by its border",
        ["css-color-scheme"] = "the light colours, or dark ones of the client's own",
        ["css-display-none"] = "nothing: what is hidden has no height either",
        ["css-height"] = "areas as tall as what stands in them",
        ["css-important"] = "text at the desktop's sizes",
        ["css-max-height"] = "nothing: that client is told to hide it in its own way",
        ["css-max-width"] = "the width of the table's attribute",
        ["css-min-width"] = "columns in a table, at their share",
        ["css-opacity"] = "nothing: what is hidden has no height either",
        ["css-overflow"] = "nothing: what is hidden is not displayed either",
        ["css-overflow-wrap"] = "a very long word that widens its row",
        ["css-pseudo-class-hover"] = "links that do not change under the pointer",
        ["css-selector-attribute"] = "the light colours, or dark ones of the client's own",
        ["css-selector-class"] = "columns that stack all the same, and text at the desktop's sizes",
        ["css-selector-descendant"] = "the light colours, or dark ones of the client's own",
        ["css-selector-grouping"] = "text at the desktop's sizes",
        ["css-selector-type"] = "the same: what matters stands inline",
        ["css-text-decoration"] = "links as the client dresses them",
        ["css-unit-calc"] = "columns at their own width, which wrap where there is no room",
        ["css-word-break"] = "a very long word that widens its row",
        ["html-anchor-links"] = "a contents list whose links stay where they are",
        ["html-aria-hidden"] = "a mark that is read aloud",
        ["html-body"] = "rows with their own backgrounds on the client's page",
        ["html-dir"] = "columns in the order they are written",
        ["html-doctype"] = "the same: widths and heights are set on every table",
        ["html-lang"] = "an email read in the reader's own language",
        ["html-mailto-links"] = "an address that is not linked",
        ["html-meta-color-scheme"] = "the light colours, or dark ones of the client's own",
        ["html-picture"] = "the picture that desktops get",
        ["html-role"] = "layout tables that are announced as tables",
        ["html-srcset"] = "the picture that desktops get",
        ["html-style"] = "columns that stack all the same, and text at the desktop's sizes",
        ["html-width"] = "the width of the style",
    }.ToFrozenDictionary(StringComparer.Ordinal);

    /// <summary>Null: nothing is provided.</summary>
    public static string? Instead(string slug) => BySlug.GetValueOrDefault(slug);
}
