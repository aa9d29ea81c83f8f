using System.Collections.Immutable;
using GoldenRule.Core.Audiences;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Governance;

/// <summary>A document together with what must be known to decide about edits of it.</summary>
public abstract record OpenDocument
{
    private OpenDocument() { }

    /// <summary>Whose campaign types are whose.</summary>
    public TeamPlan Teams { get; init; } = TeamPlan.None;

    /// <summary>Keys of the campaign types it belongs to; none: to all, or to none in particular.</summary>
    public ImmutableArray<string> CampaignTypes { get; init; } = [];

    /// <summary>The person with the roles that hold for this document.</summary>
    public Person As(Person person) => Teams.For(person, CampaignTypes);

    /// <summary>A document made of rows: what is decided about these is decided alike in all three.</summary>
    public abstract record OfRows(Document Document, RunningOrder Order, ReleaseCatalog Masters) : OpenDocument;

    public sealed record OfEmail(Email Email, RunningOrder Order, ReleaseCatalog Masters, EmailState State) : OfRows(Email, Order, Masters);

    /// <summary>The draft that the next release is made from.</summary>
    public sealed record OfTemplate(Template Template, RunningOrder Order, ReleaseCatalog Masters) : OfRows(Template, Order, Masters);

    /// <summary>The draft that the next release is made from.</summary>
    public sealed record OfSavedRow(SavedRow Row, RunningOrder Order, ReleaseCatalog Masters) : OfRows(Row, Order, Masters);

    /// <summary>The draft that the next release is made from.</summary>
    public sealed record OfHouseStyle(HouseStyle Style) : OpenDocument;

    /// <summary>What it says holds at once: it has no draft.</summary>
    public sealed record OfSnippet(Snippet Snippet) : OpenDocument;

    public sealed record OfAudiences(AudiencePlan Plan) : OpenDocument;

    /// <param name="order">The document's running order, where it is known already.</param>
    /// <param name="teams">Null: there are none.</param>
    public static OpenDocument Open(
        Document document,
        ReleaseCatalog masters,
        EmailState state,
        RunningOrder? order = null,
        TeamPlan? teams = null
    )
    {
        OpenDocument open = document switch
        {
            Email email => new OfEmail(email, order ?? RunningOrder.From(email, masters), masters, state),
            Template template => new OfTemplate(template, order ?? RunningOrder.From(template, masters), masters),
            SavedRow row => new OfSavedRow(row, order ?? RunningOrder.From(row, Guid.Empty), masters),
            HouseStyle style => new OfHouseStyle(style),
            Snippet snippet => new OfSnippet(snippet),
            AudiencePlan plan => new OfAudiences(plan),
            _ => throw new InvalidOperationException("Unknown document."),
        };
        return open with { Teams = teams ?? TeamPlan.None, CampaignTypes = TypesOf(document, open) };
    }

    private static ImmutableArray<string> TypesOf(Document document, OpenDocument open) =>
        document switch
        {
            Email => [((OfEmail)open).Order.Template.CampaignType],
            Template template => [template.CampaignType],
            SavedRow row => row.CampaignTypes,
            Snippet snippet => snippet.CampaignTypes,
            _ => [],
        };
}
