using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;
using GoldenRule.Core.Resolving;

namespace GoldenRule.Core.Compiling;

/// <summary>The shelves that block kinds lie on.</summary>
public enum KindGroup
{
    Words,
    Pictures,
    Links,
    Articles,
    Dates,
    Space,
    Service,
}

/// <summary>Shapes of the tiny drawing of a row.</summary>
public enum Drawing
{
    Lines,
    Heading,
    Picture,
    Button,
}

/// <summary>A picture that a block shows.</summary>
/// <param name="Field">Where it was chosen.</param>
/// <param name="Alt">Its alt text; null: it is decorative.</param>
/// <param name="Needed">True: without it the block falls apart.</param>
/// <param name="DecorativeField">The flag that marks it as decorative; null: there is none.</param>
public sealed record ShownPicture(string Field, string Picture, string? Alt, bool Needed, string? DecorativeField = null);

/// <summary>A block kind with its writers. A new kind is one class in Blocks/ and one line in <see cref="BlockKinds"/>.</summary>
public abstract class WritableKind : BlockKind
{
    /// <summary>True: in a row of full width it reaches the edges, where others keep the space at the sides.</summary>
    public virtual bool ReachesEdges => false;

    /// <summary>Writes the block into its table cell. Null content, an unset picture for example, may write nothing.</summary>
    public abstract void WriteHtml(HtmlWriter html, in BlockView view);

    public abstract void WriteText(PlainTextWriter text, in BlockView view);

    /// <summary>
    /// Every text of the block on the background it lands on, in one scheme: of the surface, a button or a table's header.
    /// </summary>
    public virtual IEnumerable<Reading> Readings(BlockView view, bool dark) => [];

    /// <summary>
    /// Global styles that it wears, each with the surface's colour that its text takes; null: the style has colours of its own.
    /// </summary>
    public virtual IEnumerable<(string Style, string? Colour)> Styles(Block block) => [];

    /// <summary>What stands for it in the tiny drawing of a row.</summary>
    public virtual Drawing Drawing => Fields.Any(f => f.Default is FieldValue.Image) ? Drawing.Picture : Drawing.Lines;

    /// <summary>Text sizes used, in CSS pixels, with what is that large.</summary>
    public virtual ImmutableArray<(string What, double Size)> Sizes(BlockView view) => [];

    /// <summary>Every address it leads to, with the field it stands in.</summary>
    public virtual ImmutableArray<(string Field, string Href)> Links(BlockView view) => [];

    /// <summary>What it is good for, in one line, for whoever looks for a kind.</summary>
    public abstract string About { get; }

    /// <summary>The shelf of kinds that it lies on.</summary>
    public abstract KindGroup Group { get; }

    /// <summary>CSS pixels below which it falls apart.</summary>
    public virtual int LeastWidth(BlockView view) => 60;

    /// <summary>Every picture it shows.</summary>
    public virtual ImmutableArray<ShownPicture> Pictures(BlockView view) => [];

    /// <summary>Where a reader can unsubscribe by words that can be read. Null: it offers no way.</summary>
    public virtual string? Unsubscribe(BlockView view) => null;

    /// <summary>What it adds to contents lists, in order; an empty one keeps its place and is left out.</summary>
    public virtual IEnumerable<string> Named(ResolvedBlock block) => [];

    /// <summary>True: it holds HTML written by hand.</summary>
    public bool HoldsCode => holdsCode ??= Fields.Any(f => f.Default is FieldValue.Code);

    private bool? holdsCode;

    /// <summary>True: it shows what headings and cards elsewhere are marked for.</summary>
    public virtual bool ShowsContents => false;

    /// <summary>Styles of the buttons it shows.</summary>
    public virtual IEnumerable<string> Buttons(BlockView view) =>
        view.Block.Look.TryGetValue("linkStyle", out var style) && style != "link" ? [style] : [];

    /// <summary>The words of its links, with the field they stand in.</summary>
    public virtual IEnumerable<(string Field, string Words)> LinkWords(BlockView view) => Wording.OfLinks(view.Block);

    /// <summary>Files that its links lead to, beside pictures: name and bytes.</summary>
    public virtual IEnumerable<(string Name, byte[] Content)> Files(BlockView view) => [];

    /// <summary>1 to 4 for a heading; null for anything else.</summary>
    public virtual int? HeadingLevel(BlockView view) => null;

    private protected static LookProperty Align { get; } = new("align", "Alignment", ["left", "center", "right"]);

    /// <summary>Whether contents lists name a heading or card.</summary>
    private protected static LookProperty NamedLook { get; } = new("named", "In the contents list", ["no", "yes"]);

    private protected static bool IsNamed(ResolvedBlock block) => block.Look["named"] == "yes";

    private protected static LookProperty LinkLook { get; } = new("linkStyle", "Link as", ["link", "primary", "secondary", "quiet"]);

    private protected static void LinkOrButton(HtmlWriter html, in BlockView view, string words, string href)
    {
        if (view.Look("linkStyle") == "link")
        {
            Parts.LinkLine(html, view, "body", words, href);
        }
        else if (words.Length > 0)
        {
            ButtonWriter.Write(html, view.Theme, view.Look("linkStyle"), words, href, false, view.Width);
        }
    }

    private protected static Reading LinkReading(BlockView view, bool dark) =>
        view.Look("linkStyle") == "link"
            ? Read(view, dark, "Link", "body", "link")
            : ButtonWriter.Reading(view, view.Look("linkStyle"), dark);

    /// <summary>A link that may be left out.</summary>
    private protected static ImmutableArray<(string Field, string Href)> Optional(BlockView view, string field) =>
        view.Block.Href(field) is { Length: > 0 } href ? [(field, href)] : [];

    private protected static ImmutableArray<(string Field, string Href)> InProse(BlockView view, string field) =>
        InProse(view.Block.Prose(field), field);

    private protected static ImmutableArray<(string Field, string Href)> InProse(RichText text, string field) =>
        HoldsLink(text)
            ? [.. text.Paragraphs.SelectMany(p => p.Runs).Where(r => r.Href is not null).Select(r => (field, r.Href!)).Distinct()]
            : [];

    // Most texts hold none, and looking costs less than asking for them.
    private static bool HoldsLink(RichText text)
    {
        foreach (var paragraph in text.Paragraphs)
        {
            foreach (var run in paragraph.Runs)
            {
                if (run.Href is not null)
                {
                    return true;
                }
            }
        }

        return false;
    }

    /// <summary>A size of text, as <see cref="Sizes"/> gives it.</summary>
    private protected static (string What, double Size) Size(BlockView view, string what, string textStyle) =>
        (what, view.Theme.Style.Number(textStyle, "size"));

    private protected static Reading Read(BlockView view, bool dark, string what, string textStyle, string colour)
    {
        var (style, surface) = (view.Theme.Style, Theme.StyleName(view.Surface.Surface));
        return new Reading(
            what,
            style.Colour(surface, colour, dark),
            style.Colour(surface, "background", dark),
            style.Number(textStyle, "size"),
            style.Number(textStyle, "weight") >= 700,
            dark
        );
    }
}
