using System.Collections.Immutable;
using System.Threading;
using GoldenRule.Core.Audiences;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Resolving;

/// <summary>Lays the layers on one another, the nearest that speaks winning: saved row, template, email.</summary>
public static class Resolver
{
    /// <param name="inline">What snippets and fields come to. Null: there are none.</param>
    /// <param name="previous">The result before the last edit: rows that did not change are taken over from it.</param>
    public static ResolvedEmail Resolve(
        Email email,
        RunningOrder order,
        StyleLayers style,
        PictureCatalog pictures,
        ResolvedEmail? previous = null,
        InlineValues? inline = null,
        CancellationToken cancel = default
    )
    {
        style = style.ForTemplate(order.Template.Name, order.Template.Narrowed);
        inline ??= InlineValues.None;
        var same = previous is not null && ReferenceEquals(previous.Style, style);
        return new ResolvedEmail(
            Resolve(email, inline),
            order,
            style,
            pictures,
            inline,
            IncrementalMap.Rows(
                order.Rows,
                same && ReferenceEquals(previous!.Inline, inline) ? (previous.Order.Rows, previous.Rows) : default,
                // A snippet that says something new touches only the rows it stands in.
                (row, at) =>
                    same && At(previous!, at) is { } former && ReferenceEquals(former.Source, row) && !former.HasNodes
                        ? former
                        : Resolve(row, style, inline),
                cancel
            )
        )
        {
            Written = email.Details,
        };
    }

    private static ResolvedRow? At(ResolvedEmail email, int index) => index < email.Rows.Length ? email.Rows[index] : null;

    // What the inbox shows, with the words of its nodes.
    private static Email Resolve(Email email, InlineValues inline) =>
        InlineNode.AreIn(email.Details.Subject) || InlineNode.AreIn(email.Details.Preheader)
            ? email with
            {
                Details = email.Details with
                {
                    Subject = InlineNode.Replace(email.Details.Subject, inline.Words),
                    Preheader = InlineNode.Replace(email.Details.Preheader, inline.Words),
                },
            }
            : email;

    /// <param name="email">The layers of the email, its template's among them.</param>
    public static ResolvedRow Resolve(OrderedRow row, StyleLayers email, InlineValues? values = null)
    {
        var inline = values ?? InlineValues.None;
        var style = email.ForRow(row.Master.Name, row.Master.Narrowed);
        var own = row.Row;
        var (look, shown, condition) = (own.Look, own.Shown, own.Condition);
        foreach (var fill in Fills(row, own.Id))
        {
            look = look.SetItems(fill.Look);
            shown = fill.Shown ?? shown;
            condition = fill.Condition ?? condition;
        }

        return new ResolvedRow(
            row,
            style,
            look,
            own.Background is null
                ? ""
                : new ReferenceMap(style, inline, row.Id, null) { Field = "background" }.Picture(own.Background, default),
            shown,
            [
                .. own.Columns.Select(column => new ResolvedColumn(
                    column.Parts,
                    [.. column.Blocks.Select(block => Resolve(row, block, style, inline))]
                )),
            ]
        )
        {
            Condition = condition is { IsEveryone: true } ? null : condition,
        };
    }

    private static ResolvedBlock Resolve(OrderedRow row, Block block, StyleLayers style, InlineValues inline)
    {
        var (content, look, shown, condition) = (block.Content, block.Look, block.Shown, block.Condition);
        foreach (var fill in Fills(row, block.Id))
        {
            content = content.SetItems(fill.Content);
            look = look.SetItems(fill.Look);
            shown = fill.Shown ?? shown;
            condition = fill.Condition ?? condition;
        }

        var references = new ReferenceMap(style, inline, row.Id, block.Id);
        var filled = ImmutableArray.CreateBuilder<KeyValuePair<string, FieldValue>>(content.Count);
        foreach (var (field, value) in content)
        {
            references.Field = field;
            filled.Add(new(field, value.Map(references)));
        }

        return new ResolvedBlock(block, new(filled.MoveToImmutable()), new([.. look]), shown)
        {
            Nodes = references.Nodes,
            Condition = condition is { IsEveryone: true } ? null : condition,
        };
    }

    private static IEnumerable<PieceFill> Fills(OrderedRow row, string piece)
    {
        foreach (var layer in new[] { row.TemplateFills, row.Fills })
        {
            if (layer.TryGetValue(piece, out var fill))
            {
                yield return fill;
            }
        }
    }
}
