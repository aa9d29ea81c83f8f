using System.Net;
using System.Net.Http.Json;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Core.HouseStyles;
using GoldenRule.Core.Reviews;
using GoldenRule.Data;
using GoldenRule.Server.Editing;
using GoldenRule.Server.HouseStyles;
using GoldenRule.Server.Reviews;
using Microsoft.Extensions.DependencyInjection;

namespace GoldenRule.Server.Tests;

/// <summary>Asking for approval, deciding, and what happens when two do so at once or the library moves meanwhile; over the API.</summary>
public sealed class ReviewTests(Running server) : IClassFixture<Running>
{
    private static async Task<ReviewAnswer> Look(HttpClient client, Guid id) =>
        (await client.GetFromJsonAsync<ReviewAnswer>($"/api/emails/{id}/review", DocumentJson.Options))!;

    private static Task<HttpResponseMessage> Decide(
        HttpClient client,
        Guid id,
        string hash,
        string verdict = "approve",
        string reason = ""
    ) =>
        client.PostAsJsonAsync(
            $"/api/emails/{id}/review/decisions",
            new
            {
                verdict,
                hash,
                reason,
            }
        );

    private static Task<HttpResponseMessage> Ask(HttpClient client, Guid id, Guid? round = null) =>
        client.PostAsJsonAsync($"/api/emails/{id}/review/rounds", new { id = round ?? Guid.CreateVersion7() });

    private static Task<HttpResponseMessage> Rename(HttpClient client, Guid id, long revision, string subject) =>
        client.PostAsJsonAsync(
            $"/api/emails/{id}/edits",
            new EditsRequest(revision, [new SentEdit(Guid.CreateVersion7(), Guid.CreateVersion7(), new SetDetail("subject", subject))]),
            DocumentJson.Options
        );

    [Fact]
    public async Task Two_approve_it_and_an_edit_makes_it_a_draft_again()
    {
        var (author, legal, lead) = (await server.As("bea"), await server.As("jonas"), await server.As("ruth"));
        var id = await server.NewGala(author);
        await (await Decide(lead, id, "none")).Problem(409, "state");
        var round = Guid.CreateVersion7();
        (await Ask(author, id, round)).EnsureSuccessStatusCode();
        // Asked twice with one id, it is one round.
        (await Ask(author, id, round)).EnsureSuccessStatusCode();
        var asked = await Look(legal, id);
        Assert.Equal((EmailState.InReview, 1, "Legal"), (asked.State, asked.Rounds.Length, asked.DecidesAs));
        Assert.False((await Look(author, id)).Decide.Allowed);

        await (await Rename(author, id, asked.Revision, "Changed in review")).Problem(403, "refused");
        await (await Decide(author, id, asked.Hash)).Problem(403, "refused");
        await (await Decide(legal, id, asked.Hash, "ask-for-changes")).Problem(422, "invalid");
        Assert.Equal(EmailState.InReview, (await (await Decide(legal, id, asked.Hash)).Read<ReviewAnswer>()).State);
        await (await Decide(legal, id, asked.Hash)).Problem(409, "state");
        var approved = await (await Decide(lead, id, asked.Hash)).Read<ReviewAnswer>();
        Assert.Equal((EmailState.Approved, RoundState.Approved), (approved.State, approved.Rounds[0].State));

        (await Rename(author, id, approved.Revision, "Seven engines")).EnsureSuccessStatusCode();
        var after = await Look(author, id);
        Assert.Equal(EmailState.Draft, after.State);
        var compared = (
            await author.GetFromJsonAsync<ReviewComparison>($"/api/emails/{id}/review/comparison?against=approval", DocumentJson.Options)
        )!;
        var change = Assert.Single(compared.Changes, c => c.Kind == SeenChangeKind.Words);
        Assert.Equal(("Subject", false), (change.Name, change.ByItself));
        Assert.Contains(change.Marks, m => m is { Mark: WordMark.Added, Text: "Seven" });
    }

