using System.Collections.Immutable;
using System.Security.Claims;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Governance;
using GoldenRule.Core.Sending;
using GoldenRule.Data;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Emails;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.Logs;
using GoldenRule.Server.People;
using GoldenRule.Server.Plan;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Destinations;

/// <summary>Naming destinations, and trying whether they work.</summary>
public static class DestinationEndpoints
{
    private const int LongestSecret = 4_000;

    public static void MapDestinations(this IEndpointRouteBuilder api)
    {
        var all = api.MapGroup("/destinations").WithTags("Destinations");
        all.MapGet("", ListAsync).WithName("listDestinations");
        all.MapPost("", (DestinationRequest request, Asking asking, CancellationToken cancel) => AddAsync(request, asking, cancel))
            .OnlyWhoSetsUp()
            .WithName("addDestination");
        all.MapPut("/{id:guid}", (Guid id, DestinationRequest request, Asking asking, CancellationToken cancel) =>
                SetAsync(id, request, asking, cancel)
            )
            .OnlyWhoSetsUp()
            .WithName("setDestination");
        all.MapDelete("/{id:guid}", RetireAsync).OnlyWhoSetsUp().WithName("retireDestination");
        all.MapPost("/{id:guid}/trial", TryAsync).OnlyWhoSetsUp().RequireRateLimiting(RateLimits.Costly).WithName("tryDestination");
        all.MapGet("/{id:guid}/lists", ListsAsync).RequireRateLimiting(RateLimits.Costly).WithName("listContactLists");
    }

    /// <summary>Who asks, and what everything here is made of.</summary>
    public sealed record Asking(ClaimsPrincipal User, GoldenRuleDb Db, DestinationKinds Kinds, LibraryCache Library, TimeProvider Clock)
    {
        public static ValueTask<Asking> BindAsync(HttpContext http)
        {
            var services = http.RequestServices;
            return ValueTask.FromResult(
                new Asking(
                    http.User,
                    services.GetRequiredService<GoldenRuleDb>(),
                    services.GetRequiredService<DestinationKinds>(),
                    services.GetRequiredService<LibraryCache>(),
                    services.GetRequiredService<TimeProvider>()
                )
            );
        }
    }

    private static async Task<DestinationList> ListAsync(Asking asking, CancellationToken cancel)
    {
        var stored = await asking.Db.Destinations.AsNoTracking().Where(d => d.RetiredAt == null).OrderBy(d => d.Name).ToListAsync(cancel);
        var plan = (await asking.Library.GetAsync(asking.Db, cancel)).Audiences;
        var may = SendingPermissions.MaySetUp(asking.User.Person());
        return new(
            [.. stored.Select(d => Entry(d, asking.Kinds, shown: may is Decision.Allowed))],
            [
                .. asking.Kinds.All.Select(k => new DestinationKindEntry(
                    k.Name,
                    k.Title,
                    k.Explained,
                    k.Pictures,
                    k.AddressExample,
                    k.NeedsAddress,
                    k.HasUser,
                    k.SecretName,
                    k.TakesPushes,
                    k.SendsInBatches,
                    k.HasLists
                )),
            ],
            ProfileChoice.List(plan),
            Allowance.From(may)
        );
    }

    /// <param name="shown">False: addresses and users are nobody's business.</param>
    internal static DestinationEntry Entry(StoredDestination of, DestinationKinds kinds, bool shown)
    {
        var kind = kinds.Get(of.Kind);
        return new(
            of.Id,
            of.Name,
            of.Kind,
            kind.Title,
            of.Profile,
            of.Pictures,
            shown ? of.Address : "",
            shown ? of.User : "",
            of.Secret.Length > 0,
            kind.TakesPushes,
            kind.SendsInBatches,
            kind.HasLists,
            of.TriedAt,
            of.Works,
            of.TriedAnswer,
            shown ? DestinationKinds.VersionOf(of) : ""
        );
    }

    /// <summary>As the log has it.</summary>
    private static DestinationEntry Told(StoredDestination of, DestinationKinds kinds) =>
        Entry(of, kinds, shown: true) with
        {
            Version = "",
        };

    private static async Task<DestinationList> AddAsync(DestinationRequest request, Asking asking, CancellationToken cancel) =>
        await asking.Db.Destinations.AnyAsync(d => d.Id == request.Id, cancel)
            ? await ListAsync(asking, cancel)
            : await StoreAsync(null, request, asking, cancel);

    private static async Task<DestinationList> SetAsync(Guid id, DestinationRequest request, Asking asking, CancellationToken cancel)
    {
        await using var turn = await asking.Db.Database.BeginTransactionAsync(cancel);
        var known = await DestinationKinds.FindToChangeAsync(id, asking.Db, cancel);
        if (known.Kind != request.Kind)
        {
            throw ProblemException.Invalid("What sort of destination it is stays as it is. Add another one.", "kind");
        }

        SetVersion.Require(request.Version, DestinationKinds.VersionOf(known), "destination", known.Name, known.Address);
        var answer = await StoreAsync(known, request, asking, cancel);
        await turn.CommitAsync(CancellationToken.None);
        return answer;
    }

