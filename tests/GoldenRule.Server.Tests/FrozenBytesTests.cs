using System.Net.Http.Json;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Core.HouseStyles;
using GoldenRule.Server.Editing;

namespace GoldenRule.Server.Tests;

/// <summary>In a library of its own: nothing in it is as it was afterwards.</summary>
public sealed class FrozenBytesTests(Running server) : IClassFixture<Running>
{
    [Fact]
    public async Task A_thousand_changes_of_the_library_leave_every_byte_as_it_was()
    {
        var (author, lead) = (await server.As("bea"), await server.As("ruth"));
        var frozen = await HandOffTests.HandOff(author, await server.ApprovedGala(author));
        string[] forms = ["html", "text", "message", "bundle", "record"];
        var before = await Task.WhenAll(forms.Select(f => HandOffTests.File(author, frozen.Record.Id, f)));
        var page = await server.CreateClient().GetByteArrayAsync(HandOffTests.PageOf(frozen));
        const int Seed = 20261130;
        var random = new Random(Seed);
        var house = await Running.House(lead);
        var (revision, changed) = (
            house.Revision,
            house.Variables.Where(v => v.Variable.Type is VariableType.Colour or VariableType.Text).ToList()
        );
        for (var round = 0; round < 50; round++)
        {
            var edits = Enumerable
                .Range(0, 20)
                .Select(_ => changed[random.Next(changed.Count)].Variable)
                .Select(v => new SentEdit(
                    Guid.CreateVersion7(),
                    Guid.CreateVersion7(),
                    new SetVariable(
                        v with
                        {
                            Value = v.Type == VariableType.Colour ? $"#{random.Next(1 << 24):x6}" : $"Words {random.Next()}",
                        }
                    )
                ))
                .ToList();
            var answer = await lead.PostAsJsonAsync(
                $"/api/house-styles/{house.Id}/edits",
                new EditsRequest(revision, [.. edits]),
                DocumentJson.Options
            );
            Assert.True(answer.IsSuccessStatusCode, $"seed {Seed}, round {round}: {await answer.Content.ReadAsStringAsync()}");
            revision += edits.Count;
        }

        (await lead.PostAsJsonAsync($"/api/house-styles/{house.Id}/releases", new { note = "All anew" })).EnsureSuccessStatusCode();
        server.Sql(
            "update documents set head = jsonb_set(head, '{name}', '\"Renamed\"'), retired = true where kind in ('Row', 'Template')"
        );
        foreach (var (form, was) in forms.Zip(before))
        {
            Assert.Equal(was, await HandOffTests.File(author, frozen.Record.Id, form));
        }

        Assert.Equal(page, await server.CreateClient().GetByteArrayAsync(HandOffTests.PageOf(frozen)));
        Assert.True((await HandOffTests.Verify(author, frozen.Record.Id)).Holds);
    }
}
