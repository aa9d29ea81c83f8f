using System.Collections.Immutable;
using System.Security.Claims;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Reviews;
using GoldenRule.Data;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.Logs;
using GoldenRule.Server.People;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Plan;

/// <param name="Teams">Ids of the teams that send it; none: it is nobody's in particular.</param>
/// <param name="LinkTags">What the addresses of links get when an email goes out.</param>
/// <param name="LinkTagsVersion">To be sent back as If-Match where they are set.</param>
/// <param name="ReviewRule">How its emails are approved.</param>
/// <param name="ReviewRuleVersion">To be sent back as If-Match where it is set.</param>
/// <param name="Retired">Nothing new is made for it.</param>
/// <param name="MergedInto">Key of the campaign type that took its place; null: it stands for itself.</param>
/// <param name="MayWrite">Whether whoever asks makes and changes emails of it.</param>
/// <param name="MayMake">Whether they make templates and rows for it.</param>
public sealed record CampaignTypeEntry(
    string Key,
    string Name,
    ImmutableArray<Guid> Teams,
    bool Transactional,
    LinkTags LinkTags,
    string LinkTagsVersion,
    ReviewRule ReviewRule,
    string ReviewRuleVersion,
    bool Retired,
    string? MergedInto,
    bool MayWrite,
    bool MayMake
);

/// <param name="Key">Technical name; it never changes.</param>
public sealed record NewCampaignType(string Key, string Name, ImmutableArray<Guid> Teams, bool Transactional = false);

/// <summary>What is left out stays.</summary>
public sealed record CampaignTypeChange(
    string? Name = null,
    ImmutableArray<Guid>? Teams = null,
    bool? Transactional = null,
    bool? Retired = null
);

/// <param name="Keys">All of them, in the order wanted.</param>
public sealed record CampaignTypeOrder(ImmutableArray<string> Keys);

/// <param name="Into">Key of the campaign type that takes over its emails, templates and rows.</param>
public sealed record CampaignTypeMerge(string Into);

/// <summary>The campaign types: made, renamed, given to teams, ordered, merged and retired by leads.</summary>
public static class CampaignTypeEndpoints
{
    private const int Most = 200;

    public static void MapCampaignTypes(this IEndpointRouteBuilder api)
    {
        var types = api.MapGroup("/campaign-types").WithTags("Plan");
        types
            .MapGet("", (ClaimsPrincipal user, GoldenRuleDb db, LibraryCache library, CancellationToken cancel) =>
                ListAsync(user.Person(), db, library, cancel)
            )
            .WithName("listCampaignTypes");
        types.MapPost("", MakeAsync).WithName("makeCampaignType");
        types.MapPut("/{key}", ChangeAsync).WithName("changeCampaignType");
        types.MapPut("/order", OrderAsync).WithName("orderCampaignTypes");
        types.MapPost("/{key}/merge", MergeAsync).WithName("mergeCampaignType");
    }

    private static async Task<ImmutableArray<CampaignTypeEntry>> ListAsync(
        Person person,
        GoldenRuleDb db,
        LibraryCache library,
        CancellationToken cancel
    )
    {
        var plan = (await library.GetAsync(db, cancel)).Plan;
        return
        [
            .. plan.CampaignTypes.Select(t =>
            {
                var here = plan.Teams.For(person, t.Key);
                return new CampaignTypeEntry(
                    t.Key,
                    t.Name,
                    [.. t.Teams],
                    t.Transactional,
                    t.LinkTags,
                    SetVersion.Of(t.LinkTags),
                    t.ReviewRule,
                    SetVersion.Of(t.ReviewRule),
                    t.Retired,
                    t.MergedInto is null ? null : plan.Merged.Current(t.Key),
                    !t.Retired && t.MergedInto is null && here.Is(Role.Lead, Role.Designer, Role.Author),
                    !t.Retired && t.MergedInto is null && here.Is(Role.Lead, Role.Designer)
                );
            }),
        ];
    }

    private static async Task<ImmutableArray<CampaignTypeEntry>> MakeAsync(
        NewCampaignType request,
        ClaimsPrincipal user,
        GoldenRuleDb db,
        LibraryCache library,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var person = Planning(user);
        if (TechnicalName.Fault(request.Key) is { } fault)
        {
            throw ProblemException.Invalid(fault, "key");
        }

        if (await db.CampaignTypes.CountAsync(cancel) >= Most)
        {
            throw ProblemException.Invalid($"There are at most {Most} campaign types.");
        }

        if (await db.CampaignTypes.FirstOrDefaultAsync(t => t.Key == request.Key, cancel) is { } taken)
        {
            throw ProblemException.Invalid($"\"{taken.Name}\" has the technical name \"{request.Key}\" already. Choose another.", "key");
        }

        var type = new CampaignType
        {
            Key = request.Key,
            Name = await NameAsync(request.Name, request.Key, db, cancel),
            Teams = await TeamsAsync(request.Teams, db, cancel),
            Transactional = request.Transactional,
            Position = await db.CampaignTypes.MaxAsync(t => (int?)t.Position, cancel) + 1 ?? 0,
        };
        db.CampaignTypes.Add(type);
        db.Record(clock, LogKind.CampaignTypeMade, person.Id, type.Name, null, await ToldAsync(type, db, cancel));
        await db.SaveChangesAsync(cancel);
        return await ListAsync(person, db, library, cancel);
    }

