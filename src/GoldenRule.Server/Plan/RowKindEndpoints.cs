using System.Collections.Immutable;
using System.Security.Claims;
using GoldenRule.Core.Documents;
using GoldenRule.Data;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.Logs;
using GoldenRule.Server.People;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Plan;

/// <param name="Purpose">By which checks and the laying out of copy treat its rows.</param>
/// <param name="Retired">Nothing new is made for it.</param>
/// <param name="MergedInto">Key of the kind that took its place; null: it stands for itself.</param>
public sealed record RowKindEntry(string Key, string Name, RowPurpose Purpose, bool Retired, string? MergedInto);

/// <param name="Key">Technical name; it never changes.</param>
public sealed record NewRowKind(string Key, string Name, RowPurpose Purpose);

/// <summary>What is left out stays.</summary>
public sealed record RowKindChange(string? Name = null, RowPurpose? Purpose = null, bool? Retired = null);

/// <param name="Keys">All that stand for themselves, in the order wanted.</param>
public sealed record RowKindOrder(ImmutableArray<string> Keys);

/// <param name="Into">Key of the kind that takes over its rows.</param>
public sealed record RowKindMerge(string Into);

/// <summary>The row kinds: made, renamed, ordered, merged and retired by leads.</summary>
public static class RowKindEndpoints
{
    private const int Most = 60;

    public static void MapRowKinds(this IEndpointRouteBuilder api)
    {
        var kinds = api.MapGroup("/row-kinds").WithTags("Plan");
        kinds.MapGet("", (GoldenRuleDb db, CancellationToken cancel) => ListAsync(db, cancel)).WithName("listRowKinds");
        kinds.MapPost("", MakeAsync).WithName("makeRowKind");
        kinds.MapPut("/{key}", ChangeAsync).WithName("changeRowKind");
        kinds.MapPut("/order", OrderAsync).WithName("orderRowKinds");
        kinds.MapPost("/{key}/merge", MergeAsync).WithName("mergeRowKind");
    }

    private static async Task<ImmutableArray<RowKindEntry>> ListAsync(GoldenRuleDb db, CancellationToken cancel) =>
        [
            .. (await db.RowKinds.AsNoTracking().OrderBy(k => k.Position).ThenBy(k => k.Key).ToListAsync(cancel)).Select(
                k => new RowKindEntry(k.Key, k.Name, k.Purpose, k.Retired, k.MergedInto)
            ),
        ];

    private static async Task<ImmutableArray<RowKindEntry>> MakeAsync(
        NewRowKind request,
        ClaimsPrincipal user,
        GoldenRuleDb db,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var person = Planning(user);
        if (TechnicalName.Fault(request.Key) is { } fault)
        {
            throw ProblemException.Invalid(fault, "key");
        }

        if (await db.RowKinds.CountAsync(cancel) >= Most)
        {
            throw ProblemException.Invalid($"There are at most {Most} row kinds.");
        }

        if (await db.RowKinds.FirstOrDefaultAsync(k => k.Key == request.Key, cancel) is { } taken)
        {
            throw ProblemException.Invalid($"\"{taken.Name}\" has the technical name \"{request.Key}\" already. Choose another.", "key");
        }

        var kind = new StoredRowKind
        {
            Key = request.Key,
            Name = await NameAsync(request.Name, request.Key, db, cancel),
            Purpose = request.Purpose,
            Position = await db.RowKinds.MaxAsync(k => (int?)k.Position, cancel) + 1 ?? 0,
        };
        db.RowKinds.Add(kind);
        db.Record(clock, LogKind.RowKindMade, person.Id, kind.Name, null, Told.Of(kind));
        await db.SaveChangesAsync(cancel);
        return await ListAsync(db, cancel);
    }