    [Fact]
    public async Task What_is_still_to_fill_stops_the_asking()
    {
        var author = await server.As("imran");
        var desk = await server.NewEmail(author);
        var refused = await (await Ask(author, desk.Id)).Problem(409, "state");
        Assert.Contains("must be", (string?)refused["detail"], StringComparison.Ordinal);
        Assert.False((await Look(author, desk.Id)).Ask.Allowed);
    }

    [Fact]
    public async Task Of_two_who_decide_at_once_one_counts_and_nothing_is_half_done()
    {
        var (author, legal, lead) = (await server.As("bea"), await server.As("jonas"), await server.As("ruth"));
        for (var round = 0; round < 5; round++)
        {
            var id = await server.NewGala(author);
            (await Ask(author, id)).EnsureSuccessStatusCode();
            var hash = (await Look(legal, id)).Hash;
            var answers = await Task.WhenAll(Decide(legal, id, hash), Decide(lead, id, hash, "ask-for-changes", "The price"));
            var after = await Look(lead, id);
            // Whoever came first, changes are asked for; an approval after that is refused, one before it stands.
            Assert.Equal(EmailState.Draft, after.State);
            Assert.Equal(HttpStatusCode.OK, answers[1].StatusCode);
            Assert.Equal(answers[0].StatusCode == HttpStatusCode.OK ? 2 : 1, after.Rounds[0].Approvals.Count(a => a.Verdict is not null));
        }
    }

    [Fact]
    public async Task An_approval_and_an_edit_at_once_leave_a_draft_or_an_approval_and_never_both()
    {
        var (author, legal, lead) = (await server.As("imran"), await server.As("jonas"), await server.As("ruth"));
        var id = await server.NewGala(author);
        (await Ask(author, id)).EnsureSuccessStatusCode();
        var asked = await Look(lead, id);
        (await Decide(legal, id, asked.Hash)).EnsureSuccessStatusCode();
        var answers = await Task.WhenAll(Decide(lead, id, asked.Hash), Rename(author, id, asked.Revision, "At the same time"));
        var after = await Look(lead, id);
        Assert.Equal(HttpStatusCode.OK, answers[0].StatusCode);
        Assert.Equal(answers[1].IsSuccessStatusCode ? EmailState.Draft : EmailState.Approved, after.State);
    }

    [Fact]
    public async Task A_house_style_that_changes_overtakes_the_approval_and_asks_again()
    {
        var (author, legal, lead) = (await server.As("bea"), await server.As("jonas"), await server.As("ruth"));
        var id = await server.NewGala(author);
        (await Ask(author, id)).EnsureSuccessStatusCode();
        var asked = await Look(legal, id);
        (await Decide(legal, id, asked.Hash)).EnsureSuccessStatusCode();
        await Restyle(lead);
        // What the lead has looked at is not what there is now.
        await (await Decide(lead, id, asked.Hash)).Problem(409, "seen-changed");
        var now = await Look(lead, id);
        Assert.NotEqual(asked.Hash, now.Hash);
        Assert.False(now.Rounds[0].Approvals.Single(a => a.Name == "Legal").Holds);
        (await Decide(lead, id, now.Hash)).EnsureSuccessStatusCode();
        Assert.Equal(EmailState.InReview, (await Look(lead, id)).State);
        Assert.Equal(EmailState.Approved, (await (await Decide(legal, id, now.Hash)).Read<ReviewAnswer>()).State);

        await Restyle(lead);
        using (var scope = server.Services.CreateScope())
        {
            await OvertakenApprovals.LookAsync(scope.ServiceProvider, default);
        }

        var overtaken = await Look(legal, id);
        Assert.Equal(EmailState.InReview, overtaken.State);
        Assert.Equal((RoundState.Open, true), (overtaken.Rounds[0].State, overtaken.Rounds[0].ByItself));
        Assert.Equal(RoundState.Overtaken, overtaken.Rounds[1].State);
        var compared = (
            await legal.GetFromJsonAsync<ReviewComparison>($"/api/emails/{id}/review/comparison?against=approval", DocumentJson.Options)
        )!;
        Assert.NotEmpty(compared.Changes);
        Assert.All(compared.Changes, c => Assert.True(c.ByItself, c.Name));
    }

