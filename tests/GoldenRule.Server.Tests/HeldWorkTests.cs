using System.Collections.Immutable;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Core.Governance;
using GoldenRule.Core.Interchange;
using GoldenRule.Core.Tests;
using GoldenRule.Data;
using GoldenRule.Server.Desks;
using GoldenRule.Server.Emails;
using GoldenRule.Server.Templates;
using Microsoft.AspNetCore.Mvc.Testing;

namespace GoldenRule.Server.Tests;

/// <summary>Whatever is sent, what is stored can be opened, searched, undone and gone back to, by this server and the next.</summary>
public sealed class HeldWorkTests(Running server) : IClassFixture<Running>
{
    private static readonly Guid MainRow = GovernedLibrary.MainId;

    [Fact]
    public async Task What_is_left_out_of_a_block_is_filled_in_before_it_is_stored()
    {
        var (author, designer) = (await server.As("imran"), await server.As("dana"));
        var (email, row) = await Governed(author, designer);
        var unlinked = await author.GetFromJsonAsync<SavedRow>($"/api/emails/{email}/order/{row}?detached=true", DocumentJson.Options);
        await Send(author, email, new DetachRow(row, unlinked!));
        // The saved row's text offers no looks, so whoever splits it sends none.
        await SendRaw(
            designer,
            email,
            $$$$$$$"""
            {"kind":"split-text","row":"{{{{{{{row}}}}}}}","piece":"words","field":"text","first":{"paragraphs":[]},
            "rest":{"id":"rest","kind":"text","content":{"text":{"kind":"prose","text":{"paragraphs":[]}}}}}
            """
        );
        await SendRaw(
            author,
            email,
            """
            {"kind":"insert-row","zone":"free","index":0,"row":{"id":"built","own":{"name":"Built","rowKind":"main",
            "row":{"id":"b","locks":{"arrangement":{"kind":"open"},"content":{"kind":"open"},
            "look":{"kind":"open"}},"columns":[{"id":"c","blocks":[{"id":"h","kind":"heading"}]}]}}}}
            """
        );
        await SendRaw(author, email, """{"kind":"clear-look","row":"built","piece":"h","property":"level"}""");
        await SendRaw(
            author,
            email,
            """{"kind":"insert-block","row":"built","column":"c","index":-1,"block":{"id":"cards","kind":"cards"}}"""
        );
        await SendRaw(
            author,
            email,
            """{"kind":"set-fill","row":"built","piece":"cards","field":"cards","value":{"kind":"entries","items":[{}]}}"""
        );
        await OpensEverywhere(author, email);
    }

    [Fact]
    public async Task Whatever_block_kind_is_put_in_with_nothing_said_can_be_drawn()
    {
        var (author, designer) = (await server.As("imran"), await server.As("dana"));
        var (email, _) = await Governed(author, designer);
        foreach (var kind in BlockKinds.All)
        {
            var row = $"r-{kind.Name}";
            var entries = kind
                .Fields.Where(f => f.Default is FieldValue.Entries)
                .Select(f =>
                    $$$"""
                        {"kind":"set-fill","row":"{{{row}}}","piece":"b","field":"{{{f.Name}}}",
                        "value":{"kind":"entries","items":[{},{}]}}
                        """
                );
            var looks = kind.Look.Select(l => $$"""{"kind":"clear-look","row":"{{row}}","piece":"b","property":"{{l.Name}}"}""");
            await SendRaw(
                author,
                email,
                $$$$$$$"""
                {"kind":"insert-row","zone":"free","index":0,"row":{"id":"{{{{{{{row}}}}}}}","own":{"name":"Built",
                "rowKind":"main","row":{"id":"b-{{{{{{{kind.Name}}}}}}}","locks":{"arrangement":{"kind":"open"},
                "content":{"kind":"open"},"look":{"kind":"open"}},"columns":[{"id":"c","blocks":[{"id":"b",
                "kind":"{{{{{{{kind.Name}}}}}}}"}]}]}}}}
                """
            );
            foreach (var edit in looks.Concat(entries))
            {
                await SendRaw(author, email, edit);
            }

            await SendRaw(author, email, $$"""{"kind":"remove-row","row":"{{row}}"}""");
        }

        await OpensEverywhere(author, email);
    }

