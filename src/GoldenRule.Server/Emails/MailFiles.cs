using System.Collections.Immutable;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Interchange;
using GoldenRule.Data;
using GoldenRule.Server.Hosting;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Emails;

/// <summary>The files that a compiled email shows and links to, beside its HTML.</summary>
public static class MailFiles
{
    /// <summary>Calendar files and what else is made with the email: kept before it goes out, under their own hash.</summary>
    public static async Task KeepAsync(CompiledEmail email, GoldenRuleDb db, CancellationToken cancel)
    {
        foreach (var (name, content) in email.Files().DistinctBy(f => f.Name, StringComparer.Ordinal))
        {
            // Several servers may be asked for the same email at once; named by their hash, one of them is enough.
            await db.Database.ExecuteSqlAsync(
                $"insert into picture_files (name, content) values ({name}, {content}) on conflict (name) do nothing",
                cancel
            );
        }
    }

    /// <summary>All of them with their bytes.</summary>
    public static async Task<ImmutableArray<(string Name, byte[] Content)>> OfAsync(
        CompiledEmail email,
        GoldenRuleDb db,
        CancellationToken cancel
    ) => [.. await PicturesAsync(email, db, cancel), .. email.Files().DistinctBy(f => f.Name, StringComparer.Ordinal)];

    /// <summary>The files that go out with an email, in order.</summary>
    public static async Task<ImmutableArray<MessagePart>> AttachmentsAsync(Email email, GoldenRuleDb db, CancellationToken cancel)
    {
        if (email.Attachments.IsEmpty)
        {
            return [];
        }

        var wanted = email.Attachments.Select(a => a.File).ToList();
        var files = await db
            .Files.AsNoTracking()
            .Where(f => wanted.Contains(f.Id))
            .ToDictionaryAsync(f => f.Id, f => f.Content, StringComparer.Ordinal, cancel);
        return
        [
            .. email
                .Attachments.Where(a => files.ContainsKey(a.File))
                .Select(a => new MessagePart(AttachmentTypes.SafeName(a.Name), a.MediaType, files[a.File])),
        ];
    }

    /// <summary>The domain of the address that an email is sent from: message ids are made in it.</summary>
    /// <exception cref="ProblemException">It has none.</exception>
    public static string DomainOf(string sender) =>
        MailAddresses.IsOne(sender)
            ? sender[(sender.LastIndexOf('@') + 1)..]
            : throw ProblemException.Invalid(
                $"{(sender.Length == 0 ? "The email has no sending address" : $"\"{sender}\" is no sending address")}, "
                    + "and no message goes without one. Write it in the details, like post@larkfell.example.org.",
                "details/senderAddress"
            );

    public static async Task<ImmutableArray<(string Name, byte[] Content)>> PicturesAsync(
        CompiledEmail email,
        GoldenRuleDb db,
        CancellationToken cancel
    )
    {
        var names = email.PictureNames();
        var found = await db
            .PictureFiles.AsNoTracking()
            .Where(f => names.AsEnumerable().Contains(f.Name))
            .ToDictionaryAsync(f => f.Name, f => f.Content, StringComparer.Ordinal, cancel);
        return [.. names.Where(found.ContainsKey).Select(n => (n, found[n]))];
    }
}
