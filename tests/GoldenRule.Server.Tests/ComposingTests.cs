using System.Net;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json.Nodes;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Core.Interchange;
using GoldenRule.Data;
using GoldenRule.Server.Desks;
using GoldenRule.Server.Emails;
using GoldenRule.Server.Plan;
using GoldenRule.Server.Templates;

namespace GoldenRule.Server.Tests;

/// <summary>Starting, finding, filling, updating and going back, through the API.</summary>
public sealed class ComposingTests(Running server) : IClassFixture<Running>
{
    private static Task<T> Get<T>(HttpClient client, string path) => client.GetFromJsonAsync<T>(path, DocumentJson.Options)!;

    private static object Step(params Edit[] edits)
    {
        var step = Guid.CreateVersion7();
        return edits.Select(edit => new
        {
            id = Guid.CreateVersion7(),
            step,
            edit,
        });
    }

    private static async Task<DeskAnswer> Send(HttpClient client, Guid email, params Edit[] edits) =>
        await (
            await client.PostAsJsonAsync(
                $"/api/emails/{email}/edits",
                new { @base = (await Running.Desk(client, email)).Revision, edits = Step(edits) },
                DocumentJson.Options
            )
        ).Read<DeskAnswer>();

    private async Task<EmailEntry> Start(HttpClient client, object body) =>
        await (await client.PostAsJsonAsync("/api/emails", body)).Read<EmailEntry>();

    [Fact]
    public async Task An_email_is_found_by_the_words_inside_and_archived_by_whom_it_belongs_to()
    {
        var (imran, bea, lead, reviewer) = (
            await server.As("imran"),
            await server.As("bea"),
            await server.As("ruth"),
            await server.As("jonas")
        );
        var desk = await server.NewEmail(imran);
        Assert.Empty((await Get<EmailPage>(imran, "/api/emails?q=ptarmigan")).Emails);
        (
            await imran.Edit(desk.Id, 0, Asking.SetWords("hero", "headline", "A PTARMIGAN on the line, 100% sure_ly"))
        ).EnsureSuccessStatusCode();
        await server.WordsTakenIn();
        // By a word's beginning, its stem, and whatever stands around it.
        foreach (var q in (string[])["ptarmigan", "ptarmigans", "line ptarm", "100%25 sure_", "'ptarmigan\\"])
        {
            Assert.Equal(desk.Id, Assert.Single((await Get<EmailPage>(bea, $"/api/emails?q={q}")).Emails).Id);
        }

        Assert.Empty((await Get<EmailPage>(bea, "/api/emails?q=ptarmigan&mine=true")).Emails);
        Assert.Empty((await Get<EmailPage>(bea, "/api/emails?q=ptarmigan&campaignType=shop-offer")).Emails);
        Assert.Single((await Get<EmailPage>(bea, "/api/emails?q=ptarmigan&campaignType=special-train&state=draft")).Emails);
        await (await bea.GetAsync("/api/emails?state=nowhere")).Problem(400, "bad-request");

        foreach (var client in (HttpClient[])[bea, reviewer])
        {
            await (await client.PutAsJsonAsync($"/api/emails/{desk.Id}/status", new { archived = true })).Problem(403, "refused");
        }

        (await imran.PutAsJsonAsync($"/api/emails/{desk.Id}/status", new { archived = true })).EnsureSuccessStatusCode();
        Assert.Empty((await Get<EmailPage>(bea, "/api/emails?q=ptarmigan")).Emails);
        Assert.True(Assert.Single((await Get<EmailPage>(bea, "/api/emails?q=ptarmigan&archived=true")).Emails).Archived);
        (await lead.PutAsJsonAsync($"/api/emails/{desk.Id}/status", new { archived = false })).EnsureSuccessStatusCode();
        Assert.Single((await Get<EmailPage>(bea, "/api/emails?q=ptarmigan")).Emails);
    }

