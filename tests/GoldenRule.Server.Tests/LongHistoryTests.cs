using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Data;
using GoldenRule.Scale;
using GoldenRule.Server.Desks;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Emails;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Tests;

/// <summary>Histories of thousands of edits: snapshots say what a replay from the beginning says, and nothing is told otherwise.</summary>
public sealed class LongHistoryTests(Running server) : IClassFixture<Running>
{
    private const int Edits = 2600;

    [Fact]
    public async Task A_history_of_a_former_release_is_told_alike_with_and_without_snapshots()
    {
        var imran = await server.As("imran");
        var id = await new LargeLibrary(server.Database, 11).AddLongHistoryAsync(Edits);
        var former = await ReadAsync();
        Assert.Equal(Edits, former.Steps[0].Revision);
        // Newest first, each once, down to the beginning.
        Assert.True(former.Steps.Count > 60);
        Assert.Equal(former.Steps.OrderByDescending(s => s.Revision), former.Steps);

        // Two servers at once, and one that was ended in the middle.
        await Task.WhenAll(MakeAsync(), MakeAsync());
        server.Sql($"delete from document_snapshots where document_id = '{id}' and sequence > 1300");
        await MakeAsync();
        await using var db = server.Context();
        var stored = await db.Documents.AsNoTracking().SingleAsync(d => d.Id == id);
        var snapshots = await db.Snapshots.Where(s => s.DocumentId == id).OrderBy(s => s.Sequence).ToListAsync();
        Assert.Equal(
            Enumerable.Range(1, Edits / StoredSnapshot.Every).Select(i => (long)i * StoredSnapshot.Every),
            snapshots.Select(s => s.Sequence)
        );
        foreach (var snapshot in snapshots)
        {
            Assert.Equal(
                StoredForm.Write(await db.ReplayFromOriginAsync(stored, snapshot.Sequence, default)),
                StoredForm.Write(StoredForm.Read(stored.Kind, snapshot.Body))
            );
        }

        var now = await ReadAsync();
        Assert.Equal(former.Steps, now.Steps);
        Assert.Equal(former.Looks, now.Looks);

        async Task MakeAsync()
        {
            await using var other = server.Context();
            await other.MakeSnapshotsAsync(await other.Documents.AsNoTracking().SingleAsync(d => d.Id == id), default);
        }

        async Task<(List<HistoryStep> Steps, List<string> Looks)> ReadAsync()
        {
            var steps = new List<HistoryStep>();
            for (long? before = Edits; before is not null; )
            {
                var page = await (await imran.GetAsync($"/api/emails/{id}/history?before={before}")).Read<HistoryPage>();
                steps.AddRange(page.Steps);
                before = page.Next;
            }

            var looks = new List<string>();
            foreach (var revision in (int[])[0, 1, 255, 256, 257, 1301, Edits])
            {
                looks.Add(await imran.GetStringAsync($"/api/emails/{id}/history/{revision}/html"));
            }

            return (steps, looks);
        }
    }

    [Fact]
    public async Task What_is_edited_keeps_its_snapshots_by_itself()
    {
        var imran = await server.As("imran");
        var id = (await server.NewEmail(imran)).Id;
        for (var sent = 0; sent < 600; sent += 60)
        {
            (
                await imran.Edit(id, sent, [.. Enumerable.Range(sent, 60).Select(i => Asking.SetWords("hero", "headline", $"Line {i}"))])
            ).EnsureSuccessStatusCode();
        }

        // The edits that were sent together are stored together.
        Assert.Equal(
            [300L, 540L],
            server.Query(db => db.Snapshots.Where(s => s.DocumentId == id).Select(s => s.Sequence).Order().ToList())
        );
        Assert.Contains("Line 310", await imran.GetStringAsync($"/api/emails/{id}/history/311/html"), StringComparison.Ordinal);
        Assert.True((await (await imran.GetAsync($"/api/emails/{id}/replay")).Read<ReplayAnswer>()).Equal);
    }
}
