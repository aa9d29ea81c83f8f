using System.Collections.Immutable;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.History;

/// <summary>New emails made from one that is there already.</summary>
public static class NextIssue
{
    /// <summary>The same again under another name. Files, words written by hand and what was set aside come along.</summary>
    public static Email Copy(Email email, string name, Func<string> newId) => Again(email, name, newId).Email;

    /// <summary>
    /// The next of a series: rows, looks and standing content are kept, what was written is marked to be renewed. Standing
    /// is what the template says and what was left as it was already this time.
    /// </summary>
    public static Email Next(Email email, string name, Func<string> newId)
    {
        var (next, ids) = Again(email, name, newId);
        var last = ImmutableSortedDictionary.CreateBuilder<string, FieldValue>(StringComparer.Ordinal);
        var standing = ImmutableSortedSet.CreateBuilder<string>(StringComparer.Ordinal);
        foreach (var (row, piece, field, value) in Written(email))
        {
            var (was, now) = ($"{row}/{piece}/{field}", $"{ids.GetValueOrDefault(row, row)}/{piece}/{field}");
            last.Add(now, value);
            // It stood here last time as it had stood before, and nobody minded: it goes on standing, unasked.
            if (email.ConfirmedUnchanged.Contains(was) || email.IsToRenew(was, value))
            {
                standing.Add(now);
            }
        }

        var details = next.Details with { SendDay = "" };
        foreach (var field in (ReadOnlySpan<string>)["subject", "preheader"])
        {
            var said = NextName.After(details.Get(field)!, next.Language);
            details = details.With(field, said);
            if (said.Length > 0)
            {
                last.Add($"details/{field}", new FieldValue.Words(said));
            }
        }

        return next with
        {
            Details = details with { CampaignName = NextName.After(details.CampaignName, next.Language) },
            PreviousContent = last.ToImmutable(),
            ConfirmedUnchanged = standing.ToImmutable(),
            PlainText = null,
            Attachments = [],
            Recipient = null,
            Unplaced = ImmutableSortedDictionary<string, UnplacedContent>.Empty,
        };
    }

    private static (Email Email, ImmutableDictionary<string, string> Ids) Again(Email email, string name, Func<string> newId)
    {
        var ids = email.Zones.Values.SelectMany(z => z).ToImmutableDictionary(r => r.Id, _ => newId());
        return (
            email with
            {
                Name = name,
                Zones = email.Zones.ToImmutableSortedDictionary(
                    z => z.Key,
                    z => z.Value.Select(r => r with { Id = ids[r.Id] }).ToImmutableArray()
                ),
                PreviousContent = email.PreviousContent.ToImmutableSortedDictionary(
                    l => Moved(l.Key, ids),
                    l => l.Value,
                    StringComparer.Ordinal
                ),
                ConfirmedUnchanged = [.. email.ConfirmedUnchanged.Select(p => Moved(p, ids))],
            },
            ids
        );
    }

    private static string Moved(string place, ImmutableDictionary<string, string> ids)
    {
        var slash = place.IndexOf('/', StringComparison.Ordinal);
        return slash > 0 && ids.TryGetValue(place[..slash], out var id) ? id + place[slash..] : place;
    }

    /// <summary>Every field that the author filled in, or built with a row of their own.</summary>
    private static IEnumerable<(string Row, string Piece, string Field, FieldValue Value)> Written(Email email)
    {
        foreach (
            var (row, fills) in email.Fills.Concat(email.Zones.Values.SelectMany(z => z).Select(r => KeyValuePair.Create(r.Id, r.Fills)))
        )
        {
            foreach (var (piece, fill) in fills)
            {
                foreach (var (field, value) in fill.Content)
                {
                    yield return (row, piece, field, value);
                }
            }
        }

        foreach (var placed in email.Zones.Values.SelectMany(z => z).Where(r => r.Own is not null))
        {
            foreach (var block in placed.Own!.Row.Blocks)
            {
                // Only what says something: an empty field has nothing to renew.
                foreach (
                    var (field, value) in block.Content.Where(c =>
                        c.Value.HasWords() || c.Value is FieldValue.Image { Picture.Length: > 0 } or FieldValue.Link { Href.Length: > 0 }
                    )
                )
                {
                    yield return (placed.Id, block.Id, field, value);
                }
            }
        }
    }
}