    public static TheoryData<string, string> Malformed =>
        new()
        {
            { "{}", "edits" },
            { """{"base":0}""", "edits" },
            { """{"base":0,"edits":null}""", "edits" },
            { """{"base":0,"edits":[null]}""", "$.edits" },
            { """{"base":0,"edits":[{}]}""", "$.edits[0]" },
            { Edits("{}"), "$.edits[0].edit" },
            { Edits("null"), "$.edits[0].edit" },
            { Edits("""{"kind":"set-everything"}"""), "$.edits[0].edit" },
            {
                Edits("""{"kind":"set-fill","row":"hero","piece":"headline","field":"text","value":{"kind":"words"}}"""),
                "$.edits[0].edit.value"
            },
            {
                Edits("""{"kind":"set-fill","row":"hero","piece":"headline","field":"text","value":{"kind":"words","text":null}}"""),
                "$.edits[0].edit.value.text"
            },
            { Edits("""{"kind":"set-fill","row":"hero","piece":"headline","field":"text","value":{}}"""), "$.edits[0].edit.value" },
            {
                Edits(
                    """{"kind":"set-fill","row":"hero","piece":"headline","field":"text","value":{"kind":"words","text":"x","size":9}}"""
                ),
                "size"
            },
            {
                Edits("""{"kind":"set-fill","row":"hero","piece":"headline","field":"text","value":{"kind":"words","text":"a\u0000b"}}"""),
                "$.edits[0].edit.value"
            },
            {
                Edits("""{"kind":"set-fill","row":"hero","piece":"headline","field":"text","value":{"kind":"words","text":"a\ud800b"}}"""),
                "$.edits[0].edit.value.text"
            },
            { Edits("""{"kind":"set-detail","field":"subject"}"""), "$.edits[0].edit" },
            { Edits("""{"kind":"set-detail","field":"subject","value":null}"""), "$.edits[0].edit.value" },
            { Edits("""{"kind":"insert-row","zone":"stops","index":0}"""), "$.edits[0].edit" },
            {
                Edits("""{"kind":"insert-row","zone":"stops","index":0,"row":{"id":"x","fills":{"p":null}}}"""),
                "$.edits[0].edit.row.fills"
            },
            { Edits("""{"kind":"set-attachments","files":[null]}"""), "$.edits[0].edit.files" },
            { Edits("""{"kind":"set-attachments"}"""), "$.edits[0].edit" },
        };

    private static string Edits(string edit) =>
        $$"""{"base":0,"edits":[{"id":"{{Guid.CreateVersion7()}}","step":"{{Guid.CreateVersion7()}}","edit":{{edit}}}]}""";

    [Theory]
    [MemberData(nameof(Malformed))]
    public async Task What_cannot_be_read_is_refused_with_its_place_and_stores_nothing(string body, string place)
    {
        var author = await server.As("imran");
        var desk = await server.NewEmail(author);
        var answer = await author.PostAsync($"/api/emails/{desk.Id}/edits", new StringContent(body, Encoding.UTF8, "application/json"));
        var problem = await answer.Problem(400, "bad-request");
        Assert.Contains(place, (string?)problem["detail"], StringComparison.Ordinal);
        Assert.Equal(0, server.Query(db => db.Documents.Single(d => d.Id == desk.Id).Revision));
        (await author.GetAsync("/api/emails?q=train")).EnsureSuccessStatusCode();
    }

    [Fact]
    public async Task Addresses_and_searches_hold_no_character_that_is_none()
    {
        var author = await server.As("imran");
        foreach (var path in (string[])["/api/emails?q=%00", "/api/rows?q=a%00b", "/api/templates?q=%00", "/api/pictures?q=%00"])
        {
            await (await author.GetAsync(path)).Problem(400, "bad-request");
        }

        await (
            await author.PostAsJsonAsync(
                "/api/emails",
                new
                {
                    id = Guid.CreateVersion7(),
                    name = "a\0b",
                    template = Guid.NewGuid(),
                }
            )
        ).Problem(400, "bad-request");
    }

