using System.Collections.Immutable;
using System.Security.Claims;
using GoldenRule.Core.Governance;
using GoldenRule.Core.Sending;
using GoldenRule.Data;
using GoldenRule.Server.Destinations;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.Logs;
using GoldenRule.Server.People;
using GoldenRule.Server.Plan;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Webhooks;

/// <param name="FormerUntil">How long the secret before signs too. Null: there is none.</param>
/// <param name="Version">Another text once anything that people set is another.</param>
public sealed record WebhookEntry(
    Guid Id,
    string Name,
    string Address,
    ImmutableArray<string> Kinds,
    DateTime? FormerUntil,
    string Version
);

/// <param name="Kind">"hand-off.made".</param>
public sealed record WebhookKindEntry(string Kind, string Words);

public sealed record WebhookList(ImmutableArray<WebhookEntry> All, ImmutableArray<WebhookKindEntry> Kinds, Allowance SetUp);

/// <param name="Secret">To be kept by whoever listens; it is shown once.</param>
public sealed record WebhookMade(WebhookEntry Webhook, string Secret);

/// <param name="Id">UUIDv7 made by the client: asked twice, it is one webhook.</param>
/// <param name="Version">Of the one that is changed, as it was seen. Null: whatever it is by now.</param>
public sealed record WebhookRequest(Guid Id, string Name, string Address, ImmutableArray<string> Kinds, string? Version = null);

public sealed record DeliveryEntry(
    Guid Id,
    string Kind,
    DateTime At,
    DeliveryState State,
    int Tries,
    DateTime? NextTry,
    string Answer,
    string Body
);

/// <summary>Addresses that are told of what happens to emails, and what they were told.</summary>
public static class WebhookEndpoints
{
    private const int MostTold = 100;
    private const int MostHooks = 50;

    public static void AddWebhooks(this IServiceCollection services, bool describing)
    {
        services.AddSingleton<WebhookSecrets>();
        if (!describing)
        {
            services.AddHostedService<WebhookTelling>();
        }
    }

    public static void MapWebhooks(this IEndpointRouteBuilder api)
    {
        var all = api.MapGroup("/webhooks").WithTags("Webhooks").OnlyWhoSetsUp();
        all.MapGet("", (ClaimsPrincipal user, GoldenRuleDb db, CancellationToken cancel) => ListAsync(user, db, cancel))
            .WithName("listWebhooks");
        all.MapPost("", AddAsync).WithName("addWebhook");
        all.MapPut("/{id:guid}", SetAsync).WithName("setWebhook");
        all.MapDelete("/{id:guid}", RetireAsync).WithName("retireWebhook");
        all.MapPost("/{id:guid}/secret", RollAsync).WithName("rollWebhookSecret");
        all.MapPost("/{id:guid}/trial", TryAsync).RequireRateLimiting(RateLimits.Costly).WithName("tryWebhook");
        all.MapGet("/{id:guid}/deliveries", DeliveriesAsync).WithName("listDeliveries");
        all.MapPost("/{id:guid}/deliveries/{delivery:guid}/again", AgainAsync).WithName("tellAgain");
    }

    private static async Task<WebhookList> ListAsync(ClaimsPrincipal user, GoldenRuleDb db, CancellationToken cancel) =>
        new(
            [.. (await db.Webhooks.AsNoTracking().Where(w => w.RetiredAt == null).OrderBy(w => w.Name).ToListAsync(cancel)).Select(Shown)],
            [.. WebhookEvents.All.Select(k => new WebhookKindEntry(k.Kind, k.Words))],
            Allowance.From(SendingPermissions.MaySetUp(user.Person()))
        );

    private static async Task<WebhookMade> AddAsync(
        WebhookRequest request,
        ClaimsPrincipal user,
        OutboundConnections outbound,
        WebhookSecrets secrets,
        GoldenRuleDb db,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        if (await db.Webhooks.AnyAsync(w => w.Id == request.Id, cancel))
        {
            throw ProblemException.Invalid("It was added already. Its secret was shown then; roll it if nobody has it.");
        }

        if (await db.Webhooks.CountAsync(w => w.RetiredAt == null, cancel) >= MostHooks)
        {
            throw ProblemException.Invalid($"There are at most {MostHooks} webhooks. Retire one that nobody listens to.");
        }

        var secret = WebhookSecret.Make();
        var hook = new StoredWebhook
        {
            Id = request.Id,
            Name = PlanName.Read(request.Name, "webhook"),
            Address = outbound.ReadAddress(request.Address, "address").AbsoluteUri,
            Kinds = Known(request.Kinds),
            Secret = secrets.Seal(secret),
        };
        db.Webhooks.Add(hook);
        db.Record(clock, LogKind.WebhookSet, user.Person().Id, hook.Name, null, Entry(hook));
        await db.SaveChangesAsync(cancel);
        return new(Shown(hook), secret);
    }