    [Fact]
    public async Task An_email_goes_on_from_one_before_it()
    {
        await server.WordsTakenIn();
        var (author, reviewer) = (await server.As("imran"), await server.As("jonas"));
        var march = server.EmailId("March");
        var entry = (await Get<EmailPage>(author, "/api/emails?q=viaduct reopens")).Emails.Single(e => e.Id == march);
        Assert.Equal("April: the viaduct reopens", entry.NextName);
        var id = Guid.CreateVersion7();
        var april = await Start(
            author,
            new
            {
                id,
                email = march,
                next = true,
                name = entry.NextName,
            }
        );
        Assert.Equal(
            id,
            (
                await Start(
                    author,
                    new
                    {
                        id,
                        email = march,
                        next = true,
                        name = "Asked twice",
                    }
                )
            ).Id
        );
        Assert.Equal("members-gazette", april.CampaignType);
        Assert.Contains((await Get<TemplatePage>(author, "/api/templates?recent=true")).Templates, t =>
            t.CampaignType == "members-gazette"
        );
        Assert.Empty((await Get<TemplatePage>(await server.As("jonas"), "/api/templates?recent=true")).Templates);
        var desk = await Running.Desk(author, id);
        var left = desk.Findings!.Now.Where(f => f.Check == "left-from-before").ToList();
        Assert.Contains(left, f => f.Place is { Row: "hero", Piece: "headline" });
        var after = await Send(
            author,
            id,
            [
                new SetFill("hero", "headline", "text", new FieldValue.Words("New words")),
                .. left.First(f => f.Place.Piece == "text").Remedy!.Edits,
            ]
        );
        Assert.Equal(left.Count - 2, (await Running.Desk(author, id)).Findings!.Now.Count(f => f.Check == "left-from-before"));
        Assert.Equal(id, after.Id);

        var copy = await Start(
            author,
            new
            {
                id = Guid.CreateVersion7(),
                email = march,
                name = "The same",
            }
        );
        Assert.DoesNotContain((await Running.Desk(author, copy.Id)).Findings!.Now, f => f.Check == "left-from-before");
        await (await author.PostAsJsonAsync("/api/emails", new { id = Guid.CreateVersion7(), name = "From nothing" })).Problem(
            422,
            "invalid"
        );
        await (
            await author.PostAsJsonAsync(
                "/api/emails",
                new
                {
                    id = Guid.CreateVersion7(),
                    email = Guid.NewGuid(),
                    name = "x",
                }
            )
        ).Problem(404, "not-found");
        await (
            await reviewer.PostAsJsonAsync(
                "/api/emails",
                new
                {
                    id = Guid.CreateVersion7(),
                    email = march,
                    name = "x",
                }
            )
        ).Problem(403, "refused");
    }

