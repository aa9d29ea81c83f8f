using System.Collections.Immutable;
using System.Security.Claims;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Core.Governance;
using GoldenRule.Core.History;
using GoldenRule.Core.Validation;
using GoldenRule.Data;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.People;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Emails;

/// <summary>One step of an email's history.</summary>
/// <param name="Revision">The email's after it.</param>
/// <param name="Words">What was done: "moved Story up".</param>
/// <param name="Undoes">It took an earlier step back, or brought one again.</param>
public sealed record HistoryStep(long Revision, string Author, DateTime At, string Words, bool Undoes);

/// <param name="Next">Revision to ask for what came before; null: this is the beginning.</param>
public sealed record HistoryPage(ImmutableArray<HistoryStep> Steps, long? Next);

/// <summary>What going back would do.</summary>
/// <param name="Edits">As one step.</param>
/// <param name="Refused">What the asker may not change and what therefore stays, in words.</param>
public sealed record WayBack(ImmutableArray<Edit> Edits, ImmutableArray<string> Refused);

/// <summary>Everything that was ever done to an email: told, looked at, and gone back to.</summary>
public static class Histories
{
    private const int PageSize = 60;

    public static void MapHistory(this RouteGroupBuilder emails)
    {
        emails.MapGet("/{id:guid}/history", TellAsync).WithName("getHistory");
        emails.MapGet("/{id:guid}/history/{revision:long}/html", HtmlAsync).Produces<string>(200, "text/html").WithName("getFormerHtml");
        emails.MapGet("/{id:guid}/history/{revision:long}/way-back", WayBackAsync).WithName("getWayBack");
    }

    private static async Task<HistoryPage> TellAsync(
        Guid id,
        EditPipeline pipeline,
        GoldenRuleDb db,
        CancellationToken cancel,
        long? before = null
    )
    {
        var loaded = await pipeline.LoadAsync(DocumentKind.Email, id, cancel);
        var until = Math.Min(before ?? loaded.Stored.Revision, loaded.Stored.Revision);
        var names = await db.Users.ToDictionaryAsync(u => u.Id, u => u.Name, cancel);
        // Names are those of then, so the email is gone through from its beginning. Only the last steps are put in words.
        var told = new List<(Guid Step, long Revision, Guid Author, DateTime At, bool Undoes, List<string> Words)>();
        var email = (Email)StoredForm.Read(DocumentKind.Email, loaded.Stored.Origin);
        var from = await FirstToldAsync(id, until, db, cancel);
        await foreach (
            var edit in db
                .Edits.AsNoTracking()
                .Where(e => e.DocumentId == id && e.Sequence <= until)
                .OrderBy(e => e.Sequence)
                .AsAsyncEnumerable()
                .WithCancellation(cancel)
        )
        {
            var body = DocumentJson.ReadEdit<Edit>(edit.Body);
            if (edit.Sequence >= from)
            {
                var words = HistoryWords.Tell(body, RunningOrder.From(email, loaded.Library.Masters), loaded.Library.Masters);
                if (told.Count == 0 || told[^1].Step != edit.Step)
                {
                    told.Add((edit.Step, edit.Sequence, edit.AuthorId, edit.At, edit.Undoes is not null, [words]));
                }
                else
                {
                    told[^1].Words.Add(words);
                    told[^1] = told[^1] with { Revision = edit.Sequence, At = edit.At };
                }
            }

            email = (Email)EditApplication.Apply(body, email);
        }

        told.Reverse();
        return new HistoryPage(
            [
                .. told.Select(t => new HistoryStep(
                    t.Revision,
                    names.GetValueOrDefault(t.Author, "Someone"),
                    t.At,
                    HistoryWords.Tell(t.Words),
                    t.Undoes
                )),
            ],
            from > 1 ? from - 1 : null
        );
    }

    // The first edit of the page: so many steps back.
    private static async Task<long> FirstToldAsync(Guid id, long until, GoldenRuleDb db, CancellationToken cancel)
    {
        var starts = await db
            .Edits.Where(e => e.DocumentId == id && e.Sequence <= until)
            .GroupBy(e => e.Step)
            .Select(g => g.Min(e => e.Sequence))
            .OrderByDescending(s => s)
            .Take(PageSize)
            .ToListAsync(cancel);
        return starts.Count == 0 ? 1 : starts[^1];
    }

    private static async Task<IResult> HtmlAsync(Guid id, long revision, HttpContext http, EditPipeline pipeline, CancellationToken cancel)
    {
        var (loaded, former) = await pipeline.AtAsync(id, revision, cancel);
        return MailHtml.Answer(http, Updates.Compiled(former, loaded.Library));
    }

    private static async Task<WayBack> WayBackAsync(
        Guid id,
        long revision,
        ClaimsPrincipal user,
        EditPipeline pipeline,
        CancellationToken cancel
    )
    {
        var (loaded, former) = await pipeline.AtAsync(id, revision, cancel);
        var now = (Email)loaded.Document;
        if (now.TemplateRelease != former.TemplateRelease)
        {
            throw ProblemException.Invalid(
                $"Release {now.TemplateRelease} of the template was taken since. Undo that first, or copy what you need from what is shown."
            );
        }

        var (person, edits, refused) = (user.Person(), ImmutableArray.CreateBuilder<Edit>(), ImmutableArray.CreateBuilder<string>());
        foreach (var part in Difference.Between(now, former, loaded.Library.Masters))
        {
            if (Take(part.Together) && !part.Further.IsEmpty)
            {
                foreach (var edit in part.Further)
                {
                    _ = Take([edit]);
                }
            }
        }

        return new WayBack(edits.ToImmutable(), [.. refused.Distinct(StringComparer.Ordinal)]);

        // All of them or none: a row that would be removed to come back otherwise stays as it is where that is refused.
        bool Take(ImmutableArray<Edit> together)
        {
            var then = loaded;
            foreach (var edit in together)
            {
                if (WhyNot(edit, ref then) is { } reason)
                {
                    refused.Add(WhatStays(together, reason));
                    return false;
                }
            }

            loaded = then;
            edits.AddRange(together);
            return true;
        }

        string? WhyNot(Edit edit, ref LoadedDocument then)
        {
            if (Governor.Decide(person, edit, EditPipeline.Open(then)) is Decision.Refused no)
            {
                return no.Reason;
            }

            try
            {
                then = then.With(EditApplication.Apply(edit, then.Document));
                return null;
            }
            catch (StructureException fault)
            {
                return fault.Message;
            }
        }

        string WhatStays(ImmutableArray<Edit> together, string reason) =>
            together switch
            {
                [RemoveRow, InsertRow again] => $"\"{loaded.Library.Masters.NameOf(again.Row)}\" stays as it is now: {reason}",
                [InsertRow gone] => $"\"{loaded.Library.Masters.NameOf(gone.Row)}\" does not come back: {reason}",
                _ => reason,
            };
    }
}
