using System.Net;
using System.Net.Http.Json;
using System.Threading;
using GoldenRule.Core.Documents;
using GoldenRule.Server.Desks;
using GoldenRule.Server.Hosting;

namespace GoldenRule.Server.Tests;

/// <summary>A request takes so much of the processor and no more; waiting costs nothing.</summary>
public sealed class RequestBudgetTests(Running server) : IClassFixture<Running>
{
    [Fact]
    public async Task What_computes_without_end_is_ended_wherever_it_goes_on()
    {
        using var budget = new RequestBudget(TimeSpan.FromMilliseconds(50), CancellationToken.None);
        using var watching = new CancellationTokenSource();
        var watch = Task.Run(() => Watch(budget, watching.Token));
        await Assert.ThrowsAnyAsync<OperationCanceledException>(() => ComputeAsync(budget));
        await watching.CancelAsync();
        await watch;
        Assert.True(budget.IsOverdrawn);
        Assert.True(budget.Taken > TimeSpan.FromMilliseconds(50));
    }

    [Fact]
    public async Task Waiting_costs_nothing_and_what_others_compute_is_not_counted()
    {
        using var budget = new RequestBudget(TimeSpan.FromMilliseconds(200), CancellationToken.None);
        using var ended = new CancellationTokenSource();
        var others = Task.Run(() => Spin(ended.Token));
        await WaitAsync(budget);
        await ended.CancelAsync();
        await others;
        budget.Check();
        Assert.False(budget.IsOverdrawn, $"{budget.Taken.TotalMilliseconds} ms");
    }

    [Fact]
    public async Task What_is_stored_is_answered_for_whatever_it_took()
    {
        using var budget = new RequestBudget(TimeSpan.Zero, CancellationToken.None);
        await StoreAsync(budget);
        Assert.False(budget.IsOverdrawn);

        async Task StoreAsync(RequestBudget of)
        {
            of.Begin();
            RequestBudget.Lift();
            await ComputeAtLeastAsync(TimeSpan.FromMilliseconds(5), of);
            of.Check();
        }
    }

    /// <summary>With a budget that nothing keeps to: the edit is refused with the reason, and nothing of it is stored.</summary>
    [Fact]
    public async Task An_edit_beyond_its_budget_is_refused_and_reading_never_is()
    {
        var author = await server.As("imran");
        var desk = await server.NewEmail(author);
        await using var poor = server.Second(("Limits:ProcessorSeconds", "0.001"));
        var client = poor.CreateClient();
        client.DefaultRequestHeaders.Add("Cookie", await Running.Cookie(server, "imran"));
        HttpResponseMessage answer;
        do
        {
            // The watch looks every tenth of a second: until it has seen one, edits are done.
            answer = await client.PostAsJsonAsync(
                "/api/emails/paste",
                new { html = string.Concat(Enumerable.Repeat("<p>Some <b>words</b></p>", 9_000)) }
            );
        } while (answer.StatusCode == HttpStatusCode.OK);

        var problem = await answer.Problem(422, "too-costly");
        Assert.Contains("smaller steps", (string?)problem["detail"], StringComparison.Ordinal);
        Assert.Equal(
            desk.Revision,
            (await client.GetFromJsonAsync<DeskAnswer>($"/api/emails/{desk.Id}/desk", DocumentJson.Options))!.Revision
        );
    }

    private static async Task ComputeAsync(RequestBudget budget)
    {
        budget.Begin();
        while (true)
        {
            budget.Token.ThrowIfCancellationRequested();
            // Each time on whichever thread is free.
            await Task.Yield();
        }
    }

    private static async Task ComputeAtLeastAsync(TimeSpan least, RequestBudget budget)
    {
        while (budget.Taken < least)
        {
            await Task.Yield();
        }
    }

    private static async Task WaitAsync(RequestBudget budget)
    {
        budget.Begin();
        await Task.Delay(400);
    }

    private static void Spin(CancellationToken until)
    {
        while (!until.IsCancellationRequested)
        {
            Thread.SpinWait(1_000);
        }
    }

    private static void Watch(RequestBudget budget, CancellationToken until)
    {
        while (!until.IsCancellationRequested && !budget.IsOverdrawn)
        {
            budget.Check();
            Thread.Sleep(5);
        }
    }
}