    [Fact]
    public async Task Words_go_out_as_a_deck_and_come_back_are_laid_out_and_replaced()
    {
        var author = await server.As("imran");
        var id = (
            await Start(
                author,
                new
                {
                    id = Guid.CreateVersion7(),
                    email = server.EmailId("March"),
                    name = "Words",
                }
            )
        ).Id;
        var deck = await author.GetByteArrayAsync($"/api/emails/{id}/copy-deck");
        // The byte order mark tells spreadsheets that it is UTF-8 (RFC 3629, 6).
        Assert.Equal([0xef, 0xbb, 0xbf], deck[..3]);
        var csv = Encoding
            .UTF8.GetString(deck)
            .Replace("Steam returns to the viaduct on Saturday", "Back on the viaduct", StringComparison.Ordinal);
        var plan = await (await author.PostAsJsonAsync($"/api/emails/{id}/copy-deck", new { text = csv })).Read<CopyPlan>();
        Assert.Single(plan.Changes, c => c.Fate == CopyFate.Changed);
        await Send(author, id, [.. plan.Edits]);
        Assert.Contains("Back on the viaduct", await author.GetStringAsync($"/api/emails/{id}/html"), StringComparison.Ordinal);
        await (await author.PostAsJsonAsync($"/api/emails/{id}/copy-deck", new { text = "nothing of the sort" })).Problem(422, "invalid");
        Assert.Contains(
            "key: hero/headline/text",
            await author.GetStringAsync($"/api/emails/{id}/copy-deck?markdown=true"),
            StringComparison.Ordinal
        );

        var layout = await (
            await author.PostAsJsonAsync($"/api/emails/{id}/copy", new { html = "<h1>One</h1><p>First.</p><h2>Two</h2><p>Second.</p>" })
        ).Read<CopyPlan>();
        await Send(author, id, [.. layout.Edits]);
        var replaced = await (
            await author.PostAsJsonAsync($"/api/emails/{id}/replacements", new { find = "Second.", with = "2nd" })
        ).Read<CopyPlan>();
        Assert.Equal("2nd", Assert.Single(replaced.Changes).New);
        await Send(author, id, [.. replaced.Edits]);
        Assert.Contains("2nd", await author.GetStringAsync($"/api/emails/{id}/text"), StringComparison.Ordinal);
        await (await author.PostAsJsonAsync($"/api/emails/{id}/replacements", new { find = new string('x', 201), with = "" })).Problem(
            422,
            "invalid"
        );
        await (await author.PostAsJsonAsync("/api/emails/paste", new { html = new string('x', PastedPart.Most + 1) })).Problem(
            422,
            "invalid"
        );
        var pasted = await (
            await author.PostAsJsonAsync("/api/emails/paste", new { html = "<p style='color:red'>Red <b>bold</b><script>x</script>" })
        ).Read<RichText>();
        Assert.Equal("Red bold", pasted.PlainText);
    }

    [Fact]
    public async Task Everything_is_told_looked_at_and_gone_back_to()
    {
        var (imran, bea) = (await server.As("imran"), await server.As("bea"));
        var desk = await server.NewEmail(imran);
        await Send(imran, desk.Id, new SetFill("hero", "headline", "text", new FieldValue.Words("First")));
        await Send(bea, desk.Id, new SetFill("hero", "headline", "text", new FieldValue.Words("Second")), new SetDetail("subject", "Also"));
        (await bea.PostAsJsonAsync($"/api/emails/{desk.Id}/undo", new { id = Guid.CreateVersion7(), @base = 3 })).EnsureSuccessStatusCode();
        await Send(bea, desk.Id, new SetFill("hero", "headline", "text", new FieldValue.Words("Third")));

        var history = await Get<HistoryPage>(imran, $"/api/emails/{desk.Id}/history");
        Assert.Equal(
            [
                "Bea Thornley: changed headline of Hero",
                "Bea Thornley: undo changed the subject and changed headline of Hero",
                "Bea Thornley: changed headline of Hero and changed the subject",
                "Imran Sayle: changed headline of Hero",
            ],
            history.Steps.Select(s => $"{s.Author}: {(s.Undoes ? "undo " : "")}{s.Words}")
        );
        Assert.Null(history.Next);
        Assert.Contains("First", await imran.GetStringAsync($"/api/emails/{desk.Id}/history/1/html"), StringComparison.Ordinal);
        await (await imran.GetAsync($"/api/emails/{desk.Id}/history/99/html")).Problem(404, "not-found");

        var back = await Get<WayBack>(imran, $"/api/emails/{desk.Id}/history/3/way-back");
        Assert.Empty(back.Refused);
        await Send(imran, desk.Id, [.. back.Edits]);
        Assert.Contains("Second", await imran.GetStringAsync($"/api/emails/{desk.Id}/html"), StringComparison.Ordinal);
        Assert.True((await Get<ReplayAnswer>(imran, $"/api/emails/{desk.Id}/replay")).Equal);
        (
            await imran.PostAsJsonAsync($"/api/emails/{desk.Id}/undo", new { id = Guid.CreateVersion7(), @base = 0 })
        ).EnsureSuccessStatusCode();
        Assert.Contains("Third", await imran.GetStringAsync($"/api/emails/{desk.Id}/html"), StringComparison.Ordinal);
    }