    private static async Task Restyle(HttpClient lead)
    {
        var house = await Running.House(lead);
        var colour = house.Variables.First(v => v.Variable.Key == "buffer-red").Variable;
        (
            await lead.PostAsJsonAsync(
                $"/api/house-styles/{house.Id}/edits",
                new
                {
                    @base = 1_000_000,
                    edits = new[]
                    {
                        new
                        {
                            id = Guid.CreateVersion7(),
                            step = Guid.CreateVersion7(),
                            edit = new SetVariable(colour with { Value = colour.Value == "#701010" ? "#7a1f12" : "#701010" }) as Edit,
                        },
                    },
                },
                DocumentJson.Options
            )
        ).EnsureSuccessStatusCode();
        (await lead.PostAsJsonAsync($"/api/house-styles/{house.Id}/releases", new { note = "A little darker" })).EnsureSuccessStatusCode();
    }

    [Fact]
    public async Task A_decision_and_what_was_seen_are_not_changed_even_past_the_server()
    {
        var (author, legal) = (await server.As("bea"), await server.As("jonas"));
        var id = await server.NewGala(author);
        (await Ask(author, id)).EnsureSuccessStatusCode();
        (await Decide(legal, id, (await Look(legal, id)).Hash, "ask-for-changes", "The price")).EnsureSuccessStatusCode();
        Assert.Throws<Npgsql.PostgresException>(() => server.Sql("update review_decisions set reason = 'otherwise'"));
        Assert.Throws<Npgsql.PostgresException>(() => server.Sql("delete from review_decisions"));
        Assert.Throws<Npgsql.PostgresException>(() => server.Sql("update seen_emails set body = '{}'"));
    }

    [Fact]
    public async Task A_comment_is_pinned_answered_resolved_and_follows_its_words()
    {
        var (author, legal) = (await server.As("bea"), await server.As("jonas"));
        var id = await server.NewGala(author);
        var subject = (await Running.Desk(author, id)).Head.Details.Subject;
        var words = subject.Split(' ')[0];
        var thread = Guid.CreateVersion7();
        var comment = new
        {
            id = thread,
            text = "Six, or five?",
            place = new
            {
                row = "",
                block = "",
                field = "subject",
                start = 0,
                length = words.Length,
            },
            mentions = new[] { server.Query(db => db.Users.Single(u => u.UserName == "bea@larkfell.example.org").Id) },
        };
        (await legal.PostAsJsonAsync($"/api/emails/{id}/comments", comment)).EnsureSuccessStatusCode();
        // Sent twice, it is one.
        var said = await (await legal.PostAsJsonAsync($"/api/emails/{id}/comments", comment)).Read<ThreadEntry[]>();
        Assert.Equal((words, "Subject", 1), (Assert.Single(said).Quote, said[0].PlaceName, said[0].Comments[0].Mentions.Length));

        var desk = await Running.Desk(author, id);
        (await Rename(author, id, desk.Revision, "Hurry: " + subject)).EnsureSuccessStatusCode();
        var followed = Assert.Single((await author.GetFromJsonAsync<ThreadEntry[]>($"/api/emails/{id}/comments", DocumentJson.Options))!);
        Assert.Equal(("Hurry: ".Length, words.Length, false), (followed.Place.Start, followed.Place.Length, followed.WordsGone));

        var answered = await (
            await author.PostAsJsonAsync(
                $"/api/emails/{id}/comments",
                new
                {
                    id = Guid.CreateVersion7(),
                    text = "Six.",
                    answers = thread,
                }
            )
        ).Read<ThreadEntry[]>();
        Assert.Equal(2, answered[0].Comments.Length);
        await (await author.DeleteAsync($"/api/emails/{id}/comments/{thread}")).Problem(403, "refused");
        await (await legal.DeleteAsync($"/api/emails/{id}/comments/{thread}")).Problem(422, "invalid");
        var resolved = await (
            await author.PutAsJsonAsync($"/api/emails/{id}/comments/{thread}/resolution", new { resolved = true })
        ).Read<ThreadEntry[]>();
        Assert.NotNull(resolved[0].ResolvedAt);
        await (
            await legal.PostAsJsonAsync(
                $"/api/emails/{id}/comments",
                new
                {
                    id = Guid.CreateVersion7(),
                    text = "On what?",
                    place = new { row = "no-such-row" },
                }
            )
        ).Problem(422, "invalid");
    }