    [Fact]
    public async Task What_an_older_version_stored_without_its_words_is_opened_and_searched()
    {
        var author = await server.As("imran");
        var desk = await server.NewEmail(author);
        (await author.Edit(desk.Id, 0, Asking.SetWords("hero", "headline", "Here once"))).EnsureSuccessStatusCode();
        server.Sql(
            $$"""
            update documents set head = head #- '{fills,hero,headline,content,text,text}' #- '{details,subject}'
                where id = '{{desk.Id}}';
            update documents set head = jsonb_set(head, '{details,preheader}', 'null') where id = '{{desk.Id}}';
            """
        );
        using var next = server.Twin();
        using var other = await Running.SignIn(next.CreateClient(), "imran");
        var opened = await Running.Desk(other, desk.Id);
        Assert.Equal(
            "",
            (
                (FieldValue.Words)opened.Rows.Single(r => r.Id == "hero").Columns[0].Blocks.Single(b => b.Id == "headline").Fields[0].Value
            ).Text
        );
        Assert.Equal("", opened.Head.Details.Subject);
        (await other.GetAsync("/api/emails?q=train")).EnsureSuccessStatusCode();
        (await other.Edit(desk.Id, 1, Asking.SetWords("hero", "headline", "Here again"))).EnsureSuccessStatusCode();
    }

    [Fact]
    public async Task Going_back_turns_an_unlinked_row_into_what_it_was_and_removes_none()
    {
        var (author, designer) = (await server.As("imran"), await server.As("dana"));
        var (email, row) = await Governed(author, designer);
        var linked = (await Running.Desk(author, email)).Revision;
        var unlinked = await author.GetFromJsonAsync<SavedRow>($"/api/emails/{email}/order/{row}?detached=true", DocumentJson.Options);
        await Send(author, email, new DetachRow(row, unlinked!));
        await Send(author, email, new SetFill(row, "headline", "text", new FieldValue.Words("As it was")));
        var then = (await Running.Desk(author, email)).Revision;
        var copy = new DuplicateBlock(row, "headline", "copy");
        await Send(
            author,
            email,
            new SetFill(row, "headline", "text", new FieldValue.Words("Written since")),
            copy,
            new MoveBlock(row, "copy", row, "column", 0)
        );

        var back = await GoBack(author, email, then);
        Assert.Empty(back.Refused);
        var desk = await Running.Desk(author, email);
        Assert.Equal(["headline", "words", "button"], desk.Rows.Single(r => r.Id == row).Columns.Single().Blocks.Select(b => b.Id));
        Assert.Contains("As it was", desk.Rows.Single(r => r.Id == row).Html, StringComparison.Ordinal);

        // To before it was unlinked: it may not be put there anew while it is the last of its zone, and so it stays.
        var further = await GoBack(author, email, linked);
        Assert.Contains("stays as it is now", Assert.Single(further.Refused), StringComparison.Ordinal);
        Assert.Contains((await Running.Desk(author, email)).Rows, r => r.Id == row);

        // A row with locks of its own that was removed cannot come back as new; that is said, and nothing else is lost.
        await Send(
            author,
            email,
            new InsertRow("free", 0, new PlacedRow { Id = "other", Own = GovernedLibrary.Built("other") }),
            new RemoveRow(row)
        );
        var gone = await GoBack(author, email, then);
        Assert.Contains(
            "does not come back",
            Assert.Single(gone.Refused.Where(r => r.Contains("Story", StringComparison.Ordinal))),
            StringComparison.Ordinal
        );
        await OpensEverywhere(author, email);
    }