    [Fact]
    public async Task An_update_is_looked_at_taken_and_taken_back()
    {
        var (designer, author, reviewer) = (await server.As("dana"), await server.As("imran"), await server.As("jonas"));
        var desk = await server.NewEmail(author, "Shop offer");
        Assert.False(desk.Email!.Template.UpdateWaits);
        await Send(
            author,
            desk.Id,
            new SetFill("hero", "headline", "text", new FieldValue.Words("Forty characters or so in this headline"))
        );
        var template = desk.Email.Template.Id;
        var row = server.Query(db => db.Documents.Single(d => d.Id == template).Head);
        var hero = Guid.Parse((string)JsonNode.Parse(row)!["order"]!.AsArray().Single(i => (string?)i!["id"] == "hero")!["master"]!);
        object Sent(params Edit[] edits) => new { @base = 0, edits = Step(edits) };
        (
            await designer.PostAsJsonAsync(
                $"/api/rows/{hero}/edits",
                Sent(new SetLimit("headline", "text", new Limit { Characters = 20 })),
                DocumentJson.Options
            )
        ).EnsureSuccessStatusCode();
        (await designer.PostAsJsonAsync($"/api/rows/{hero}/releases", new { note = "Shorter headlines" })).EnsureSuccessStatusCode();
        // The template places the row's newer release; the email hears of it by the template's own.
        var order = JsonNode.Parse(row)!["order"]!.AsArray();
        var at = order.IndexOf(order.Single(i => (string?)i!["id"] == "hero"));
        (
            await designer.PostAsJsonAsync(
                $"/api/templates/{template}/edits",
                Sent(
                    new RemoveRow("hero"),
                    new InsertRow(
                        null,
                        at,
                        new PlacedRow
                        {
                            Id = "hero",
                            Master = hero,
                            Release = 2,
                        }
                    )
                ),
                DocumentJson.Options
            )
        ).EnsureSuccessStatusCode();
        (
            await designer.PostAsJsonAsync($"/api/templates/{template}/releases", new { note = "With shorter headlines", required = true })
        ).EnsureSuccessStatusCode();

        Assert.True((await Running.Desk(author, desk.Id)).Email!.Template.UpdateWaits);
        var update = await Get<UpdateAnswer>(author, $"/api/emails/{desk.Id}/update");
        var newer = Assert.Single(update.Newer);
        Assert.Equal(
            (desk.Email.Template.Release, desk.Email.Template.Release + 1, "With shorter headlines", true),
            (newer.From, newer.To, Assert.Single(newer.Notes), newer.Required)
        );
        Assert.Contains("39 characters, and 20 are allowed", Assert.Single(update.Aside).Why, StringComparison.Ordinal);
        Assert.DoesNotContain(
            "Forty characters",
            await author.GetStringAsync($"/api/emails/{desk.Id}/update/html"),
            StringComparison.Ordinal
        );
        Assert.False((await Get<UpdateAnswer>(reviewer, $"/api/emails/{desk.Id}/update")).Allowed.Allowed);

        var taken = await Send(author, desk.Id, update.Edit!);
        Assert.False(taken.Email!.Template.UpdateWaits);
        var aside = Assert.Single(taken.Email!.Unplaced);
        Assert.Equal(new FieldValue.Words("Forty characters or so in this headline"), aside.Value);
        var back = await (
            await author.PostAsJsonAsync($"/api/emails/{desk.Id}/undo", new { id = Guid.CreateVersion7(), @base = 0 })
        ).Read<DeskAnswer>();
        Assert.Empty(back.Email!.Unplaced);
        Assert.Contains(
            "Forty characters",
            await author.GetStringAsync($"/api/emails/{desk.Id}/html?proof=true"),
            StringComparison.Ordinal
        );
        (
            await author.PostAsJsonAsync($"/api/emails/{desk.Id}/redo", new { id = Guid.CreateVersion7(), @base = 0 })
        ).EnsureSuccessStatusCode();
        Assert.Empty((await Send(author, desk.Id, new DiscardUnplaced(aside.Key))).Email!.Unplaced);
        Assert.True((await Get<ReplayAnswer>(author, $"/api/emails/{desk.Id}/replay")).Equal);

        // The next of a series begins on what is newest.
        var next = await Start(
            author,
            new
            {
                id = Guid.CreateVersion7(),
                email = desk.Id,
                next = true,
                name = "Next",
            }
        );
        Assert.False((await Running.Desk(author, next.Id)).Email!.Template.UpdateWaits);
    }

