using System.Collections.Immutable;
using System.Security.Claims;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Reviews;
using GoldenRule.Data;
using GoldenRule.Server.Desks;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.People;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Reviews;

/// <summary>Where a comment is pinned.</summary>
/// <param name="Row">Id; empty: the whole email, or with a field what the inbox shows.</param>
/// <param name="Start">Characters of the field before the words that are meant.</param>
/// <param name="Length">0: no words in particular.</param>
public sealed record CommentPlace(string Row = "", string Block = "", string Field = "", int Start = 0, int Length = 0);

/// <param name="Id">UUIDv7 made by the client: sent twice, it is one.</param>
/// <param name="Answers">The comment that it answers; null: it begins a thread.</param>
/// <param name="Mentions">Ids of people who are told.</param>
public sealed record NewComment(
    Guid Id,
    string Text,
    CommentPlace? Place = null,
    Guid? Answers = null,
    ImmutableArray<Guid>? Mentions = null
);

public sealed record CommentResolution(bool Resolved);

public sealed record CommentText(string Text, ImmutableArray<Guid> Mentions);

/// <param name="MayChange">It is one's own.</param>
public sealed record CommentEntry(
    Guid Id,
    PersonEntry Author,
    DateTime At,
    string Text,
    ImmutableArray<PersonEntry> Mentions,
    bool MayChange
);

/// <summary>A comment with its answers.</summary>
/// <param name="PlaceName">What the place is called, or was.</param>
/// <param name="Quote">The words that are meant, as they were; empty: none in particular.</param>
/// <param name="Place">Where it stands now: words that moved are followed.</param>
/// <param name="Gone">The block is not there any more.</param>
/// <param name="WordsGone">None of its words is left.</param>
public sealed record ThreadEntry(
    Guid Id,
    CommentPlace Place,
    string PlaceName,
    string Quote,
    bool Gone,
    bool WordsGone,
    PersonEntry? ResolvedBy,
    DateTime? ResolvedAt,
    ImmutableArray<CommentEntry> Comments
);

/// <summary>What people say about an email, pinned to a block or a word, in threads.</summary>
public static class CommentEndpoints
{
    private const int Longest = 4_000;
    private const int Most = 2_000;

    public static void MapComments(this IEndpointRouteBuilder api)
    {
        var comments = api.MapGroup("/emails/{id:guid}/comments").WithTags("Reviews");
        comments
            .MapGet(
                "",
                async (
                    Guid id,
                    ClaimsPrincipal user,
                    DocumentAccess access,
                    CompilationCache compilations,
                    GoldenRuleDb db,
                    CancellationToken cancel
                ) =>
                {
                    var loaded = await access.LoadAsync(DocumentKind.Email, id, user.Person(), cancel);
                    return await ListAsync(loaded, user.Person(), compilations, db, cancel);
                }
            )
            .WithName("listComments");
        comments.MapPost("", AddAsync).WithName("addComment");
        comments.MapPut("/{comment:guid}", ChangeAsync).WithName("changeComment");
        comments.MapDelete("/{comment:guid}", RemoveAsync).WithName("removeComment");
        comments.MapPut("/{comment:guid}/resolution", ResolveAsync).WithName("resolveComment");
    }

    private static async Task<ImmutableArray<ThreadEntry>> ListAsync(
        LoadedDocument loaded,
        Person person,
        CompilationCache compilations,
        GoldenRuleDb db,
        CancellationToken cancel
    )
    {
        var id = loaded.Stored.Id;
        var all = await db.Comments.AsNoTracking().Where(c => c.DocumentId == id).OrderBy(c => c.At).ThenBy(c => c.Id).ToListAsync(cancel);
        if (all.Count == 0)
        {
            return [];
        }

        var people = all.SelectMany(c => c.Mentions.Append(c.AuthorId).Append(c.ResolvedBy ?? c.AuthorId)).Distinct().ToList();
        var names = await db.Users.Where(u => people.Contains(u.Id)).ToDictionaryAsync(u => u.Id, u => u.Name, cancel);
        var seen = ReviewSight.Look(compilations.Compile(loaded, cancel), loaded.Library);
        PersonEntry Named(Guid one) => new(one, names.GetValueOrDefault(one, ""));
        CommentEntry Entry(StoredComment c) =>
            new(c.Id, Named(c.AuthorId), c.At, c.Text, [.. c.Mentions.Select(Named)], c.AuthorId == person.Id);
        return
        [
            .. all.Where(c => c.ThreadId is null)
                .Select(root =>
                {
                    var (there, text) = TextAt(seen, root.Row, root.Block, root.Field);
                    var words = new PinnedWords(root.Start, root.Length);
                    var now = root.Length > 0 && text is not null ? words.Follow(root.FieldText, text) : null;
                    return new ThreadEntry(
                        root.Id,
                        new CommentPlace(root.Row, root.Block, root.Field, now?.Start ?? 0, now?.Length ?? 0),
                        root.PlaceName,
                        root.Length > 0 ? root.FieldText.Substring(root.Start, root.Length) : "",
                        !there,
                        root.Length > 0 && now is null,
                        root.ResolvedBy is { } by ? Named(by) : null,
                        root.ResolvedAt,
                        [Entry(root), .. all.Where(c => c.ThreadId == root.Id).Select(Entry)]
                    );
                }),
        ];
    }

