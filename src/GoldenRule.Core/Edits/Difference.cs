using System.Collections.Immutable;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Edits;

/// <summary>A part of the way from one state to another.</summary>
/// <param name="Together">All of them or none: what is put there anew takes away what stood there.</param>
/// <param name="Further">Each by itself, once those are made.</param>
public sealed record DifferencePart(ImmutableArray<Edit> Together, ImmutableArray<Edit> Further)
{
    public static DifferencePart FromEdits(params ReadOnlySpan<Edit> together) => new([.. together], []);
}

/// <summary>
/// The ordinary edits that turn one state of an email into another: so that going back to an earlier state is decided
/// piece by piece like any other work, and can be undone.
/// </summary>
public static class Difference
{
    /// <param name="from">As it stands on <paramref name="masters"/>; both stand on one release of the template.</param>
    /// <returns>In an order in which each can be applied after those before it.</returns>
    public static ImmutableArray<DifferencePart> Between(Email from, Email to, ReleaseCatalog masters)
    {
        var edits = new List<Edit>();
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

        if (!DocumentJson.Same(from.Recipient, to.Recipient))
        {
            edits.Add(new SetRecipient(to.Recipient));
        }

        edits.AddRange(from.ConfirmedUnchanged.Except(to.ConfirmedUnchanged).Select(p => new ConfirmUnchanged(p, false)));
        edits.AddRange(to.ConfirmedUnchanged.Except(from.ConfirmedUnchanged).Select(p => new ConfirmUnchanged(p, true)));
        foreach (var row in from.Fills.Keys.Union(to.Fills.Keys))
        {
            edits.AddRange(Fills(row, from.Fills.GetValueOrDefault(row, None), to.Fills.GetValueOrDefault(row, None)));
        }

        var parts = ImmutableArray.CreateBuilder<DifferencePart>();
        parts.AddRange(edits.Select(e => DifferencePart.FromEdits(e)));
        Rows(from, to, RunningOrder.From(from, masters), parts);
        return parts.ToImmutable();
    }

    private static readonly ImmutableSortedDictionary<string, PieceFill> None = ImmutableSortedDictionary<string, PieceFill>.Empty;

    private static void Rows(Email from, Email to, RunningOrder order, ImmutableArray<DifferencePart>.Builder parts)
    {
        var was = from.Zones.SelectMany(z => z.Value).ToDictionary(r => r.Id, StringComparer.Ordinal);
        // How each row that stays becomes what it was; a row of which that cannot be said goes and comes again, in one part.
        var changes = to
            .Zones.Values.SelectMany(z => z)
            .Where(r => was.ContainsKey(r.Id))
            .Select(r => (r.Id, Change: RowDifference.Between(was[r.Id], r, order.Find(r.Id)!)))
            .Where(c => c.Change is not null)
            .ToDictionary(c => c.Id, c => c.Change!.Value, StringComparer.Ordinal);
        var now = from.Zones.ToDictionary(z => z.Key, z => z.Value.Select(r => r.Id).ToList(), StringComparer.Ordinal);
        foreach (var (zone, rows) in to.Zones)
        {
            var here = now.TryGetValue(zone, out var known) ? known : now[zone] = [];
            for (var i = 0; i < rows.Length; i++)
            {
                var row = rows[i];
                if (!was.ContainsKey(row.Id))
                {
                    parts.Add(DifferencePart.FromEdits(new InsertRow(zone, i, row)));
                    here.Insert(i, row.Id);
                    continue;
                }

                var at = i;
                var moves = i >= here.Count || here[i] != row.Id;
                if (moves)
                {
                    foreach (var other in now.Values)
                    {
                        other.Remove(row.Id);
                    }

                    at = Math.Min(i, here.Count);
                    here.Insert(at, row.Id);
                }

                if (!changes.TryGetValue(row.Id, out var change))
                {
                    parts.Add(DifferencePart.FromEdits(new RemoveRow(row.Id), new InsertRow(zone, at, row)));
                    continue;
                }

                if (moves)
                {
                    parts.Add(DifferencePart.FromEdits(new MoveRow(row.Id, zone, at)));
                }

                parts.AddRange(change);
            }
        }

        // What only goes, goes last, so that no zone is too empty meanwhile.
        var staying = to.Zones.Values.SelectMany(z => z).Select(r => r.Id).ToHashSet(StringComparer.Ordinal);
        parts.AddRange(
            now.Values.SelectMany(z => z).Where(id => !staying.Contains(id)).Select(id => DifferencePart.FromEdits(new RemoveRow(id)))
        );
    }

    internal static IEnumerable<Edit> Fills(
        string row,
        ImmutableSortedDictionary<string, PieceFill> from,
        ImmutableSortedDictionary<string, PieceFill> to
    )
    {
        foreach (var piece in from.Keys.Union(to.Keys))
        {
            var (was, now) = (from.GetValueOrDefault(piece, new PieceFill()), to.GetValueOrDefault(piece, new PieceFill()));
            foreach (var edit in Content(row, piece, was.Content, now.Content).Concat(Look(row, piece, was.Look, now.Look)))
            {
                yield return edit;
            }

            if (was.Shown != now.Shown)
            {
                yield return new SetShown(row, piece, now.Shown);
            }

            if (!DocumentJson.Same(was.Condition, now.Condition))
            {
                yield return new SetCondition(row, piece, now.Condition);
            }
        }
    }

    internal static IEnumerable<Edit> Content(
        string row,
        string piece,
        ImmutableSortedDictionary<string, FieldValue> was,
        ImmutableSortedDictionary<string, FieldValue> now
    )
    {
        foreach (var field in was.Keys.Union(now.Keys))
        {
            if (!now.TryGetValue(field, out var value))
            {
                yield return new ClearFill(row, piece, field);
            }
            else if (!was.TryGetValue(field, out var old) || !DocumentJson.Same(old, value))
            {
                yield return new SetFill(row, piece, field, value);
            }
        }
    }

    internal static IEnumerable<Edit> Look(
        string row,
        string piece,
        ImmutableSortedDictionary<string, string> was,
        ImmutableSortedDictionary<string, string> now
    ) =>
        was
            .Keys.Union(now.Keys)
            .Where(p => was.GetValueOrDefault(p) != now.GetValueOrDefault(p))
            .Select(p => now.TryGetValue(p, out var choice) ? (Edit)new SetLook(row, piece, p, choice) : new ClearLook(row, piece, p));
}
