using System.Collections.Immutable;
using System.Text;
using System.Threading;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Languages;
using GoldenRule.Core.Resolving;

namespace GoldenRule.Core.Compiling;

/// <summary>Resolved email to HTML and plain text. The same input gives the same bytes.</summary>
public static class Compiler
{
    // Below what the runtime keeps apart as large, which it collects seldom.
    private const int LargestBuffer = 64 * 1024;
    private const int OfOneRow = 4 * 1024;

    /// <summary>What one compilation writes into, row after row.</summary>
    /// <param name="Together">All rows are written: they stay in the buffer. One that is written alone is copied out of it.</param>
    private readonly record struct Writers(HtmlWriter Html, PlainTextWriter Text, bool Together);

    /// <param name="previous">The result before the last edit: rows that did not change are taken over from it.</param>
    /// <param name="pageAt">Address of the same email as a web page; empty: it has none.</param>
    public static CompiledEmail Compile(
        ResolvedEmail email,
        string picturesAt,
        Purpose purpose,
        CompiledEmail? previous = null,
        CancellationToken cancel = default,
        string pageAt = ""
    )
    {
        var context = RenderContext.For(email, picturesAt, purpose, pageAt);
        var former = previous is not null && previous.Context.WritesLike(context) ? previous : null;
        var expected = former is null ? Math.Min((email.Rows.Length + 2) * OfOneRow, LargestBuffer) : 4 * OfOneRow;
        var writers = new Writers(new HtmlWriter(expected), new PlainTextWriter(), former is null);
        var apart = former is { HasRowsApart: true };
        var rows = IncrementalMap.Rows(
            email.Rows,
            former is null ? default : (former.Source.Rows, former.Rows),
            (row, at) =>
            {
                var made = Compile(row, RowPlaces.At(at, email.Rows.Length), context, writers);
                apart |= !made.Contents.IsDefault || made.Theme != context.Theme;
                return made;
            },
            cancel
        );
        if (former is not null)
        {
            rows = InTheirPlaces(rows, former.Rows, context, writers);
        }

        if (apart)
        {
            context = context with { Contents = [.. rows.SelectMany(r => r.Named)] };
            rows =
            [
                .. rows.Select(r =>
                    r.Contents.IsDefault || r.Contents.SequenceEqual(context.Contents) ? r : Compile(r.Source, r.Place, context, writers)
                ),
            ];
        }

        var html = writers.Html;
        html.Clear();
        Opening(html, email, context.Theme, apart ? rows : []);
        var opening = context.Direction == Direction.Rtl ? InDirection(html) : html.ToArray();
        return new CompiledEmail(email, context, opening, rows, "</div></body></html>\n"u8.ToArray(), apart);
    }

    private static byte[] InDirection(HtmlWriter html) => Encoding.UTF8.GetBytes(Mirrored.Html(Encoding.UTF8.GetString(html.Written)));

    // Beside what it says a row shows whether it lies at an end: those that lie there now, and those that did.
    private static ImmutableArray<CompiledRow> InTheirPlaces(
        ImmutableArray<CompiledRow> rows,
        ImmutableArray<CompiledRow> former,
        RenderContext context,
        Writers writers
    )
    {
        if (rows.IsEmpty || former.IsEmpty)
        {
            return rows;
        }

        var same = ReferenceEqualityComparer.Instance;
        foreach (
            var at in (ReadOnlySpan<int>)
                [
                    0,
                    rows.Length - 1,
                    rows.IndexOf(former[0], 0, rows.Length, same),
                    rows.LastIndexOf(former[^1], rows.Length - 1, rows.Length, same),
                ]
        )
        {
            if (at >= 0 && RowPlaces.At(at, rows.Length) is var place && rows[at].Place != place)
            {
                rows = rows.SetItem(at, Compile(rows[at].Source, place, context, writers));
            }
        }

        return rows;
    }

