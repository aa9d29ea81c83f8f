using System.Collections.Immutable;
using System.IO.Compression;
using System.Net.Http.Json;
using GoldenRule.Core.Audiences;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Server.Audiences;
using GoldenRule.Server.Desks;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Emails;

namespace GoldenRule.Server.Tests;

/// <summary>Audiences and conditions over the API: what is stored can always be asked, and what each reader sees.</summary>
public sealed class AudienceTests(Running server) : IClassFixture<Running>
{
    private static readonly Condition Members = new Condition.Audience("members");

    private static Condition Asks(string field, Comparison comparison, params string[] values) =>
        new Condition.Test(field, comparison, [.. values]);

    private static async Task<HttpResponseMessage> Say(HttpClient who, Edit edit) =>
        await who.PostAsJsonAsync(
            "/api/audiences/edits",
            new EditsRequest(
                (await who.GetFromJsonAsync<AudienceAnswer>("/api/audiences", DocumentJson.Options))!.Revision,
                [new SentEdit(Guid.CreateVersion7(), Guid.CreateVersion7(), edit)]
            ),
            DocumentJson.Options
        );

    private static async Task<HttpResponseMessage> Show(HttpClient who, Guid email, string piece, Condition? condition)
    {
        var desk = await Running.Desk(who, email);
        var row = desk.Rows.Single(r => r.Id == "hero");
        return await who.PostAsJsonAsync(
            $"/api/emails/{email}/edits",
            new EditsRequest(
                desk.Revision,
                [
                    new SentEdit(
                        Guid.CreateVersion7(),
                        Guid.CreateVersion7(),
                        new SetCondition("hero", piece.Length == 0 ? row.Piece : piece, condition)
                    ),
                ]
            ),
            DocumentJson.Options
        );
    }

    [Fact]
    public async Task What_is_shown_to_some_is_in_their_proof_and_in_nobody_elses()
    {
        var author = await server.As("imran");
        var email = await server.NewEmail(author);
        (await author.Edit(email.Id, 0, Asking.SetWords("hero", "headline", "Only for some"))).EnsureSuccessStatusCode();
        (await Show(author, email.Id, "headline", Asks("home", Comparison.OneOf, "the valley", "the hills"))).EnsureSuccessStatusCode();
        var desk = await Running.Desk(author, email.Id);
        var block = desk.Rows.Single(r => r.Id == "hero").Columns.SelectMany(c => c.Blocks).Single(b => b.Id == "headline");
        Assert.Equal("Where they live is the valley or the hills", block.Condition!.Readers);
        Assert.True(block.Condition.Here);
        foreach (var (home, sees) in new[] { ("the valley", true), ("elsewhere", false), ("", false) })
        {
            var values = Uri.EscapeDataString($$"""{"home":"{{home}}","member":"yes"}""");
            var view = (
                await author.GetFromJsonAsync<ReaderView>($"/api/emails/{email.Id}/draft/reader?values={values}", DocumentJson.Options)
            )!;
            Assert.Equal(sees, view.Text.Contains("Only for some", StringComparison.Ordinal));
            Assert.Equal(sees, view.Rows.Single(r => r.Id == "hero").Html.Contains("Only for some", StringComparison.Ordinal));
        }
    }

    [Theory]
    [InlineData("{")]
    [InlineData("[]")]
    [InlineData("null")]
    [InlineData("""{"home":null}""")]
    [InlineData("""{"home":1}""")]
    public async Task A_made_up_reader_that_is_none_is_refused(string values)
    {
        var author = await server.As("imran");
        var email = await server.NewEmail(author);
        var asked = await author.GetAsync($"/api/emails/{email.Id}/draft/reader?values={Uri.EscapeDataString(values)}");
        await asked.Problem(422, "invalid");
        // What no field holds is not known, as of any sample.
        var odd = Uri.EscapeDataString("""{"home":"the moon","shoe-size":"44"}""");
        (await author.GetAsync($"/api/emails/{email.Id}/draft/reader?values={odd}")).EnsureSuccessStatusCode();
    }