    [Fact]
    public async Task Every_step_can_be_taken_back_by_whoever_made_it()
    {
        var (author, designer, lead) = (await server.As("imran"), await server.As("dana"), await server.As("ruth"));
        // Unlinking in a template.
        var (email, row, template) = await GovernedTemplate(author, designer);
        var before = server.Query(db => db.Documents.Single(d => d.Id == template).Head);
        var own = await designer.GetFromJsonAsync<SavedRow>($"/api/templates/{template}/order/hero?detached=true", DocumentJson.Options);
        await Edit(designer, "templates", template, new DetachRow("hero", own!));
        (await Undo(designer, "templates", template)).EnsureSuccessStatusCode();
        Assert.Equal(before, server.Query(db => db.Documents.Single(d => d.Id == template).Head));

        // Renaming an email that was started with a long name.
        var id = Guid.CreateVersion7();
        var name = new string('n', 180);
        (
            await author.PostAsJsonAsync(
                "/api/emails",
                new
                {
                    id,
                    template,
                    name,
                }
            )
        ).EnsureSuccessStatusCode();
        await Send(author, id, new SetName("Short"));
        (await Undo(author, "emails", id)).EnsureSuccessStatusCode();
        Assert.Equal(name, (await Running.Desk(author, id)).Name);

        // An author removes a row in which a designer wrote what only designers may.
        await Send(
            author,
            email,
            new InsertRow(
                "free",
                1,
                new PlacedRow
                {
                    Id = "second",
                    Master = Story(email, row),
                    Release = 1,
                }
            )
        );
        await Send(
            designer,
            email,
            new SetFill("second", "words", "text", new FieldValue.Prose(RichText.FromParagraphs("The designer's")))
        );
        await Send(author, email, new RemoveRow("second"));
        (await Undo(author, "emails", email)).EnsureSuccessStatusCode();
        Assert.Contains(
            "The designer",
            (await Running.Desk(author, email)).Rows.Single(r => r.Id == "second").Html,
            StringComparison.Ordinal
        );
        // And a lead one from a template, with what only designers may say in it.
        await Edit(
            designer,
            "templates",
            template,
            new SetFill("hero", "words", "text", new FieldValue.Prose(RichText.FromParagraphs("Reserved")))
        );
        await Edit(lead, "templates", template, new RemoveRow("hero"));
        (await Undo(lead, "templates", template)).EnsureSuccessStatusCode();
    }

    [Fact]
    public async Task A_step_that_cannot_be_taken_back_says_why_and_is_passed_over()
    {
        var (imran, bea) = (await server.As("imran"), await server.As("bea"));
        var desk = await server.NewEmail(imran);
        (
            await imran.Edit(
                desk.Id,
                0,
                new
                {
                    kind = "set-detail",
                    field = "preheader",
                    value = "First",
                }
            )
        ).EnsureSuccessStatusCode();
        (await imran.Edit(desk.Id, 1, Asking.SetWords("hero", "headline", "His"))).EnsureSuccessStatusCode();
        (await bea.Edit(desk.Id, 2, Asking.SetWords("hero", "headline", "Hers"))).EnsureSuccessStatusCode();
        var stuck = await (await Undo(imran, "emails", desk.Id)).Problem(409, "conflict");
        var step = Guid.Parse((string)stuck["step"]!);
        Assert.Contains("Someone else", (string?)stuck["detail"], StringComparison.Ordinal);

        var after = await (await Undo(imran, "emails", desk.Id, step)).Read<DeskAnswer>();
        Assert.Equal(desk.Head.Details.Preheader, after.Head.Details.Preheader);
        await (await Undo(imran, "emails", desk.Id, step)).Problem(422, "invalid");
        var again = await (
            await imran.PostAsJsonAsync($"/api/emails/{desk.Id}/redo", new { id = Guid.CreateVersion7(), @base = 0 })
        ).Read<DeskAnswer>();
        Assert.Equal("First", again.Head.Details.Preheader);
        // The next session hears why once more.
        await (await Undo(await server.As("imran"), "emails", desk.Id, Guid.NewGuid())).Read<DeskAnswer>();
        Assert.Equal(
            step,
            Guid.Parse((string)(await (await Undo(await server.As("imran"), "emails", desk.Id)).Problem(409, "conflict"))["step"]!)
        );
    }

