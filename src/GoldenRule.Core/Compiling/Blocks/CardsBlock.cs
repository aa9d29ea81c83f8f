using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;
using GoldenRule.Core.Resolving;

namespace GoldenRule.Core.Compiling.Blocks;

/// <summary>Article cards one after the other, or two or three side by side.</summary>
public sealed class CardsBlock : WritableKind
{
    public override string Name => "cards";

    public override string Label => "List of cards";

    public override string About => "Any number of article cards, one below the other or up to three side by side.";

    public override KindGroup Group => KindGroup.Articles;

    public override ImmutableArray<Field> Fields { get; } =
    [
        new("cards", "Cards", new FieldValue.Entries([]))
        {
            Entry =
            [
                new("picture", "Picture", new FieldValue.Image("")),
                new("alt", "Alt text", new FieldValue.Words("")),
                new("heading", "Heading", new FieldValue.Words("")),
                new("text", "Text", new FieldValue.Prose(RichText.Empty)),
                new("linkText", "Link wording", new FieldValue.Words("")),
                new("link", "Link", new FieldValue.Link("")),
            ],
        },
    ];

    public override ImmutableArray<LookProperty> Look { get; } =
    [
        new("across", "Side by side", ["1", "2", "3"]),
        new("placing", "Picture", ["above", "left", "right"]),
        new("level", "Heading level", ["3", "2", "4"]),
        LinkLook,
        NamedLook,
    ];

    public override int LeastWidth(BlockView view) =>
        view.Look("across") != "1" || view.Look("placing") != "above" ? CardWriter.LeastBeside : 140;

    public override void WriteHtml(HtmlWriter html, in BlockView view)
    {
        var (cards, across) = (view.Block.Entries("cards"), view.LookNumber("across"));
        for (var from = 0; from < cards.Length; from += across)
        {
            Parts.Gap(html, from > 0 ? view.Theme.BlockSpace * 2 : 0);
            if (across == 1)
            {
                Write(html, view, cards[from], from, view.Width);
                continue;
            }

            var widths = ColumnsWriter.Widths(Enumerable.Repeat(1, across).ToArray(), view.Width);
            ColumnsWriter.Open(html, false, false);
            // The last line may have room left over: its cards stay as wide as those above them.
            for (var i = 0; i < across && from + i < cards.Length; i++)
            {
                var inside = ColumnsWriter.Inside(i, across);
                ColumnsWriter.OpenColumn(html, i, widths[i], view.Width, false, false, inside);
                Write(html, view, cards[from + i], from + i, widths[i] - inside.Left - inside.Right);
                Parts.Gap(html, view.Theme.BlockSpace);
                ColumnsWriter.CloseColumn(html, false);
            }

            ColumnsWriter.Close(html, false, false);
        }
    }

    public override void WriteText(PlainTextWriter text, in BlockView view)
    {
        foreach (var card in view.Block.Entries("cards"))
        {
            Card(card).WriteText(text, view.LookNumber("level"));
        }
    }

    public override IEnumerable<Reading> Readings(BlockView view, bool dark) =>
        CardWriter.Readings(view, dark, view.LookNumber("level"), view.Look("linkStyle"), Read);

    public override ImmutableArray<(string What, double Size)> Sizes(BlockView view) =>
        [Size(view, "Heading", Parts.HeadingStyle(view.LookNumber("level"))), Size(view, "Text", "body")];

    public override ImmutableArray<ShownPicture> Pictures(BlockView view) =>
        [.. view.Block.Entries("cards").Select(c => new ShownPicture("cards", c.Picture("picture"), c.Words("alt"), false))];

    public override ImmutableArray<(string Field, string Href)> Links(BlockView view) =>
        [
            .. view
                .Block.Entries("cards")
                .SelectMany(c =>
                    InProse(c.Prose("text"), "cards")
                        .Concat(c.Words("linkText").Length > 0 || c.Href("link").Length > 0 ? [("cards", c.Href("link"))] : [])
                ),
        ];

    public override int? HeadingLevel(BlockView view) =>
        view.Block.Entries("cards").Any(c => c.Words("heading").Length > 0) ? view.LookNumber("level") : null;

    public override IEnumerable<string> Named(ResolvedBlock block) =>
        IsNamed(block) ? block.Entries("cards").Select(c => c.Words("heading")) : [];

    private static void Write(
        HtmlWriter html,
        in BlockView view,
        ImmutableSortedDictionary<string, FieldValue> card,
        int index,
        int width
    ) =>
        Card(card)
            .Write(
                html,
                view,
                width,
                view.Look("across") == "1" ? view.Look("placing") : "above",
                view.LookNumber("level"),
                view.Look("linkStyle"),
                IsNamed(view.Block) ? Contents.Anchor(view.Row, view.Block, index) : null
            );

    private static CardWriter Card(ImmutableSortedDictionary<string, FieldValue> card) =>
        new(
            card.Picture("picture"),
            card.Words("alt"),
            card.Words("heading"),
            card.Prose("text"),
            card.Words("linkText"),
            card.Href("link")
        );
}
