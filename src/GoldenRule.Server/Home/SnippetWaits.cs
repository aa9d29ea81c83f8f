using GoldenRule.Core.Documents;
using GoldenRule.Data;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Emails;

namespace GoldenRule.Server.Home;

/// <summary>Snippets that somebody may change and that say nothing any more soon.</summary>
public sealed class SnippetWaits(TimeProvider clock) : WaitSource
{
    public override Task<IReadOnlyList<WaitEntry>> FindAsync(Person everywhere, LibrarySnapshot snapshot, CancellationToken cancel)
    {
        var waits = new List<WaitEntry>();
        var now = clock.GetUtcNow().UtcDateTime;
        foreach (var one in snapshot.Snippets.All.Where(s => !s.Retired && s.Snippet.Expires.Length > 0))
        {
            var until = one.Snippet.ToUtc(one.Snippet.Expires);
            var editors = one.Snippet.Editors;
            var may = everywhere.Is(Role.Lead) || editors.People.Contains(everywhere.Id) || editors.Roles.Any(r => everywhere.Is(r));
            if (may && until > now && until < now + Soon)
            {
                waits.Add(
                    new WaitEntry(
                        WaitKind.SnippetExpires,
                        WaitEntry.KeyOf(WaitKind.SnippetExpires, one.Id, until),
                        DocumentKind.Snippet,
                        one.Id,
                        one.Snippet.Name,
                        "",
                        "It says nothing any more soon. Say what holds then, or let it end.",
                        until,
                        "",
                        null,
                        0
                    )
                );
            }
        }

        return Task.FromResult<IReadOnlyList<WaitEntry>>(waits);
    }
}