    [Fact]
    public async Task A_variable_that_an_older_release_in_use_refers_to_does_not_go()
    {
        var (lead, designer, author) = (await server.As("ruth"), await server.As("dana"), await server.As("imran"));
        var house = await Running.House(lead);
        await Edit(
            lead,
            "house-styles",
            house.Id,
            new SetVariable(
                new()
                {
                    Key = "platform",
                    Label = "Platform",
                    Type = Core.HouseStyles.VariableType.Text,
                    Value = "Platform 2",
                }
            )
        );
        (await lead.PostAsJsonAsync($"/api/house-styles/{house.Id}/releases", new { note = "With a platform" })).EnsureSuccessStatusCode();

        var row = Guid.CreateVersion7();
        (
            await designer.PostAsJsonAsync(
                "/api/rows",
                new
                {
                    id = row,
                    name = "Where from",
                    rowKind = "main",
                }
            )
        ).EnsureSuccessStatusCode();
        var desk = (await designer.GetFromJsonAsync<DeskAnswer>($"/api/rows/{row}/desk", DocumentJson.Options))!;
        var (at, column) = (desk.Rows[0].Id, desk.Rows[0].Columns[0].Id);
        FieldValue Says(params Run[] runs) => new FieldValue.Prose(new RichText { Paragraphs = [new Paragraph { Runs = [.. runs] }] });
        var text = BlockKinds.All.Single(k => k.Name == "text").New("t");
        await Edit(
            designer,
            "rows",
            row,
            new InsertBlock(at, column, -1, text with { Content = text.Content.SetItem("text", Says(new Run { Variable = "platform" })) })
        );
        (await designer.PostAsJsonAsync($"/api/rows/{row}/releases", new { note = "First" })).EnsureSuccessStatusCode();
        var email = await server.NewEmail(author, "Members’ gazette");
        await Send(
            author,
            email.Id,
            new InsertRow(
                "stories",
                -1,
                new PlacedRow
                {
                    Id = "mine",
                    Master = row,
                    Release = 1,
                }
            )
        );

        // The next release of the row does without it; the email has not taken that.
        await Edit(designer, "rows", row, new SetFill(at, "t", "text", Says(new Run { Text = "Platform 2" })));
        (await designer.PostAsJsonAsync($"/api/rows/{row}/releases", new { note = "Without" })).EnsureSuccessStatusCode();
        var refused = await (await TryEdit(lead, "house-styles", house.Id, new RemoveVariable("platform"))).Problem(422, "invalid");
        Assert.Contains("release 1, still in use", (string?)refused["detail"], StringComparison.Ordinal);

        // Once nothing stands on it, it goes, and the email opens.
        await Send(author, email.Id, new RemoveRow("mine"));
        await Edit(lead, "house-styles", house.Id, new RemoveVariable("platform"));
        (
            await lead.PostAsJsonAsync($"/api/house-styles/{house.Id}/releases", new { note = "Without a platform" })
        ).EnsureSuccessStatusCode();
        await OpensEverywhere(author, email.Id);
    }

    [Fact]
    public async Task A_field_comes_as_it_was_written_with_what_it_comes_to_beside_it()
    {
        var author = await server.As("imran");
        var desk = await server.NewEmail(author);
        var row = desk.Rows.First(r =>
            r.Columns.Any(c => c.Blocks.Any(b => b.Content.Allowed && b.Fields.Any(f => f.Value is FieldValue.Link)))
        );
        var block = row.Columns.SelectMany(c => c.Blocks).First(b => b.Content.Allowed && b.Fields.Any(f => f.Value is FieldValue.Link));
        var field = block.Fields.First(f => f.Value is FieldValue.Link).Name;
        var variable = (await Running.House(await server.As("ruth"))).Variables.First(v =>
            v.Variable.Type == Core.HouseStyles.VariableType.Link
        );
        var written = new FieldValue.Link($"{{{variable.Variable.Key}}}");
        await Send(author, desk.Id, new SetFill(row.Id, block.Id, field, written));
        var now = (await Running.Desk(author, desk.Id))
            .Rows.Single(r => r.Id == row.Id)
            .Columns.SelectMany(c => c.Blocks)
            .Single(b => b.Id == block.Id)
            .Fields.Single(f => f.Name == field);
        Assert.Equal(written, now.Value);
        Assert.Equal(new FieldValue.Link(variable.Resolved), now.Resolved);
        Assert.Contains(desk.Rows.SelectMany(r => r.Columns).SelectMany(c => c.Blocks).SelectMany(b => b.Fields), f => f.Resolved is null);
    }

