using GoldenRule.Core.Documents;
using GoldenRule.Data;
using GoldenRule.Server.Editing;

namespace GoldenRule.Server.Search;

/// <summary>Takes in the words of edited emails in the background, so that a search only looks.</summary>
public sealed class WordsIntake(IServiceScopeFactory scopes, ILogger<WordsIntake> log) : BackgroundService
{
    private const int AtOnce = 2000;

    private static readonly TimeSpan Pause = TimeSpan.FromSeconds(1);

    protected override Task ExecuteAsync(CancellationToken stoppingToken) =>
        Task.WhenAll(Enumerable.Range(0, SearchTable.Parts).Select(part => TakeInAsync(part, stoppingToken)));

    private async Task TakeInAsync(int part, CancellationToken stoppingToken)
    {
        while (!stoppingToken.IsCancellationRequested)
        {
            var taken = 0;
            try
            {
                await using var scope = scopes.CreateAsyncScope();
                taken = await scope.ServiceProvider.GetRequiredService<GoldenRuleDb>().TakeInWordsAsync(part, AtOnce, Read, stoppingToken);
            }
            catch (Exception fault) when (fault is not OperationCanceledException)
            {
                log.LogWarning(fault, "The words of edited emails could not be taken in; trying again");
            }

            if (taken < AtOnce)
            {
                await Task.Delay(Pause, stoppingToken);
            }
        }
    }

    private (string, string)? Read(string head)
    {
        try
        {
            var email = DocumentJson.ReadDocument<Email>(head);
            return (EmailWords.Collect(email), email.Language);
        }
        catch (Exception fault)
        {
            log.LogError(fault, "A stored email cannot be read");
            return null;
        }
    }
}
