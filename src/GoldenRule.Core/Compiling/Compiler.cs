using System.Collections.Immutable;
using System.Runtime.InteropServices;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Resolving;

namespace GoldenRule.Core.Compiling;

/// <summary>Resolved email to HTML and plain text. The same input gives the same bytes.</summary>
public static class Compiler
{
    [ThreadStatic]
    private static Utf8Writer? sharedHtml;

    [ThreadStatic]
    private static PlainTextWriter? sharedText;

    /// <param name="previous">The result before the last edit: rows that did not change are taken over from it.</param>
    public static CompiledEmail Compile(ResolvedEmail email, string picturesAt, Purpose purpose, CompiledEmail? previous = null)
    {
        var press = Press.For(email, picturesAt, purpose);
        var kept = new FormerRows<CompiledRow>(previous is not null && previous.Press.WritesLike(press) ? previous.Rows : default, r => r.Source.Id);
        var rows = new CompiledRow?[email.Rows.Length];
        Queue<(bool Shows, ImmutableArray<ContentsEntry> Named)> found = [];
        ImmutableArray<ContentsEntry> contents = [];
        for (var i = 0; i < rows.Length; i++)
        {
            var row = email.Rows[i];
            ImmutableArray<ContentsEntry> named;
            if (kept.Find(i, row.Id) is { } known && ReferenceEquals(known.Source, row))
            {
                rows[i] = known;
                named = known.Named;
            }
            else
            {
                var own = Contents.Of(row);
                found.Enqueue(own);
                named = own.Named;
            }

            contents = named.IsEmpty ? contents : contents.AddRange(named);
        }

        press = contents.IsEmpty ? press : press with { Contents = contents };
        var sameContents = previous is not null && previous.Press.Contents.AsSpan().SequenceEqual(contents.AsSpan());
        var html = sharedHtml ??= new Utf8Writer();
        var text = sharedText ??= new PlainTextWriter();
        for (var i = 0; i < rows.Length; i++)
        {
            var (known, place) = (rows[i], RowPlaces.Of(i, rows.Length));
            if (known is null || known.Place != place || (known.ShowsContents && !sameContents))
            {
                rows[i] = Compile(html, text, email.Rows[i], place, known is null ? found.Dequeue() : (known.ShowsContents, known.Named), press);
            }
        }

        html.Clear();
        Opening(html, email, press.Dress);
        return new CompiledEmail(email, press, html.ToArray(), ImmutableCollectionsMarshal.AsImmutableArray(rows)!, "</div></body></html>\n"u8.ToArray());
    }

    private static CompiledRow Compile(Utf8Writer html, PlainTextWriter text, ResolvedRow row, RowPlace place, (bool Shows, ImmutableArray<ContentsEntry> Named) contents, Press press)
    {
        html.Clear();
        RowWriter.Write(html, row, place, press);
        text.Clear();
        // What phones alone show is there for them in another shape already.
        if (row.Shown != ShownOn.PhoneOnly)
        {
            foreach (var column in row.Columns)
            {
                foreach (var block in column.Blocks)
                {
                    if (block.Shown != ShownOn.PhoneOnly)
                    {
                        BlockKinds.Of(block.Master).WriteText(text, press.View(row, block, press.Dress.Width));
                    }
                }
            }
        }

        return new CompiledRow(row, place, contents.Named, contents.Shows, html.ToArray(), text.ToString());
    }

    private static void Opening(Utf8Writer html, ResolvedEmail email, Dress dress)
    {
        var details = email.Email.Details;
        html.Raw("<!DOCTYPE html>\n<html lang=\""u8).Text(email.Email.Language).Raw("\" dir=\"ltr\"><head><meta charset=\"utf-8\"><meta name=\"viewport\" content=\"width=device-width,initial-scale=1\">"u8)
            .Raw("<meta name=\"color-scheme\" content=\"light dark\"><meta name=\"supported-color-schemes\" content=\"light dark\"><meta name=\"format-detection\" content=\"telephone=no,date=no,address=no,email=no\"><title>"u8)
            .Text(details.Subject.Length > 0 ? details.Subject : email.Email.Name).Raw("</title><style>:root{color-scheme:light dark}"u8).Raw(dress.HeadStyle);
        RowStyles(html, email, dress);
        html.Raw("</style><!--[if mso]><style>table{mso-table-lspace:0;mso-table-rspace:0}td,p,li,h1,h2,h3,h4{mso-line-height-rule:exactly}.ph{mso-hide:all}</style><xml><o:OfficeDocumentSettings xmlns:o=\"urn:schemas-microsoft-com:office:office\"><o:PixelsPerInch>96</o:PixelsPerInch></o:OfficeDocumentSettings></xml><![endif]--></head>"u8)
            .Raw("<body class=\"pg\" style=\"margin:0;padding:0;background-color:"u8).Raw(dress.Page).Raw("\">"u8);
        Preheader(html, details.Preheader);
        html.Raw("<div role=\"article\" aria-roledescription=\"email\" lang=\""u8).Text(email.Email.Language).Raw("\">"u8);
    }

    // Rules of rows that narrow the house style for themselves; rows that narrow it alike share them.
    private static void RowStyles(Utf8Writer html, ResolvedEmail email, Dress dress)
    {
        HashSet<Dress>? written = null;
        foreach (var row in email.Rows)
        {
            if (!ReferenceEquals(row.Style, dress.Style) && Dress.Of(row.Style) is var own && (written ??= []).Add(own))
            {
                html.Raw(own.HeadStyle);
            }
        }
    }

    // Hidden, and followed by joiners and figure spaces so that the body's first words do not run into the inbox line.
    private static void Preheader(Utf8Writer html, string preheader)
    {
        if (preheader.Length == 0)
        {
            return;
        }

        html.Raw("<div class=\"ph\" style=\"display:none;max-height:0;max-width:0;overflow:hidden;opacity:0;font-size:1px;line-height:1px\">"u8).Text(preheader);
        for (var i = 0; i < 60; i++)
        {
            html.Raw("&#847;&zwnj;&nbsp;"u8);
        }

        html.Raw("</div>"u8);
    }
}