    private static async Task<ImmutableArray<CampaignTypeEntry>> ChangeAsync(
        string key,
        CampaignTypeChange change,
        ClaimsPrincipal user,
        GoldenRuleDb db,
        LibraryCache library,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var person = Planning(user);
        var type = await FindAsync(key, db, cancel);
        var before = await ToldAsync(type, db, cancel);
        type.Name = change.Name is { } name ? await NameAsync(name, key, db, cancel) : type.Name;
        type.Teams = change.Teams is { } teams ? await TeamsAsync(teams, db, cancel) : type.Teams;
        type.Transactional = change.Transactional ?? type.Transactional;
        type.Retired = change.Retired ?? type.Retired;
        db.Record(clock, LogKind.CampaignTypeChanged, person.Id, type.Name, before, await ToldAsync(type, db, cancel));
        await db.SaveChangesAsync(cancel);
        return await ListAsync(person, db, library, cancel);
    }

    private static async Task<ImmutableArray<CampaignTypeEntry>> OrderAsync(
        CampaignTypeOrder order,
        ClaimsPrincipal user,
        GoldenRuleDb db,
        LibraryCache library,
        CancellationToken cancel
    )
    {
        var person = Planning(user);
        var types = await db.CampaignTypes.Where(t => t.MergedInto == null).ToListAsync(cancel);
        if (!types.Select(t => t.Key).Order(StringComparer.Ordinal).SequenceEqual(order.Keys.Order(StringComparer.Ordinal)))
        {
            throw ProblemException.Invalid("Campaign types have come or gone since you looked. Look again, then order them.", "keys");
        }

        types.ForEach(t => t.Position = order.Keys.IndexOf(t.Key));
        await db.SaveChangesAsync(cancel);
        return await ListAsync(person, db, library, cancel);
    }

    /// <summary>What was for it is for the other now: its emails, templates, rows and snippets. Its own teams and settings end.</summary>
    private static async Task<ImmutableArray<CampaignTypeEntry>> MergeAsync(
        string key,
        CampaignTypeMerge merge,
        ClaimsPrincipal user,
        GoldenRuleDb db,
        LibraryCache library,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var person = Planning(user);
        // Two at once, each into the other, would leave neither.
        await using var turn = await db.TakeTurnAsync("plan", cancel);
        var (type, into) = (await FindAsync(key, db, cancel), await FindAsync(merge.Into, db, cancel));
        if (type.Key == into.Key)
        {
            throw ProblemException.Invalid("A campaign type is merged into another, not into itself.", "into");
        }

        if (into.Retired)
        {
            throw ProblemException.Invalid($"\"{into.Name}\" is retired. Restore it first, or choose another.", "into");
        }

        var before = await ToldAsync(type, db, cancel);
        type.MergedInto = into.Key;
        db.Record(clock, LogKind.CampaignTypeMerged, person.Id, $"{type.Name} into {into.Name}", before, await ToldAsync(into, db, cancel));
        await db.SaveChangesAsync(cancel);
        await turn.CommitAsync(CancellationToken.None);
        return await ListAsync(person, db, library, cancel);
    }

    private static async Task<CampaignType> FindAsync(string key, GoldenRuleDb db, CancellationToken cancel) =>
        await db.CampaignTypes.FirstOrDefaultAsync(t => t.Key == key && t.MergedInto == null, cancel)
        ?? throw ProblemException.NotFound("There is no such campaign type any more.");

    private static Person Planning(ClaimsPrincipal user)
    {
        var person = user.Person();
        person.MustBe("Leads of the whole library plan campaign types.", Role.Lead);
        return person;
    }

    private static async Task<string> NameAsync(string said, string key, GoldenRuleDb db, CancellationToken cancel)
    {
        var name = PlanName.Read(said, "campaign type");
        var others = await db.CampaignTypes.Where(t => t.Key != key && t.MergedInto == null).Select(t => t.Name).ToListAsync(cancel);
        return others.Contains(name, StringComparer.OrdinalIgnoreCase)
            ? throw ProblemException.Invalid($"There is a campaign type \"{name}\" already. Choose another name.", "name")
            : name;
    }

    private static async Task<List<Guid>> TeamsAsync(ImmutableArray<Guid> teams, GoldenRuleDb db, CancellationToken cancel)
    {
        var known = await db.Teams.Where(t => teams.Contains(t.Id) && t.MergedInto == null).Select(t => t.Id).ToListAsync(cancel);
        return teams.All(known.Contains)
            ? [.. teams.Distinct()]
            : throw ProblemException.Invalid("One of these teams is not there any more. Look again, then choose.", "teams");
    }

    private static async Task<Told> ToldAsync(CampaignType type, GoldenRuleDb db, CancellationToken cancel)
    {
        var teams = type.Teams;
        var names = await db.Teams.Where(t => teams.Contains(t.Id)).OrderBy(t => t.Position).Select(t => t.Name).ToListAsync(cancel);
        return new Told(type.Name, [.. names], type.Transactional, type.Retired);
    }

    /// <param name="Teams">Their names.</param>
    private sealed record Told(string Name, ImmutableArray<string> Teams, bool Transactional, bool Retired);
}
