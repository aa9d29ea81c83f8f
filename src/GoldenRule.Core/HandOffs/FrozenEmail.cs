using System.Collections.Immutable;
using System.Security.Cryptography;
using System.Text;
using GoldenRule.Core.Audiences;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Interchange;
using GoldenRule.Core.Merging;
using GoldenRule.Core.Reviews;

namespace GoldenRule.Core.HandOffs;

/// <summary>What is frozen of an email beside its HTML.</summary>
/// <param name="ApprovalSheet">A page to print, see <see cref="SignOffSheet"/>.</param>
/// <param name="Pictures">The bytes of each picture and calendar file that it shows or links to, by its name.</param>
/// <param name="Attachments">Files that go out with it.</param>
/// <param name="Date">Of the message.</param>
/// <param name="MessageId">Without brackets (RFC 5322, 3.6.4).</param>
/// <param name="To">Whom it is written to. Null: many readers.</param>
public sealed record FreezeTerms(
    SeenEmail Seen,
    string ApprovalSheet,
    ImmutableArray<(string Name, byte[] Content)> Pictures,
    ImmutableArray<MessagePart> Attachments,
    DateTimeOffset Date,
    string MessageId,
    Recipient? To = null
);

/// <summary>An email as the bytes that leave, written in every export profile that has words for all of it.</summary>
/// <param name="Subject">Of the profile that was chosen.</param>
public sealed record FrozenEmail(
    EmailDetails Details,
    ImmutableArray<HandOffProfile> Profiles,
    ImmutableArray<MergeField> Fields,
    ImmutableArray<(HandOffFile File, byte[] Content)> Files
)
{
    /// <param name="kept">Compiled with its fields left open.</param>
    /// <param name="chosen">The profile that it is handed off in.</param>
    /// <exception cref="StructureException">The chosen profile cannot say all of it; says what, and where.</exception>
    public static FrozenEmail Freeze(CompiledEmail kept, AudiencePlan plan, ExportProfile chosen, FreezeTerms terms)
    {
        var files = ImmutableArray.CreateBuilder<(HandOffFile, byte[])>();
        var profiles = ImmutableArray.CreateBuilder<HandOffProfile>();
        EmailDetails? details = null;
        foreach (var profile in plan.AllProfiles.OrderByDescending(p => p.Key == chosen.Key))
        {
            var export = FieldExport.Write(kept, plan, profile);
            if (export.Faults is [var first, ..])
            {
                if (profile.Key == chosen.Key)
                {
                    throw new StructureException($"{first.Where}: {first.What} Choose another profile.", "profile");
                }

                continue;
            }

            details ??= export.Email.Source.Email.Details;
            profiles.Add(new(profile.Key, profile.Name));
            Add(export, profile.Key, terms, files);
        }

        var merge = MergeEmail.From(kept, plan);
        files.Add(Made("merge.json", HandOffFileKind.Merge, "", "application/json", Utf8(DocumentJson.Write(merge))));
        files.Add(Made("seen.json", HandOffFileKind.Seen, "", "application/json", Utf8(DocumentJson.Write(terms.Seen))));
        files.Add(Made("approval-sheet.html", HandOffFileKind.ApprovalSheet, "", "text/html", Utf8(terms.ApprovalSheet)));
        foreach (var (name, content) in terms.Pictures)
        {
            files.Add(Made(BundleFile.PicturesAt + name, HandOffFileKind.Picture, "", AttachmentTypes.MediaTypeOf(name), content));
        }

        var number = 0;
        foreach (var file in terms.Attachments)
        {
            // Two may be called alike.
            files.Add(Made($"attachments/{++number}/{file.Name}", HandOffFileKind.Attachment, "", file.MediaType, file.Content));
        }

        return new FrozenEmail(details!, profiles.ToImmutable(), merge.Fields, files.ToImmutable());
    }

    private static void Add(FieldExport export, string profile, FreezeTerms terms, ImmutableArray<(HandOffFile, byte[])>.Builder files)
    {
        var message = MessageFile.Write(
            MessageContent.From(export),
            new MessageTerms(
                terms.Date,
                terms.MessageId,
                terms.To?.Address is { Length: > 0 } to ? to : null,
                terms.Attachments,
                ImmutableDictionary<string, byte[]>.Empty
            )
        );
        files.Add(Made($"{profile}/index.html", HandOffFileKind.Html, profile, "text/html", export.Email.Html()));
        files.Add(Made($"{profile}/plain.txt", HandOffFileKind.Text, profile, "text/plain", Utf8(export.PlainText)));
        files.Add(Made($"{profile}/message.eml", HandOffFileKind.Message, profile, MessageFile.MediaType, message));
        foreach (var (name, content) in export.Tables())
        {
            var type = name.EndsWith(".csv", StringComparison.Ordinal) ? "text/csv" : "application/json";
            files.Add(Made($"{profile}/{name}", HandOffFileKind.Table, profile, type, content));
        }
    }

    private static (HandOffFile, byte[]) Made(string name, HandOffFileKind kind, string profile, string type, byte[] content) =>
        (new(name, kind, profile, type, content.Length, Sha256(content)), content);

    /// <summary>In lower-case hexadecimal.</summary>
    public static string Sha256(byte[] content) => Convert.ToHexStringLower(SHA256.HashData(content));

    private static byte[] Utf8(string text) => Encoding.UTF8.GetBytes(text);
}
