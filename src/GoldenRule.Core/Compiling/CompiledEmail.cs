using System.Collections.Immutable;
using System.Text;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Resolving;

namespace GoldenRule.Core.Compiling;

/// <summary>A row as HTML and as plain text. Kept from edit to edit as long as the row does not change.</summary>
/// <param name="Theme">The email's, or that of a row which narrows the house style for itself.</param>
/// <param name="Html">Rows that were compiled together lie one behind the other in a few buffers.</param>
/// <param name="Text">Plain text; see <see cref="PlainTextWriter"/>.</param>
/// <param name="Named">What it adds to contents lists.</param>
/// <param name="Contents">What a contents list in it shows. Default: none stands in it.</param>
public sealed record CompiledRow(
    ResolvedRow Source,
    Theme Theme,
    RowPlace Place,
    ImmutableArray<ContentsEntry> Named,
    ImmutableArray<ContentsEntry> Contents,
    ReadOnlyMemory<byte> Html,
    string Text
)
{
    /// <summary>What others find out about it.</summary>
    internal Derived Derived { get; } = new();

    /// <summary>Where its blocks stand that some readers see. Null: it has none.</summary>
    public PartedRow? Parted { get; init; }
}

/// <summary>A compiled email: what stands before its rows, the rows, and what stands after them.</summary>
/// <param name="HasRowsApart">False: no row shows a contents list or wears a theme of its own, so that none need be asked.</param>
public sealed record CompiledEmail(
    ResolvedEmail Source,
    RenderContext Context,
    byte[] Opening,
    ImmutableArray<CompiledRow> Rows,
    byte[] Closing,
    bool HasRowsApart
)
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
            Put(row.Html.Span);
        }

        Put(Closing);
        return html;

        void Put(ReadOnlySpan<byte> part)
        {
            part.CopyTo(html.AsSpan(at));
            at += part.Length;
        }
    }

    /// <summary>Files beside pictures that its links lead to: name under the address of pictures, and bytes.</summary>
    public IEnumerable<(string Name, byte[] Content)> Files()
    {
        var context = Context;
        return Source.Rows.SelectMany(row =>
            row.Blocks.SelectMany(block => BlockKinds.For(block.Master).Files(context.View(row, block, context.Theme.Width)))
        );
    }

    /// <summary>The email as those get it of whom some conditions hold. Rows stay as they were written, ends included.</summary>
    public CompiledEmail Seen(Func<Condition, bool> holds)
    {
        if (!Source.HasConditions)
        {
            return this;
        }

        ImmutableArray<CompiledRow> rows =
        [
            .. Rows.Where(r => r.Source.Condition is not { } only || holds(only)).Select(r => PartedRow.Seen(r, holds)),
        ];
        return this with { Rows = rows, Source = Source with { Rows = [.. rows.Select(r => r.Source)] } };
    }

    /// <summary>The same for one of whom it is known what holds: nothing in it is for some readers only any more.</summary>
    public CompiledEmail Settled(Func<Condition, bool> holds)
    {
        if (!Source.HasConditions)
        {
            return this;
        }

        ImmutableArray<CompiledRow> rows =
        [
            .. Seen(holds).Rows.Select(row => row with { Source = row.Source.WithoutConditions(), Parted = null }),
        ];
        return this with { Rows = rows, Source = Source with { Rows = [.. rows.Select(r => r.Source)] } };
    }

    public string HtmlText() => Encoding.UTF8.GetString(Html());

    /// <summary>The whole plain text, line feeds only: as it was written by hand, or as it is made from the email.</summary>
    public string PlainText() => Source.Email.PlainText?.Text ?? MadeText();

    /// <summary>The plain text as it is made from the email: rows parted by an empty line.</summary>
    public string MadeText() => FlowedText.Fixed(Marked());

    /// <summary>The plain text for format=flowed (RFC 3676), line feeds only: readers wrap it to their screen.</summary>
    public string FlowingText() => FlowedText.Stuffed(Source.Email.PlainText?.Text ?? Marked());

    private string Marked() => ConditionalText.Of(this).Seen;

    /// <summary>Names of the picture files it shows, each once, in the order they come.</summary>
    public ImmutableArray<string> PictureNames()
    {
        var (names, known) = (ImmutableArray.CreateBuilder<string>(), new HashSet<string>(StringComparer.Ordinal));
        var at = Context.PicturesAtHtml;
        foreach (var row in Rows)
        {
            for (var html = row.Html.Span; at.Length > 0 && html.IndexOf(at) is >= 0 and var found; )
            {
                html = html[(found + at.Length)..];
                var end = html.IndexOfAny("\"' )&,"u8);
                var name = Encoding.UTF8.GetString(end < 0 ? html : html[..end]);
                // Calendar files stand beside the pictures; they are linked, not shown.
                if (!name.EndsWith(".ics", StringComparison.Ordinal) && known.Add(name))
                {
                    names.Add(name);
                }
            }
        }

        return names.ToImmutable();
    }
}