    private static CompiledRow Compile(ResolvedRow row, RowPlace place, RenderContext context, Writers writers)
    {
        var (html, text, together) = writers;
        html.Clear();
        text.Clear();
        RowWriter.Write(html, row, place, context);
        var parted = row.IsParted;
        ReadOnlyMemory<byte> bytes = context.Direction switch
        {
            Direction.Rtl => InDirection(html),
            _ when together && !parted => html.Cut(),
            _ => html.ToArray(),
        };
        var apart = ImmutableArray<ConditionalHtml>.Empty;
        if (parted)
        {
            var columns = row.Phone == PhoneColumns.StackReversed ? row.Columns.Reverse() : row.Columns;
            (bytes, apart) = PartedRow.Unmark(bytes.Span, columns.SelectMany(c => c.Blocks).Select(b => b.Condition).OfType<Condition>());
        }

        var parts = Texts(row, context, text);
        var (shows, named) = Contents.Gather(row);
        return new CompiledRow(
            row,
            context.ThemeOf(row),
            place,
            named,
            shows ? context.Contents : default,
            bytes,
            parted ? string.Join('\n', parts.Select(p => p.Text)) : text.ToString()
        )
        {
            Parted = parted ? new PartedRow(apart, parts) : null,
        };
    }

    // Into one text, or into one for each block where some readers do not see all of them.
    private static ImmutableArray<BlockText> Texts(ResolvedRow row, RenderContext context, PlainTextWriter text)
    {
        // What phones alone show is there for them in another shape already.
        if (row.Shown == Visibility.PhoneOnly)
        {
            return [];
        }

        var parts = row.IsParted ? ImmutableArray.CreateBuilder<BlockText>() : null;
        foreach (var column in row.Columns)
        {
            foreach (var block in column.Blocks)
            {
                if (block.Shown == Visibility.PhoneOnly)
                {
                    continue;
                }

                BlockKinds.For(block.Master).WriteText(text, context.View(row, block, context.Theme.Width));
                if (parts is not null)
                {
                    if (text.ToString() is { Length: > 0 } written)
                    {
                        parts.Add(new(written, block.Condition));
                    }

                    text.Clear();
                }
            }
        }

        return parts?.DrainToImmutable() ?? [];
    }

    private static void Opening(HtmlWriter html, ResolvedEmail email, Theme theme, ImmutableArray<CompiledRow> rows)
    {
        var details = email.Email.Details;
        html.Write(
            $"<!DOCTYPE html>\n<html lang=\"{email.Email.Language}\" dir=\"ltr\"><head><meta charset=\"utf-8\">"
                + $"""<meta name="viewport" content="width=device-width,initial-scale=1">"""
                + $"""<meta name="color-scheme" content="light dark"><meta name="supported-color-schemes" content="light dark">"""
                + $"""<meta name="format-detection" content="telephone=no,date=no,address=no,email=no">"""
                + $"<title>{(details.Subject.Length > 0 ? details.Subject : email.Email.Name)}</title>"
                + $"<style>:root{{color-scheme:light dark}}{theme.HeadStyle}"
        );
        RowStyles(html, theme, rows);
        html.Write(
            $"</style><!--[if mso]><style>table{{mso-table-lspace:0;"
                + $"mso-table-rspace:0}}td,p,li,h1,h2,h3,h4{{mso-line-height-rule:exactly}}.ph{{mso-hide:all}}</style>"
                + $"""<xml><o:OfficeDocumentSettings xmlns:o="urn:schemas-microsoft-com:office:office">"""
                + $"<o:PixelsPerInch>96</o:PixelsPerInch></o:OfficeDocumentSettings></xml><![endif]--></head>"
                + $"""<body class="pg" style="margin:0;padding:0;background-color:{theme.Page}">"""
        );
        Preheader(html, details.Preheader);
        html.Write($"""<div role="article" aria-roledescription="email" dir="ltr" lang="{email.Email.Language}">""");
    }

    // Rules of rows that narrow the house style for themselves; rows that narrow it alike share them.
    private static void RowStyles(HtmlWriter html, Theme theme, ImmutableArray<CompiledRow> rows)
    {
        HashSet<Theme>? written = null;
        foreach (var row in rows)
        {
            if (row.Theme != theme && (written ??= []).Add(row.Theme))
            {
                html.Write(row.Theme.HeadStyle);
            }
        }
    }

    // Hidden, and followed by joiners and figure spaces so that the body's first words do not run into the inbox line.
    private static void Preheader(HtmlWriter html, string preheader)
    {
        if (preheader.Length == 0)
        {
            return;
        }

        html.Write(
            $"""<div class="ph" style="display:none;max-height:0;max-width:0;overflow:hidden;opacity:0;font-size:1px;"""
                + $"""line-height:1px">{preheader}"""
        );
        for (var i = 0; i < 60; i++)
        {
            html.Write("&#847;&zwnj;&nbsp;"u8);
        }

        html.Write("</div>"u8);
    }
}
