using System.Collections.Immutable;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Reviews;

/// <summary>What is not as it was between two looks at an email, in the order it is read.</summary>
public static class SeenDifference
{
    public static ImmutableArray<SeenChange> Between(SeenEmail before, SeenEmail after)
    {
        var changes = new List<SeenChange>();
        foreach (var (was, now) in before.Details.Zip(after.Details))
        {
            Field("", "", now.Label, was, now, changes);
        }

        Rows(before, after, changes);
        var made = changes.Count > 0;
        if (!made && before.Text != after.Text)
        {
            changes.Add(
                new SeenChange(SeenChangeKind.PlainText, "", "", "", "Plain text", WordMarks.Compare(before.Text, after.Text), "", false)
            );
        }

        if (!before.Files.SequenceEqual(after.Files, StringComparer.Ordinal))
        {
            changes.Add(Noted(SeenChangeKind.Files, "", "", "Attached files", FilesNote(before.Files, after.Files), false));
        }

        Versions(before, after, changes);
        return [.. changes];
    }

    private static void Rows(SeenEmail before, SeenEmail after, List<SeenChange> changes)
    {
        var was = before.Rows.ToDictionary(r => r.Id, StringComparer.Ordinal);
        var moved = Moved([.. before.Rows.Select(r => r.Id)], [.. after.Rows.Select(r => r.Id)]);
        for (var at = 0; at < after.Rows.Length; at++)
        {
            var row = after.Rows[at];
            if (!was.TryGetValue(row.Id, out var former))
            {
                changes.Add(Noted(SeenChangeKind.RowAdded, row.Id, "", row.Name, "row added", false));
                continue;
            }

            if (moved.Contains(row.Id))
            {
                var note = at == 0 ? "row moved to the top" : $"row moved below {after.Rows[at - 1].Name}";
                changes.Add(Noted(SeenChangeKind.RowMoved, row.Id, "", row.Name, note, false));
            }

            Row(former, row, after, changes);
        }

        foreach (var gone in before.Rows.Where(r => after.Rows.All(now => now.Id != r.Id)))
        {
            changes.Add(Noted(SeenChangeKind.RowRemoved, gone.Id, "", gone.Name, "row removed", false));
        }
    }

    private static void Row(SeenRow was, SeenRow now, SeenEmail after, List<SeenChange> changes)
    {
        var before = changes.Count;
        Dress(was.Shown, was.Readers, now.Shown, now.Readers, now.Id, "", now.Name, changes);
        Look(was.Look, was.WrittenLook, now.Look, now.WrittenLook, now.Id, "", now.Name, changes);
        if (was.Background != now.Background)
        {
            changes.Add(Noted(SeenChangeKind.Picture, now.Id, "", now.Name, "picture behind the row replaced", false));
        }

        var blocks = was.Blocks.ToDictionary(b => b.Id, StringComparer.Ordinal);
        var moved = Moved([.. was.Blocks.Select(b => b.Id)], [.. now.Blocks.Select(b => b.Id)]);
        foreach (var block in now.Blocks)
        {
            if (!blocks.TryGetValue(block.Id, out var former))
            {
                changes.Add(Noted(SeenChangeKind.BlockAdded, now.Id, block.Id, $"{now.Name}, {block.Name}", "block added", false));
                continue;
            }

            var name = $"{now.Name}, {block.Name}";
            if (moved.Contains(block.Id))
            {
                changes.Add(Noted(SeenChangeKind.BlockMoved, now.Id, block.Id, name, "block moved", false));
            }

            Dress(former.Shown, former.Readers, block.Shown, block.Readers, now.Id, block.Id, name, changes);
            Look(former.Look, former.WrittenLook, block.Look, block.WrittenLook, now.Id, block.Id, name, changes);
            var fields = former.Fields.ToDictionary(f => f.Name, StringComparer.Ordinal);
            foreach (var field in block.Fields)
            {
                if (fields.TryGetValue(field.Name, out var then))
                {
                    Field(now.Id, block.Id, field.Label == block.Name ? name : $"{name}, {field.Label}", then, field, changes);
                }
            }
        }

        foreach (var gone in was.Blocks.Where(b => now.Blocks.All(other => other.Id != b.Id)))
        {
            changes.Add(Noted(SeenChangeKind.BlockRemoved, now.Id, gone.Id, $"{now.Name}, {gone.Name}", "block removed", false));
        }

        // Nothing in it is otherwise, and yet it is: the house style draws it anew.
        if (changes.Count == before && was.Html != now.Html)
        {
            var style = after.Versions.First(v => v.Source == SeenSource.HouseStyle);
            changes.Add(Noted(SeenChangeKind.HouseStyle, now.Id, "", now.Name, $"looks otherwise by {style.Name}", true));
        }
    }