    private static async Task<ImmutableArray<RowKindEntry>> ChangeAsync(
        string key,
        RowKindChange change,
        ClaimsPrincipal user,
        GoldenRuleDb db,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var person = Planning(user);
        var kind = await FindAsync(key, db, cancel);
        var before = Told.Of(kind);
        kind.Name = change.Name is { } name ? await NameAsync(name, key, db, cancel) : kind.Name;
        kind.Purpose = change.Purpose ?? kind.Purpose;
        kind.Retired = change.Retired ?? kind.Retired;
        if (kind.Retired && !await db.RowKinds.AnyAsync(k => k.Key != key && !k.Retired && k.MergedInto == null, cancel))
        {
            throw ProblemException.Invalid("One row kind has to stay: rows are made for it.", "retired");
        }

        db.Record(clock, LogKind.RowKindChanged, person.Id, kind.Name, before, Told.Of(kind));
        await db.SaveChangesAsync(cancel);
        return await ListAsync(db, cancel);
    }

    private static async Task<ImmutableArray<RowKindEntry>> OrderAsync(
        RowKindOrder order,
        ClaimsPrincipal user,
        GoldenRuleDb db,
        CancellationToken cancel
    )
    {
        Planning(user);
        var kinds = await db.RowKinds.Where(k => k.MergedInto == null).ToListAsync(cancel);
        if (!kinds.Select(k => k.Key).Order(StringComparer.Ordinal).SequenceEqual(order.Keys.Order(StringComparer.Ordinal)))
        {
            throw ProblemException.Invalid("Row kinds have come or gone since you looked. Look again, then order them.", "keys");
        }

        kinds.ForEach(k => k.Position = order.Keys.IndexOf(k.Key));
        await db.SaveChangesAsync(cancel);
        return await ListAsync(db, cancel);
    }

    /// <summary>Rows of it are of the other now, also in releases; zones that take it take the other.</summary>
    private static async Task<ImmutableArray<RowKindEntry>> MergeAsync(
        string key,
        RowKindMerge merge,
        ClaimsPrincipal user,
        GoldenRuleDb db,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var person = Planning(user);
        // Two at once, each into the other, would leave neither.
        await using var turn = await db.TakeTurnAsync("plan", cancel);
        var (kind, into) = (await FindAsync(key, db, cancel), await FindAsync(merge.Into, db, cancel));
        if (kind.Key == into.Key)
        {
            throw ProblemException.Invalid("A row kind is merged into another, not into itself.", "into");
        }

        if (into.Retired)
        {
            throw ProblemException.Invalid($"\"{into.Name}\" is retired. Restore it first, or choose another.", "into");
        }

        kind.MergedInto = into.Key;
        db.Record(clock, LogKind.RowKindMerged, person.Id, $"{kind.Name} into {into.Name}", Told.Of(kind), Told.Of(into));
        await db.SaveChangesAsync(cancel);
        await turn.CommitAsync(CancellationToken.None);
        return await ListAsync(db, cancel);
    }

    private static Person Planning(ClaimsPrincipal user)
    {
        var person = user.Person();
        person.MustBe("Leads of the whole library plan row kinds.", Role.Lead);
        return person;
    }

    private static async Task<StoredRowKind> FindAsync(string key, GoldenRuleDb db, CancellationToken cancel) =>
        await db.RowKinds.FirstOrDefaultAsync(k => k.Key == key && k.MergedInto == null, cancel)
        ?? throw ProblemException.NotFound("There is no such row kind any more.");

    private static async Task<string> NameAsync(string said, string key, GoldenRuleDb db, CancellationToken cancel)
    {
        var name = PlanName.Read(said, "row kind");
        var others = await db.RowKinds.Where(k => k.Key != key && k.MergedInto == null).Select(k => k.Name).ToListAsync(cancel);
        return others.Contains(name, StringComparer.OrdinalIgnoreCase)
            ? throw ProblemException.Invalid($"There is a row kind \"{name}\" already. Choose another name.", "name")
            : name;
    }

    private sealed record Told(string Name, RowPurpose Purpose, bool Retired)
    {
        public static Told Of(StoredRowKind kind) => new(kind.Name, kind.Purpose, kind.Retired);
    }
}
