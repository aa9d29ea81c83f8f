using System.Diagnostics.Metrics;
using System.Security.Cryptography;
using System.Text;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Governance;
using GoldenRule.Core.Interchange;
using GoldenRule.Core.Resolving;
using GoldenRule.Core.Validation;
using GoldenRule.Data;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Hosting;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Thumbnails;

/// <summary>What documents look like now, compiled once for each version of them and of the library.</summary>
public sealed class ThumbnailContents(IMeterFactory meters) : IDisposable
{
    private const int BytesOfHash = 400;

    // Only the hashes: what is to be drawn is compiled again then.
    private readonly BoundedCache<Key, string?> hashes = new(meters, "thumbnails", 8 << 20, TimeSpan.FromHours(4));

    /// <summary>
    /// What each is drawn from, in their order, or only its hash where it was compiled before. Null: there is nothing to see.
    /// </summary>
    /// <param name="again">Compiled whether it was before or not.</param>
    public async Task<IReadOnlyList<ThumbnailOrder?>> FindAsync(
        IReadOnlyList<ThumbnailSubject> subjects,
        Person person,
        LibrarySnapshot library,
        GoldenRuleDb db,
        bool again,
        CancellationToken cancel
    )
    {
        var ids = subjects.Select(s => s.Id).ToHashSet();
        var stored = await db
            .Documents.Where(d => ids.Contains(d.Id))
            .Select(d => new Stand(d.Id, d.Kind, d.Revision, d.Private, d.Owner, d.CampaignType, d.Serves))
            .ToDictionaryAsync(d => d.Id, cancel);
        var found = subjects
            .Select(s =>
                (
                    Subject: s,
                    Key: stored.GetValueOrDefault(s.Id) is { } d && IsSeen(s, d, person, library.Plan.Teams) ? KeyOf(s, d, library) : null
                )
            )
            .ToList();
        var unknown = found.Where(f => f.Key is not null && (again || !hashes.TryGet(f.Key, out _))).ToList();
        var heads = unknown.Where(f => f.Subject.IsHead).Select(f => f.Subject.Id).ToHashSet();
        var read = await db
            .Documents.Where(d => heads.Contains(d.Id))
            .Select(d => new
            {
                d.Id,
                d.Kind,
                d.Head,
            })
            .ToDictionaryAsync(d => d.Id, cancel);
        var compiled = unknown
            .DistinctBy(u => u.Key)
            .AsParallel()
            .WithCancellation(cancel)
            .Select(u =>
                (u.Key, Order: Compile(u.Subject, read.GetValueOrDefault(u.Subject.Id) is { } d ? (d.Kind, d.Head) : null, library))
            )
            .ToDictionary(u => u.Key!, u => u.Order);
        foreach (var (key, order) in compiled)
        {
            hashes.Set(key, order?.Id, BytesOfHash);
        }

        return [.. found.Select(f => f.Key is null ? null : Known(f.Key, f.Subject.Screen))];

        ThumbnailOrder? Known(Key key, ThumbnailScreen screen)
        {
            if (compiled.TryGetValue(key, out var order))
            {
                return order;
            }

            return hashes.TryGet(key, out var hash) && hash is not null ? new ThumbnailOrder(hash, "", screen, []) : null;
        }
    }

    public void Dispose() => hashes.Dispose();

    private sealed record Stand(
        Guid Id,
        DocumentKind Kind,
        long Revision,
        bool Private,
        Guid Owner,
        string? CampaignType,
        List<string> Serves
    );

    // Of what has no day of its own snippets say another thing once their schedule says so.
    private sealed record Key(Guid Id, ThumbnailScreen Screen, long Revision, int Release, long Library, DateTime Snippets);

    private static bool IsSeen(ThumbnailSubject subject, Stand stored, Person person, TeamPlan teams) =>
        stored.Kind == subject.Kind
        && (
            stored.Kind == DocumentKind.Email
                ? teams.Sees(person, stored.CampaignType)
                : !LibraryStatus.IsHidden(
                    stored.Private,
                    stored.Owner,
                    teams.For(person, LibraryStatus.Types(stored.CampaignType, stored.Serves))
                ) && (!subject.IsHead || person.IsAnywhere(Role.Lead, Role.Designer))
        );

    private static Key? KeyOf(ThumbnailSubject subject, Stand stored, LibrarySnapshot library)
    {
        var snippets = library.Snippets.At(library.Clock.GetUtcNow().UtcDateTime).Utc;
        if (subject.IsHead)
        {
            return new Key(subject.Id, subject.Screen, stored.Revision, 0, library.Version, snippets);
        }

        return library.Releases.Newest.GetValueOrDefault(subject.Id) is { } newest
            ? new Key(subject.Id, subject.Screen, 0, newest.Number, library.Version, snippets)
            : null;
    }

    // What cannot be compiled has no picture; opening it says why.
    private static ThumbnailOrder? Compile(ThumbnailSubject subject, (DocumentKind Kind, string Head)? head, LibrarySnapshot library)
    {
        try
        {
            var document = Find(subject, head, library);
            var layout = document is Template ? DocumentLayout.AsStarted(document, library) : DocumentLayout.LayOut(document, library);
            var resolved = layout.Resolve(library);
            var compiled = Compiler.Compile(resolved, BundleFile.PicturesAt, Purpose.Sending);
            var html = compiled.Html();
            byte[] about = [.. Encoding.UTF8.GetBytes($"{ThumbnailSheet.Version} {subject.Screen} "), .. html];
            return new ThumbnailOrder(
                Convert.ToHexStringLower(SHA256.HashData(about)),
                Encoding.UTF8.GetString(html),
                subject.Screen,
                [.. compiled.PictureNames()]
            );
        }
        catch (Exception fault) when (fault is StructureException or ProblemException or KeyNotFoundException)
        {
            return null;
        }
    }

    private static Document Find(ThumbnailSubject subject, (DocumentKind Kind, string Head)? head, LibrarySnapshot library)
    {
        if (head is { } stored)
        {
            return Structure.Complete(StoredForm.Read(stored.Kind, stored.Head), library.Masters);
        }

        return subject.Kind == DocumentKind.Row ? library.Releases.Rows[subject.Id] : library.Releases.Templates[subject.Id];
    }
}
