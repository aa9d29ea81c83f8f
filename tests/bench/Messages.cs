using System.Collections.Immutable;
using System.Diagnostics;
using System.Threading;
using GoldenRule.Core.Audiences;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Interchange;
using GoldenRule.Core.Merging;
using GoldenRule.Core.Resolving;
using GoldenRule.Core.Tests;

/// <param name="Seconds">For all of them, on as many processors as there are.</param>
/// <param name="OneNanoseconds">For one, on one processor.</param>
/// <param name="FirstMegabytes">In use after the first thousand.</param>
/// <param name="LastMegabytes">In use after the last.</param>
internal sealed record MessageCost(int Count, double Seconds, double OneNanoseconds, double FirstMegabytes, double LastMegabytes);

/// <summary>Personal messages: the parts that are a reader's own filled into what was compiled once, and written as MIME.</summary>
internal static class Messages
{
    private const int Count = 10_000;

    /// <summary>The demo's offer, which some rows of are for members alone, with the reader's name in it.</summary>
    private static MergeEmail Merge()
    {
        var email = Larkfell.Emails.Single(e => e.Name.StartsWith("Spring", StringComparison.Ordinal)).Email;
        email = email with { Details = email.Details with { Subject = $"For {new InlineNode(InlineKind.Field, "first-name")}" } };
        var kept = Compiler.Compile(
            Resolver.Resolve(
                email,
                RunningOrder.From(email, Larkfell.Masters),
                Larkfell.Style,
                Larkfell.Pictures,
                inline: Larkfell.Inline(email).WithFieldsKept()
            ),
            "https://larkfell.example.org/pictures/",
            Purpose.Sending,
            pageAt: "https://larkfell.example.org/view/AAAAAAAAAAAAAAAAAAAAAA"
        );
        return MergeEmail.From(kept, Larkfell.Audiences);
    }

    private static byte[] Write(MergeEmail merge, int number) =>
        MessageFile.Write(
            merge.For(
                new SampleReader(
                    Guid.Empty,
                    "",
                    ImmutableSortedDictionary<string, string>
                        .Empty.Add("first-name", $"Reader {number}")
                        .Add("member", number % 2 == 0 ? "yes" : "no")
                )
            ),
            new MessageTerms(
                DateTimeOffset.UnixEpoch,
                $"{number}@larkfell.example.org",
                $"reader-{number}@example.org",
                [],
                ImmutableDictionary<string, byte[]>.Empty
            )
        );

    /// <summary>Writes the HTML of one to a file, for the peers to make the same of, and says what all of them cost.</summary>
    public static MessageCost Measure(string html)
    {
        var merge = Merge();
        File.WriteAllText(html, merge.For(MergeReader.Unknown).Html);
        for (var warm = Stopwatch.StartNew(); warm.Elapsed < TimeSpan.FromSeconds(3); )
        {
            Write(merge, 0);
        }

        var times = new double[200];
        for (var i = 0; i < times.Length; i++)
        {
            var began = Stopwatch.GetTimestamp();
            Write(merge, i);
            times[i] = Stopwatch.GetElapsedTime(began).TotalNanoseconds;
        }

        var (first, written, start) = (0.0, 0L, Stopwatch.GetTimestamp());
        for (var thousand = 0; thousand < Count / 1000; thousand++)
        {
            Parallel.For(0, 1000, i => Interlocked.Add(ref written, Write(merge, (thousand * 1000) + i).Length));
            first = thousand == 0 ? InUse() : first;
        }

        return new MessageCost(Count, Stopwatch.GetElapsedTime(start).TotalSeconds, times.Order().ElementAt(100), first, InUse());
    }

    private static double InUse() => GC.GetTotalMemory(true) / 1024.0 / 1024;
}
