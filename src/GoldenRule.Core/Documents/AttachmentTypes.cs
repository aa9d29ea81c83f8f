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

    /// <summary>The type of a file, or in words why it is not taken.</summary>
    public static (AttachmentType? Type, string? Refusal) Of(string name, ReadOnlySpan<byte> content)
    {
        var extension = Path.GetExtension(name).ToLowerInvariant();
        if (All.FirstOrDefault(t => t.Extension == extension) is not { } type)
        {
            return (null, $"\"{name}\" is not of a sort that goes out with emails. Take {string.Join(", ", All.Select(t => t.Extension))}.");
        }

        return content.IsEmpty ? (null, $"\"{name}\" is empty.")
            : content.Length > MostEach ? (null, $"\"{name}\" has {content.Length / 1024:N0} KB; a file has at most {MostEach / 1024:N0}.")
            : !content.StartsWith(type.Begins.AsSpan()) || (type.Begins.IsEmpty && content.Contains((byte)0)) ? (null, $"\"{name}\" is not what its name says: its bytes are not those of a {type.Extension} file.")
            : (type, null);
    }
}
