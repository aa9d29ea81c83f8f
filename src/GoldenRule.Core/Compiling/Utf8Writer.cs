using System.Buffers;
using System.Buffers.Text;
using System.Runtime.CompilerServices;
using System.Text;

namespace GoldenRule.Core.Compiling;

/// <summary>
/// Writes HTML as UTF-8 into one growing buffer, with no strings or trees between. What comes from a person goes
/// through <see cref="Text"/> only.
/// </summary>
/// <param name="expected">Bytes it has room for before it grows.</param>
public sealed class Utf8Writer(int expected = 4096)
{
    // What cannot stand in text or a quoted attribute, and C0 controls, which HTML does not allow at all.
    private static readonly SearchValues<char> Special = SearchValues.Create(
        "&<>\"\u0000\u0001\u0002\u0003\u0004\u0005\u0006\u0007\u0008\u000b\u000c\u000e\u000f"
            + "\u0010\u0011\u0012\u0013\u0014\u0015\u0016\u0017\u0018\u0019\u001a\u001b\u001c\u001d\u001e\u001f\u007f"
    );

    private byte[] buffer = new byte[expected];
    private int length;

    public ReadOnlySpan<byte> Written => buffer.AsSpan(0, length);

    public void Clear() => length = 0;

    /// <summary>A copy of what is written.</summary>
    public byte[] ToArray()
    {
        var copy = GC.AllocateUninitializedArray<byte>(length);
        Written.CopyTo(copy);
        return copy;
    }

    /// <summary>Bytes that are HTML already. Inlined, as copying a literal is then a few moves and no call.</summary>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    public Utf8Writer Raw(ReadOnlySpan<byte> bytes)
    {
        bytes.CopyTo(Room(bytes.Length));
        length += bytes.Length;
        return this;
    }

    /// <summary>A string that is HTML already.</summary>
    public Utf8Writer Utf8(string html)
    {
        length += Encoding.UTF8.GetBytes(html, Room(Encoding.UTF8.GetMaxByteCount(html.Length)));
        return this;
    }

    /// <summary>Text as <see cref="Text"/> writes it, as a string of its own.</summary>
    public static string Escape(string text) => Encoding.UTF8.GetString(new Utf8Writer(text.Length).Text(text).Written);

    /// <summary>
    /// Text, escaped so that it can stand between tags, in a double-quoted attribute and in a conditional comment
    /// (which it cannot end, as "&gt;" never stands in it). Lone surrogates become U+FFFD.
    /// </summary>
    public Utf8Writer Text(ReadOnlySpan<char> text)
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

            Raw(
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

    public Utf8Writer Number(int value)
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

    private void Grow(int more) => Array.Resize(ref buffer, Math.Max(buffer.Length * 2, length + more));
}