    [Fact]
    public async Task Of_two_who_set_a_campaign_type_at_once_the_second_is_told()
    {
        var lead = await server.As("ruth");
        async Task<CampaignTypeEntry> Now() =>
            (await Get<CampaignTypeEntry[]>(lead, "/api/campaign-types")).Single(t => t.Key == "volunteer-call");
        async Task<HttpResponseMessage> Put<T>(string what, T value, string seen)
        {
            using var request = new HttpRequestMessage(HttpMethod.Put, $"/api/campaign-types/volunteer-call/{what}")
            {
                Content = JsonContent.Create(value, options: DocumentJson.Options),
            };
            request.Headers.IfMatch.Add(new($"\"{seen}\""));
            return await lead.SendAsync(request);
        }

        var before = await Now();
        var tags = new LinkTags([new LinkTag("utm_source", "first")], []);
        Assert.True((await Put("link-tags", tags, before.LinkTagsVersion)).IsSuccessStatusCode);
        var told = await (await Put("link-tags", LinkTags.None, before.LinkTagsVersion)).Problem(412, "changed-since");
        Assert.Contains("utm_source=first now", (string)told["detail"]!, StringComparison.Ordinal);
        Assert.Equal("first", Assert.Single((await Now()).LinkTags.Tags).Value);
        Assert.True((await Put("link-tags", LinkTags.None, (await Now()).LinkTagsVersion)).IsSuccessStatusCode);
        Assert.Equal(before.LinkTagsVersion, (await Now()).LinkTagsVersion);
        // Within the same moment too.
        for (var i = 0; i < 10; i++)
        {
            var seen = (await Now()).LinkTagsVersion;
            var both = await Task.WhenAll(
                new[] { "left", "right" }.Select(said =>
                    Put("link-tags", new LinkTags([new LinkTag("utm_source", $"{said}{i}")], []), seen)
                )
            );
            Assert.Equal([HttpStatusCode.OK, HttpStatusCode.PreconditionFailed], both.Select(answer => answer.StatusCode).Order());
        }

        Assert.True((await Put("link-tags", LinkTags.None, (await Now()).LinkTagsVersion)).IsSuccessStatusCode);

        var rule = before.ReviewRule with { AnswerWarnings = !before.ReviewRule.AnswerWarnings };
        Assert.True((await Put("review-rule", rule, before.ReviewRuleVersion)).IsSuccessStatusCode);
        await (await Put("review-rule", before.ReviewRule, before.ReviewRuleVersion)).Problem(412, "changed-since");
        Assert.Equal(rule.AnswerWarnings, (await Now()).ReviewRule.AnswerWarnings);
        Assert.True((await Put("review-rule", before.ReviewRule, (await Now()).ReviewRuleVersion)).IsSuccessStatusCode);
    }