    private static async Task<WebhookList> SetAsync(
        Guid id,
        WebhookRequest request,
        ClaimsPrincipal user,
        OutboundConnections outbound,
        GoldenRuleDb db,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        await using var turn = await db.Database.BeginTransactionAsync(cancel);
        var hook = await FindToChangeAsync(id, db, cancel);
        SetVersion.Require(request.Version, VersionOf(hook), "webhook", hook.Name, hook.Address);
        var before = Entry(hook);
        hook.Name = PlanName.Read(request.Name, "webhook");
        hook.Address = outbound.ReadAddress(request.Address, "address").AbsoluteUri;
        hook.Kinds = Known(request.Kinds);
        db.Record(clock, LogKind.WebhookSet, user.Person().Id, hook.Name, before, Entry(hook));
        await db.SaveChangesAsync(cancel);
        await turn.CommitAsync(CancellationToken.None);
        return await ListAsync(user, db, cancel);
    }

    private static async Task<WebhookList> RetireAsync(
        Guid id,
        ClaimsPrincipal user,
        GoldenRuleDb db,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var hook = await FindAsync(id, db, cancel);
        hook.RetiredAt = clock.GetUtcNow().UtcDateTime;
        db.Record(clock, LogKind.WebhookRetired, user.Person().Id, hook.Name, Entry(hook));
        await db.SaveChangesAsync(cancel);
        return await ListAsync(user, db, cancel);
    }

    /// <summary>A new secret. The one before signs beside it for a day, so that nothing is missed.</summary>
    private static async Task<WebhookMade> RollAsync(
        Guid id,
        ClaimsPrincipal user,
        WebhookSecrets secrets,
        GoldenRuleDb db,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var hook = await FindAsync(id, db, cancel);
        var secret = WebhookSecret.Make();
        (hook.FormerSecret, hook.FormerUntil) = (hook.Secret, clock.GetUtcNow().UtcDateTime + WebhookSecrets.FormerSigns);
        hook.Secret = secrets.Seal(secret);
        db.Record(clock, LogKind.WebhookSecretRolled, user.Person().Id, hook.Name);
        await db.SaveChangesAsync(cancel);
        return new(Shown(hook), secret);
    }

    private static async Task<ImmutableArray<DeliveryEntry>> TryAsync(
        Guid id,
        GoldenRuleDb db,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var hook = await FindAsync(id, db, cancel);
        db.Deliveries.Add(WebhookEvents.Make(hook.Id, "test", new { Words = "Golden Rule tries this address." }, clock.GetUtcNow()));
        await db.SaveChangesAsync(cancel);
        return await DeliveriesAsync(id, db, cancel);
    }

    private static async Task<ImmutableArray<DeliveryEntry>> DeliveriesAsync(Guid id, GoldenRuleDb db, CancellationToken cancel) =>
        [
            .. await db
                .Deliveries.AsNoTracking()
                .Where(d => d.WebhookId == id)
                .OrderByDescending(d => d.At)
                .ThenByDescending(d => d.Id)
                .Take(MostTold)
                .Select(d => new DeliveryEntry(d.Id, d.Kind, d.At, d.State, d.Tries, d.NextTry, d.Answer, d.Body))
                .ToListAsync(cancel),
        ];

    private static async Task<ImmutableArray<DeliveryEntry>> AgainAsync(
        Guid id,
        Guid delivery,
        GoldenRuleDb db,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetUtcNow().UtcDateTime;
        var again = await db
            .Deliveries.Where(d => d.Id == delivery && d.WebhookId == id)
            .ExecuteUpdateAsync(
                d => d.SetProperty(x => x.State, DeliveryState.Waiting).SetProperty(x => x.Tries, 0).SetProperty(x => x.NextTry, now),
                cancel
            );
        return again == 1 ? await DeliveriesAsync(id, db, cancel) : throw ProblemException.NotFound("It was told no such thing.");
    }

    private static string[] Known(ImmutableArray<string> kinds)
    {
        if (kinds.FirstOrDefault(kind => WebhookEvents.All.All(k => k.Kind != kind)) is { } unknown)
        {
            throw ProblemException.Invalid($"Nothing is called \"{unknown}\".", "kinds");
        }

        return kinds.IsEmpty
            ? throw ProblemException.Invalid("Choose what it is told of.", "kinds")
            : [.. kinds.Distinct(StringComparer.Ordinal)];
    }

    /// <summary>As the log has it.</summary>
    private static WebhookEntry Entry(StoredWebhook hook) => new(hook.Id, hook.Name, hook.Address, [.. hook.Kinds], hook.FormerUntil, "");

    private static WebhookEntry Shown(StoredWebhook hook) => Entry(hook) with { Version = VersionOf(hook) };

    private static async Task<StoredWebhook> FindAsync(Guid id, GoldenRuleDb db, CancellationToken cancel) =>
        await db.Webhooks.FirstOrDefaultAsync(w => w.Id == id && w.RetiredAt == null, cancel)
        ?? throw ProblemException.NotFound("There is no such webhook.");

    /// <summary>The same, and nobody else changes it until the transaction ends.</summary>
    private static async Task<StoredWebhook> FindToChangeAsync(Guid id, GoldenRuleDb db, CancellationToken cancel) =>
        await db.Webhooks.FromSql($"select * from webhooks where id = {id} and retired_at is null for update").FirstOrDefaultAsync(cancel)
        ?? throw ProblemException.NotFound("There is no such webhook.");

    private static string VersionOf(StoredWebhook of) => SetVersion.Of(of.Name, of.Address, of.Kinds);
}