    // Whether the place is there, and what stands in the field.
    private static (bool There, string? Text) TextAt(SeenEmail seen, string row, string block, string field)
    {
        if (row.Length == 0)
        {
            return (true, field.Length == 0 ? null : seen.Details.FirstOrDefault(f => f.Name == field)?.Words);
        }

        var found = seen.Rows.FirstOrDefault(r => r.Id == row);
        if (block.Length == 0 || found is null)
        {
            return (found is not null, null);
        }

        var at = found.Blocks.FirstOrDefault(b => b.Id == block);
        return (at is not null, at?.Fields.FirstOrDefault(f => f.Name == field)?.Words);
    }

    private static string NameOf(SeenEmail seen, CommentPlace place)
    {
        if (place.Row.Length == 0)
        {
            return seen.Details.FirstOrDefault(f => f.Name == place.Field)?.Label ?? "The whole email";
        }

        var row = seen.Rows.FirstOrDefault(r => r.Id == place.Row);
        var block = row?.Blocks.FirstOrDefault(b => b.Id == place.Block);
        return block is null ? row?.Name ?? "" : $"{row!.Name}, {block.Name}";
    }

    private static async Task<ImmutableArray<ThreadEntry>> AddAsync(
        Guid id,
        NewComment request,
        ClaimsPrincipal user,
        DocumentAccess access,
        CompilationCache compilations,
        GoldenRuleDb db,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var person = user.Person();
        var loaded = await access.LoadAsync(DocumentKind.Email, id, person, cancel);
        if (await db.Comments.AnyAsync(c => c.Id == request.Id, cancel))
        {
            return await ListAsync(loaded, person, compilations, db, cancel);
        }

        if (await db.Comments.CountAsync(c => c.DocumentId == id, cancel) >= Most)
        {
            throw ProblemException.Invalid($"An email has at most {Most:N0} comments.");
        }

        var seen = ReviewSight.Look(compilations.Compile(loaded, cancel), loaded.Library);
        var place = request.Place ?? new CommentPlace();
        var thread = request.Answers is { } to
            ? await db.Comments.AsNoTracking().FirstOrDefaultAsync(c => c.Id == to && c.DocumentId == id && c.ThreadId == null, cancel)
                ?? throw ProblemException.NotFound("The comment that you answer is not there any more.")
            : null;
        var (there, text) = TextAt(seen, place.Row, place.Block, place.Field);
        if (thread is null && !there)
        {
            throw ProblemException.Invalid("The block that you comment on is not there any more. Look again.", "place");
        }

        if (thread is null && place.Length > 0 && (text is null || place.Start < 0 || place.Start > text.Length - place.Length))
        {
            throw ProblemException.Invalid("The words that you mark are not there any more. Mark them again.", "place");
        }

        db.Comments.Add(
            new StoredComment
            {
                Id = request.Id,
                DocumentId = id,
                ThreadId = thread?.Id,
                AuthorId = person.Id,
                At = clock.GetUtcNow().UtcDateTime,
                Text = Text(request.Text),
                Mentions = await MentionedAsync(request.Mentions ?? [], loaded, db, cancel),
                Row = thread is null ? place.Row : "",
                Block = thread is null ? place.Block : "",
                Field = thread is null ? place.Field : "",
                PlaceName = thread is null ? NameOf(seen, place) : "",
                FieldText = thread is null && place.Length > 0 ? text! : "",
                Start = thread is null && place.Length > 0 ? place.Start : 0,
                Length = thread is null ? Math.Max(place.Length, 0) : 0,
            }
        );
        return await StoredAsync(loaded, person, compilations, db, cancel);
    }