    /// <summary>
    /// Who asks (A), takes back (T) and decides (D), by state; written down apart from the rule. Bea wrote it, of a team for all to read.
    /// </summary>
    private static readonly (string Person, string Draft, string InReview, string Approved)[] Table =
    [
        ("bea", "A", "T", ""),
        ("ruth", "A", "TD", ""),
        ("dana", "A", "T", ""),
        ("imran", "A", "T", ""),
        ("jonas", "", "D", ""),
        ("hanna", "A", "T", ""),
        ("theo", "A", "T", ""),
        ("wren", "", "", ""),
    ];

    [Fact]
    public async Task Who_may_do_what_in_which_state_is_as_the_table_says_for_people_of_all_and_of_one_team()
    {
        var people = new Dictionary<string, HttpClient>(StringComparer.Ordinal);
        foreach (var (person, _, _, _) in Table)
        {
            people[person] = await server.As(person);
        }

        var id = await server.NewGala(people["bea"]);
        await AsWritten(EmailState.Draft, row => row.Draft);
        (await Ask(people["bea"], id)).EnsureSuccessStatusCode();
        await AsWritten(EmailState.InReview, row => row.InReview);
        var hash = (await Look(people["ruth"], id)).Hash;
        (await Decide(people["jonas"], id, hash)).EnsureSuccessStatusCode();
        (await Decide(people["ruth"], id, hash)).EnsureSuccessStatusCode();
        await AsWritten(EmailState.Approved, row => row.Approved);
        server.Sql($"update documents set state = 'HandedOff' where id = '{id}'");
        await AsWritten(EmailState.HandedOff, _ => "");

        async Task AsWritten(EmailState state, Func<(string Person, string Draft, string InReview, string Approved), string> may)
        {
            foreach (var row in Table)
            {
                var (client, written) = (people[row.Person], may(row));
                var seen = await Look(client, id);
                Assert.Equal(state, seen.State);
                var offered = (seen.Ask.Allowed ? "A" : "") + (seen.TakeBack.Allowed ? "T" : "") + (seen.Decide.Allowed ? "D" : "");
                Assert.True(written == offered, $"{row.Person}, {state}: \"{offered}\" is offered, \"{written}\" is written");
                // What is not offered is refused too, and changes nothing.
                if (!written.Contains('A', StringComparison.Ordinal))
                {
                    AssertRefused(await Ask(client, id));
                }

                if (!written.Contains('T', StringComparison.Ordinal))
                {
                    AssertRefused(await client.DeleteAsync($"/api/emails/{id}/review/rounds/open"));
                }

                if (!written.Contains('D', StringComparison.Ordinal))
                {
                    AssertRefused(await Decide(client, id, seen.Hash));
                }
            }
        }

        static void AssertRefused(HttpResponseMessage answer) =>
            Assert.True(answer.StatusCode is HttpStatusCode.Forbidden or HttpStatusCode.Conflict, $"{answer.StatusCode}");
    }

