using System.Collections.Immutable;

namespace GoldenRule.Core.Sending;

/// <summary>
/// Tells the clicks of programs that look for malware from those of readers, as well as that can be told. The signs are common
/// practice, no source: a click within seconds of the sending, a program that says that it is one, several links of a message at once.
/// </summary>
public static class ScannerClicks
{
    /// <summary>No reader is as fast after a message was sent.</summary>
    public static readonly TimeSpan SoonestReader = TimeSpan.FromSeconds(10);

    /// <summary>Different links of one message within this time are not clicked by hand.</summary>
    public static readonly TimeSpan AtOnce = TimeSpan.FromSeconds(2);

    private const int LinksAtOnce = 3;

    private static readonly string[] Programs = ["bot", "scan", "preview", "curl", "wget", "python", "java/", "headless", "proxy"];

    /// <summary>Ids of the clicks that are no reader's.</summary>
    public static ImmutableHashSet<string> Find(IReadOnlyCollection<ReaderEvent> events)
    {
        var found = ImmutableHashSet.CreateBuilder<string>(StringComparer.Ordinal);
        var clicks = events.Where(e => e.Kind == ReaderEventKind.Clicked).ToList();
        found.UnionWith(clicks.Where(IsByItself).Select(e => e.Id));
        foreach (var message in clicks.Where(e => e.Message.Length > 0).GroupBy(e => e.Message, StringComparer.Ordinal))
        {
            var ordered = message.OrderBy(e => e.At).ToList();
            for (var (first, last) = (0, 0); last < ordered.Count; last++)
            {
                while (ordered[last].At - ordered[first].At > AtOnce)
                {
                    first++;
                }

                var together = ordered[first..(last + 1)];
                if (together.Select(e => e.Link).Distinct(StringComparer.Ordinal).Count() >= LinksAtOnce)
                {
                    found.UnionWith(together.Select(e => e.Id));
                }
            }
        }

        return found.ToImmutable();
    }

    private static bool IsByItself(ReaderEvent click) =>
        (click.SentAt is { } sent && click.At - sent < SoonestReader)
        || Programs.Any(p => click.Agent.Contains(p, StringComparison.OrdinalIgnoreCase));
}
