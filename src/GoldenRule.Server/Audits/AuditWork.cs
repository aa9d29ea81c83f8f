using System.Collections.Immutable;
using System.Text.Json;
using GoldenRule.Core.Checking;
using GoldenRule.Core.Documents;
using GoldenRule.Data;
using GoldenRule.Server.Desks;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Jobs;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Audits;

/// <summary>A finding with the document it was made in.</summary>
/// <param name="Row">Id of the row; null: the whole document.</param>
public sealed record AuditFinding(
    Guid Document,
    DocumentKind Kind,
    string Name,
    string Template,
    string CampaignType,
    EmailState State,
    string Check,
    Severity Severity,
    string Message,
    string? Evidence,
    string? Row,
    string? Piece = null,
    string? Field = null
);

/// <summary>What was found in the whole library.</summary>
/// <param name="Documents">How many were looked at.</param>
/// <param name="Clean">How many of them nothing was found in.</param>
public sealed record AuditResult(DateTime At, int Documents, int Clean, ImmutableArray<AuditFinding> Findings);

/// <summary>Runs every check over every email, template and saved row that is not retired.</summary>
public sealed class AuditWork(GoldenRuleDb db, LibraryCache library, CompilationCache compilations, TimeProvider clock) : Work
{
    public const string WorkName = "audit";

    public const string MediaType = "application/json";

    private const int Chunk = 100;

    public override string Name => WorkName;

    public override async Task<WorkResult> RunAsync(StoredJob job, Progress progress, CancellationToken cancel)
    {
        var snapshot = await library.GetAsync(db, cancel);
        var query = db
            .Documents.AsNoTracking()
            .Where(d => (d.Kind == DocumentKind.Email || d.Kind == DocumentKind.Template || d.Kind == DocumentKind.Row) && !d.Retired);
        var total = await query.CountAsync(cancel);
        var (findings, done, clean, last) = (ImmutableArray.CreateBuilder<AuditFinding>(), 0, 0, Guid.Empty);
        while (true)
        {
            var chunk = await query.Where(d => d.Id > last).OrderBy(d => d.Id).Take(Chunk).ToListAsync(cancel);
            if (chunk.Count == 0)
            {
                break;
            }

            foreach (var stored in chunk)
            {
                var found = Inspect(stored, snapshot, cancel).ToList();
                findings.AddRange(found);
                clean += found.Count == 0 ? 1 : 0;
                done++;
                await progress(done, Math.Max(total, done), stored.Name);
            }

            last = chunk[^1].Id;
        }

        var result = new AuditResult(clock.GetUtcNow().UtcDateTime, done, clean, findings.ToImmutable());
        return new WorkResult("audit.json", MediaType, JsonSerializer.SerializeToUtf8Bytes(result, DocumentJson.Options));
    }

    private IEnumerable<AuditFinding> Inspect(StoredDocument stored, LibrarySnapshot snapshot, CancellationToken cancel)
    {
        CompiledRevision compiled;
        string? broken = null;
        try
        {
            compiled = compilations.CompileOnce(new LoadedDocument(stored, StoredForm.Read(stored.Kind, stored.Head), snapshot), cancel);
        }
        catch (Exception e) when (e is StructureException or JsonException)
        {
            (compiled, broken) = (null!, e.Message);
        }

        if (broken is not null)
        {
            return
            [
                new AuditFinding(
                    stored.Id,
                    stored.Kind,
                    stored.Name,
                    "",
                    stored.CampaignType ?? "",
                    stored.State,
                    "structure",
                    Severity.Stop,
                    broken,
                    null,
                    null
                ),
            ];
        }

        var template = stored.Kind == DocumentKind.Row ? "" : compiled.Order.Template.Name;
        return compiled.Findings.Select(f => new AuditFinding(
            stored.Id,
            stored.Kind,
            stored.Name,
            template,
            compiled.Order.Template.CampaignType,
            stored.State,
            f.Check,
            f.Severity,
            f.Message,
            f.Evidence,
            f.Place.Row,
            f.Place.Piece,
            f.Place.Field
        ));
    }
}
