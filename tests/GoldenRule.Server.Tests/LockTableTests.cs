using System.Net.Http.Json;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Core.Interchange;
using GoldenRule.Core.Tests;
using GoldenRule.Data;
using GoldenRule.Server.Desks;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Templates;

namespace GoldenRule.Server.Tests;

/// <summary>
/// The library with every sort of lock in it, brought in as a template file, released and started from; then every edit
/// kind on every piece by every role over HTTP, against the same hand-written model as in the core.
/// </summary>
public sealed class LockTableTests(Running server) : IClassFixture<Running>
{
    private static readonly (Role Role, string Name)[] People =
    [
        (Role.Lead, "ruth"),
        (Role.Designer, "dana"),
        (Role.Author, "imran"),
        (Role.Reviewer, "jonas"),
    ];

    [Fact]
    public async Task Nobody_passes_a_lock_through_the_API()
    {
        var clients = new Dictionary<Role, HttpClient>();
        foreach (var (role, name) in People)
        {
            clients[role] = await server.As(name);
        }

        var template = await BringInAsync(clients[Role.Designer]);
        (
            await clients[Role.Designer].PostAsJsonAsync($"/api/templates/{template}/releases", new { note = "Governed" })
        ).EnsureSuccessStatusCode();
        var id = Guid.CreateVersion7();
        (
            await clients[Role.Author]
                .PostAsJsonAsync(
                    "/api/emails",
                    new
                    {
                        id,
                        template,
                        name = "Try to break it",
                    }
                )
        ).EnsureSuccessStatusCode();

        var (order, before) = Order(id);
        var asked = GovernedLibrary.Expectations(order, People.Select(p => new GovernedLibrary.Who(p.Role))).ToList();
        Assert.Equal(1940, asked.Count);
        foreach (var (who, edit, allowed) in asked)
        {
            var role = who.Roles[0];
            var revision = server.Query(db => db.Documents.Single(d => d.Id == id).Revision);
            var answer = await clients[role]
                .PostAsJsonAsync(
                    $"/api/emails/{id}/edits",
                    new
                    {
                        @base = revision,
                        edits = new[]
                        {
                            new
                            {
                                id = Guid.CreateVersion7(),
                                step = Guid.CreateVersion7(),
                                edit,
                            },
                        },
                    },
                    DocumentJson.Options
                );
            var said = await answer.Content.ReadAsStringAsync();
            if (!allowed)
            {
                Assert.True((int)answer.StatusCode is 403 or 422, $"{edit.GetType().Name} {edit.Target} by {role} was not refused: {said}");
                Assert.Equal(revision, server.Query(db => db.Documents.Single(d => d.Id == id).Revision));
                continue;
            }

            // Taking out what was never filled in changes nothing to take back, and is answered like any edit; what was never set
            // aside is not put away.
            var impossible = (int)answer.StatusCode == 422 && edit is ClearFill or ClearLook or DiscardUnplaced;
            Assert.True(answer.IsSuccessStatusCode || impossible, $"{edit.GetType().Name} {edit.Target} by {role} was refused: {said}");
            if (answer.IsSuccessStatusCode)
            {
                (
                    await clients[role].PostAsJsonAsync($"/api/emails/{id}/undo", new { id = Guid.CreateVersion7(), @base = 0 })
                ).EnsureSuccessStatusCode();
            }
        }

        Assert.Equal(before, Order(id).Json);
        Assert.True((await clients[Role.Author].GetFromJsonAsync<ReplayAnswer>($"/api/emails/{id}/replay", DocumentJson.Options))!.Equal);
    }

    private (RunningOrder Order, string Json) Order(Guid id)
    {
        var email = (Email)StoredForm.Read(DocumentKind.Email, server.Query(db => db.Documents.Single(d => d.Id == id).Head));
        var releases = server.Query(db => db.Releases.ToList());
        var masters = new ReleaseCatalog(
            System.Collections.Immutable.ImmutableDictionary.CreateRange(
                releases
                    .Where(r => r.Kind == DocumentKind.Row)
                    .Select(r => KeyValuePair.Create((r.DocumentId, r.Number), (SavedRow)StoredForm.Read(r.Kind, r.Body)))
            ),
            System.Collections.Immutable.ImmutableDictionary.CreateRange(
                releases
                    .Where(r => r.Kind == DocumentKind.Template)
                    .Select(r => KeyValuePair.Create((r.DocumentId, r.Number), (Template)StoredForm.Read(r.Kind, r.Body)))
            )
        );
        return (RunningOrder.From(email, masters), DocumentJson.Write(email));
    }

    private static async Task<Guid> BringInAsync(HttpClient designer)
    {
        var file = new TemplateFile
        {
            FileType = TemplateFile.FileTypeName,
            Version = TemplateFile.CurrentFormat,
            Template = GovernedLibrary.Template,
            Rows =
            [
                new(GovernedLibrary.MainId, 1, GovernedLibrary.Main),
                new(GovernedLibrary.AdvertId, 1, GovernedLibrary.Advert),
                new(GovernedLibrary.MastId, 1, GovernedLibrary.Mast),
            ],
        };
        return (await (await Import(designer, file.Write(), "&campaignType=members-gazette")).Read<ImportedTemplate>()).Template.Id;
    }

    internal static Task<HttpResponseMessage> Import(HttpClient client, string json, string query = "") =>
        client.PostAsync(
            $"/api/templates/import?id={Guid.CreateVersion7()}{query}",
            new MultipartFormDataContent { { new StringContent(json), "file", "x.template.json" } }
        );
}
