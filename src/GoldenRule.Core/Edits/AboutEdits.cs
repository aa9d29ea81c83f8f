using System.Collections.Immutable;
using GoldenRule.Core.Audiences;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Edits;

/// <summary>Says what a saved row, a template or a snippet is for.</summary>
public sealed record SetDescription(string Text) : Edit
{
    public override string Target => "about/description";

    public override Document Apply(Document document) =>
        document switch
        {
            SavedRow row => row with { Description = Text },
            Template template => template with { Description = Text },
            Snippet snippet => snippet with { Description = Text },
            _ => throw new StructureException("Saved rows, templates and snippets have descriptions."),
        };

    public override Edit Invert(Document before) =>
        new SetDescription(
            before switch
            {
                SavedRow row => row.Description,
                Template template => template.Description,
                Snippet snippet => snippet.Description,
                _ => "",
            }
        );
}

/// <summary>The words that a saved row or a template is found by.</summary>
public sealed record SetTags(ImmutableArray<string> Tags) : Edit
{
    public override string Target => "about/tags";

    public override Document Apply(Document document) =>
        document switch
        {
            SavedRow row => row with { Tags = Tags },
            Template template => template with { Tags = Tags },
            _ => throw new StructureException("Saved rows and templates have tags."),
        };

    public override Edit Invert(Document before) =>
        new SetTags(
            before switch
            {
                SavedRow row => row.Tags,
                Template template => template.Tags,
                _ => [],
            }
        );
}

/// <summary>The campaign types that a saved row serves or that may use a snippet (none: all), or the one that a template is for.</summary>
/// <param name="Keys">Keys of campaign types.</param>
public sealed record SetCampaignTypes(ImmutableArray<string> Keys) : Edit
{
    public override string Target => "about/campaign-types";

    public override Document Apply(Document document) =>
        document switch
        {
            SavedRow row => row with { CampaignTypes = Keys },
            Template template => template with
            {
                CampaignType = Keys is [var one] ? one : throw new StructureException("A template is for one campaign type."),
            },
            Snippet snippet => snippet with { CampaignTypes = Keys },
            _ => throw new StructureException("Saved rows, templates and snippets serve campaign types."),
        };

    public override Edit Invert(Document before) =>
        new SetCampaignTypes(
            before switch
            {
                SavedRow row => row.CampaignTypes,
                Template template => [template.CampaignType],
                Snippet snippet => snippet.CampaignTypes,
                _ => [],
            }
        );
}

/// <summary>Says what sort of row a saved row is, or a row of its own in a template.</summary>
public sealed record SetRowKind(string RowKind, string? Row = null) : Edit
{
    public override string Target => $"{Row}/row-kind";

    public override Document Apply(Document document) =>
        RowAccess.Change(document, Row, placed =>
            placed.Own is { } own
                ? placed with
                {
                    Own = own with { RowKind = RowKind },
                }
                : throw new StructureException("The kind of a saved row is set in the saved row itself.", Row)
        );

    public override Edit Invert(Document before) =>
        this with
        {
            RowKind = RowAccess.Find(before, Row)?.Own?.RowKind
                ?? throw new StructureException("The kind of a saved row is set in the saved row itself.", Row),
        };
}

/// <summary>Says what a variant varies.</summary>
public sealed record SetVaries(string Text) : Edit
{
    public override string Target => "about/varies";

    public override Document Apply(Document document) => Expect<SavedRow>(document) with { Varies = Text };

    public override Edit Invert(Document before) => new SetVaries(Expect<SavedRow>(before).Varies);
}

/// <summary>Dresses a template in another house style.</summary>
public sealed record SetHouseStyle(Guid HouseStyle) : Edit
{
    public override string Target => "about/house-style";

    public override Document Apply(Document document) => Expect<Template>(document) with { HouseStyle = HouseStyle };

    public override Edit Invert(Document before) => new SetHouseStyle(Expect<Template>(before).HouseStyle);
}