    [Fact]
    public async Task What_is_not_offered_is_not_taken()
    {
        var (author, designer) = (await server.As("imran"), await server.As("dana"));
        var (email, row) = await Governed(author, designer);
        var master = Story(email, row);
        Task<HttpResponseMessage> Insert(string id, int release) =>
            TryEdit(
                author,
                "emails",
                email,
                new InsertRow(
                    "free",
                    -1,
                    new PlacedRow
                    {
                        Id = id,
                        Master = master,
                        Release = release,
                    }
                )
            );
        (await Insert("newest", 1)).EnsureSuccessStatusCode();

        await Edit(
            designer,
            "rows",
            master,
            new SetDescription("Seal it"),
            new SetLock(null, "headline", Aspect.Content, new Core.Documents.Lock.Sealed())
        );
        (
            await designer.PostAsJsonAsync($"/api/rows/{master}/releases", new { note = "Sealed", required = true })
        ).EnsureSuccessStatusCode();
        Assert.Contains(
            "newer release 2",
            (string?)(await (await Insert("older", 1)).Problem(403, "refused"))["detail"],
            StringComparison.Ordinal
        );
        await Edit(designer, "rows", master, new SetCampaignTypes(["shop-offer"]));
        (await designer.PostAsJsonAsync($"/api/rows/{master}/releases", new { note = "For the shop" })).EnsureSuccessStatusCode();
        Assert.Contains(
            "other campaign types",
            (string?)(await (await Insert("elsewhere", 3)).Problem(403, "refused"))["detail"],
            StringComparison.Ordinal
        );
        await Edit(designer, "rows", master, new SetCampaignTypes([]));
        (await designer.PostAsJsonAsync($"/api/rows/{master}/releases", new { note = "For all" })).EnsureSuccessStatusCode();
        foreach (var standing in (object[])[new { retired = true }, new { retired = false, @private = true }])
        {
            (await designer.PutAsJsonAsync($"/api/rows/{master}/status", standing)).EnsureSuccessStatusCode();
            Assert.Contains(
                "retired or private",
                (string?)(await (await Insert("withheld", 4)).Problem(403, "refused"))["detail"],
                StringComparison.Ordinal
            );
        }

        (await designer.PutAsJsonAsync($"/api/rows/{master}/status", new { @private = false })).EnsureSuccessStatusCode();
        (await Insert("again", 4)).EnsureSuccessStatusCode();
        var filled = new PlacedRow
        {
            Id = "filled",
            Own = GovernedLibrary.Built("filled"),
            Fills = ImmutableSortedDictionary<string, PieceFill>.Empty.Add("filled-text", new PieceFill { Shown = Visibility.PhoneOnly }),
        };
        await (await TryEdit(author, "emails", email, new InsertRow("free", -1, filled))).Problem(403, "refused");
    }

    [Fact]
    public async Task Two_requests_of_one_id_at_the_same_moment_make_one_document()
    {
        var (author, designer, lead) = (await server.As("imran"), await server.As("dana"), await server.As("ruth"));
        var template = (await Running.Templates(author))[0]!["id"];
        foreach (var (client, path, body) in new (HttpClient, string, Func<Guid, object>)[] { (author, "/api/emails", id => new
                {
                    id,
                    template,
                    name = "Twice",
                }), (designer, "/api/rows", id => new
                {
                    id,
                    name = "Twice",
                    rowKind = "main",
                }), (lead, "/api/house-styles", id => new { id, name = "Twice" }) })
        {
            for (var round = 0; round < 5; round++)
            {
                var id = Guid.CreateVersion7();
                var answers = await Task.WhenAll(Enumerable.Range(0, 6).Select(_ => client.PostAsJsonAsync(path, body(id))));
                Assert.All(answers, a => Assert.True((int)a.StatusCode is 200 or 409, $"{path}: {a.StatusCode}"));
                Assert.Contains(answers, a => a.IsSuccessStatusCode);
                Assert.Equal(1, server.Query(db => db.Documents.Count(d => d.Id == id)));
            }
        }
    }

