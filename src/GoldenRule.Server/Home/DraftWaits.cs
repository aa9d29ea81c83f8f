using System.Globalization;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Data;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Emails;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Home;

/// <summary>Somebody's own drafts: newer releases to take, and what is still to fill in what goes out soon.</summary>
public sealed class DraftWaits(GoldenRuleDb db, HeadCache heads, CompilationCache compilations, TimeProvider clock) : WaitSource
{
    private const int MostDrafts = 40;

    public override async Task<IReadOnlyList<WaitEntry>> FindAsync(Person everywhere, LibrarySnapshot snapshot, CancellationToken cancel)
    {
        var waits = new List<WaitEntry>();
        var drafts = await db
            .Documents.AsNoTracking()
            .Where(d => d.Kind == DocumentKind.Email && d.State == EmailState.Draft && !d.Retired && d.CreatedBy == everywhere.Id)
            .OrderByDescending(d => d.ChangedAt)
            .Take(MostDrafts)
            .ToListAsync(cancel);
        var now = clock.GetUtcNow().UtcDateTime;
        foreach (var draft in drafts)
        {
            var loaded = heads.Open(draft, snapshot);
            var email = (Email)loaded.Document;
            if (Updates.Wait(email, snapshot))
            {
                var text = Updates.MustTake(email, snapshot)
                    ? "A newer release of what it is made from must be taken before it goes out."
                    : "A newer release of what it is made from waits. Look, then take it.";
                waits.Add(WaitEntry.For(WaitKind.TakeUpdate, draft, text, draft.ChangedAt));
            }

            var compiled = compilations.Compile(loaded, cancel);
            var toFill = compiled.Findings.Count(f => f.ToFill);
            if (
                toFill > 0
                && RenderContext.DayOf(compiled.Resolved.Email.Details.SendDay) is { } day
                && day <= DateOnly.FromDateTime(now + Soon)
            )
            {
                var text = $"{toFill} of {Math.Max(compiled.Inspected.Inspection.Fillable, toFill)} still to fill.";
                waits.Add(
                    WaitEntry.For(WaitKind.Fill, draft, text, day.ToDateTime(TimeOnly.MinValue, DateTimeKind.Utc)) with
                    {
                        Day = day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
                    }
                );
            }
        }

        return waits;
    }
}
