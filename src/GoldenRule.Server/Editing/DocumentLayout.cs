using GoldenRule.Core.Audiences;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Resolving;
using GoldenRule.Server.Hosting;

namespace GoldenRule.Server.Editing;

/// <summary>A document of rows, laid out as the email it is or would begin as.</summary>
/// <param name="Email">For a template or saved row: what the inbox shows, and nothing else.</param>
public sealed record DocumentLayout(Email Email, RunningOrder Order)
{
    /// <param name="former">How it was laid out before its last edit: rows that stand are taken over.</param>
    public static DocumentLayout LayOut(Document document, LibrarySnapshot library, RunningOrder? former = null) =>
        document switch
        {
            Email email => new DocumentLayout(email, RunningOrder.From(email, library.Masters, former)),
            Template template => new DocumentLayout(AsEmail(template), RunningOrder.From(template, library.Masters, former)),
            SavedRow row => new DocumentLayout(AsEmail(row), RunningOrder.From(row, library.Styles.For(row))),
            _ => throw ProblemException.NotFound("A house style has no rows."),
        };

    /// <summary>What a colleague would begin with: an email started from the draft, or one with the row in its only zone.</summary>
    public static DocumentLayout AsStarted(Document document, LibrarySnapshot library)
    {
        switch (document)
        {
            case Template template:
                var next = 0;
                var email = Email.StartFrom(Guid.Empty, 0, template, template.Name, () => $"new-{next++}");
                return new DocumentLayout(email, RunningOrder.From(email, template, library.Masters));
            case SavedRow row:
                var zone = new Zone
                {
                    Id = "zone",
                    Name = "Any zone that takes it",
                    Most = 2,
                };
                var alone = new Template
                {
                    Name = row.Name,
                    CampaignType = row.CampaignTypes.FirstOrDefault(""),
                    HouseStyle = library.Styles.For(row),
                    Order = [zone],
                };
                var started = AsEmail(row) with { Zones = AsEmail(row).Zones.Add(zone.Id, [new PlacedRow { Id = row.Row.Id, Own = row }]) };
                return new DocumentLayout(started, RunningOrder.From(started, alone, library.Masters));
            default:
                throw ProblemException.NotFound("Emails are started from templates.");
        }
    }

    /// <summary>With every layer spoken.</summary>
    /// <param name="previous">The result before the last edit: rows that did not change are taken over from it.</param>
    /// <param name="inline">What snippets and fields come to. Null: what they do on the day it goes out.</param>
    public ResolvedEmail Resolve(
        LibrarySnapshot library,
        ResolvedEmail? previous = null,
        InlineValues? inline = null,
        CancellationToken cancel = default
    ) =>
        Resolver.Resolve(
            Email,
            Order,
            library.Styles.For(Order.Template.HouseStyle),
            library.Pictures,
            previous,
            inline ?? library.InlineFor(Email),
            cancel
        );

    public static Email AsEmail(Template template) =>
        new()
        {
            Name = template.Name,
            Template = Guid.Empty,
            TemplateRelease = 0,
            Details = template.Details,
        };

    public static Email AsEmail(SavedRow row) =>
        new()
        {
            Name = row.Name,
            Template = Guid.Empty,
            TemplateRelease = 0,
        };
}