    [Theory]
    [InlineData("Name <post@larkfell.example.org>")]
    [InlineData("post@larkfell.example.org, other@example.org")]
    [InlineData("post")]
    public async Task A_sending_address_that_is_none_is_said_and_not_written(string address)
    {
        var author = await server.As("imran");
        var desk = await server.NewEmail(author);
        await Send(author, desk.Id, new SetDetail("senderAddress", address));
        await (await author.GetAsync($"/api/emails/{desk.Id}/message")).Problem(422, "invalid");
        (await author.GetAsync($"/api/emails/{desk.Id}/html")).EnsureSuccessStatusCode();
    }

    [Fact]
    public async Task An_email_without_rows_is_opened_edited_and_exported()
    {
        var (author, designer) = (await server.As("imran"), await server.As("dana"));
        var template = Guid.CreateVersion7();
        (
            await designer.PostAsJsonAsync(
                "/api/templates",
                new
                {
                    id = template,
                    name = "Nothing in it",
                    campaignType = "members-gazette",
                }
            )
        ).EnsureSuccessStatusCode();
        (await designer.PostAsJsonAsync($"/api/templates/{template}/releases", new { note = "Empty" })).EnsureSuccessStatusCode();
        var id = Guid.CreateVersion7();
        (
            await author.PostAsJsonAsync(
                "/api/emails",
                new
                {
                    id,
                    template,
                    name = "Empty",
                }
            )
        ).EnsureSuccessStatusCode();
        await (
            await TryEdit(
                author,
                "emails",
                id,
                new InsertBlock("none", "none", 0, GovernedLibrary.Block("b", "text") with { Locks = Locks.Open })
            )
        ).Problem(403, "refused");
        await Send(author, id, new SetDetail("subject", "Nothing"), new SetDetail("senderAddress", "post@larkfell.example.org"));
        foreach (
            var path in (string[])
                ["html", "text", "message", "bundle", "report", "history", "draft/text", "draft/inbox", "update", "copy-deck?format=csv"]
        )
        {
            var answer = await author.GetAsync($"/api/emails/{id}/{path}");
            Assert.True(answer.IsSuccessStatusCode, $"{path}: {answer.StatusCode} {await answer.Content.ReadAsStringAsync()}");
        }

        await OpensEverywhere(author, id);
    }

    // Here, on a server that has nothing in its memory, and in a search for words; the head equals the replay.
    private async Task OpensEverywhere(HttpClient client, Guid email)
    {
        (await client.GetAsync($"/api/emails/{email}/desk")).EnsureSuccessStatusCode();
        using var twin = server.Twin();
        using var other = await Running.SignIn(twin.CreateClient(), "imran");
        foreach (
            var path in (string[])
                [$"emails/{email}/desk", $"emails/{email}/html", $"emails/{email}/text", $"emails/{email}/history", "emails?q=anything"]
        )
        {
            var answer = await other.GetAsync($"/api/{path}");
            Assert.True(answer.IsSuccessStatusCode, $"{path}: {answer.StatusCode} {await answer.Content.ReadAsStringAsync()}");
        }

        Assert.True((await other.GetFromJsonAsync<ReplayAnswer>($"/api/emails/{email}/replay", DocumentJson.Options))!.Equal);
    }

    private async Task<(Guid Email, string Row)> Governed(HttpClient author, HttpClient designer) =>
        await GovernedTemplate(author, designer) is var (email, row, _) ? (email, row) : default;

