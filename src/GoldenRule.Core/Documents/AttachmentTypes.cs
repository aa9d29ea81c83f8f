using System.Collections.Immutable;

namespace GoldenRule.Core.Documents;

/// <summary>A sort of file that may go out with an email.</summary>
/// <param name="Extension">With its point, lower case.</param>
/// <param name="Begins">What its bytes begin with; empty: anything, for text.</param>
public sealed record AttachmentType(string Extension, string MediaType, ImmutableArray<byte> Begins);

/// <summary>
/// The sorts of files that may go out with an email: nothing that runs, and no archives, which mailboxes open to look
/// inside (common practice, no source).
/// </summary>
public static class AttachmentTypes
{
    /// <summary>Bytes of one file.</summary>
    public const int MostEach = 5 * 1024 * 1024;

    /// <summary>Bytes of all files of an email (common practice, no source).</summary>
    public const int MostTogether = 7 * 1024 * 1024;

    public static ImmutableArray<AttachmentType> All { get; } =
    [
        new(".pdf", "application/pdf", [.. "%PDF-"u8]),
        new(".png", "image/png", [0x89, .. "PNG\r\n"u8]),
        new(".jpg", "image/jpeg", [0xff, 0xd8, 0xff]),
        new(".jpeg", "image/jpeg", [0xff, 0xd8, 0xff]),
        new(".gif", "image/gif", [.. "GIF8"u8]),
        new(".ics", "text/calendar", [.. "BEGIN:VCALENDAR"u8]),
        new(".csv", "text/csv", []),
        new(".txt", "text/plain", []),
    ];

    /// <summary>Of a picture or calendar file that an email shows or links to, by its name.</summary>
    public static string MediaTypeOf(string name) =>
        All.FirstOrDefault(type => type.Extension == Path.GetExtension(name))?.MediaType ?? "image/jpeg";

    /// <summary>
    /// A name as it may go out: no folders, no letters that a system reads as something else or that turn the direction of
    /// what follows, and one ending alone, so that nothing poses as another sort of file.
    /// </summary>
    public static string SafeName(string name)
    {
        var mended = new string([.. name.Select(c => char.IsControl(c) || OddInNames.Contains(c) ? '-' : c)]).Trim(' ', '.');
        var ending = Path.GetExtension(mended);
        var stem = mended[..^ending.Length];
        while (
            All.Any(t => Path.GetExtension(stem).Equals(t.Extension, StringComparison.OrdinalIgnoreCase))
            || Path.GetExtension(stem) is { Length: > 1 and <= 5 } inner && inner[1..].All(char.IsAsciiLetter)
        )
        {
            stem = $"{stem[..^Path.GetExtension(stem).Length]}-{Path.GetExtension(stem)[1..]}";
        }

        return stem.TrimEnd() + ending;
    }

    /// <summary>Why a name cannot go out with a file of a type. Null: it can.</summary>
    public static string? NameFault(string name, string mediaType)
    {
        if (name.Length is 0 or > 200 || SafeName(name) != name)
        {
            return $"\"{name}\" is not a name that files go out under. Name it like {SafeName(name)}.";
        }

        return All.Any(t => t.MediaType == mediaType && name.EndsWith(t.Extension, StringComparison.OrdinalIgnoreCase))
            ? null
            : $"\"{name}\" does not end as a {mediaType} file does.";
    }

    // What separates folders or has a meaning to a system, and what hides or turns letters (Unicode, UAX 9).
    private const string OddInNames =
        "/\\:*?\"<>|\u00ad\u200b\u200c\u200d\u200e\u200f\u202a\u202b\u202c\u202d\u202e\u2066\u2067\u2068\u2069\ufeff";

    /// <summary>The type of a file, or in words why it is not taken.</summary>
    public static (AttachmentType? Type, string? Refusal) Judge(string name, ReadOnlySpan<byte> content)
    {
        var extension = Path.GetExtension(name).ToLowerInvariant();
        if (All.FirstOrDefault(t => t.Extension == extension) is not { } type)
        {
            return (
                null,
                $"\"{name}\" is not of a sort that goes out with emails. Take {string.Join(", ", All.Select(t => t.Extension))}."
            );
        }

        if (content.IsEmpty)
        {
            return (null, $"\"{name}\" is empty.");
        }

        if (content.Length > MostEach)
        {
            return (null, $"\"{name}\" has {content.Length / 1024:N0} KB; a file has at most {MostEach / 1024:N0}.");
        }

        return content.StartsWith(type.Begins.AsSpan()) && !(type.Begins.IsEmpty && content.Contains((byte)0))
            ? (type, null)
            : (null, $"\"{name}\" is not what its name says: its bytes are not those of a {type.Extension} file.");
    }
}
