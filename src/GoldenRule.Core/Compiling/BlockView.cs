using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Resolving;

namespace GoldenRule.Core.Compiling;

/// <summary>A block where it is being written: its values, its theme, and the width it has.</summary>
/// <param name="Width">CSS pixels of the column inside its padding.</param>
public readonly record struct BlockView(
    ResolvedBlock Block,
    ResolvedRow Row,
    Theme Theme,
    SurfaceDress Surface,
    int Width,
    RenderContext Context
)
{
    public PictureCatalog Pictures => Context.Pictures;

    /// <summary>Address that picture files stand under, with its closing slash.</summary>
    public string PicturesAt => Context.PicturesAt;

    /// <summary>Where a link to the email as a web page leads: where it was written to lead, or by itself to its page.</summary>
    public string PageOr(string href) => Links.IsPlaceholder(href) ? Context.PageAt : href;

    public string Look(string property) => Block.Look[property];

    public int LookNumber(string property) => int.Parse(Block.Look[property], System.Globalization.CultureInfo.InvariantCulture);
}
