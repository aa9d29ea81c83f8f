using System.Collections.Immutable;
using System.Text;
using GoldenRule.Core.Resolving;

namespace GoldenRule.Core.Compiling;

/// <summary>A row as HTML and as plain text. Kept from edit to edit as long as the row does not change.</summary>
public sealed record CompiledRow(ResolvedRow Source, RowPlace Place, byte[] Html, string Text);

/// <summary>A compiled email: what stands before its rows, the rows, and what stands after them.</summary>
public sealed record CompiledEmail(ResolvedEmail Source, Press Press, byte[] Opening, ImmutableArray<CompiledRow> Rows, byte[] Closing)
{
    /// <summary>Bytes of the whole HTML.</summary>
    public int HtmlBytes => Opening.Length + Closing.Length + Rows.Sum(r => r.Html.Length);

    /// <summary>The whole HTML, UTF-8.</summary>
    public byte[] Html()
    {
        var html = new byte[HtmlBytes];
        var at = 0;
        Put(Opening);
        foreach (var row in Rows)
        {
            Put(row.Html);
        }

        Put(Closing);
        return html;

        void Put(byte[] part)
        {
            part.CopyTo(html, at);
            at += part.Length;
        }
    }

    public string HtmlText() => Encoding.UTF8.GetString(Html());

    /// <summary>The whole plain text: rows parted by an empty line, line feeds only.</summary>
    public string PlainText() => string.Join("\n", Rows.Select(r => r.Text).Where(t => t.Length > 0));
}
