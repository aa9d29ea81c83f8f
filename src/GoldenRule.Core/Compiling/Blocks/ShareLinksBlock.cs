using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Compiling.Blocks;

/// <summary>
/// Ways to pass the email's web page on, or one article of it: by mail, as a link to copy, on networks that whoever makes the row names
/// by label and address. What is passed on is everybody's page, never a reader's own.
/// </summary>
public sealed class ShareLinksBlock : WritableKind
{
    /// <summary>Stands for the page's address in that of a network.</summary>
    public const string Place = "PAGE";

    // An address with a fragment is never made a reader's own; see MergePart.
    private const string WholeEmail = "#all";

    public override string Name => "share-links";

    public override string Label => "Share links";

    public override string About => "Ways to pass the email, or an article of it, on to others.";

    public override KindGroup Group => KindGroup.Service;

    public override ImmutableArray<Field> Fields { get; } =
    [
        new("mailText", "By mail, wording", new FieldValue.Words("Send it to a friend")),
        new("copyText", "A link to copy, wording", new FieldValue.Words("")),
        new("networks", $"Networks, {Place} where the address goes", new FieldValue.LinkList([])),
    ];

    public override ImmutableArray<LookProperty> Look { get; } = [Align, new("shares", "Passes on", ["email", "article"])];

    public override void WriteHtml(HtmlWriter html, in BlockView view)
    {
        Parts.OpenLine(html, view, "footer");
        var ways = Ways(view).ToList();
        Parts.Links(html, view, ways);
        if (view.Block.Words("copyText") is { Length: > 0 } copy)
        {
            html.Write($"{(ways.Count == 0 ? [] : "<br>"u8)}{copy} ");
            Parts.Link(html, view, Shown(view), Address(view));
        }

        html.Write("</p>"u8);
    }

    public override void WriteText(PlainTextWriter text, in BlockView view) =>
        text.Lines([
            .. Ways(view).Select(w => PlainTextWriter.Link(w.Words, w.Href)),
            .. view.Block.Words("copyText") is { Length: > 0 } copy ? [PlainTextWriter.Link(copy, Address(view))] : (string[])[],
        ]);

    public override IEnumerable<(string Style, string? Colour)> Styles(Block block) => [("footer", "quiet"), ("link", "link")];

    public override IEnumerable<Reading> Readings(BlockView view, bool dark) => [Read(view, dark, "Share link", "footer", "link")];

    public override ImmutableArray<(string What, double Size)> Sizes(BlockView view) => [Size(view, "Share links", "footer")];

    public override ImmutableArray<(string Field, string Href)> Links(BlockView view) =>
        [.. view.Block.Links("networks").Select(l => ("networks", l.Href))];

    private static IEnumerable<(string Words, string Href)> Ways(BlockView view)
    {
        var address = Address(view);
        if (view.Block.Words("mailText") is { Length: > 0 } mail)
        {
            yield return (mail, address.Length == 0 ? "" : $"mailto:?body={Uri.EscapeDataString(address)}");
        }

        foreach (var network in view.Block.Links("networks"))
        {
            yield return (network.Name, network.Href.Replace(Place, Uri.EscapeDataString(address), StringComparison.Ordinal));
        }
    }

    private static string Shown(BlockView view) => view.Context.PageAt.Length > 0 ? Address(view) : "its address, once it is handed off";

    // Where it passes an article on: the first heading or card of its row that contents lists show has an id of its own.
    private static string Address(BlockView view)
    {
        if (view.Context.PageAt.Length == 0)
        {
            return "";
        }

        if (view.Look("shares") == "article")
        {
            foreach (var block in view.Row.Blocks)
            {
                if (BlockKinds.For(block.Master).Named(block).Any(words => words.Length > 0))
                {
                    return $"{view.Context.PageAt}#{Contents.Anchor(view.Row, block)}";
                }
            }
        }

        return view.Context.PageAt + WholeEmail;
    }
}
