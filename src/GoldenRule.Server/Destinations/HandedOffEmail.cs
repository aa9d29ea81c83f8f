using System.Collections.Immutable;
using System.Text;
using GoldenRule.Core.Audiences;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HandOffs;
using GoldenRule.Core.Interchange;
using GoldenRule.Core.Merging;
using GoldenRule.Data;
using GoldenRule.Server.HandOffs;
using MimeKit;

namespace GoldenRule.Server.Destinations;

/// <summary>A hand-off as a destination gets it.</summary>
/// <param name="Profile">Key of the export profile that it is written for.</param>
/// <param name="Writing">That profile; the usual one where it is not there any more.</param>
/// <param name="Conditions">What the profile asks of each reader as yes or no.</param>
/// <param name="Merge">The same as parts that are filled in for each reader.</param>
public sealed record HandedOffEmail(
    HandOffRecord Record,
    string Profile,
    string Subject,
    string Html,
    string Text,
    ExportProfile Writing,
    MergeEmail Merge,
    ImmutableArray<ConditionDefinition> Conditions,
    ImmutableArray<(HandOffFile File, byte[] Content)> Pictures,
    ImmutableArray<(HandOffFile File, byte[] Content)> Attachments
)
{
    /// <exception cref="DestinationException">It was not written for that profile.</exception>
    public static async Task<HandedOffEmail> LoadAsync(
        HandOffRecord record,
        string profile,
        AudiencePlan plan,
        GoldenRuleDb db,
        CancellationToken cancel
    )
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
            plan.AllProfiles.FirstOrDefault(p => p.Key == profile) ?? ExportProfile.Mustache,
            await HandOffFiles.MergeAsync(record, db, cancel),
            await ConditionsAsync(record, profile, db, cancel),
            await HandOffFiles.AllAsync(record, HandOffFileKind.Picture, db, cancel),
            await HandOffFiles.AllAsync(record, HandOffFileKind.Attachment, db, cancel)
        );
    }

    private static async Task<ImmutableArray<ConditionDefinition>> ConditionsAsync(
        HandOffRecord record,
        string profile,
        GoldenRuleDb db,
        CancellationToken cancel
    ) =>
        record.Files.FirstOrDefault(f => f.Name == $"{profile}/conditions.json") is { } file
        && await HandOffFiles.FindAsync(file, db, cancel) is { } table
            ? DocumentJson.Read<ImmutableArray<ConditionDefinition>>(Encoding.UTF8.GetString(table))
            : [];

    /// <summary>
    /// What a platform is given of one reader, by the names that stand in the files: fields as they are written, and of each condition
    /// whether it holds; empty: it does not, as Mustache has it.
    /// </summary>
    public ImmutableSortedDictionary<string, string> AttributesOf(ImmutableSortedDictionary<string, string> values)
    {
        var plan = AudiencePlan.Empty with { Fields = Merge.Fields };
        var reader = new SampleReader(Guid.Empty, "", values);
        return FieldExport
            .Data(reader, plan, Record.Language, Writing)
            .AddRange(
                Conditions.Select(c =>
                    KeyValuePair.Create(c.Name, Core.Audiences.Conditions.Holds(c.Definition, plan, reader.Values) ? "yes" : "")
                )
            );
    }

    /// <summary>The HTML with each picture's address written anew.</summary>
    public string HtmlWith(IReadOnlyDictionary<string, string> pictures) =>
        pictures.Aggregate(Html, (html, picture) => html.Replace(Merge.PicturesAt + picture.Key, picture.Value, StringComparison.Ordinal));

    public static string NameOf(HandOffFile file) => file.Name[(file.Name.LastIndexOf('/') + 1)..];
}
