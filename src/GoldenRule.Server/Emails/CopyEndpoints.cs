using System.Collections.Immutable;
using System.Security.Claims;
using System.Text;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Governance;
using GoldenRule.Core.Interchange;
using GoldenRule.Data;
using GoldenRule.Server.Desks;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.People;

namespace GoldenRule.Server.Emails;

/// <summary>What was on the clipboard. Of the two, the markup is read where there is any.</summary>
public sealed record Pasted([property: Longest(1_000_000)] string? Html = null, [property: Longest(1_000_000)] string? Text = null);

/// <param name="Text">CSV or Markdown, as it was taken out.</param>
public sealed record ReturningDeck([property: Longest(1_000_000)] string Text);

/// <summary>The words of an email as a whole: out and in as a copy deck, pasted as a document, found and replaced.</summary>
public static class CopyEndpoints
{
    private const int LongestFind = 200;

    public static void MapCopy(this RouteGroupBuilder emails)
    {
        emails.MapGet("/{id:guid}/copy-deck", TakeAsync).Produces<string>(200, "text/csv").WithName("getCopyDeck");
        emails
            .MapPost(
                "/{id:guid}/copy-deck",
                (Guid id, ReturningDeck deck, ClaimsPrincipal user, DocumentAccess access, CancellationToken cancel) =>
                    PlanAsync(
                        id,
                        user,
                        access,
                        (open, person, library) =>
                        {
                            var style = library
                                .Styles.For(open.Order.Template.HouseStyle)
                                .ForTemplate(open.Order.Template.Name, open.Order.Template.Narrowed);
                            return CopyDeck.Read(
                                Bounded(deck.Text, "deck"),
                                new CopyPlaces(open, person),
                                key =>
                                    InlineNode.FromToken(key) is { } node
                                        ? library.InlineFor(((OpenDocument.OfEmail)open).Email).Knows(node)
                                        : style.Find(key) is not null,
                                cancel
                            );
                        },
                        cancel
                    )
            )
            .WithName("planCopyDeck")
            .RequireRateLimiting(RateLimits.Costly);
        emails
            .MapPost("/{id:guid}/copy", (Guid id, Pasted pasted, ClaimsPrincipal user, DocumentAccess access, CancellationToken cancel) =>
                PlanAsync(
                    id,
                    user,
                    access,
                    (open, person, _) =>
                        CopyLayout.Plan(Read(pasted, cancel), open, person, () => Guid.CreateVersion7().ToString(), cancel),
                    cancel
                )
            )
            .WithName("planCopy")
            .RequireRateLimiting(RateLimits.Costly);
        emails
            .MapPost(
                "/{id:guid}/replacements",
                (Guid id, Replacing replacing, ClaimsPrincipal user, DocumentAccess access, CancellationToken cancel) =>
                    PlanAsync(
                        id,
                        user,
                        access,
                        (open, person, _) =>
                            replacing.Find.Length <= LongestFind && replacing.With.Length <= LongestFind * 10
                                ? replacing.Plan(new CopyPlaces(open, person), cancel)
                                : throw ProblemException.Invalid($"What is looked for has at most {LongestFind} characters."),
                        cancel
                    )
            )
            .WithName("planReplacements")
            .RequireRateLimiting(RateLimits.Costly);
        emails
            .MapPost("/paste", (Pasted pasted, CancellationToken cancel) => PastedPart.ToText(Read(pasted, cancel)))
            .WithName("readPasted");
    }

    private static async Task<IResult> TakeAsync(
        Guid id,
        ClaimsPrincipal user,
        DocumentAccess access,
        CancellationToken cancel,
        bool markdown = false
    )
    {
        var loaded = await access.LoadAsync(DocumentKind.Email, id, user.Person(), cancel);
        var places = new CopyPlaces((OpenDocument.OfEmail)EditPipeline.Open(loaded), user.Person());
        // The mark at the beginning tells spreadsheets that it is UTF-8.
        return markdown
            ? Results.File(
                Encoding.UTF8.GetBytes(CopyDeck.Markdown(places, loaded.Document.Name)),
                CopyDeck.MarkdownType,
                loaded.Document.Name + ".md"
            )
            : Results.File(
                [.. Encoding.UTF8.Preamble, .. Encoding.UTF8.GetBytes(CopyDeck.Csv(places))],
                CopyDeck.CsvType,
                loaded.Document.Name + ".csv"
            );
    }

    private static async Task<CopyPlan> PlanAsync(
        Guid id,
        ClaimsPrincipal user,
        DocumentAccess access,
        Func<OpenDocument.OfEmail, Person, LibrarySnapshot, CopyPlan> plan,
        CancellationToken cancel
    )
    {
        var loaded = await access.LoadAsync(DocumentKind.Email, id, user.Person(), cancel);
        return plan((OpenDocument.OfEmail)EditPipeline.Open(loaded), user.Person(), loaded.Library);
    }

    private static ImmutableArray<PastedPart> Read(Pasted pasted, CancellationToken cancel) =>
        pasted switch
        {
            { Html.Length: > 0 } => PastedHtml.Read(Bounded(pasted.Html, "html"), cancel),
            { Text.Length: > 0 } => PastedText.Read(Bounded(pasted.Text, "text"), cancel),
            _ => [],
        };

    private static string Bounded(string text, string what) =>
        text.Length <= PastedPart.Most
            ? text
            : throw ProblemException.Invalid(
                $"That is {text.Length:N0} characters; up to {PastedPart.Most:N0} are read. Paste a part of it.",
                what
            );
}
