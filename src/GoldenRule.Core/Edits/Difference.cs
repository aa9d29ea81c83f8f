using System.Collections.Immutable;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Edits;

/// <summary>
/// The ordinary edits that turn one state of an email into another: so that going back to an earlier state is decided
/// piece by piece like any other work, and can be undone.
/// </summary>
public static class Difference
{
    /// <returns>In an order in which each can be applied after those before it.</returns>
    public static ImmutableArray<Edit> Between(Email from, Email to)
    {
        var edits = ImmutableArray.CreateBuilder<Edit>();
        if (from.Name != to.Name)
        {
            edits.Add(new SetName(to.Name));
        }

        if (from.Language != to.Language)
        {
            edits.Add(new SetLanguage(to.Language));
        }

        foreach (var field in EmailDetails.Fields.Where(f => from.Details.Get(f) != to.Details.Get(f)))
        {
            edits.Add(new SetDetail(field, to.Details.Get(field)!));
        }

        if (from.PlainText != to.PlainText)
        {
            edits.Add(new SetPlainText(to.PlainText));
        }

        if (!from.Attachments.SequenceEqual(to.Attachments))
        {
            edits.Add(new SetAttachments(to.Attachments));
        }

        edits.AddRange(from.StillRight.Except(to.StillRight).Select(p => new SetStillRight(p, false)));
        edits.AddRange(to.StillRight.Except(from.StillRight).Select(p => new SetStillRight(p, true)));
        foreach (var row in from.Fills.Keys.Union(to.Fills.Keys))
        {
            Fills(row, from.Fills.GetValueOrDefault(row, None), to.Fills.GetValueOrDefault(row, None), edits);
        }

        Rows(from, to, edits);
        return edits.ToImmutable();
    }

    private static readonly ImmutableSortedDictionary<string, PieceFill> None = ImmutableSortedDictionary<string, PieceFill>.Empty;

    private static void Rows(Email from, Email to, ImmutableArray<Edit>.Builder edits)
    {
        var was = from.Zones.SelectMany(z => z.Value.Select(r => (Zone: z.Key, Row: r))).ToDictionary(r => r.Row.Id, StringComparer.Ordinal);
        var kept = to.Zones.Values.SelectMany(z => z).Where(r => was.TryGetValue(r.Id, out var old) && CanStay(old.Row, r)).Select(r => r.Id).ToHashSet(StringComparer.Ordinal);
        // A row that is rebuilt goes and comes again; what only goes, goes last, so that no zone is too empty meanwhile.
        var rebuilt = to.Zones.Values.SelectMany(z => z).Where(r => was.ContainsKey(r.Id) && !kept.Contains(r.Id)).Select(r => r.Id).ToList();
        edits.AddRange(rebuilt.Select(id => new RemoveRow(id)));
        var now = from.Zones.ToDictionary(z => z.Key, z => z.Value.Select(r => r.Id).Where(id => !rebuilt.Contains(id)).ToList(), StringComparer.Ordinal);
        foreach (var (zone, rows) in to.Zones)
        {
            var here = now.TryGetValue(zone, out var known) ? known : now[zone] = [];
            for (var i = 0; i < rows.Length; i++)
            {
                var row = rows[i];
                if (!kept.Contains(row.Id))
                {
                    edits.Add(new InsertRow(zone, i, row));
                    here.Insert(i, row.Id);
                    continue;
                }

                if (i >= here.Count || here[i] != row.Id)
                {
                    foreach (var other in now.Values)
                    {
                        other.Remove(row.Id);
                    }

                    edits.Add(new MoveRow(row.Id, zone, Math.Min(i, here.Count)));
                    here.Insert(Math.Min(i, here.Count), row.Id);
                }

                Fills(row.Id, was[row.Id].Row.Fills, row.Fills, edits);
            }
        }

        var staying = to.Zones.Values.SelectMany(z => z).Select(r => r.Id).ToHashSet(StringComparer.Ordinal);
        edits.AddRange(now.Values.SelectMany(z => z).Where(id => !staying.Contains(id)).Select(id => new RemoveRow(id)));
    }

    // Rows by reference differ by their fills; rows of their own are put there anew.
    private static bool CanStay(PlacedRow a, PlacedRow b) => a.Own is null && b.Own is null ? a.Master == b.Master && a.Release == b.Release : DocumentJson.Same(a, b);

    private static void Fills(string row, ImmutableSortedDictionary<string, PieceFill> from, ImmutableSortedDictionary<string, PieceFill> to, ImmutableArray<Edit>.Builder edits)
    {
        foreach (var piece in from.Keys.Union(to.Keys))
        {
            var (was, now) = (from.GetValueOrDefault(piece, new PieceFill()), to.GetValueOrDefault(piece, new PieceFill()));
            foreach (var field in was.Content.Keys.Union(now.Content.Keys))
            {
                var value = now.Content.GetValueOrDefault(field);
                if (value is null)
                {
                    edits.Add(new ClearFill(row, piece, field));
                }
                else if (!was.Content.TryGetValue(field, out var old) || !DocumentJson.Same(old, value))
                {
                    edits.Add(new SetFill(row, piece, field, value));
                }
            }

            foreach (var property in was.Look.Keys.Union(now.Look.Keys).Where(p => was.Look.GetValueOrDefault(p) != now.Look.GetValueOrDefault(p)))
            {
                edits.Add(now.Look.TryGetValue(property, out var choice) ? new SetLook(row, piece, property, choice) : new ClearLook(row, piece, property));
            }

            if (was.Shown != now.Shown)
            {
                edits.Add(new SetShown(row, piece, now.Shown));
            }
        }
    }
}
