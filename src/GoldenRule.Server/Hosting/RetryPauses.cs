namespace GoldenRule.Server.Hosting;

/// <summary>How long is waited before something that failed is tried again, longer each time; after the last it is given up.</summary>
public sealed class RetryPauses(params TimeSpan[] pauses)
{
    /// <param name="tries">How often it was tried.</param>
    /// <param name="least">How long it asked to wait. Null: trying again changes nothing.</param>
    /// <returns>When it is tried again. Null: it is given up.</returns>
    public DateTime? Next(int tries, DateTime now, TimeSpan? least)
    {
        if (least is not { } asked || tries > pauses.Length)
        {
            return null;
        }

        var usual = pauses[tries - 1];
        return now + (asked > usual ? asked : usual);
    }
}
