using System.Collections.Immutable;
using System.Text;
using System.Text.RegularExpressions;
using System.Threading;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Governance;

namespace GoldenRule.Core.Interchange;

/// <summary>Finds words all over an email and puts others in their place, where that may be.</summary>
/// <param name="MatchCase">"steam" is not "Steam".</param>
/// <param name="WholeWords">"rail" is not found in "railway".</param>
public sealed record Replacing(string Find, string With, bool MatchCase = false, bool WholeWords = false)
{
    public CopyPlan Plan(CopyPlaces places, CancellationToken cancel = default)
    {
        if (Find.Length == 0)
        {
            return new CopyPlan([], [], []);
        }

        var sought = new Regex(
            WholeWords ? $@"(?<![\p{{L}}\p{{N}}]){Regex.Escape(Find)}(?![\p{{L}}\p{{N}}])" : Regex.Escape(Find),
            RegexOptions.CultureInvariant | (MatchCase ? RegexOptions.None : RegexOptions.IgnoreCase)
        );
        var changes = ImmutableArray.CreateBuilder<CopyChange>();
        foreach (var place in places.All)
        {
            cancel.ThrowIfCancellationRequested();
            var now = CopyDeck.Text(place.Words);
            var replaced = Replaced(place.Words, sought);
            if (replaced is null)
            {
                continue;
            }

            var why = place.Allowed is Decision.Refused refused ? refused.Reason : null;
            var over = why is null ? place.Broken(replaced) : null;
            changes.Add(
                new CopyChange(
                    place.Key,
                    place.Where,
                    now,
                    CopyDeck.Text(replaced),
                    (why, over) switch
                    {
                        ({ }, _) => CopyFate.Refused,
                        (_, { }) => CopyFate.Over,
                        _ => CopyFate.Changed,
                    },
                    why ?? (over is null ? null : $"Longer than its limit: {over}.")
                )
            );
            if (why is null)
            {
                places.Write(place, replaced);
            }
        }

        return new CopyPlan(changes.ToImmutable(), places.Edits(), []);
    }

    private FieldValue? Replaced(FieldValue words, Regex sought) =>
        words switch
        {
            FieldValue.Words { Text: var text }
                when InlineNode.Between(text, words => sought.Replace(words, _ => With)) is var made && made != text =>
                new FieldValue.Words(made),
            FieldValue.Prose { Text: var prose } when prose.Paragraphs.Any(p => Matches(p, sought).Count > 0) => new FieldValue.Prose(
                prose with
                {
                    Paragraphs = [.. prose.Paragraphs.Select(p => Replaced(p, sought))],
                }
            ),
            _ => null,
        };

    // The key of a node is no words.
    private static List<Match> Matches(Paragraph paragraph, Regex sought)
    {
        var text = paragraph.PlainText;
        var nodes = InlineNode.Find(text).ToList();
        return [.. sought.Matches(text).Where(m => !nodes.Exists(n => m.Index < n.End && n.Start < m.Index + m.Length))];
    }

    /// <summary>What is found may begin in one run and end in another: the new words stand in the first, in its dress.</summary>
    private Paragraph Replaced(Paragraph paragraph, Regex sought)
    {
        var matches = Matches(paragraph, sought);
        if (matches.Count == 0)
        {
            return paragraph;
        }

        var runs = ImmutableArray.CreateBuilder<Run>();
        var (at, next) = (0, 0);
        foreach (var run in paragraph.Runs)
        {
            var (start, end) = (at, at + run.Text.Length);
            at = end;
            var from = start;
            var text = new StringBuilder();
            for (; next < matches.Count && matches[next].Index < end; next++)
            {
                var (begins, stops) = (matches[next].Index, matches[next].Index + matches[next].Length);
                if (begins >= start)
                {
                    text.Append(run.Text, from - start, begins - from).Append(With);
                }

                from = Math.Min(stops, end);
                if (stops > end)
                {
                    // It goes on in the next run.
                    break;
                }
            }

            var left = run with { Text = text.Append(run.Text, from - start, end - from).ToString() };
            if (left.Text.Length > 0 || left.Variable is not null)
            {
                runs.Add(left);
            }
        }

        return paragraph with
        {
            Runs = runs.ToImmutable(),
        };
    }
}
