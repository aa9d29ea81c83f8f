using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Compiling;

/// <summary>A block kind with its writers. A new kind is one class in Blocks/ and one line in <see cref="BlockKinds"/>.</summary>
public abstract class WritableKind : BlockKind
{
    /// <summary>True: in a row of full width it reaches the edges, where others keep the space at the sides.</summary>
    public virtual bool ReachesEdges => false;

    /// <summary>Writes the block into its table cell. Null content, an unset picture for example, may write nothing.</summary>
    public abstract void WriteHtml(Utf8Writer html, in BlockView view);

    public abstract void WriteText(PlainTextWriter text, in BlockView view);

    /// <summary>Every text of the block on the background it lands on, in one scheme.</summary>
    public virtual IEnumerable<Reading> Readings(BlockView view, bool dark) => [];

    /// <summary>Text sizes used, in CSS pixels, with what is that large.</summary>
    public virtual IEnumerable<(string What, double Size)> Sizes(BlockView view) => [];

    /// <summary>Every address it leads to, with the field it stands in.</summary>
    public virtual IEnumerable<(string Field, string Href)> Links(BlockView view) => [];

    /// <summary>1 to 4 for a heading; null for anything else.</summary>
    public virtual int? HeadingLevel(BlockView view) => null;

    private protected static LookProperty Align { get; } = new("align", "Alignment", ["left", "center", "right"]);

    private protected static Reading Read(BlockView view, bool dark, string what, string textStyle, string colour)
    {
        var (style, surface) = (view.Dress.Style, Dress.StyleName(view.Surface.Surface));
        return new Reading(
            what,
            style.Colour(surface, colour, dark),
            style.Colour(surface, "background", dark),
            style.Number(textStyle, "size"),
            style.Number(textStyle, "weight") >= 700,
            dark);
    }
}
