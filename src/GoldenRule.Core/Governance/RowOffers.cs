using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Governance;

/// <summary>
/// Which saved rows a place takes: the newest release of what is neither retired nor private, for the template's campaign
/// type, where the zone takes it. What is offered and what is accepted is this one rule.
/// </summary>
public static class RowOffers
{
    /// <param name="zone">Null: the running order of a template itself.</param>
    public static IEnumerable<(Guid Id, int Release, SavedRow Row)> ForPlace(OpenDocument.OfRows document, Zone? zone) =>
        document.Masters.Offered.Where(o => WhyNot(document, zone, o.Id, o.Release) is null);

    /// <summary>Why a release is not put there. Null: it may be.</summary>
    public static Decision.Refused? WhyNot(OpenDocument.OfRows document, Zone? zone, Guid id, int? release)
    {
        if (document.Masters.Newest(id) is not var (newest, row))
        {
            return Refusals.Refuse(Rules.Unknown, zone?.Id, "There is no such row in the library.");
        }

        if (document.Masters.IsWithheld(id))
        {
            return Refusals.Refuse(
                Rules.Library,
                zone?.Id,
                $"\"{row.Name}\" is retired or private and is not put into anything new. A lead or its owner can "
                    + "change that, in the library."
            );
        }

        if (release != newest)
        {
            return Refusals.Refuse(
                Rules.Library,
                zone?.Id,
                $"\"{row.Name}\" has a newer release {newest}; that one is put in, not release {release}."
            );
        }

        var campaignType = document.Order.Template.CampaignType;
        if (
            !row.CampaignTypes.IsEmpty
            && !row.CampaignTypes.Any(t => document.Masters.CampaignTypes.Same(t, campaignType))
            && zone?.Rows.Contains(id) != true
        )
        {
            return Refusals.Refuse(Rules.Library, zone?.Id, $"\"{row.Name}\" is for other campaign types.");
        }

        return zone is null || zone.Takes(id, row.RowKind, document.Masters.RowKinds)
            ? null
            : Refusals.Refuse(Rules.ZoneAccepts, zone.Id, $"\"{Refusals.Name(zone)}\" does not take \"{row.Name}\".");
    }
}
