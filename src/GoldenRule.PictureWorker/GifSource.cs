namespace GoldenRule.PictureWorker;

/// <summary>
/// Takes comments, plain text and application data out of an animated GIF without touching its frames (GIF89a, 1990).
/// The loop count stays, as it is what makes it move.
/// </summary>
public static class GifSource
{
    private const byte Extension = 0x21;
    private const byte Frame = 0x2c;
    private const byte End = 0x3b;
    private const byte Control = 0xf9;
    private const byte Application = 0xff;

    /// <summary>Null: the file ends before its trailer or holds a block that is none.</summary>
    public static byte[]? Strip(ReadOnlySpan<byte> file)
    {
        if (file.Length < 14 || !(file.StartsWith("GIF87a"u8) || file.StartsWith("GIF89a"u8)))
        {
            return null;
        }

        var at = 13 + ColourTable(file[10]);
        if (at > file.Length)
        {
            return null;
        }

        using var kept = new MemoryStream(file.Length);
        kept.Write(file[..at]);
        while (at < file.Length)
        {
            var start = at;
            switch (file[at])
            {
                case End:
                    kept.WriteByte(End);
                    return kept.ToArray();
                case Extension when at + 2 < file.Length:
                    var keep =
                        file[at + 1] == Control
                        || (
                            file[at + 1] == Application
                            && file[at..].Length > 14
                            && (
                                file.Slice(at + 3, 11).SequenceEqual("NETSCAPE2.0"u8)
                                || file.Slice(at + 3, 11).SequenceEqual("ANIMEXTS1.0"u8)
                            )
                        );
                    at = SubBlocks(file, at + 2);
                    if (at > 0 && keep)
                    {
                        kept.Write(file[start..at]);
                    }

                    break;
                case Frame when at + 10 < file.Length:
                    at = SubBlocks(file, at + 11 + ColourTable(file[at + 9]));
                    if (at > 0)
                    {
                        kept.Write(file[start..at]);
                    }

                    break;
                default:
                    return null;
            }

            if (at < 0)
            {
                return null;
            }
        }

        return null;
    }

    private static int ColourTable(byte flags) => (flags & 0x80) != 0 ? 3 << ((flags & 7) + 1) : 0;

    // Each sub-block says its length; one of none ends them.
    private static int SubBlocks(ReadOnlySpan<byte> file, int at)
    {
        while (at < file.Length)
        {
            var length = file[at];
            at += 1 + length;
            if (length == 0)
            {
                return at;
            }
        }

        return -1;
    }
}
