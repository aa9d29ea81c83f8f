using System.Collections.Immutable;
using GoldenRule.Core.Checking;
using GoldenRule.Core.Checking.Checks;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Governance;

namespace GoldenRule.Core.Tests;

/// <summary>Row kinds and campaign types that the lead plans, and what merging them means for releases that never change.</summary>
public sealed class RowKindTests
{
    private static MergedKeys Into(params (string From, string To)[] merged) =>
        new(merged.ToImmutableDictionary(m => m.From, m => m.To, StringComparer.Ordinal));

    [Fact]
    public void A_merged_key_comes_to_the_last_heir_and_a_circle_ends()
    {
        var merged = Into(("a", "b"), ("b", "c"), ("x", "y"), ("y", "x"));
        Assert.Equal("c", merged.Current("a"));
        Assert.True(merged.Same("a", "b"));
        Assert.False(merged.Same("a", "d"));
        Assert.Equal(["a", "b", "c"], merged.AllOf("c").Order());
        Assert.Equal(["c", "d"], merged.Current(["a", "b", "d"]).AsEnumerable());
        Assert.Contains(merged.Current("x"), new[] { "x", "y" });
    }

    [Fact]
    public void A_zone_takes_what_was_merged_into_its_kind_and_what_its_kind_was_merged_into()
    {
        var zone = new Zone { Id = "z", Accepts = [RowKind.Hero] };
        var plan = new RowKindPlan([
            new("hero", "Hero", MergedInto: "lead-story"),
            new("opening", "Opening", MergedInto: "lead-story"),
            new("lead-story", "Lead story"),
            new("main", "Main"),
        ]);
        Assert.All(["hero", "opening", "lead-story"], kind => Assert.True(zone.Takes(null, kind, plan)));
        Assert.False(zone.Takes(null, "main", plan));
        Assert.False(zone.Takes(null, "opening", RowKindPlan.Usual));
        Assert.Equal("lead story", plan.Words("hero"));
        Assert.Equal(["lead-story", "main"], plan.Offered.Select(k => k.Key));
    }

    [Fact]
    public void What_is_offered_for_a_zone_follows_merged_kinds_and_campaign_types()
    {
        var email = GovernedLibrary.Email;
        var row = GovernedLibrary.Advert with { CampaignTypes = ["former"] };
        ReleaseCatalog Masters(RowKindPlan kinds, MergedKeys types) =>
            GovernedLibrary.Masters.With([KeyValuePair.Create((GovernedLibrary.AdvertId, 1), row)]).PlannedBy(kinds, types);
        Decision.Refused? Why(RowKindPlan kinds, MergedKeys types)
        {
            var masters = Masters(kinds, types);
            var open = (OpenDocument.OfRows)OpenDocument.Open(email, masters, EmailState.Draft);
            return RowOffers.WhyNot(open, open.Order.FindZone("free"), GovernedLibrary.AdvertId, 1);
        }

        RowKindPlan adverts = new([
            .. RowKindPlan.Usual.Kinds.Select(k => k.Key == RowKind.Advert ? k with { MergedInto = RowKind.Main } : k),
        ]);
        Assert.Equal(Rules.Library, Why(adverts, MergedKeys.None)?.Rule);
        Assert.Equal(Rules.ZoneAccepts, Why(RowKindPlan.Usual, Into(("former", "test")))?.Rule);
        Assert.Null(Why(adverts, Into(("former", "test"))));
    }

    [Theory]
    [InlineData(RowPurpose.Message, true)]
    [InlineData(RowPurpose.Ready, false)]
    [InlineData(RowPurpose.Frame, false)]
    public void Default_wording_is_found_in_what_is_written_anew_and_nowhere_else(RowPurpose purpose, bool found)
    {
        RowKindPlan plan = new([.. RowKindPlan.Usual.Kinds.Select(k => k with { Purpose = purpose })]);
        var findings = Larkfell.Check(Larkfell.Gazette, null, CheckContext.Usual with { RowKinds = plan });
        Assert.Equal(found, findings.Any(f => f.Check == new DefaultWordingCheck().Name));
    }
}