    // An email of the library with every sort of lock in it, under rows of its own.
    private async Task<(Guid Email, string Row, Guid Template)> GovernedTemplate(HttpClient author, HttpClient designer)
    {
        var (main, advert, mast) = (Guid.CreateVersion7(), Guid.CreateVersion7(), Guid.CreateVersion7());
        var json = new TemplateFile
        {
            FileType = TemplateFile.FileTypeName,
            Version = TemplateFile.CurrentFormat,
            Template = GovernedLibrary.Template,
            // A description of its own, so that each test has rows of its own.
            Rows =
            [
                new(MainRow, 1, GovernedLibrary.Main with { Description = main.ToString() }),
                new(GovernedLibrary.AdvertId, 1, GovernedLibrary.Advert with { Description = advert.ToString() }),
                new(GovernedLibrary.MastId, 1, GovernedLibrary.Mast with { Description = mast.ToString() }),
            ],
        }.Write();
        var template = (await (await LockTableTests.Import(designer, json, "&campaignType=members-gazette")).Read<ImportedTemplate>())
            .Template
            .Id;
        (await designer.PostAsJsonAsync($"/api/templates/{template}/releases", new { note = "Governed" })).EnsureSuccessStatusCode();
        var id = Guid.CreateVersion7();
        (
            await author.PostAsJsonAsync(
                "/api/emails",
                new
                {
                    id,
                    template,
                    name = "Governed",
                }
            )
        ).EnsureSuccessStatusCode();
        return (id, (await Running.Desk(author, id)).Order.Items.Single(i => i.Zone?.Id == "free").Zone!.Rows[0], template);
    }

    private Guid Story(Guid email, string row) =>
        ((Email)Editing.StoredForm.Read(DocumentKind.Email, server.Query(db => db.Documents.Single(d => d.Id == email).Head)))
            .FindInZones(row)!
            .Value.Row.Master!.Value;

    private static async Task<WayBack> GoBack(HttpClient client, Guid email, long revision)
    {
        var back = (await client.GetFromJsonAsync<WayBack>($"/api/emails/{email}/history/{revision}/way-back", DocumentJson.Options))!;
        if (!back.Edits.IsEmpty)
        {
            await Send(client, email, [.. back.Edits]);
        }

        return back;
    }

    private static Task<HttpResponseMessage> Undo(HttpClient client, string kind, Guid id, params Guid[] skip) =>
        client.PostAsJsonAsync(
            $"/api/{kind}/{id}/undo",
            kind == "house-styles"
                ? new { id = Guid.CreateVersion7(), skip }
                : (object)
                    new
                    {
                        id = Guid.CreateVersion7(),
                        @base = 0,
                        skip,
                    }
        );

    private static async Task Send(HttpClient client, Guid email, params Edit[] edits) => await Edit(client, "emails", email, edits);

    private static async Task Edit(HttpClient client, string kind, Guid id, params Edit[] edits)
    {
        var answer = await TryEdit(client, kind, id, edits);
        Assert.True(answer.IsSuccessStatusCode, await answer.Content.ReadAsStringAsync());
    }

    private static async Task<HttpResponseMessage> TryEdit(HttpClient client, string kind, Guid id, params Edit[] edits)
    {
        var step = Guid.CreateVersion7();
        var path = kind == "house-styles" ? $"/api/{kind}/{id}" : $"/api/{kind}/{id}/desk";
        var seen = (long)(await client.GetFromJsonAsync<JsonObject>(path))!["revision"]!;
        return await client.PostAsJsonAsync(
            $"/api/{kind}/{id}/edits",
            new
            {
                @base = seen,
                edits = edits.Select(edit => new
                {
                    id = Guid.CreateVersion7(),
                    step,
                    edit,
                }),
            },
            DocumentJson.Options
        );
    }

    private static async Task SendRaw(HttpClient client, Guid email, string edit)
    {
        var seen = (await Running.Desk(client, email)).Revision;
        var body =
            $$"""{"base":{{seen}},"edits":[{"id":"{{Guid.CreateVersion7()}}","step":"{{Guid.CreateVersion7()}}","edit":{{edit}}}]}""";
        var answer = await client.PostAsync($"/api/emails/{email}/edits", new StringContent(body, Encoding.UTF8, "application/json"));
        Assert.True(answer.IsSuccessStatusCode, $"{edit}: {await answer.Content.ReadAsStringAsync()}");
    }
}