    private static async Task<ImmutableArray<ThreadEntry>> ChangeAsync(
        Guid id,
        Guid comment,
        CommentText request,
        ClaimsPrincipal user,
        DocumentAccess access,
        CompilationCache compilations,
        GoldenRuleDb db,
        CancellationToken cancel
    )
    {
        var person = user.Person();
        var loaded = await access.LoadAsync(DocumentKind.Email, id, person, cancel);
        var stored = await OwnAsync(id, comment, person, db, cancel);
        stored.Text = Text(request.Text);
        stored.Mentions = await MentionedAsync(request.Mentions, loaded, db, cancel);
        return await StoredAsync(loaded, person, compilations, db, cancel);
    }

    private static async Task<ImmutableArray<ThreadEntry>> RemoveAsync(
        Guid id,
        Guid comment,
        ClaimsPrincipal user,
        DocumentAccess access,
        CompilationCache compilations,
        GoldenRuleDb db,
        CancellationToken cancel
    )
    {
        var person = user.Person();
        var loaded = await access.LoadAsync(DocumentKind.Email, id, person, cancel);
        var stored = await OwnAsync(id, comment, person, db, cancel);
        if (await db.Comments.AnyAsync(c => c.ThreadId == comment, cancel))
        {
            throw ProblemException.Invalid("Somebody has answered it. Resolve it instead.");
        }

        db.Comments.Remove(stored);
        return await StoredAsync(loaded, person, compilations, db, cancel);
    }

    private static async Task<ImmutableArray<ThreadEntry>> ResolveAsync(
        Guid id,
        Guid comment,
        CommentResolution request,
        ClaimsPrincipal user,
        DocumentAccess access,
        CompilationCache compilations,
        GoldenRuleDb db,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var person = user.Person();
        var loaded = await access.LoadAsync(DocumentKind.Email, id, person, cancel);
        var stored = await db.Comments.FirstOrDefaultAsync(c => c.Id == comment && c.DocumentId == id && c.ThreadId == null, cancel)
            ?? throw ProblemException.NotFound("There is no such comment any more.");
        stored.ResolvedBy = request.Resolved ? person.Id : null;
        stored.ResolvedAt = request.Resolved ? clock.GetUtcNow().UtcDateTime : null;
        return await StoredAsync(loaded, person, compilations, db, cancel);
    }

    // What was changed is stored, those who watch are told, and whoever asked sees how it stands.
    private static async Task<ImmutableArray<ThreadEntry>> StoredAsync(
        LoadedDocument loaded,
        Person person,
        CompilationCache compilations,
        GoldenRuleDb db,
        CancellationToken cancel
    )
    {
        await db.SaveChangesAsync(cancel);
        await LiveNews.TellAsync(db, loaded.Stored.Id, LiveHub.Reviewed, "", "", cancel);
        return await ListAsync(loaded, person, compilations, db, cancel);
    }

    private static async Task<StoredComment> OwnAsync(Guid id, Guid comment, Person person, GoldenRuleDb db, CancellationToken cancel)
    {
        var stored = await db.Comments.FirstOrDefaultAsync(c => c.Id == comment && c.DocumentId == id, cancel)
            ?? throw ProblemException.NotFound("There is no such comment any more.");
        return stored.AuthorId == person.Id
            ? stored
            : throw ProblemException.Refused(
                new Core.Governance.Decision.Refused(Core.Governance.Rules.Role, null, "Whoever wrote a comment changes it.")
            );
    }

    private static string Text(string said)
    {
        var text = said.Trim();
        return text.Length is > 0 and <= Longest
            ? text
            : throw ProblemException.Invalid($"A comment has 1 to {Longest:N0} characters.", "text");
    }

    // Only who can open the email is called to it.
    private static async Task<List<Guid>> MentionedAsync(
        ImmutableArray<Guid> mentions,
        LoadedDocument loaded,
        GoldenRuleDb db,
        CancellationToken cancel
    )
    {
        if (mentions.IsEmpty)
        {
            return [];
        }

        var teams = loaded.Library.Plan.Teams;
        var there = (await Everyone.ListAsync(db, cancel))
            .Where(p => teams.Sees(p, loaded.Stored.CampaignType))
            .Select(p => p.Id)
            .ToHashSet();
        return [.. mentions.Distinct().Where(there.Contains)];
    }
}