    [Fact]
    public async Task What_is_not_there_is_refused_and_what_is_used_does_not_go()
    {
        var (lead, author) = (await server.As("ruth"), await server.As("imran"));
        var email = await server.NewEmail(author);
        await (await Show(author, email.Id, "headline", new Condition.Audience("nobody-named"))).Problem(422, "invalid");
        await (await Show(author, email.Id, "headline", Asks("shoe-size", Comparison.Empty))).Problem(422, "invalid");
        Condition deep = Members;
        for (var i = 0; i < 3; i++)
        {
            deep = new Condition.Group(Matching.Any, [deep]);
        }

        await (await Show(author, email.Id, "headline", deep)).Problem(422, "invalid");
        var friends = new Audience("friends", "Friends", Asks("member", Comparison.Is, "yes"));
        await (await Say(author, new SetAudience(friends))).Problem(403, "refused");
        (await Say(lead, new SetAudience(friends))).EnsureSuccessStatusCode();
        (await Show(author, email.Id, "headline", new Condition.Audience("friends"))).EnsureSuccessStatusCode();
        var used = await (await Say(lead, new RemoveAudience("friends"))).Problem(422, "invalid");
        Assert.Contains("\"Friends\" is used", (string)used["detail"]!, StringComparison.Ordinal);
        var uses = await lead.GetStringAsync("/api/audiences/named/friends/uses");
        Assert.Contains(email.Id.ToString(), uses, StringComparison.Ordinal);
        // A field that an audience asks does not go either, nor a choice.
        var asked = await (await Say(lead, new RemoveMergeField("member"))).Problem(422, "invalid");
        Assert.Contains("There is no field \"member\"", (string)asked["detail"]!, StringComparison.Ordinal);
        var plan = (await lead.GetFromJsonAsync<AudienceAnswer>("/api/audiences", DocumentJson.Options))!;
        var home = plan.Fields.Single(f => f.Field.Key == "home").Field;
        var fewer = home with { Choices = ["the hills", "elsewhere"], Sample = "elsewhere" };
        await (await Say(lead, new SetMergeField(fewer))).Problem(422, "invalid");
        Assert.Equal(1, plan.Audiences.Single(a => a.Audience.Key == "friends").Places);
    }

    /// <summary>A choice that a condition in an email asks may go: the email says so and shows it to nobody until it is mended.</summary>
    [Fact]
    public async Task A_value_that_went_is_a_blocker_where_it_is_asked()
    {
        var (lead, author) = (await server.As("ruth"), await server.As("imran"));
        var email = await server.NewEmail(author);
        var coach = new MergeField
        {
            Key = "coach",
            Label = "Coach",
            Type = MergeFieldType.Choice,
            Choices = ["first", "third"],
        };
        (await Say(lead, new SetMergeField(coach))).EnsureSuccessStatusCode();
        (await Show(author, email.Id, "headline", Asks("coach", Comparison.Is, "third"))).EnsureSuccessStatusCode();
        Assert.DoesNotContain((await Running.Desk(author, email.Id)).Findings!.Now, f => f.Check == "condition");
        (await Say(lead, new SetMergeField(coach with { Choices = ["first"] }))).EnsureSuccessStatusCode();
        var found = (await Running.Desk(author, email.Id)).Findings!.Now.Single(f => f.Check == "condition");
        Assert.Contains("\"third\" is no value of \"Coach\"", found.Message, StringComparison.Ordinal);
        var mended = await author.PostAsJsonAsync(
            $"/api/emails/{email.Id}/edits",
            new EditsRequest(
                (await Running.Desk(author, email.Id)).Revision,
                [.. found.Remedy!.Edits.Select(e => new SentEdit(Guid.CreateVersion7(), Guid.CreateVersion7(), e))]
            ),
            DocumentJson.Options
        );
        mended.EnsureSuccessStatusCode();
        Assert.DoesNotContain((await Running.Desk(author, email.Id)).Findings!.Now, f => f.Check == "condition");
    }

    [Fact]
    public async Task A_profile_that_cannot_say_it_gives_the_place_or_one_email_for_each()
    {
        var author = await server.As("imran");
        var email = await server.NewEmail(author);
        (await Show(author, email.Id, "", Asks("member", Comparison.Is, "yes"))).EnsureSuccessStatusCode();
        var hero = (await Running.Desk(author, email.Id)).Rows.Single(r => r.Id == "hero").Name;
        foreach (var file in new[] { "html", "text", "bundle" })
        {
            var refused = await (await author.GetAsync($"/api/emails/{email.Id}/{file}?profile=parish")).Problem(422, "invalid");
            Assert.StartsWith($"{hero}: It is shown to Is a member is yes", (string)refused["detail"]!, StringComparison.Ordinal);
        }

        await (await author.GetAsync($"/api/emails/{email.Id}/html?profile=none")).Problem(422, "invalid");
        var fields = (
            await author.GetFromJsonAsync<PlatformFields>($"/api/emails/{email.Id}/fields?profile=parish", DocumentJson.Options)
        )!;
        Assert.Equal(2, fields.Combinations);
        Assert.NotEmpty(fields.Faults);
        using var zip = new ZipArchive(
            await author.GetStreamAsync($"/api/emails/{email.Id}/bundle?profile=parish&combinations=true"),
            ZipArchiveMode.Read
        );
        var names = zip.Entries.Select(e => e.FullName).ToImmutableArray();
        Assert.Equal(2, names.Count(n => n.EndsWith(".html", StringComparison.Ordinal)));
        Assert.Contains("readers.json", names);
        using var usual = new ZipArchive(await author.GetStreamAsync($"/api/emails/{email.Id}/bundle"), ZipArchiveMode.Read);
        Assert.Contains("conditions.csv", usual.Entries.Select(e => e.FullName));
    }
}
