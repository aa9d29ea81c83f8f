using System.Buffers;
using System.Buffers.Text;
using System.Runtime.CompilerServices;
using System.Text;
using System.Text.Unicode;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Compiling;

/// <summary>
/// Writes HTML as UTF-8 into one growing buffer, with no strings or trees between. In <c>Write($"…")</c> HTML stands as
/// it is read: what is written out there and bytes in its holes are HTML, a string in a hole is text and is escaped.
/// </summary>
/// <param name="expected">Bytes it has room for before it grows.</param>
public sealed class HtmlWriter(int expected = 4096)
{
    // What cannot stand in text or a quoted attribute, and C0 controls, which HTML does not allow at all.
    private static readonly SearchValues<char> Special = SearchValues.Create(
        "&<>\"\u0000\u0001\u0002\u0003\u0004\u0005\u0006\u0007\u0008\u000b\u000c\u000e\u000f"
            + "\u0010\u0011\u0012\u0013\u0014\u0015\u0016\u0017\u0018\u0019\u001a\u001b\u001c\u001d\u001e\u001f\u007f"
    );

    private byte[] buffer = GC.AllocateUninitializedArray<byte>(expected);
    private int start;
    private int length;

    /// <summary>Since it was made, cleared or cut.</summary>
    public ReadOnlySpan<byte> Written => buffer.AsSpan(start, length - start);

    public void Clear() => length = start;

    /// <summary>What is written, without a copy; what comes after begins anew behind it.</summary>
    public ReadOnlyMemory<byte> Cut()
    {
        var written = buffer.AsMemory(start, length - start);
        start = length;
        return written;
    }

    /// <summary>A copy of what is written.</summary>
    public byte[] ToArray()
    {
        var copy = GC.AllocateUninitializedArray<byte>(length - start);
        Written.CopyTo(copy);
        return copy;
    }

    /// <summary>Bytes that are HTML already. Inlined, as copying a literal is then a few moves and no call.</summary>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    public HtmlWriter Write(ReadOnlySpan<byte> bytes)
    {
        bytes.CopyTo(Room(bytes.Length));
        length += bytes.Length;
        return this;
    }

    /// <summary>HTML with holes; see <see cref="Template"/> for what may stand in them.</summary>
    public HtmlWriter Write([InterpolatedStringHandlerArgument("")] Template html) => html.Writer;

    /// <summary>A string that is HTML already.</summary>
    public HtmlWriter Html(string html)
    {
        // First the room: making it may move what is written.
        var room = Room(Encoding.UTF8.GetMaxByteCount(html.Length));
        length += Encoding.UTF8.GetBytes(html, room);
        return this;
    }

    /// <summary>Text as <see cref="Text"/> writes it, as a string of its own.</summary>
    public static string Escape(string text) => Encoding.UTF8.GetString(new HtmlWriter(text.Length).Text(text).Written);

    /// <summary>
    /// Text, escaped so that it can stand between tags, in a double-quoted attribute and in a conditional comment
    /// (which it cannot end, as "&gt;" never stands in it). Lone surrogates become U+FFFD.
    /// </summary>
    public HtmlWriter Text(ReadOnlySpan<char> text)
    {
        while (!text.IsEmpty)
        {
            var special = text.IndexOfAny(Special);
            var plain = special < 0 ? text : text[..special];
            var room = Room(Encoding.UTF8.GetMaxByteCount(plain.Length));
            length += Encoding.UTF8.GetBytes(plain, room);
            if (special < 0)
            {
                break;
            }

            Write(
                text[special] switch
                {
                    '&' => "&amp;"u8,
                    '<' => "&lt;"u8,
                    '>' => "&gt;"u8,
                    '"' => "&quot;"u8,
                    _ => ""u8,
                }
            );
            text = text[(special + 1)..];
        }

        return this;
    }

    /// <summary>An address as an attribute's value. What is not safe to follow becomes "#", which the checks report.</summary>
    public static string Href(string href) => Links.IsSafe(href) ? href : "#";

    public HtmlWriter Number(int value)
    {
        Utf8Formatter.TryFormat(value, Room(11), out var written);
        length += written;
        return this;
    }

    private Span<byte> Room(int more)
    {
        if (buffer.Length - length < more)
        {
            Grow(more);
        }

        return buffer.AsSpan(length);
    }

    // What was cut keeps the buffer before.
    private void Grow(int more)
    {
        var written = Written;
        var likely = Math.Max(buffer.Length / 2, written.Length * 2);
        buffer = GC.AllocateUninitializedArray<byte>(Math.Max(likely, written.Length + more));
        written.CopyTo(buffer);
        (start, length) = (0, written.Length);
    }

    // Inlined, as the JIT then copies a literal as the bytes that it is in UTF-8.
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    private void Literal(string html)
    {
        var room = Room(3 * html.Length);
        var literal = new Utf8.TryWriteInterpolatedStringHandler(0, 0, room, out _);
        literal.AppendLiteral(html);
        Utf8.TryWrite(room, ref literal, out var written);
        length += written;
    }

    /// <summary>What the C# compiler makes of <c>$"…"</c>: each part is written as it is met.</summary>
    [InterpolatedStringHandler]
    public readonly ref struct Template
    {
        [MethodImpl(MethodImplOptions.AggressiveInlining)]
        public Template(int literalLength, int formattedCount, HtmlWriter writer)
        {
            // The C# compiler hands both over; each part makes room for itself.
            _ = (literalLength, formattedCount);
            Writer = writer;
        }

        internal HtmlWriter Writer { get; }

        [MethodImpl(MethodImplOptions.AggressiveInlining)]
        public void AppendLiteral(string html) => Writer.Literal(html);

        [MethodImpl(MethodImplOptions.AggressiveInlining)]
        public void AppendFormatted(ReadOnlySpan<byte> html) => Writer.Write(html);

        public void AppendFormatted(ReadOnlySpan<char> text) => Writer.Text(text);

        public void AppendFormatted(string text) => Writer.Text(text);

        public void AppendFormatted(int number) => Writer.Number(number);
    }
}
