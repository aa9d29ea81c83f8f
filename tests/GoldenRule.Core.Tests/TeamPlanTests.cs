using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Core.Governance;

namespace GoldenRule.Core.Tests;

/// <summary>Where a role holds that someone has in a team, and whose emails are there for whom.</summary>
public sealed class TeamPlanTests
{
    private static readonly Guid Events = new("00000000-0000-7000-8000-0000000000e1");
    private static readonly Guid Shop = new("00000000-0000-7000-8000-0000000000e2");
    private static readonly Guid Former = new("00000000-0000-7000-8000-0000000000e3");

    private static readonly TeamPlan Plan = new(
        [new Team(Events, "Events"), new Team(Shop, "Shop", ForOthers.Hidden), new Team(Former, "Outings", MergedInto: Events)],
        ImmutableDictionary.CreateRange([
            KeyValuePair.Create("special-train", ImmutableArray.Create(Events)),
            KeyValuePair.Create("shop-offer", ImmutableArray.Create(Shop)),
            KeyValuePair.Create("joint", ImmutableArray.Create(Events, Shop)),
            KeyValuePair.Create("gazette", ImmutableArray<Guid>.Empty),
        ])
    );

    private static Person Of(Guid team, params ImmutableArray<Role> roles) =>
        new(Guid.NewGuid(), "Hanna", []) { InTeams = [.. roles.Select(r => new TeamRole(team, r))] };

    private static readonly Person Everywhere = new(Guid.NewGuid(), "Imran", [Role.Author]);

    [Theory]
    [InlineData("special-train", true)]
    [InlineData("joint", true)]
    [InlineData("shop-offer", false)]
    [InlineData("gazette", false)]
    [InlineData("unknown", false)]
    public void A_role_in_a_team_holds_for_its_campaign_types_and_for_no_others(string type, bool holds)
    {
        Assert.Equal(holds, Plan.For(Of(Events, Role.Author), type).Is(Role.Author));
        Assert.True(Plan.For(Everywhere, type).Is(Role.Author));
        Assert.False(Plan.For(Of(Events, Role.Reviewer), type).Is(Role.Author));
    }

    [Fact]
    public void What_is_for_several_types_is_theirs_who_have_the_role_in_each_and_what_is_for_all_only_theirs_who_have_it_everywhere()
    {
        Assert.True(Plan.For(Of(Events, Role.Designer), "special-train", "joint").Is(Role.Designer));
        Assert.False(Plan.For(Of(Events, Role.Designer), "special-train", "shop-offer").Is(Role.Designer));
        Assert.False(Plan.For(Of(Events, Role.Designer)).Is(Role.Designer));
        var both = Of(Events, Role.Designer) with { InTeams = [new(Events, Role.Designer), new(Shop, Role.Author)] };
        Assert.Empty(Plan.For(both, "special-train", "shop-offer").Roles);
    }

    [Theory]
    [InlineData("special-train", true, true)]
    [InlineData("shop-offer", false, true)]
    [InlineData("joint", true, true)]
    [InlineData("gazette", true, true)]
    [InlineData(null, true, true)]
    public void Emails_of_a_team_that_hides_them_are_not_there_for_others(string? type, bool forEvents, bool forShop)
    {
        Assert.Equal(forEvents, Plan.Sees(Of(Events, Role.Author), type));
        Assert.Equal(forShop, Plan.Sees(Of(Shop, Role.Reviewer), type));
        Assert.True(Plan.Sees(Everywhere, type));
    }

    [Fact]
    public void Nobody_s_person_sees_what_nobody_hides()
    {
        var nobody = new Person(Guid.NewGuid(), "No roles", []);
        Assert.Equal(["joint", "shop-offer"], Plan.HiddenFrom(nobody).Order(StringComparer.Ordinal));
        Assert.Empty(Plan.HiddenFrom(Everywhere));
    }

    [Fact]
    public void Whoever_was_in_a_merged_team_is_in_the_one_that_took_its_place_and_reservations_go_on_meaning_them()
    {
        var former = Plan.For(Of(Former, Role.Author), "special-train");
        Assert.True(former.Is(Role.Author));
        var member = Plan.For(Of(Events, Role.Author), "special-train");
        Assert.True(EffectiveLocks.Admits(new Lock.Reserved { Teams = [Former] }, member));
        Assert.True(EffectiveLocks.Admits(new Lock.Reserved { Teams = [Events] }, former));
        Assert.False(EffectiveLocks.Admits(new Lock.Reserved { Teams = [Shop] }, member));
    }

