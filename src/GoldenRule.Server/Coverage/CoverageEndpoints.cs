using System.Collections.Immutable;
using System.Security.Claims;
using GoldenRule.Core.Coverage;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Governance;
using GoldenRule.Data;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.Logs;
using GoldenRule.Server.People;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Coverage;

/// <summary>A team and what it sends.</summary>
/// <param name="Missing">Row kinds that its campaign types need and nothing serves.</param>
/// <param name="Emails">Null: they are not there for whoever asks.</param>
public sealed record TeamCoverage(Guid Id, string Team, ImmutableArray<string> CampaignTypes, int Templates, int? Emails, int Missing);

/// <param name="Teams">Their names.</param>
public sealed record CoverageTypeEntry(string Key, string Name, ImmutableArray<string> Teams, int Templates);

/// <param name="Counts">How many cells are in each state.</param>
public sealed record CoverageAnswer(
    ImmutableArray<CoverageTypeEntry> CampaignTypes,
    ImmutableArray<CoverageCell> Cells,
    ImmutableSortedDictionary<string, int> Counts,
    ImmutableArray<TeamCoverage> Teams
);

/// <param name="Needed">Null: nobody has said.</param>
public sealed record NeedChange(string CampaignType, string RowKind, bool? Needed);

public static class CoverageEndpoints
{
    public static void MapCoverage(this IEndpointRouteBuilder api)
    {
        var coverage = api.MapGroup("/coverage").WithTags("Coverage");
        coverage
            .MapGet("", (ClaimsPrincipal user, GoldenRuleDb db, LibraryCache library, CancellationToken cancel) =>
                LookAsync(user.Person(), db, library, cancel)
            )
            .WithName("getCoverage");
        coverage.MapPut("/needs", SetAsync).WithName("setCoverageNeed");
    }

    internal static async Task<CoverageAnswer> LookAsync(Person person, GoldenRuleDb db, LibraryCache library, CancellationToken cancel)
    {
        var snapshot = await library.GetAsync(db, cancel);
        var stored = await db
            .Documents.AsNoTracking()
            .Where(d => d.Kind == DocumentKind.Row && !d.Retired)
            .SeenBy(person, snapshot)
            .Select(d => new
            {
                d.Id,
                d.Name,
                d.RowKind,
                d.Serves,
            })
            .ToListAsync(cancel);
        var said = await db.CoverageNeeds.AsNoTracking().ToListAsync(cancel);
        var (kinds, types) = (snapshot.Plan.RowKinds.Merged, snapshot.Plan.Merged);
        // What was said of a kind that was merged is said of its heir, unless that says otherwise itself.
        var needs = said.OrderBy(n => n.RowKind == kinds.Current(n.RowKind))
            .GroupBy(n => (n.CampaignType, kinds.Current(n.RowKind)))
            .ToDictionary(g => g.Key, g => g.Last().Needed);
        // What is released counts as it was released: a draft may serve other types than it.
        var rows = stored
            .Where(d => d.RowKind is not null)
            .Select(d =>
                snapshot.Releases.Rows.GetValueOrDefault(d.Id) is { } released
                    ? new CoveringRow(d.Id, released.Name, kinds.Current(released.RowKind), types.Current(released.CampaignTypes), true)
                    : new CoveringRow(d.Id, d.Name, kinds.Current(d.RowKind!), types.Current([.. d.Serves]), false)
            )
            .ToList();
        var result = CoverageGrid.For(
            snapshot.Plan.Offered.Select(t => t.Key),
            snapshot.Plan.RowKinds.Offered.Select(k => k.Key),
            rows,
            needs
        );
        var templates = snapshot
            .Releases.Templates.Where(t => !snapshot.Releases.Hidden.Contains(t.Key))
            .GroupBy(t => types.Current(t.Value.CampaignType), StringComparer.Ordinal)
            .ToDictionary(g => g.Key, g => g.Count(), StringComparer.Ordinal);
        var counted = await db
            .Documents.Where(d => d.Kind == DocumentKind.Email && d.CampaignType != null)
            .GroupBy(d => d.CampaignType!)
            .Select(g => new { g.Key, Count = g.Count() })
            .ToListAsync(cancel);
        var emails = counted
            .GroupBy(g => types.Current(g.Key), StringComparer.Ordinal)
            .ToDictionary(g => g.Key, g => g.Sum(c => c.Count), StringComparer.Ordinal);
        return new CoverageAnswer(
            [
                .. snapshot.Plan.Offered.Select(t => new CoverageTypeEntry(
                    t.Key,
                    t.Name,
                    [.. Names(t, snapshot)],
                    templates.GetValueOrDefault(t.Key)
                )),
            ],
            result.Cells,
            Enum.GetValues<CoverageState>()
                .ToImmutableSortedDictionary(s => System.Text.Json.JsonNamingPolicy.KebabCaseLower.ConvertName(s.ToString()), result.Count),
            [
                .. snapshot
                    .Plan.Teams.Teams.Where(t => t.MergedInto is null)
                    .Select(team => (Team: team, Types: snapshot.Plan.Offered.Where(t => t.Teams.Contains(team.Id)).ToList()))
                    .Select(team => new TeamCoverage(
                        team.Team.Id,
                        team.Team.Name,
                        [.. team.Types.Select(t => t.Key)],
                        team.Types.Sum(t => templates.GetValueOrDefault(t.Key)),
                        team.Types.TrueForAll(t => snapshot.Plan.Teams.Sees(person, t.Key))
                            ? team.Types.Sum(t => emails.GetValueOrDefault(t.Key))
                            : null,
                        result.Cells.Count(c => c.State == CoverageState.Missing && team.Types.Exists(t => t.Key == c.CampaignType))
                    )),
            ]
        );
    }

    private static IEnumerable<string> Names(CampaignType type, LibrarySnapshot library) =>
        library.Plan.Teams.Teams.Where(t => type.Teams.Contains(t.Id)).Select(t => t.Name);

    private static async Task<CoverageAnswer> SetAsync(
        NeedChange change,
        ClaimsPrincipal user,
        GoldenRuleDb db,
        LibraryCache library,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var person = user.Person();
        (await library.GetAsync(db, cancel))
            .Plan.Teams.For(person, change.CampaignType)
            .MustBe("Leads and designers plan what is needed.", Role.Lead, Role.Designer);
        if (!await db.CampaignTypes.AnyAsync(t => t.Key == change.CampaignType, cancel))
        {
            throw ProblemException.NotFound("There is no such campaign type.");
        }

        if (!await db.RowKinds.AnyAsync(k => k.Key == change.RowKind, cancel))
        {
            throw ProblemException.NotFound("There is no such row kind.");
        }

        var known = await db.CoverageNeeds.FirstOrDefaultAsync(
            n => n.CampaignType == change.CampaignType && n.RowKind == change.RowKind,
            cancel
        );
        var before = known?.Needed;
        if (known is not null && change.Needed is null)
        {
            db.CoverageNeeds.Remove(known);
        }
        else if (known is not null)
        {
            known.Needed = change.Needed!.Value;
        }
        else if (change.Needed is { } needed)
        {
            db.CoverageNeeds.Add(
                new CoverageNeed
                {
                    CampaignType = change.CampaignType,
                    RowKind = change.RowKind,
                    Needed = needed,
                }
            );
        }

        db.Record(
            clock,
            LogKind.CoverageSet,
            person.Id,
            change.CampaignType,
            before is null ? null : change with { Needed = before },
            change
        );
        await db.SaveChangesAsync(cancel);
        return await LookAsync(person, db, library, cancel);
    }
}
