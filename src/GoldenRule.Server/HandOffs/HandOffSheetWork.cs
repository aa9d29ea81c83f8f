using System.Text;
using GoldenRule.Core.HandOffs;
using GoldenRule.Data;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.Jobs;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.HandOffs;

/// <summary>Prints the approval sheet of a hand-off, as it was frozen.</summary>
public sealed class HandOffSheetWork(GoldenRuleDb db, HeadlessChromium chromium) : Work
{
    public const string WorkName = "hand-off-sheet";

    private const int Steps = 2;

    public override string Name => WorkName;

    public override async Task<WorkResult> RunAsync(StoredJob job, Progress progress, CancellationToken cancel)
    {
        await progress(1, Steps, "Fetching what was frozen");
        var stored = await db.HandOffs.AsNoTracking().FirstAsync(h => h.Id == job.Subject, cancel);
        var record = HandOffRecord.Read(stored.Record);
        var sheet = await HandOffFiles.ReadAsync(record, HandOffFileKind.ApprovalSheet, "", db, cancel);
        var pictures = await HandOffFiles.AllAsync(record, HandOffFileKind.Picture, db, cancel);
        await progress(2, Steps, "Printing");
        var pdf = await chromium.PrintAsync(Encoding.UTF8.GetString(sheet), pictures.Select(p => (p.File.Name, p.Content)), cancel);
        return new WorkResult($"{record.Name}, hand-off {record.Number}.pdf", "application/pdf", pdf);
    }
}