    [Fact]
    public void A_circle_of_merged_teams_ends()
    {
        var circle = new TeamPlan([new Team(Events, "A", MergedInto: Shop), new Team(Shop, "B", MergedInto: Events)], Plan.OfTypes);
        Assert.Contains(circle.Standing(Events), (Guid[])[Events, Shop]);
    }

    [Fact]
    public void An_email_is_changed_by_the_authors_of_its_teams_and_whoever_is_refused_hears_whose_it_is()
    {
        var edit = new SetDetail("subject", "Steam");
        Assert.IsType<Decision.Allowed>(Governor.Decide(Of(Events, Role.Author), edit, Email("special-train")));
        Assert.IsType<Decision.Allowed>(Governor.Decide(Everywhere, edit, Email("special-train")));
        var refused = Assert.IsType<Decision.Refused>(Governor.Decide(Of(Shop, Role.Author), edit, Email("special-train")));
        Assert.Equal(Rules.Team, refused.Rule);
        Assert.Contains("Events", refused.Reason, StringComparison.Ordinal);
        Assert.Equal(
            Rules.Role,
            Assert.IsType<Decision.Refused>(Governor.Decide(Of(Events, Role.Reviewer), edit, Email("special-train"))).Rule
        );
        Assert.IsType<Decision.Refused>(Governor.DecideUndo(Of(Shop, Role.Author), edit, Email("special-train")));
    }

    [Fact]
    public void A_designer_of_a_team_gives_a_template_to_no_other_team_and_takes_none_from_it()
    {
        var designer = Of(Events, Role.Designer);
        Assert.IsType<Decision.Allowed>(Governor.Decide(designer, new SetCampaignTypes(["joint"]), Template("special-train")));
        Assert.IsType<Decision.Refused>(Governor.Decide(designer, new SetCampaignTypes(["shop-offer"]), Template("special-train")));
        Assert.IsType<Decision.Refused>(Governor.Decide(designer, new SetCampaignTypes(["special-train"]), Template("shop-offer")));
        Assert.IsType<Decision.Refused>(Governor.DecideUndo(designer, new SetCampaignTypes(["shop-offer"]), Template("special-train")));
    }

    [Fact]
    public void What_the_allowances_say_is_what_is_decided()
    {
        var open = (OpenDocument.OfRows)Email("special-train");
        foreach (var person in (Person[])[Of(Events, Role.Author), Of(Shop, Role.Author), Of(Events, Role.Reviewer), Everywhere])
        {
            foreach (var row in open.Order.Rows)
            {
                Assert.Equal(
                    Governor.Decide(person, new RemoveRow(row.Id), open) is Decision.Allowed,
                    Allowances.ForRow(person, open, row).Remove.Allowed
                );
            }
        }
    }

    [Fact]
    public void Two_reservations_leave_the_teams_that_both_name()
    {
        var both = new Lock.Reserved { Teams = [Events, Shop] };
        var met = Assert.IsType<Lock.Reserved>(Lock.Tightest(both, new Lock.Reserved { Teams = [Shop] }));
        Assert.Equal(Shop, Assert.Single(met.Teams));
        Assert.True(met.IsAsTightAs(both));
        Assert.False(both.IsAsTightAs(met));
        Assert.IsType<Lock.Sealed>(Lock.Tightest(met, new Lock.Reserved { Teams = [Events] }));
    }

    private static OpenDocument Email(string type) =>
        OpenDocument.Open(GovernedLibrary.Email, GovernedLibrary.Masters, EmailState.Draft, teams: Plan) with
        {
            CampaignTypes = [type],
        };

    private static OpenDocument Template(string type) =>
        OpenDocument.Open(
            new Template
            {
                Name = "T",
                CampaignType = type,
                HouseStyle = Guid.Empty,
            },
            GovernedLibrary.Masters,
            EmailState.Draft,
            teams: Plan
        );
}