    private static void Field(string row, string block, string name, SeenField was, SeenField now, List<SeenChange> changes)
    {
        var itself = was.Written == now.Written;
        if (was.Words != now.Words)
        {
            var marks = WordMarks.Compare(was.Words, now.Words);
            changes.Add(new SeenChange(SeenChangeKind.Words, row, block, now.Name, name, marks, "", itself));
        }

        if (was.Pictures != now.Pictures)
        {
            var note = (was.Pictures.Length, now.Pictures.Length) switch
            {
                (0, _) => "picture added",
                (_, 0) => "picture removed",
                _ => "picture replaced",
            };
            changes.Add(new SeenChange(SeenChangeKind.Picture, row, block, now.Name, name, [], note, itself));
        }

        if (was.Links != now.Links)
        {
            var marks = WordMarks.Compare(was.Links, now.Links);
            changes.Add(new SeenChange(SeenChangeKind.Link, row, block, now.Name, name, marks, "link", itself));
        }

        if (was.Words == now.Words && was.Pictures == now.Pictures && was.Links == now.Links && was.Rest != now.Rest)
        {
            changes.Add(new SeenChange(SeenChangeKind.Value, row, block, now.Name, name, [], "changed", itself));
        }
        else if (was.Words == now.Words && was.Pictures == now.Pictures && was.Links == now.Links && !itself)
        {
            // The same words otherwise set: bold, a list, a heading's level.
            changes.Add(new SeenChange(SeenChangeKind.Value, row, block, now.Name, name, [], "set otherwise, the same words", false));
        }
    }

    private static void Dress(
        Visibility wasShown,
        string wasReaders,
        Visibility shown,
        string readers,
        string row,
        string block,
        string name,
        List<SeenChange> changes
    )
    {
        if (wasShown != shown)
        {
            var where = shown switch
            {
                Visibility.PhoneOnly => "shown on phones only",
                Visibility.DesktopOnly => "shown on desktops only",
                _ => "shown on phones and desktops",
            };
            changes.Add(Noted(SeenChangeKind.Readers, row, block, name, where, false));
        }

        if (wasReaders != readers)
        {
            changes.Add(
                Noted(SeenChangeKind.Readers, row, block, name, readers.Length == 0 ? "seen by everyone" : $"seen by {readers}", false)
            );
        }
    }

    private static void Look(
        ImmutableSortedDictionary<string, string> was,
        string wasWritten,
        ImmutableSortedDictionary<string, string> now,
        string written,
        string row,
        string block,
        string name,
        List<SeenChange> changes
    )
    {
        var other = now.Where(l => was.GetValueOrDefault(l.Key) != l.Value).Select(l => $"{Words(l.Key)} {Words(l.Value)}").ToList();
        if (other.Count > 0)
        {
            changes.Add(Noted(SeenChangeKind.Look, row, block, name, string.Join(", ", other), wasWritten == written));
        }
    }

    private static void Versions(SeenEmail before, SeenEmail after, List<SeenChange> changes)
    {
        var was = before.Versions.ToDictionary(v => (v.Source, v.Key));
        foreach (var version in after.Versions)
        {
            if (!was.TryGetValue((version.Source, version.Key), out var former))
            {
                continue;
            }

            if (version.Source == SeenSource.Snippet && former.Words != version.Words)
            {
                // Said once, not again in every field it stands in.
                var marks = WordMarks.Compare(former.Words, version.Words);
                changes.RemoveAll(c => c.ByItself && c.Kind == SeenChangeKind.Words && Changed(c.Marks).SequenceEqual(Changed(marks)));
                changes.Add(new SeenChange(SeenChangeKind.Snippet, version.Row, "", "", $"Snippet \"{version.Name}\"", marks, "", true));
            }
            else if (former.Release != version.Release)
            {
                var (kind, itself) =
                    version.Source == SeenSource.HouseStyle ? (SeenChangeKind.HouseStyle, true) : (SeenChangeKind.Release, false);
                changes.Add(Noted(kind, version.Row, "", version.Name, $"release {former.Release} → {version.Release}", itself));
            }
        }
    }

    private static IEnumerable<MarkedWords> Changed(IEnumerable<MarkedWords> marks) => marks.Where(m => m.Mark != WordMark.Kept);

    private static string Words(string name) =>
        string.Concat(name.Select(c => char.IsUpper(c) ? $" {char.ToLowerInvariant(c)}" : c.ToString())).Replace('-', ' ');

    private static string FilesNote(ImmutableArray<string> was, ImmutableArray<string> now)
    {
        var (added, removed) = (now.Except(was, StringComparer.Ordinal).ToList(), was.Except(now, StringComparer.Ordinal).ToList());
        var parts = new List<string>();
        if (added.Count > 0)
        {
            parts.Add($"added {string.Join(", ", added)}");
        }

        if (removed.Count > 0)
        {
            parts.Add($"removed {string.Join(", ", removed)}");
        }

        return parts.Count == 0 ? "in another order" : string.Join("; ", parts);
    }

    private static SeenChange Noted(SeenChangeKind kind, string row, string block, string name, string note, bool itself) =>
        new(kind, row, block, "", name, [], note, itself);

    // The fewest that have to move: all but the longest run of those that kept their order.
    private static HashSet<string> Moved(ImmutableArray<string> before, ImmutableArray<string> after)
    {
        var at = before.Select((id, i) => (id, i)).ToDictionary(p => p.id, p => p.i, StringComparer.Ordinal);
        var kept = after.Where(at.ContainsKey).ToList();
        var (longest, from) = (new int[kept.Count], new int[kept.Count]);
        var best = -1;
        for (var i = 0; i < kept.Count; i++)
        {
            (longest[i], from[i]) = (1, -1);
            for (var j = 0; j < i; j++)
            {
                if (at[kept[j]] < at[kept[i]] && longest[j] + 1 > longest[i])
                {
                    (longest[i], from[i]) = (longest[j] + 1, j);
                }
            }

            best = best < 0 || longest[i] > longest[best] ? i : best;
        }

        var moved = kept.ToHashSet(StringComparer.Ordinal);
        for (var i = best; i >= 0; i = from[i])
        {
            moved.Remove(kept[i]);
        }

        return moved;
    }
}
