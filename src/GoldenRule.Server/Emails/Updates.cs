using System.Collections.Immutable;
using System.Security.Claims;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Core.Governance;
using GoldenRule.Core.Resolving;
using GoldenRule.Core.Updates;
using GoldenRule.Data;
using GoldenRule.Server.Desks;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.People;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Emails;

/// <summary>A newer release of something an email is made from.</summary>
/// <param name="What">The template's or the row's name.</param>
/// <param name="Row">Where the row stands; null: it is the template.</param>
/// <param name="Notes">What was written at each release since.</param>
/// <param name="Required">It has to be taken before hand-off.</param>
public sealed record NewerRelease(string What, string? Row, int From, int To, ImmutableArray<string> Notes, bool Required);

/// <summary>What taking the update would mean.</summary>
/// <param name="Newer">None: there is nothing to take.</param>
/// <param name="Edit">What takes it; null with none.</param>
/// <param name="Aside">What would be set aside.</param>
/// <param name="Findings">Messages that would come, and that would go, with it.</param>
public sealed record UpdateAnswer(
    ImmutableArray<NewerRelease> Newer,
    Edit? Edit,
    ImmutableArray<DeskAside> Aside,
    ImmutableArray<string> Come,
    ImmutableArray<string> Gone,
    Allowance Allowed
);

/// <summary>Newer releases of the template and of rows in zones: shown before they are taken.</summary>
public static class Updates
{
    public static void MapUpdates(this RouteGroupBuilder emails)
    {
        emails.MapGet("/{id:guid}/update", LookAsync).WithName("getUpdate");
        emails.MapGet("/{id:guid}/update/html", HtmlAsync).Produces<string>(200, "text/html").WithName("getUpdateHtml");
    }

    /// <summary>Whether something the email is made from has a newer release.</summary>
    public static bool Wait(Email email, LibrarySnapshot library) =>
        library.Releases.Newest.GetValueOrDefault(email.Template)?.Number > email.TemplateRelease || Behind(email, library).Any();

    /// <summary>Whether one of them has to be taken before the email goes anywhere.</summary>
    public static bool MustTake(Email email, LibrarySnapshot library) =>
        library.Releases.Required.GetValueOrDefault(email.Template) > email.TemplateRelease
        || Behind(email, library).Any(r => library.Releases.Required.GetValueOrDefault(r.Master!.Value) > r.Release);

    /// <summary>The edit that brings an email to the newest releases. Null: it stands on them.</summary>
    public static TakeUpdate? ToNewest(Email email, LibrarySnapshot library) =>
        !Wait(email, library)
            ? null
            : Rebase.Plan(
                email,
                library.Releases.Newest.GetValueOrDefault(email.Template)?.Number ?? email.TemplateRelease,
                Behind(email, library)
                    .ToImmutableSortedDictionary(r => r.Id, r => library.Releases.Newest[r.Master!.Value].Number, StringComparer.Ordinal),
                library.Masters,
                library.Pictures
            );

    private static IEnumerable<PlacedRow> Behind(Email email, LibrarySnapshot library) =>
        email
            .Zones.Values.SelectMany(z => z)
            .Where(r =>
                r is { Own: null, Master: { } master, Release: { } release }
                && library.Releases.Newest.GetValueOrDefault(master)?.Number > release
            );

    private static async Task<UpdateAnswer> LookAsync(
        Guid id,
        ClaimsPrincipal user,
        DocumentAccess access,
        CompilationCache compilations,
        GoldenRuleDb db,
        CancellationToken cancel
    ) => await FindAsync(await access.LoadAsync(DocumentKind.Email, id, user.Person(), cancel), user.Person(), compilations, db, cancel);

    internal static async Task<UpdateAnswer> FindAsync(
        LoadedDocument loaded,
        Person person,
        CompilationCache compilations,
        GoldenRuleDb db,
        CancellationToken cancel
    )
    {
        var email = (Email)loaded.Document;
        if (ToNewest(email, loaded.Library) is not { } update)
        {
            return new UpdateAnswer([], null, [], [], [], Allowance.From(Decision.Yes));
        }

        var newer = ImmutableArray.CreateBuilder<NewerRelease>();
        var names = loaded.Layout.Order;
        if (update.Template > email.TemplateRelease)
        {
            newer.Add(Newer(names.Template.Name, null, email.Template, email.TemplateRelease, update.Template));
        }

        foreach (var (row, release) in update.Rows)
        {
            var placed = email.FindInZones(row)!.Value.Row;
            newer.Add(Newer(names.Find(row)!.Name, row, placed.Master!.Value, placed.Release!.Value, release));
        }

        var masters = newer.Select(MasterOf).ToList();
        var notes = await db
            .Releases.Where(r => masters.Contains(r.DocumentId))
            .OrderBy(r => r.Number)
            .Select(r => new
            {
                r.DocumentId,
                r.Number,
                r.Note,
            })
            .ToListAsync(cancel);
        var (now, then) = (
            compilations.Compile(loaded).Findings.Select(f => f.Message).ToHashSet(StringComparer.Ordinal),
            compilations.CompileOnce(loaded.With(update.Apply(email))).Findings.Select(f => f.Message).ToHashSet(StringComparer.Ordinal)
        );
        return new UpdateAnswer(
            [
                .. newer.Select(n =>
                    n with
                    {
                        Notes =
                        [
                            .. notes.Where(x => x.DocumentId == MasterOf(n) && x.Number > n.From && x.Number <= n.To).Select(x => x.Note),
                        ],
                    }
                ),
            ],
            update,
            DeskAside.List(update.Aside),
            [.. then.Except(now)],
            [.. now.Except(then)],
            Allowance.From(Governor.Decide(person, update, EditPipeline.Open(loaded)))
        );

        Guid MasterOf(NewerRelease n) => n.Row is { } row ? email.FindInZones(row)!.Value.Row.Master!.Value : email.Template;

        NewerRelease Newer(string what, string? row, Guid master, int from, int to) =>
            new(
                what,
                row,
                from,
                to,
                [],
                loaded.Library.Releases.Required.GetValueOrDefault(master) is var required && required > from && required <= to
            );
    }

    /// <summary>The email as it would be.</summary>
    private static async Task<IResult> HtmlAsync(
        Guid id,
        ClaimsPrincipal user,
        HttpContext http,
        DocumentAccess access,
        CancellationToken cancel
    )
    {
        var loaded = await access.LoadAsync(DocumentKind.Email, id, user.Person(), cancel);
        var email = (Email)loaded.Document;
        var updated = ToNewest(email, loaded.Library) is { } update ? (Email)update.Apply(email) : email;
        return MailHtml.Answer(http, Compiled(updated, loaded.Library));
    }

    internal static byte[] Compiled(Email email, LibrarySnapshot library)
    {
        var resolved = DocumentLayout.LayOut(email, library).Resolve(library);
        return Compiler.Compile(resolved, CompilationCache.PicturesAt, Purpose.Sending).Html();
    }
}
