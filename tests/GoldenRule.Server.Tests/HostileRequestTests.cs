using System.Net;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json.Nodes;
using GoldenRule.Core.Documents;
using GoldenRule.Server.Desks;

namespace GoldenRule.Server.Tests;

/// <summary>
/// Requests that are cheap to send and would cost the server minutes, or say what nothing can be: refused with a reason, and
/// nothing is stored.
/// </summary>
public sealed class HostileRequestTests(Running server) : IClassFixture<Running>
{
    [Theory]
    [InlineData("/api/emails?q=")]
    [InlineData("/api/pictures?q=")]
    [InlineData("/api/files?search=")]
    public async Task A_search_is_for_as_many_words_as_someone_types(string path)
    {
        var author = await server.As("imran");
        (await author.GetAsync(path + string.Join("%20", Enumerable.Range(0, 10).Select(i => $"word{i}")))).EnsureSuccessStatusCode();
        await (await author.GetAsync(path + string.Join("%20", Enumerable.Range(0, 60).Select(i => $"word{i}")))).Problem(422, "invalid");
        await (await author.GetAsync(path + new string('a', 300))).Problem(422, "invalid");
    }

    [Fact]
    public async Task One_request_holds_so_many_edits_and_a_row_so_many_blocks()
    {
        var designer = await server.As("dana");
        var id = Guid.CreateVersion7();
        (
            await designer.PostAsJsonAsync(
                "/api/rows",
                new
                {
                    id,
                    name = "Spacers",
                    rowKind = "main",
                }
            )
        ).EnsureSuccessStatusCode();
        var desk = (await designer.GetFromJsonAsync<DeskAnswer>($"/api/rows/{id}/desk", DocumentJson.Options))!;
        object Insert(int i) =>
            new
            {
                kind = "insert-block",
                row = desk.Rows[0].Id,
                column = desk.Rows[0].Columns[0].Id,
                index = 0,
                block = new { id = $"b{i}", kind = "spacer" },
            };
        async Task<HttpResponseMessage> Send(int count) =>
            await designer.PostAsJsonAsync(
                $"/api/rows/{id}/edits",
                new
                {
                    @base = desk.Revision,
                    edits = Enumerable
                        .Range(0, count)
                        .Select(i => new
                        {
                            id = Guid.CreateVersion7(),
                            step = Guid.CreateVersion7(),
                            edit = Insert(i),
                        }),
                }
            );

        await (await Send(1_001)).Problem(422, "invalid");
        var tooMany = await (await Send(101)).Problem(422, "invalid");
        Assert.Contains("100 blocks", (string?)tooMany["detail"], StringComparison.Ordinal);
        Assert.Equal(desk.Revision, (await designer.GetFromJsonAsync<DeskAnswer>($"/api/rows/{id}/desk", DocumentJson.Options))!.Revision);
        (await Send(20)).EnsureSuccessStatusCode();
    }

    public static TheoryData<string> Bodies() =>
        [
            "{}",
            "[]",
            "null",
            "\"\"",
            "{\"edits\":[null]}",
            "{\"base\":0,\"edits\":[{}]}",
            "{\"base\":0,\"edits\":[{\"id\":null,\"step\":null,\"edit\":null}]}",
            "{\"base\":0,\"base\":1,\"edits\":[]}",
            "{\"base\":0,\"edits\":[" + string.Concat(Enumerable.Repeat("[", 5_000)) + "]}",
            "{\"base\":1e400,\"edits\":[]}",
        ];

    [Theory]
    [MemberData(nameof(Bodies))]
    public async Task What_is_no_request_is_told_so(string body)
    {
        var author = await server.As("imran");
        using var content = new StringContent(body, Encoding.UTF8, "application/json");
        await (await author.PostAsync($"/api/emails/{server.EmailId("March")}/edits", content)).Problem(400, "bad-request");
    }

    [Fact]
    public async Task Whatever_is_pasted_is_read_and_its_words_are_kept()
    {
        var author = await server.As("imran");
        foreach (
            var html in (string[])
                [string.Concat(Enumerable.Repeat("<div>", 40_000)) + "words", string.Concat(Enumerable.Repeat("<b><i>", 30_000)) + "words"]
        )
        {
            var answer = await author.PostAsJsonAsync("/api/emails/paste", new { html });
            Assert.Contains("words", await answer.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        }
    }

    [Fact]
    public async Task A_file_goes_out_under_the_name_of_what_it_is()
    {
        var author = await server.As("imran");
        using var upload = ReachingTests.Upload("Day,Train\n1,2"u8.ToArray(), "..\\invoice.hta.csv");
        var file = await (await author.PostAsync("/api/files", upload)).Read<JsonObject>();
        Assert.Equal("invoice-hta.csv", (string?)file["name"]);
        var email = await server.NewEmail(author);
        foreach (var name in (string[])["invoice.hta", "../invoice.csv", "invoice\u202e.csv"])
        {
            await (await author.Edit(email.Id, email.Revision, Attach(name))).Problem(422, "invalid");
        }

        (await author.Edit(email.Id, email.Revision, Attach("invoice.csv"))).EnsureSuccessStatusCode();

        object Attach(string name) =>
            new
            {
                kind = "set-attachments",
                files = new[]
                {
                    new
                    {
                        file = (string?)file["id"],
                        name,
                        mediaType = (string?)file["mediaType"],
                        bytes = (int)file["bytes"]!,
                    },
                },
            };
    }

    /// <summary>What reviewers look at is not changed under them; what was approved is not what it is after an edit.</summary>
    [Theory]
    [InlineData("InReview", HttpStatusCode.Forbidden, EmailState.InReview)]
    [InlineData("HandedOff", HttpStatusCode.Forbidden, EmailState.HandedOff)]
    [InlineData("Approved", HttpStatusCode.OK, EmailState.Draft)]
    public async Task An_edit_is_refused_in_review_and_makes_what_was_approved_a_draft_again(
        string state,
        HttpStatusCode answered,
        EmailState after
    )
    {
        var author = await server.As("imran");
        var email = await server.NewEmail(author);
        server.Sql($"update documents set state = '{state}' where id = '{email.Id}'");
        var answer = await author.Edit(
            email.Id,
            email.Revision,
            new
            {
                kind = "set-detail",
                field = "subject",
                value = "Changed",
            }
        );
        Assert.Equal(answered, answer.StatusCode);
        Assert.Equal(after, server.Query(db => db.Documents.Single(d => d.Id == email.Id).State));
    }
}
