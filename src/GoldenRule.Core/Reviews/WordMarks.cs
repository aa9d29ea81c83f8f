using System.Collections.Immutable;
using System.Globalization;
using DiffPlex;
using DiffPlex.Chunkers;

namespace GoldenRule.Core.Reviews;

public enum WordMark
{
    Kept,
    Added,
    Removed,
}

/// <param name="Text">A stretch of words, with what stands between them.</param>
public sealed record MarkedWords(string Text, WordMark Mark);

/// <summary>What was added to a text and removed from it, in as few words as can be (Myers 1986, by DiffPlex).</summary>
public static class WordMarks
{
    /// <summary>Words that differ, of both texts together, above which they are not compared one by one.</summary>
    private const int MostWords = 4_000;

    // Words alone are compared: a comma less does not make two sentences out of one.
    private static readonly CustomFunctionChunker ByWords = new(text => [.. WordsOf(text).Select(w => text[w.Start..w.End])]);

    /// <summary>
    /// Stretches in the order they are read. Those kept and removed are the text before, those kept and added the text after.
    /// </summary>
    public static ImmutableArray<MarkedWords> Compare(string before, string after)
    {
        var (was, now) = (WordsOf(before), WordsOf(after));
        var marked = new Marked();
        var (oldAt, newAt) = (0, 0);
        foreach (var (i, j) in Both(before, was, after, now))
        {
            marked.Between(before[oldAt..was[i].Start], after[newAt..now[j].Start]);
            marked.Add(before[was[i].Start..was[i].End], WordMark.Kept);
            (oldAt, newAt) = (was[i].End, now[j].End);
        }

        marked.Between(before[oldAt..], after[newAt..]);
        return marked.ToImmutable();
    }

    // Words that both texts have, in order, by their places: those they begin and end with, and of what is between as many as can be.
    private static IEnumerable<(int Old, int New)> Both(
        string before,
        List<(int Start, int End)> was,
        string after,
        List<(int Start, int End)> now
    )
    {
        bool Same(int i, int j) => before.AsSpan(was[i].Start..was[i].End).SequenceEqual(after.AsSpan(now[j].Start..now[j].End));
        var (first, last, fewer) = (0, 0, Math.Min(was.Count, now.Count));
        while (first < fewer && Same(first, first))
        {
            yield return (first, first);
            first++;
        }

        while (last < fewer - first && Same(was.Count - 1 - last, now.Count - 1 - last))
        {
            last++;
        }

        var (oldEnd, newEnd) = (was.Count - last, now.Count - last);
        // Two long texts that have little in common would take seconds, and nobody would read the marks.
        if (oldEnd > first && newEnd > first && oldEnd + newEnd - (2 * first) <= MostWords)
        {
            var (i, j) = (first, first);
            var difference = Differ.Instance.CreateDiffs(
                before[was[first].Start..was[oldEnd - 1].End],
                after[now[first].Start..now[newEnd - 1].End],
                false,
                false,
                ByWords
            );
            foreach (var block in difference.DiffBlocks)
            {
                for (; i < first + block.DeleteStartA; i++, j++)
                {
                    yield return (i, j);
                }

                (i, j) = (i + block.DeleteCountA, j + block.InsertCountB);
            }

            for (; i < oldEnd; i++, j++)
            {
                yield return (i, j);
            }
        }

        for (; last > 0; last--)
        {
            yield return (was.Count - last, now.Count - last);
        }
    }

    private static List<(int Start, int End)> WordsOf(string text)
    {
        var words = new List<(int, int)>();
        for (var at = 0; at < text.Length; at++)
        {
            if (IsInWord(text[at]))
            {
                var start = at;
                while (at < text.Length && IsInWord(text[at]))
                {
                    at++;
                }

                words.Add((start, at));
            }
        }

        return words;
    }

    private static bool IsInWord(char c) => char.IsLetterOrDigit(c) || char.GetUnicodeCategory(c) == UnicodeCategory.NonSpacingMark;

    private sealed class Marked
    {
        private readonly ImmutableArray<MarkedWords>.Builder stretches = ImmutableArray.CreateBuilder<MarkedWords>();

        public void Add(string text, WordMark mark)
        {
            if (text.Length == 0)
            {
                return;
            }

            if (stretches.Count > 0 && stretches[^1].Mark == mark)
            {
                stretches[^1] = new MarkedWords(stretches[^1].Text + text, mark);
            }
            else
            {
                stretches.Add(new MarkedWords(text, mark));
            }
        }

        /// <summary>What stands between two words that both texts have: blanks that both begin and end with stay.</summary>
        public void Between(string was, string now)
        {
            var (first, last) = (0, 0);
            var most = Math.Min(was.Length, now.Length);
            while (first < most && was[first] == now[first] && IsBlank(was[first]))
            {
                first++;
            }

            while (last < most - first && was[^(last + 1)] == now[^(last + 1)] && IsBlank(was[^(last + 1)]))
            {
                last++;
            }

            if (was == now)
            {
                (first, last) = (was.Length, 0);
            }

            Add(was[..first], WordMark.Kept);
            Add(was[first..^last], WordMark.Removed);
            Add(now[first..^last], WordMark.Added);
            Add(was[^last..], WordMark.Kept);
        }

        // Half of a character that is written in two stays with its other half.
        private static bool IsBlank(char c) => !IsInWord(c) && !char.IsSurrogate(c);

        public ImmutableArray<MarkedWords> ToImmutable() => stretches.ToImmutable();
    }
}
