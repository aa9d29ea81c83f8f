using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Data;
using GoldenRule.Server.Editing;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Pictures;

/// <summary>A document that shows a picture.</summary>
public sealed record PictureUse(DocumentKind Kind, Guid Id, string Name, EmailState? State);

/// <summary>Where a picture is shown: house styles, rows and templates as released, emails as they stand.</summary>
public static class PictureUses
{
    public static async Task<ImmutableArray<PictureUse>> OfAsync(IReadOnlyCollection<string> ids, GoldenRuleDb db, LibrarySnapshot library, CancellationToken cancel)
    {
        var quoted = ids.Select(id => $"%\"{id}\"%").ToArray();
        var heads = await db.Database.SqlQuery<Holder>($"select id, kind, name, state from documents where head::text like any ({quoted}) order by kind, name, id").ToListAsync(cancel);
        var released = library.Rows.Select(r => (Kind: DocumentKind.Row, Id: r.Key, r.Value.Name, Json: StoredForm.Write(r.Value)))
            .Concat(library.Templates.Select(t => (Kind: DocumentKind.Template, Id: t.Key, t.Value.Name, Json: StoredForm.Write(t.Value))))
            .Where(d => ids.Any(id => d.Json.Contains(id, StringComparison.Ordinal)))
            .Select(d => new PictureUse(d.Kind, d.Id, d.Name, null));
        return
        [
            .. heads.Select(h => new PictureUse(Enum.Parse<DocumentKind>(h.Kind), h.Id, h.Name, h.Kind == nameof(DocumentKind.Email) ? Enum.Parse<EmailState>(h.State) : null))
                .Concat(released).DistinctBy(u => u.Id),
        ];
    }

    private sealed record Holder(Guid Id, string Kind, string Name, string State);
}
