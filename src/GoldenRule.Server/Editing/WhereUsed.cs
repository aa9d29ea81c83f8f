using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Governance;
using GoldenRule.Data;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Editing;

/// <summary>A document that refers to something.</summary>
public sealed record DocumentUse(DocumentKind Kind, Guid Id, string Name, EmailState? State);

/// <summary>
/// Where a picture, a saved row or a template is used: house styles, rows and templates as drawn up and as released, emails as
/// they stand.
/// </summary>
public static class WhereUsed
{
    public static async Task<ImmutableArray<DocumentUse>> OfAsync(
        IReadOnlyCollection<string> ids,
        Person person,
        GoldenRuleDb db,
        LibrarySnapshot library,
        CancellationToken cancel
    )
    {
        var quoted = ids.Select(id => $"%\"{id}\"%").ToArray();
        var heads = await db
            .Database.SqlQuery<Holder>(
                $"select id, kind, name, state, private, owner from documents where head::text like any ({quoted}) order by kind, name, id"
            )
            .ToListAsync(cancel);
        var released = library
            .Rows.Select(r => (Kind: DocumentKind.Row, Id: r.Key, r.Value.Name, Json: StoredForm.Write(r.Value)))
            .Concat(library.Templates.Select(t => (Kind: DocumentKind.Template, Id: t.Key, t.Value.Name, Json: StoredForm.Write(t.Value))))
            .Where(d => !library.Hidden.Contains(d.Id) && ids.Any(id => d.Json.Contains(id, StringComparison.Ordinal)))
            .Select(d => new DocumentUse(d.Kind, d.Id, d.Name, null));
        return
        [
            .. heads
                .Where(h => !LibraryStatus.IsHidden(h.Private, h.Owner, person))
                .Select(h => new DocumentUse(
                    Enum.Parse<DocumentKind>(h.Kind),
                    h.Id,
                    h.Name,
                    h.Kind == nameof(DocumentKind.Email) ? Enum.Parse<EmailState>(h.State) : null
                ))
                .Concat(released)
                .DistinctBy(u => u.Id),
        ];
    }

    private sealed record Holder(Guid Id, string Kind, string Name, string State, bool Private, Guid Owner);
}
