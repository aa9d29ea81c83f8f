using System.Collections.Immutable;
using System.Text;
using GoldenRule.Core.HandOffs;
using GoldenRule.Core.Merging;
using GoldenRule.Data;
using GoldenRule.Server.HandOffs;
using MimeKit;

namespace GoldenRule.Server.Destinations;

/// <summary>A hand-off as a destination gets it.</summary>
/// <param name="Profile">Key of the export profile that it is written for.</param>
/// <param name="Merge">The same as parts that are filled in for each reader.</param>
public sealed record HandedOffEmail(
    HandOffRecord Record,
    string Profile,
    string Subject,
    string Html,
    string Text,
    MergeEmail Merge,
    ImmutableArray<(HandOffFile File, byte[] Content)> Pictures,
    ImmutableArray<(HandOffFile File, byte[] Content)> Attachments
)
{
    /// <exception cref="DestinationException">It was not written for that profile.</exception>
    public static async Task<HandedOffEmail> LoadAsync(HandOffRecord record, string profile, GoldenRuleDb db, CancellationToken cancel)
    {
        if (record.Profiles.All(p => p.Key != profile))
        {
            throw new DestinationException(
                $"It was not written for \"{profile}\" when it was handed off. "
                    + "Choose another profile for the destination, or hand it off anew.",
                null
            );
        }

        using var message = new MemoryStream(await HandOffFiles.ReadAsync(record, HandOffFileKind.Message, profile, db, cancel));
        return new(
            record,
            profile,
            (await MimeMessage.LoadAsync(message, cancel)).Subject ?? "",
            Encoding.UTF8.GetString(await HandOffFiles.ReadAsync(record, HandOffFileKind.Html, profile, db, cancel)),
            Encoding.UTF8.GetString(await HandOffFiles.ReadAsync(record, HandOffFileKind.Text, profile, db, cancel)),
            await HandOffFiles.MergeAsync(record, db, cancel),
            await HandOffFiles.AllAsync(record, HandOffFileKind.Picture, db, cancel),
            await HandOffFiles.AllAsync(record, HandOffFileKind.Attachment, db, cancel)
        );
    }

    /// <summary>The HTML with each picture's address written anew.</summary>
    public string HtmlWith(IReadOnlyDictionary<string, string> pictures) =>
        pictures.Aggregate(Html, (html, picture) => html.Replace(Merge.PicturesAt + picture.Key, picture.Value, StringComparison.Ordinal));

    public static string NameOf(HandOffFile file) => file.Name[(file.Name.LastIndexOf('/') + 1)..];
}