    [Fact]
    public async Task Links_are_tagged_by_the_campaign_type_as_the_lead_says()
    {
        var (lead, author) = (await server.As("ruth"), await server.As("imran"));
        var march = server.EmailId("March");
        var tags = new
        {
            tags = new[] { new { name = "utm_source", value = "email" }, new { name = "utm_campaign", value = "{campaign}" } },
            hosts = new[] { "larkfell.example.org" },
        };
        await (await author.PutAsJsonAsync("/api/campaign-types/members-gazette/link-tags", tags)).Problem(403, "refused");
        await (await lead.PutAsJsonAsync("/api/campaign-types/nowhere/link-tags", tags)).Problem(404, "not-found");
        await (
            await lead.PutAsJsonAsync(
                "/api/campaign-types/members-gazette/link-tags",
                new { tags = new[] { new { name = "utm source", value = "{month}" } }, hosts = Array.Empty<string>() }
            )
        ).Problem(422, "invalid");
        (await lead.PutAsJsonAsync("/api/campaign-types/members-gazette/link-tags", tags)).EnsureSuccessStatusCode();

        Assert.Contains(
            "utm_source=email&amp;utm_campaign=march-the-viaduct-reopens",
            await author.GetStringAsync($"/api/emails/{march}/html"),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "utm_source=email&utm_campaign=march-the-viaduct-reopens",
            await author.GetStringAsync($"/api/emails/{march}/text"),
            StringComparison.Ordinal
        );
        Assert.DoesNotContain("utm_", await author.GetStringAsync($"/api/emails/{march}/html?proof=true"), StringComparison.Ordinal);
        Assert.Contains("utm_campaign=spring", await Named(), StringComparison.Ordinal);
        (
            await lead.PutAsJsonAsync(
                "/api/campaign-types/members-gazette/link-tags",
                new { tags = Array.Empty<object>(), hosts = Array.Empty<string>() }
            )
        ).EnsureSuccessStatusCode();

        Assert.Contains(await Get<RecentLink[]>(author, "/api/links/recent"), l =>
            l.Href.StartsWith("https://larkfell.example.org/", StringComparison.Ordinal)
        );
        Assert.Equal(
            "https://larkfell.example.org/a",
            (await Get<LinkAnswer>(author, "/api/links/check?href=larkfell.example.org/a")).Better
        );
        Assert.Equal(
            "mailto:post@larkfell.example.org",
            (await Get<LinkAnswer>(author, "/api/links/check?href=post@larkfell.example.org")).Better
        );
        Assert.NotNull((await Get<LinkAnswer>(author, "/api/links/check?href=javascript:alert(1)")).Fault);
        Assert.Null((await Get<LinkAnswer>(author, "/api/links/check?href=https://larkfell.example.org/")).Fault);

        async Task<string> Named()
        {
            var copy = await Start(
                author,
                new
                {
                    id = Guid.CreateVersion7(),
                    email = march,
                    name = "Named",
                }
            );
            await Send(author, copy.Id, new SetDetail("campaignName", "Spring!"));
            return await author.GetStringAsync($"/api/emails/{copy.Id}/html");
        }
    }

    [Fact]
    public async Task Who_comes_back_is_sent_what_changed_and_no_more()
    {
        var (imran, bea) = (await server.As("imran"), await server.As("bea"));
        var first = await server.NewEmail(imran);
        await Send(bea, first.Id, new SetFill("hero", "headline", "text", new FieldValue.Words("One")));
        await Send(bea, first.Id, new SetDetail("subject", "Two"));
        var changed = await Get<DeskAnswer>(
            imran,
            $"/api/emails/{first.Id}/desk?seen={first.Revision}&styleVersion={first.Proof.StyleVersion}"
        );
        Assert.False(changed.Whole);
        Assert.Equal(["hero"], changed.Rows.Select(r => r.Id));
        var whole = await Running.Desk(bea, first.Id);
        Assert.Equal(whole.Rows.Single(r => r.Id == "hero").Html, changed.Rows[0].Html);
        Assert.Equal(whole.Head.Details, changed.Head.Details);
        Assert.True((await Get<DeskAnswer>(imran, $"/api/emails/{first.Id}/desk?seen=-1&styleVersion={first.Proof.StyleVersion}")).Whole);
        Assert.True((await Get<DeskAnswer>(imran, $"/api/emails/{first.Id}/desk?seen={first.Revision}&styleVersion=0")).Whole);
    }
}
