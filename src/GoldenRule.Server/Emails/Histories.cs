using System.Collections.Immutable;
using System.Security.Claims;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Core.Governance;
using GoldenRule.Core.History;
using GoldenRule.Core.Validation;
using GoldenRule.Data;
using GoldenRule.Server.Desks;
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

    private const int MostEdits = 2000;

    public static void MapHistory(this RouteGroupBuilder emails)
    {
        emails.MapGet("/{id:guid}/history", TellAsync).WithName("getHistory");
        emails.MapGet("/{id:guid}/history/{revision:long}/html", HtmlAsync).Produces<string>(200, "text/html").WithName("getFormerHtml");
        emails.MapGet("/{id:guid}/history/{revision:long}/way-back", WayBackAsync).WithName("getWayBack");
    }

    private static async Task<HistoryPage> TellAsync(
        Guid id,
        ClaimsPrincipal user,
        DocumentAccess access,
        GoldenRuleDb db,
        CancellationToken cancel,
        long? before = null
    )
    {
        var loaded = await access.LoadAsync(DocumentKind.Email, id, user.Person(), cancel);
        var until = Math.Min(before ?? loaded.Stored.Revision, loaded.Stored.Revision);
        var names = await db.Users.ToDictionaryAsync(u => u.Id, u => u.Name, cancel);
        var told = new List<(Guid Step, long Revision, Guid Author, DateTime At, bool Undoes, List<string> Words)>();
        var from = await FirstToldAsync(id, until, db, cancel);
        await foreach (var (edit, body, former) in db.ReplayAsync(loaded.Stored, from, until, cancel))
        {
            // Names are those of then.
            var words = HistoryWords.Tell(body, RunningOrder.From((Email)former, loaded.Library.Masters), loaded.Library.Masters);
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

    // The first edit of the page: so many steps back, or so many edits where the steps are long.
    private static async Task<long> FirstToldAsync(Guid id, long until, GoldenRuleDb db, CancellationToken cancel)
    {
        var edits = await db
            .Edits.Where(e => e.DocumentId == id && e.Sequence <= until)
            .OrderByDescending(e => e.Sequence)
            .Take(MostEdits)
            .Select(e => new { e.Sequence, e.Step })
            .ToListAsync(cancel);
        var steps = 0;
        for (var i = 0; i < edits.Count; i++)
        {
            if ((i == 0 || edits[i].Step != edits[i - 1].Step) && ++steps > PageSize)
            {
                return edits[i - 1].Sequence;
            }
        }

        return edits.Count == 0 ? 1 : edits[^1].Sequence;
    }

    private static async Task<IResult> HtmlAsync(
        Guid id,
        long revision,
        ClaimsPrincipal user,
        HttpContext http,
        DocumentAccess access,
        CancellationToken cancel
    )
    {
        var (loaded, former) = await access.AtAsync(id, revision, user.Person(), cancel);
        return MailHtml.Answer(http, Updates.Compiled(former, loaded.Library));
    }

    private static async Task<WayBack> WayBackAsync(
        Guid id,
        long revision,
        ClaimsPrincipal user,
        DocumentAccess access,
        CancellationToken cancel
    )
    {
        var (loaded, former) = await access.AtAsync(id, revision, user.Person(), cancel);
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