    private static async Task<DestinationList> StoreAsync(
        StoredDestination? known,
        DestinationRequest request,
        Asking asking,
        CancellationToken cancel
    )
    {
        var (db, person, kind) = (asking.Db, asking.User.Person(), asking.Kinds.Get(request.Kind));
        var name = PlanName.Read(request.Name, "destination");
        if (await db.Destinations.AnyAsync(d => d.Name == name && d.Id != request.Id && d.RetiredAt == null, cancel))
        {
            throw ProblemException.Invalid($"A destination is called \"{name}\" already.", "name");
        }

        var plan = (await asking.Library.GetAsync(db, cancel)).Audiences;
        var pictures = request.Pictures ?? kind.Pictures[0];
        if (!kind.Pictures.Contains(pictures))
        {
            throw ProblemException.Invalid($"Pictures cannot go to a {kind.Title.ToLowerInvariant()} that way.", "pictures");
        }

        var address = kind.AddressExample.Length == 0 ? "" : request.Address.Trim();
        if (address.Length > 0 || kind.NeedsAddress)
        {
            kind.CheckAddress(address);
        }

        // Who points it elsewhere must know its secret: nobody has it said to an address of theirs.
        if (known is { Secret.Length: > 0 } && known.Address != address && request.Secret is null)
        {
            throw ProblemException.Invalid($"The address is another one. Type the {kind.SecretName.ToLowerInvariant()} again.", "secret");
        }

        var secret = kind.SecretName.Length == 0 ? "" : request.Secret?.Trim();
        if (secret?.Length > LongestSecret)
        {
            throw ProblemException.Invalid($"A secret has at most {LongestSecret:N0} characters.", "secret");
        }

        kind.CheckSecret(secret ?? (known is null ? "" : null));
        var before = known is null ? null : Told(known, asking.Kinds);
        var stored = known
            ?? new StoredDestination
            {
                Id = request.Id,
                Name = name,
                Kind = kind.Name,
                Profile = "",
                Pictures = pictures,
                Address = "",
                User = "",
                Secret = [],
            };
        (stored.Name, stored.Profile, stored.Pictures) = (name, EmailExport.Profile(plan, request.Profile).Key, pictures);
        (stored.Address, stored.User) = (address, kind.HasUser ? request.User.Trim() : "");
        stored.Secret = secret is null ? stored.Secret : asking.Kinds.Seal(secret);
        (stored.TriedAt, stored.Works, stored.TriedAnswer) = (null, false, "");
        if (known is null)
        {
            db.Destinations.Add(stored);
        }

        db.Record(asking.Clock, LogKind.DestinationSet, person.Id, name, before, Told(stored, asking.Kinds));
        await db.SaveChangesAsync(cancel);
        return await ListAsync(asking, cancel);
    }

    private static async Task<DestinationList> RetireAsync(Guid id, Asking asking, CancellationToken cancel)
    {
        var person = asking.User.Person();
        var known = await DestinationKinds.FindAsync(id, asking.Db, cancel);
        if (
            await asking.Db.Sends.AnyAsync(
                s => s.DestinationId == id && s.State != SendingState.Done && s.State != SendingState.Stopped,
                cancel
            )
        )
        {
            throw ProblemException.Invalid("Something is being sent through it. Stop that first, or wait until it is done.");
        }

        // What is retired is asked nothing any more, and its secret is not kept.
        (known.RetiredAt, known.Secret) = (asking.Clock.GetUtcNow().UtcDateTime, []);
        await asking
            .Db.Pushes.Where(p => p.DestinationId == id && p.NextTry != null)
            .ExecuteUpdateAsync(
                p =>
                    p.SetProperty(x => x.State, PushState.Stopped)
                        .SetProperty(x => x.NextTry, (DateTime?)null)
                        .SetProperty(x => x.Answer, "The destination was retired."),
                cancel
            );
        asking.Db.Record(asking.Clock, LogKind.DestinationRetired, person.Id, known.Name, Told(known, asking.Kinds));
        await asking.Db.SaveChangesAsync(cancel);
        return await ListAsync(asking, cancel);
    }

    private static async Task<DestinationList> TryAsync(Guid id, Asking asking, CancellationToken cancel)
    {
        var known = await DestinationKinds.FindAsync(id, asking.Db, cancel);
        try
        {
            known.TriedAnswer = await asking.Kinds.Get(known.Kind).TryAsync(asking.Kinds.Open(known), cancel);
            known.Works = true;
        }
        catch (DestinationException fault)
        {
            (known.TriedAnswer, known.Works) = (fault.Message, false);
        }

        known.TriedAt = asking.Clock.GetUtcNow().UtcDateTime;
        await asking.Db.SaveChangesAsync(cancel);
        return await ListAsync(asking, cancel);
    }

    private static async Task<ImmutableArray<ContactList>> ListsAsync(Guid id, Asking asking, CancellationToken cancel)
    {
        asking.User.Person().MustAuthor("sends emails");
        var known = await DestinationKinds.FindAsync(id, asking.Db, cancel);
        try
        {
            return await asking.Kinds.Get(known.Kind).ListsAsync(asking.Kinds.Open(known), cancel);
        }
        catch (DestinationException fault)
        {
            throw new ProblemException(502, "destination", "The destination did not answer", $"{known.Name}: {fault.Message}");
        }
    }
}
