namespace GoldenRule.Core.Reviews;

/// <summary>A stretch of a text that a comment is pinned to.</summary>
/// <param name="Start">Characters before it.</param>
public readonly record struct PinnedWords(int Start, int Length)
{
    /// <summary>Where it stands once the text around it, or a part of it, has changed. Null: none of its words is left.</summary>
    public PinnedWords? Follow(string before, string after)
    {
        if (before == after)
        {
            return this;
        }

        var (from, to) = (-1, -1);
        var (was, now, end) = (0, 0, Start + Length);
        foreach (var (text, mark) in WordMarks.Compare(before, after))
        {
            if (mark == WordMark.Kept)
            {
                // What of the stretch lies in this one stands as far from its beginning as before.
                var (first, last) = (Math.Max(Start, was), Math.Min(end, was + text.Length));
                if (first < last)
                {
                    from = from < 0 ? now + first - was : from;
                    to = now + last - was;
                }
            }

            was += mark == WordMark.Added ? 0 : text.Length;
            now += mark == WordMark.Removed ? 0 : text.Length;
        }

        return from < 0 || string.IsNullOrWhiteSpace(after[from..to]) ? null : new PinnedWords(from, to - from);
    }
}