    [Fact]
    public async Task A_reviewer_who_is_deactivated_while_deciding_has_decided_or_has_not()
    {
        var (author, legal, lead) = (await server.As("bea"), await server.As("jonas"), await server.As("ruth"));
        var jonas = server.Query(db => db.Users.Single(u => u.UserName == "jonas@larkfell.example.org").Id);
        var id = await server.NewGala(author);
        (await Ask(author, id)).EnsureSuccessStatusCode();
        var hash = (await Look(legal, id)).Hash;
        try
        {
            var answers = await Task.WhenAll(Decide(legal, id, hash), lead.PostAsJsonAsync($"/api/accounts/{jonas}/deactivation", new { }));
            answers[1].EnsureSuccessStatusCode();
            Assert.True(answers[0].StatusCode is HttpStatusCode.OK or HttpStatusCode.Unauthorized, $"{answers[0].StatusCode}");
            var after = await Look(lead, id);
            var approval = after.Rounds[0].Approvals.Single(a => a.Name == "Legal");
            Assert.Equal(answers[0].IsSuccessStatusCode, approval.Holds);
            Assert.Empty(approval.May);
            await (await Decide(legal, id, hash)).Problem(401, "sign-in");
            // What they had approved stands; where they had not, nobody is left, and the author takes it back.
            (await Decide(lead, id, hash)).EnsureSuccessStatusCode();
            Assert.Equal(answers[0].IsSuccessStatusCode ? EmailState.Approved : EmailState.InReview, (await Look(author, id)).State);
            var next = await server.NewGala(author);
            var refused = await (await Ask(author, next)).Problem(422, "invalid");
            Assert.Contains("Nobody is left who could give Legal", (string?)refused["detail"], StringComparison.Ordinal);
        }
        finally
        {
            (await lead.DeleteAsync($"/api/accounts/{jonas}/deactivation")).EnsureSuccessStatusCode();
        }
    }

    [Fact]
    public async Task A_comment_on_a_block_that_is_gone_stays_and_says_so()
    {
        var (author, legal) = (await server.As("bea"), await server.As("jonas"));
        var id = await server.NewGala(author);
        var desk = await Running.Desk(author, id);
        var row = desk.Rows.First(r => r.Zone is not null && r.Columns[0].Blocks.Length > 0);
        var thread = Guid.CreateVersion7();
        (
            await legal.PostAsJsonAsync(
                $"/api/emails/{id}/comments",
                new
                {
                    id = thread,
                    text = "Is this needed?",
                    place = new { row = row.Id, block = row.Columns[0].Blocks[0].Id },
                }
            )
        ).EnsureSuccessStatusCode();
        (await author.Edit(id, desk.Revision, new { kind = "remove-row", row = row.Id })).EnsureSuccessStatusCode();
        var said = Assert.Single((await legal.GetFromJsonAsync<ThreadEntry[]>($"/api/emails/{id}/comments", DocumentJson.Options))!);
        Assert.True(said.Gone);
        Assert.NotEmpty(said.PlaceName);
        (
            await author.PostAsJsonAsync(
                $"/api/emails/{id}/comments",
                new
                {
                    id = Guid.CreateVersion7(),
                    text = "No; I took it out.",
                    answers = thread,
                }
            )
        ).EnsureSuccessStatusCode();
    }

    [Fact]
    public async Task A_rule_that_nobody_could_keep_is_not_taken()
    {
        var lead = await server.As("ruth");
        async Task Refused(params object[] needs) =>
            await (await lead.PutAsJsonAsync("/api/campaign-types/shop-offer/review-rule", new { needs })).Problem(422, "invalid");
        await Refused(
            new
            {
                name = "Legal",
                roles = Array.Empty<string>(),
                people = Array.Empty<Guid>(),
            }
        );
        await Refused(
            new
            {
                name = "Legal",
                roles = Array.Empty<string>(),
                people = new[] { Guid.NewGuid() },
            }
        );
        await Refused(
            new
            {
                name = " ",
                roles = new[] { "lead" },
                people = Array.Empty<Guid>(),
            }
        );
    }
}
