using System.Net;
using System.Net.Http.Headers;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json.Nodes;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Tests;
using GoldenRule.Data;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Routing;
using Microsoft.Extensions.DependencyInjection;

namespace GoldenRule.Server.Tests;

/// <summary>Every route the server has, asked by everyone there is: who may is this table, and a route that is not in it fails.</summary>
public sealed class RouteTests(Running server) : IClassFixture<Running>
{
    /// <summary>Who may, and what is sent along.</summary>
    /// <param name="Owned">It is about one template or row: of a private one only its owner and the leads hear anything.</param>
    /// <param name="OrOwner">Whoever made the email may too.</param>
    private sealed record Entry(May May, Func<HttpContent>? Body = null, bool Owned = false, bool OrOwner = false);

    private enum May
    {
        Anyone,
        SignedIn,
        Author,
        Maker,
        Lead,

        /// <summary>Nobody who is signed in: a program with a token.</summary>
        Program,
    }

    private static Func<HttpContent> Json(Func<object> body) =>
        () => new StringContent(System.Text.Json.JsonSerializer.Serialize(body()), Encoding.UTF8, "application/json");

    private static Func<HttpContent> Edit(Func<object> edit) =>
        Json(() =>
            new
            {
                @base = 1 << 20,
                edits = new[]
                {
                    new
                    {
                        id = Guid.CreateVersion7(),
                        step = Guid.CreateVersion7(),
                        edit = edit(),
                    },
                },
            }
        );

    private static readonly Func<HttpContent> Nothing = Json(() => new { @base = 0, edits = Array.Empty<object>() });
    private static readonly Func<HttpContent> Undo = Json(() => new { id = Guid.CreateVersion7(), @base = 0 });
    private static readonly Func<HttpContent> UndoStyle = Json(() => new { id = Guid.CreateVersion7() });
    private static readonly Func<HttpContent> Release = Json(() => new { note = "By the table" });
    private static readonly Func<HttpContent> Job = Json(() => new { id = Guid.CreateVersion7() });

    private static object Send() =>
        new
        {
            id = Guid.CreateVersion7(),
            destination = Guid.NewGuid(),
            rule = new
            {
                size = 200,
                minutes = 30,
                dailyGrowth = 0,
                most = 200,
                from = 0,
                until = 24,
            },
            zone = "Europe/London",
        };

    private static object Hook() =>
        new
        {
            id = Guid.CreateVersion7(),
            name = "By the table",
            address = "https://hooks.example.org/emails",
            kinds = new[] { "hand-off.made" },
        };

    private static Func<HttpContent> File(string name, string content) =>
        () => new MultipartFormDataContent { { new ByteArrayContent(Encoding.UTF8.GetBytes(content)), "file", name } };

    private static readonly Dictionary<string, Entry> Table = new(StringComparer.Ordinal)
    {
        ["POST /api/session"] = new(May.Anyone, Json(() => new { email = "nobody@larkfell.example.org", password = "not the password" })),
        ["GET /api/session"] = new(May.Anyone),
        ["DELETE /api/session"] = new(May.SignedIn),
        ["DELETE /api/sessions"] = new(May.SignedIn),
        ["POST /api/session/password"] = new(May.SignedIn, Json(() => new { old = "not the password", @new = "whatever it would be" })),
        ["GET /api/server"] = new(May.Anyone),
        ["GET /api/session/openid"] = new(May.Anyone),
        ["POST /api/setup"] = new(
            May.Anyone,
            Json(() =>
                new
                {
                    code = "none",
                    organisation = "None",
                    name = "Nobody",
                    email = "nobody@example.org",
                    password = "whatever it would be",
                }
            )
        ),
        ["GET /api/sessions"] = new(May.SignedIn),
        ["DELETE /api/sessions/{id}"] = new(May.SignedIn),
        ["POST /api/password-resets"] = new(May.Anyone, Json(() => new { email = "nobody@larkfell.example.org" })),
        ["POST /api/password-resets/acceptance"] = new(
            May.Anyone,
            Json(() =>
                new
                {
                    person = Guid.NewGuid(),
                    token = "none",
                    password = "whatever it would be",
                }
            )
        ),
        ["POST /api/invitations/acceptance"] = new(
            May.Anyone,
            Json(() =>
                new
                {
                    person = Guid.NewGuid(),
                    token = "none",
                    password = "whatever it would be",
                }
            )
        ),
        ["GET /api/session/two-factor"] = new(May.SignedIn),
        ["POST /api/session/two-factor"] = new(May.SignedIn, Json(() => new { password = "not the password" })),
        ["POST /api/session/two-factor/confirmation"] = new(May.SignedIn, Json(() => new { code = "none" })),
        ["POST /api/session/two-factor/recovery-codes"] = new(May.SignedIn, Json(() => new { password = "not the password" })),
        ["POST /api/session/two-factor/end"] = new(May.SignedIn, Json(() => new { password = "not the password" })),
        ["GET /api/accounts"] = new(May.Lead),
        ["POST /api/accounts"] = new(
            May.Lead,
            Json(() =>
                new
                {
                    id = Guid.CreateVersion7(),
                    email = "by.the.table@larkfell.example.org",
                    name = "By the table",
                    roles = Array.Empty<string>(),
                    inTeams = Array.Empty<object>(),
                }
            )
        ),
        ["PUT /api/accounts/{id}/roles"] = new(May.Lead, Json(() => new { roles = Array.Empty<string>(), version = "" })),
        ["POST /api/accounts/{id}/deactivation"] = new(May.Lead, Json(() => new { })),
        ["DELETE /api/accounts/{id}/deactivation"] = new(May.Lead),
        ["DELETE /api/accounts/{id}"] = new(May.Lead),
        ["POST /api/accounts/{id}/invitation"] = new(May.Lead),
        ["DELETE /api/accounts/{id}/invitation"] = new(May.Lead),
        ["GET /api/log"] = new(May.Lead),
        ["GET /api/log/file"] = new(May.Lead),
        ["PUT /api/log/keeping"] = new(May.Lead, Json(() => new { days = 730 })),
        ["GET /api/mailroom"] = new(May.Lead),
        ["GET /api/mailroom/{id}"] = new(May.Lead),
        ["GET /api/mailroom/{id}/source"] = new(May.Lead),
        ["GET /api/mailroom/{id}/signs"] = new(May.Lead),
        ["GET /api/people"] = new(May.SignedIn),
        ["GET /api/first-steps"] = new(May.SignedIn),
        ["GET /api/search"] = new(May.SignedIn),
        ["GET /api/campaign-types"] = new(May.SignedIn),
        ["GET /api/languages"] = new(May.SignedIn),
        ["POST /api/campaign-types"] = new(
            May.Lead,
            Json(() =>
                new
                {
                    key = $"made-{Guid.NewGuid():n}"[..30],
                    name = $"By the table {Guid.NewGuid():n}",
                    teams = Array.Empty<Guid>(),
                }
            )
        ),
        ["PUT /api/campaign-types/{key}"] = new(May.Lead, Json(() => new { })),
        ["PUT /api/campaign-types/order"] = new(May.Lead, Json(() => new { keys = Array.Empty<string>() })),
        ["POST /api/campaign-types/{key}/merge"] = new(May.Lead, Json(() => new { into = "nowhere" })),
        ["GET /api/row-kinds"] = new(May.SignedIn),
        ["POST /api/row-kinds"] = new(
            May.Lead,
            Json(() =>
                new
                {
                    key = $"made-{Guid.NewGuid():n}"[..30],
                    name = $"By the table {Guid.NewGuid():n}",
                    purpose = "message",
                }
            )
        ),
        ["PUT /api/row-kinds/{key}"] = new(May.Lead, Json(() => new { })),
        ["PUT /api/row-kinds/order"] = new(May.Lead, Json(() => new { keys = Array.Empty<string>() })),
        ["POST /api/row-kinds/{key}/merge"] = new(May.Lead, Json(() => new { into = "nowhere" })),
        ["GET /api/teams"] = new(May.SignedIn),
        ["POST /api/teams"] = new(May.Lead, Json(() => new { id = Guid.CreateVersion7(), name = $"By the table {Guid.NewGuid():n}" })),
        ["PUT /api/teams/order"] = new(May.Lead, Json(() => new { ids = Array.Empty<Guid>() })),
        ["PUT /api/teams/{id}"] = new(May.Lead, Json(() => new { })),
        ["DELETE /api/teams/{id}"] = new(May.Lead),
        ["POST /api/teams/{id}/merge"] = new(May.Lead, Json(() => new { into = Guid.NewGuid() })),
        ["PUT /api/teams/{id}/members/{person}"] = new(May.Lead, Json(() => new { roles = Array.Empty<string>() })),
        ["PUT /api/campaign-types/{key}/link-tags"] = new(
            May.Lead,
            Json(() => new { tags = Array.Empty<object>(), hosts = Array.Empty<string>() })
        ),
        ["GET /api/masters"] = new(May.SignedIn),
        ["GET /api/starters"] = new(May.SignedIn),
        ["GET /api/starters/{name}/html"] = new(May.SignedIn),
        ["GET /api/block-kinds"] = new(May.SignedIn),
        ["GET /api/block-kinds/specimen"] = new(May.SignedIn),
        ["GET /api/templates"] = new(May.SignedIn),
        ["POST /api/templates"] = new(
            May.Maker,
            Json(() =>
                new
                {
                    id = Guid.CreateVersion7(),
                    name = "By the table",
                    campaignType = "members-gazette",
                }
            )
        ),
        ["POST /api/templates/import"] = new(May.Maker, File("x.template.json", "{}")),
        ["GET /api/templates/schema"] = new(May.SignedIn),
        ["GET /api/templates/{id}/file"] = new(May.Maker, Owned: true),
        ["GET /api/rows"] = new(May.SignedIn),
        ["POST /api/rows"] = new(
            May.Maker,
            Json(() =>
                new
                {
                    id = Guid.CreateVersion7(),
                    name = "By the table",
                    rowKind = "main",
                }
            )
        ),
        ["GET /api/coverage"] = new(May.SignedIn),
        ["PUT /api/coverage/needs"] = new(
            May.Maker,
            Json(() =>
                new
                {
                    campaignType = "members-gazette",
                    rowKind = "hero",
                    needed = true,
                }
            )
        ),
        ["GET /api/emails"] = new(May.SignedIn),
        ["POST /api/emails"] = new(
            May.Author,
            Json(() =>
                new
                {
                    id = Guid.CreateVersion7(),
                    name = "By the table",
                    template = Guid.NewGuid(),
                }
            )
        ),
        ["PUT /api/emails/{id}/status"] = new(May.Lead, Json(() => new { archived = false }), OrOwner: true),
        ["GET /api/emails/{id}/copy-deck"] = new(May.SignedIn),
        ["POST /api/emails/{id}/copy-deck"] = new(May.SignedIn, Json(() => new { text = "" })),
        ["POST /api/emails/{id}/copy"] = new(May.SignedIn, Json(() => new { text = "x" })),
        ["POST /api/emails/{id}/replacements"] = new(May.SignedIn, Json(() => new { find = "x", with = "y" })),
        ["POST /api/emails/paste"] = new(May.SignedIn, Json(() => new { text = "x" })),
        ["GET /api/home"] = new(May.SignedIn),
        ["POST /api/home/noted"] = new(May.SignedIn, Json(() => new { key = "none" })),
        ["GET /api/notices"] = new(May.SignedIn),
        ["PUT /api/notices"] = new(May.SignedIn, Json(() => Array.Empty<object>())),
        ["GET /api/updates"] = new(May.SignedIn),
        // Each email that is named is decided by itself.
        ["POST /api/updates"] = new(May.SignedIn, Json(() => Array.Empty<object>())),
        ["GET /api/calendar"] = new(May.SignedIn),
        ["GET /api/calendar.ics"] = new(May.SignedIn),
        ["GET /api/library-health"] = new(May.Lead),
        ["GET /api/emails/{id}/review"] = new(May.SignedIn),
        ["POST /api/emails/{id}/review/rounds"] = new(May.Author, Json(() => new { id = Guid.CreateVersion7() })),
        ["DELETE /api/emails/{id}/review/rounds/open"] = new(May.Author),
        ["POST /api/emails/{id}/review/decisions"] = new(May.SignedIn, Json(() => new { verdict = "approve", hash = "none" })),
        ["GET /api/emails/{id}/review/comparison"] = new(May.SignedIn),
        ["GET /api/emails/{id}/hand-offs"] = new(May.SignedIn),
        ["POST /api/emails/{id}/hand-offs"] = new(May.Author, Json(() => new { id = Guid.CreateVersion7(), hash = "none" })),
        ["POST /api/emails/{id}/correction"] = new(May.Author),
        ["GET /api/emails/{id}/test-sends"] = new(May.SignedIn),
        ["POST /api/emails/{id}/test-sends"] = new(
            May.SignedIn,
            Json(() => new { id = Guid.CreateVersion7(), people = Array.Empty<Guid>() })
        ),
        ["GET /api/testers"] = new(May.SignedIn),
        ["PUT /api/testers"] = new(May.Lead, Json(() => Array.Empty<object>())),
        ["GET /api/hand-offs/{id}"] = new(May.SignedIn),
        ["GET /api/hand-offs/{id}/html"] = new(May.SignedIn),
        ["GET /api/hand-offs/{id}/text"] = new(May.SignedIn),
        ["GET /api/hand-offs/{id}/message"] = new(May.SignedIn),
        ["GET /api/hand-offs/{id}/bundle"] = new(May.SignedIn),
        ["GET /api/hand-offs/{id}/record"] = new(May.SignedIn),
        ["POST /api/hand-offs/{id}/sign-off"] = new(May.SignedIn, Job),
        ["POST /api/hand-offs/{id}/verification"] = new(May.SignedIn),
        ["POST /api/hand-offs/{id}/reader-address"] = new(May.SignedIn, Json(() => new { sample = Guid.NewGuid() })),
        ["POST /api/hand-offs/{id}/sending"] = new(May.Author),
        ["POST /api/hand-offs/{id}/withdrawal"] = new(May.Author, Json(() => new { reason = "By the table" })),
        ["PUT /api/hand-offs/{id}/page"] = new(May.Lead, Json(() => new { until = (string?)null })),
        ["GET /view/{address}"] = new(May.Anyone),
        ["GET /unsubscribe/{reader}"] = new(May.Anyone),
        ["POST /unsubscribe/{reader}"] = new(May.Anyone),
        ["GET /api/destinations"] = new(May.SignedIn),
        ["POST /api/destinations"] = new(
            May.Lead,
            Json(() =>
                new
                {
                    id = Guid.CreateVersion7(),
                    name = $"By the table {Guid.NewGuid():n}"[..30],
                    kind = "download",
                }
            )
        ),
        ["PUT /api/destinations/{id}"] = new(
            May.Lead,
            Json(() =>
                new
                {
                    id = Guid.CreateVersion7(),
                    name = "By the table",
                    kind = "download",
                }
            )
        ),
        ["DELETE /api/destinations/{id}"] = new(May.Lead),
        ["POST /api/destinations/{id}/trial"] = new(May.Lead),
        ["GET /api/destinations/{id}/lists"] = new(May.Author),
        ["POST /api/hand-offs/{id}/pushes"] = new(May.Author, Json(() => new { destination = Guid.NewGuid() })),
        ["DELETE /api/hand-offs/{id}/pushes/{destination}"] = new(May.Author),
        ["GET /api/hand-offs/{id}/sending"] = new(May.SignedIn),
        ["POST /api/hand-offs/{id}/sends/plan"] = new(May.Author, Json(Send)),
        ["POST /api/hand-offs/{id}/sends"] = new(May.Author, Json(Send)),
        ["POST /api/hand-offs/{id}/sends/{send}/act"] = new(May.Author, Json(() => new { act = "pause" })),
        ["GET /api/hand-offs/{id}/sends/{send}/not-reached"] = new(May.Author),
        ["GET /api/hand-offs/{id}/returns"] = new(May.SignedIn),
        ["GET /api/returns"] = new(May.SignedIn),
        ["GET /api/tokens"] = new(May.Lead),
        ["POST /api/tokens"] = new(
            May.Lead,
            Json(() =>
                new
                {
                    id = Guid.CreateVersion7(),
                    name = "By the table",
                    scopes = new[] { "events:write" },
                }
            )
        ),
        ["DELETE /api/tokens/{id}"] = new(May.Lead),
        ["GET /api/webhooks"] = new(May.Lead),
        ["POST /api/webhooks"] = new(May.Lead, Json(Hook)),
        ["PUT /api/webhooks/{id}"] = new(May.Lead, Json(Hook)),
        ["DELETE /api/webhooks/{id}"] = new(May.Lead),
        ["POST /api/webhooks/{id}/secret"] = new(May.Lead),
        ["POST /api/webhooks/{id}/trial"] = new(May.Lead),
        ["GET /api/webhooks/{id}/deliveries"] = new(May.Lead),
        ["POST /api/webhooks/{id}/deliveries/{delivery}/again"] = new(May.Lead),
        ["GET /api/hand-offs"] = new(May.Program),
        ["GET /api/hand-offs/{id}/files/{**name}"] = new(May.Program),
        ["POST /api/hand-offs/{id}/events"] = new(May.Program, Json(() => new { events = Array.Empty<object>() })),
        ["GET /api/emails/{id}/comments"] = new(May.SignedIn),
        ["POST /api/emails/{id}/comments"] = new(May.SignedIn, Json(() => new { id = Guid.CreateVersion7(), text = "By the table" })),
        ["PUT /api/emails/{id}/comments/{comment}"] = new(
            May.SignedIn,
            Json(() => new { text = "By the table", mentions = Array.Empty<Guid>() })
        ),
        ["DELETE /api/emails/{id}/comments/{comment}"] = new(May.SignedIn),
        ["PUT /api/emails/{id}/comments/{comment}/resolution"] = new(May.SignedIn, Json(() => new { resolved = true })),
        ["PUT /api/campaign-types/{key}/review-rule"] = new(
            May.Lead,
            Json(() =>
                new
                {
                    needs = new[]
                    {
                        new
                        {
                            name = "Lead",
                            roles = new[] { "lead" },
                            people = Array.Empty<Guid>(),
                        },
                    },
                }
            )
        ),
        ["GET /api/emails/{id}/history"] = new(May.SignedIn),
        ["GET /api/emails/{id}/history/{revision}/html"] = new(May.SignedIn),
        ["GET /api/emails/{id}/history/{revision}/way-back"] = new(May.SignedIn),
        ["GET /api/emails/{id}/update"] = new(May.SignedIn),
        ["GET /api/emails/{id}/update/html"] = new(May.SignedIn),
        ["GET /api/emails/{id}/html"] = new(May.SignedIn),
        ["GET /api/emails/{id}/text"] = new(May.SignedIn),
        ["GET /api/emails/{id}/message"] = new(May.SignedIn),
        ["GET /api/emails/{id}/fields"] = new(May.SignedIn),
        ["GET /api/emails/{id}/bundle"] = new(May.SignedIn),
        ["POST /api/emails/{id}/sign-off"] = new(May.SignedIn, Job),
        ["GET /api/links/recent"] = new(May.SignedIn),
        ["GET /api/links/check"] = new(May.SignedIn),
        ["GET /api/checks"] = new(May.SignedIn),
        ["GET /api/checks/clients"] = new(May.SignedIn),
        ["GET /api/checks/policy"] = new(May.SignedIn),
        ["PUT /api/checks/policy"] = new(May.Lead, Json(() => new { })),
        ["POST /api/audits"] = new(May.Maker, Job),
        ["GET /api/audits/newest"] = new(May.Maker),
        ["GET /api/audits/newest.csv"] = new(May.Maker),
        ["GET /api/jobs/{id}"] = new(May.SignedIn),
        ["GET /api/jobs/{id}/result"] = new(May.SignedIn),
        ["DELETE /api/jobs/{id}"] = new(May.SignedIn),
        ["GET /api/files"] = new(May.SignedIn),
        ["POST /api/files"] = new(May.Author, File("x.txt", "x")),
        ["GET /api/files/{id}"] = new(May.SignedIn),
        ["GET /api/snippets"] = new(May.SignedIn),
        ["POST /api/snippets"] = new(
            May.Maker,
            Json(() =>
                new
                {
                    id = Guid.CreateVersion7(),
                    key = $"made-{Guid.NewGuid():n}"[..30],
                    name = "By the table",
                    type = "text",
                    description = "",
                }
            )
        ),
        ["GET /api/snippets/{id}"] = new(May.SignedIn),
        ["POST /api/snippets/{id}/edits"] = new(May.Maker, Edit(() => new { kind = "set-description", text = "By the table" })),
        ["POST /api/snippets/{id}/undo"] = new(May.SignedIn, UndoStyle),
        ["POST /api/snippets/{id}/redo"] = new(May.SignedIn, UndoStyle),
        ["PUT /api/snippets/{id}/status"] = new(May.Lead, Json(() => new { retired = false })),
        ["GET /api/snippets/{id}/uses"] = new(May.SignedIn),
        ["GET /api/nodes"] = new(May.SignedIn),
        ["GET /api/audiences"] = new(May.SignedIn),
        ["POST /api/audiences/edits"] = new(May.Lead, Edit(() => new { kind = "remove-merge-field", key = "nothing" })),
        ["POST /api/audiences/undo"] = new(May.SignedIn, UndoStyle),
        ["POST /api/audiences/redo"] = new(May.SignedIn, UndoStyle),
        ["GET /api/audiences/fields/{key}/uses"] = new(May.SignedIn),
        ["GET /api/audiences/named/{key}/uses"] = new(May.SignedIn),
        ["POST /api/audiences/sentence"] = new(
            May.SignedIn,
            Json(() =>
                new
                {
                    kind = "test",
                    field = "member",
                    @is = "is",
                    values = new[] { "yes" },
                }
            )
        ),
        ["GET /api/sample-readers"] = new(May.SignedIn),
        ["PUT /api/sample-readers/{id}"] = new(
            May.Maker,
            Json(() => new { name = "By the table", values = new Dictionary<string, string>() })
        ),
        ["DELETE /api/sample-readers/{id}"] = new(May.Maker),
        ["DELETE /api/sample-readers"] = new(May.Maker),
        ["POST /api/sample-readers/file"] = new(May.Maker, Json(() => new { csv = "First name\nAda\n" })),
        ["GET /api/house-styles"] = new(May.SignedIn),
        ["POST /api/house-styles"] = new(May.Lead, Json(() => new { id = Guid.CreateVersion7(), name = "By the table" })),
        ["GET /api/house-styles/usual-variables"] = new(May.SignedIn),
        ["GET /api/house-styles/specimen-pieces"] = new(May.SignedIn),
        ["GET /api/house-styles/{id}"] = new(May.SignedIn),
        ["POST /api/house-styles/{id}/edits"] = new(
            May.Lead,
            Json(() =>
                new
                {
                    @base = 0,
                    edits = new[]
                    {
                        new
                        {
                            id = Guid.CreateVersion7(),
                            step = Guid.CreateVersion7(),
                            edit = new { kind = "remove-variable", key = "none" },
                        },
                    },
                }
            )
        ),
        ["POST /api/house-styles/{id}/undo"] = new(May.SignedIn, UndoStyle),
        ["POST /api/house-styles/{id}/redo"] = new(May.SignedIn, UndoStyle),
        ["GET /api/house-styles/{id}/variables/{key}/uses"] = new(May.SignedIn),
        ["GET /api/house-styles/{id}/reach"] = new(May.SignedIn),
        ["POST /api/rows/{id}/reach/checks"] = new(May.Maker, Json(() => new { id = Guid.CreateVersion7() })) { Owned = true },
        ["GET /api/rows/{id}/reach/checks/{job}"] = new(May.SignedIn),
        ["GET /api/rows/{id}/reach/{email}/html"] = new(May.Maker) { Owned = true },
        ["POST /api/templates/{id}/reach/checks"] = new(May.Maker, Json(() => new { id = Guid.CreateVersion7() })) { Owned = true },
        ["GET /api/templates/{id}/reach/checks/{job}"] = new(May.SignedIn),
        ["GET /api/templates/{id}/reach/{email}/html"] = new(May.Maker) { Owned = true },
        ["POST /api/house-styles/{id}/reach/checks"] = new(May.Maker, Json(() => new { id = Guid.CreateVersion7() })),
        ["GET /api/house-styles/{id}/reach/checks/{job}"] = new(May.SignedIn),
        ["GET /api/house-styles/{id}/changes"] = new(May.SignedIn),
        ["GET /api/house-styles/{id}/releases"] = new(May.SignedIn),
        ["POST /api/house-styles/{id}/releases"] = new(May.Lead, Release),
        ["GET /api/house-styles/{id}/releases/{number}"] = new(May.SignedIn),
        ["POST /api/house-styles/{id}/import"] = new(May.SignedIn, Json(() => new { format = "css", text = "" })),
        ["GET /api/house-styles/{id}/variables.tokens.json"] = new(May.SignedIn),
        ["GET /api/house-styles/{id}/variables.css"] = new(May.SignedIn),
        ["POST /api/house-styles/{id}/palette"] = new(May.SignedIn, File("x.png", "x")),
        ["GET /api/house-styles/{id}/palette/{picture}"] = new(May.SignedIn),
        ["POST /api/thumbnails"] = new(May.SignedIn, Json(() => new { subjects = Array.Empty<object>() })),
        ["GET /api/thumbnails/{id}"] = new(May.SignedIn),
        ["GET /api/pictures"] = new(May.SignedIn),
        ["POST /api/pictures"] = new(May.Author, File("x.png", "x")),
        ["GET /api/pictures/tags"] = new(May.SignedIn),
        ["GET /api/pictures/{id}"] = new(May.SignedIn),
        ["PATCH /api/pictures/{id}"] = new(May.Author, Json(() => new { })),
        ["GET /api/pictures/{id}/uses"] = new(May.SignedIn),
        ["PUT /api/pictures/{id}/replacement"] = new(May.Maker, Json(() => new { by = "none" })),
        ["DELETE /api/pictures/{id}/replacement"] = new(May.Maker),
        ["GET /api/openapi.json"] = new(May.SignedIn),
        ["GET /health/live"] = new(May.Anyone),
        ["GET /health/ready"] = new(May.Anyone),
        ["GET /pictures/{file}"] = new(May.Anyone),
        ["GET /{*path:nonfile}"] = new(May.Anyone),
        ["GET /api/{**rest}"] = new(May.Anyone),
        ["GET /live"] = new(May.SignedIn),
        ["GET /live/negotiate"] = new(May.SignedIn),
    };

    private static readonly string[] SignsInAnew = ["POST /api/session", "POST /api/invitations/acceptance"];

    // The desk's routes are the same three times.
    static RouteTests()
    {
        foreach (var kind in (string[])["emails", "templates", "rows"])
        {
            var (reads, writes, owned) = kind == "emails" ? (May.SignedIn, May.Author, false) : (May.Maker, May.Maker, true);
            foreach (
                var path in (string[])
                    [
                        "desk",
                        "offers",
                        "order/{row}",
                        "order/{row}/places",
                        "why",
                        "replay",
                        "draft/text",
                        "draft/inbox",
                        "draft/view",
                        "draft/reader",
                        "report",
                    ]
            )
            {
                Table[$"GET /api/{kind}/{{id}}/{path}"] = new(reads, null, owned);
            }

            var say =
                kind == "emails"
                    ? new
                    {
                        kind = "set-detail",
                        field = "subject",
                        value = "By the table",
                    }
                    : (object)new { kind = "set-description", text = "By the table" };
            Table[$"POST /api/{kind}/{{id}}/edits"] = new(writes, Edit(() => say), owned);
            // Of what nobody but oneself has done there is nothing to take back.
            Table[$"POST /api/{kind}/{{id}}/undo"] = new(reads, Undo, owned);
            Table[$"POST /api/{kind}/{{id}}/redo"] = new(reads, Undo, owned);
            if (kind != "emails")
            {
                Table[$"GET /api/{kind}/{{id}}/html"] = new(May.SignedIn, null, owned);
                Table[$"GET /api/{kind}/{{id}}/uses"] = new(May.SignedIn, null, owned);
                Table[$"GET /api/{kind}/{{id}}/releases"] = new(May.Maker, null, owned);
                Table[$"POST /api/{kind}/{{id}}/releases"] = new(May.Maker, Release, owned);
                Table[$"GET /api/{kind}/{{id}}/releases/{{number}}/html"] = new(May.Maker, null, owned);
                Table[$"GET /api/{kind}/{{id}}/planned-release"] = new(May.Maker, null, owned);
                Table[$"DELETE /api/{kind}/{{id}}/planned-release"] = new(May.Maker, null, owned);
                Table[$"PUT /api/{kind}/{{id}}/planned-release"] = new(
                    May.Maker,
                    Json(() => new { note = "By the table", at = "2020-01-01T00:00:00Z" }),
                    owned
                );
                Table[$"PUT /api/{kind}/{{id}}/status"] = new(May.Maker, Json(() => new { retired = false }), owned);
            }
        }
    }

    [Fact]
    public async Task Every_route_is_for_whom_the_table_says_and_for_nobody_else()
    {
        var routes = server
            .Services.GetRequiredService<EndpointDataSource>()
            .Endpoints.OfType<RouteEndpoint>()
            .SelectMany(e =>
                (e.Metadata.GetMetadata<HttpMethodMetadata>()?.HttpMethods ?? ["GET"]).Select(m => $"{m} /{Bare(e.RoutePattern.RawText!)}")
            )
            .Where(r =>
                !r.StartsWith("HEAD ", StringComparison.Ordinal)
                && !r.StartsWith("OPTIONS ", StringComparison.Ordinal)
                && !r.StartsWith("CONNECT ", StringComparison.Ordinal)
            )
            .Distinct(StringComparer.Ordinal)
            .Order(StringComparer.Ordinal)
            .ToList();
        Assert.Empty(routes.Except(Table.Keys).Select(r => $"{r} is in no line of the table"));
        Assert.Empty(Table.Keys.Except(routes).Select(r => $"{r} is no route"));

        var other = await AnotherDesigner();
        var people = new (string Who, HttpClient Client, May Most, bool Owns)[]
        {
            ("nobody", server.CreateClient(), May.Anyone, false),
            ("a reviewer, jonas", await server.As("jonas"), May.SignedIn, false),
            ("an author, imran", await server.As("imran"), May.Author, false),
            ("another designer, dora", other, May.Maker, false),
            ("its owner, dana", await server.As("dana"), May.Maker, true),
            ("a lead, ruth", await server.As("ruth"), May.Lead, true),
        };
        var places = await Places(people[4].Client);
        var wrong = new List<string>();
        foreach (var secret in (bool[])[true, false])
        {
            foreach (
                var (route, entry) in Table
                    .Where(t => !secret || t.Value.Owned)
                    .OrderBy(t =>
                        t.Key switch
                        {
                            "DELETE /api/sessions" => 1,
                            "DELETE /api/session" => 2,
                            _ => 0,
                        }
                    )
            )
            {
                var (method, path) = (route.Split(' ')[0], route.Split(' ')[1]);
                foreach (var (who, client, most, owns) in people)
                {
                    if (route == "DELETE /api/session" && most > May.Anyone)
                    {
                        // Signed out everywhere a moment ago.
                        await Running.SignIn(client, who.Split(", ")[1]);
                    }

                    using var request = new HttpRequestMessage(new HttpMethod(method), Fill(path, secret, places))
                    {
                        Content = entry.Body?.Invoke(),
                    };
                    using var answer = await client.SendAsync(request);
                    if (SignsInAnew.Contains(route) && most > May.Anyone)
                    {
                        // Nobody signs in over a session that is there: it has ended.
                        Assert.Equal(HttpStatusCode.Conflict, answer.StatusCode);
                        await Running.SignIn(client, who.Split(", ")[1]);
                        continue;
                    }

                    var status = (int)answer.StatusCode;
                    var may = (entry.May <= most && (!secret || owns)) || (entry.OrOwner && owns);
                    var said = await answer.Content.ReadAsStringAsync();
                    // Of a private one others hear that there is none.
                    var hidden =
                        secret
                        && status == 404
                        && (
                            said.Contains("no such template", StringComparison.Ordinal)
                            || said.Contains("no such saved row", StringComparison.Ordinal)
                        );
                    var refused = status is 401 or 403 || hidden;
                    // A sign-in with a wrong password is no question of who asks; nobody is asked to sign in before anything else
                    // is looked at.
                    if (
                        (route != "POST /api/session" && refused == may)
                        || (most == May.Anyone && entry.May > May.Anyone && status != 401)
                        || status >= 500
                    )
                    {
                        wrong.Add($"{route}{(secret ? ", of a private one," : "")} by {who}: {status} {string.Concat(said.Take(200))}");
                    }
                }
            }
        }

        Assert.True(wrong.Count == 0, string.Join("\n", wrong));
    }

    /// <summary>
    /// The routes of one email, asked by people of its team, of another team, and of all: those who may read it, those for whom
    /// it is not there.
    /// </summary>
    [Theory]
    [InlineData("special-train", "hanna", true, true)]
    [InlineData("special-train", "wren", true, false)]
    [InlineData("special-train", "imran", true, true)]
    [InlineData("shop-offer", "wren", true, true)]
    [InlineData("shop-offer", "hanna", false, false)]
    [InlineData("shop-offer", "imran", true, true)]
    [InlineData("shop-offer", "jonas", true, false)]
    public async Task Routes_of_an_email_are_for_those_whom_its_team_lets(string type, string who, bool sees, bool writes)
    {
        var lead = await server.As("ruth");
        var email = await EmailOf(type, lead);
        var asking = await server.As(who);
        var places = await Places(await server.As("dana"));
        var wrong = new List<string>();
        foreach (var (route, entry) in Table.Where(t => t.Key.Contains("/emails/{id}", StringComparison.Ordinal)))
        {
            var (method, path) = (route.Split(' ')[0], route.Split(' ')[1]);
            using var request = new HttpRequestMessage(
                new HttpMethod(method),
                Fill(path.Replace("/emails/{id}", $"/emails/{email}", StringComparison.Ordinal), false, places)
            )
            {
                Content = entry.Body?.Invoke(),
            };
            using var answer = await asking.SendAsync(request);
            var said = await answer.Content.ReadAsStringAsync();
            var isThere = !(answer.StatusCode == HttpStatusCode.NotFound && said.Contains("no such email", StringComparison.Ordinal));
            // A reader is refused before it is asked for at some of them; nothing of it is said.
            if (isThere != sees && !(answer.StatusCode == HttpStatusCode.Forbidden && entry.May > May.SignedIn))
            {
                wrong.Add($"{route}: {(int)answer.StatusCode} {said}");
            }
            else if (sees && entry.May == May.Author && (answer.StatusCode == HttpStatusCode.Forbidden) == writes)
            {
                wrong.Add($"{route}: {(int)answer.StatusCode} {said}");
            }
        }

        Assert.True(wrong.Count == 0, string.Join("\n", wrong));
        Assert.Equal(
            sees,
            (await asking.GetStringAsync($"/api/emails?campaignType={type}")).Contains(email.ToString(), StringComparison.Ordinal)
        );
        Assert.Equal(sees, (await asking.GetStringAsync("/api/search?q=Ofthetable")).Contains(email.ToString(), StringComparison.Ordinal));
        var thumbnails = await asking.PostAsJsonAsync(
            "/api/thumbnails",
            new
            {
                subjects = new[]
                {
                    new
                    {
                        kind = "email",
                        id = email,
                        screen = "desktop",
                        draft = false,
                    },
                },
            }
        );
        var drawn = JsonNode.Parse(await thumbnails.Content.ReadAsStringAsync())![0]!;
        Assert.Equal(sees, drawn["id"] is not null || drawn["coming"]!.GetValue<bool>());
        using var next = await asking.PostAsJsonAsync(
            "/api/emails",
            new
            {
                id = Guid.CreateVersion7(),
                name = "Next",
                email,
            }
        );
        var expected = (sees, writes) switch
        {
            (_, true) => HttpStatusCode.OK,
            (false, _) => HttpStatusCode.NotFound,
            _ => HttpStatusCode.Forbidden,
        };
        Assert.Equal(expected, next.StatusCode);
    }

    [Fact]
    public async Task Addresses_linked_to_lately_are_those_of_emails_that_one_sees()
    {
        var lead = await server.As("ruth");
        var email = await EmailOf("shop-offer", lead);
        var desk = await Running.Desk(lead, email);
        var (row, block, field) = (
            from r in desk.Rows
            from column in r.Columns
            from b in column.Blocks
            from f in b.Fields
            where f.Value is FieldValue.Link && b.Content.Allowed
            select (r, b, f)
        ).First();
        var href = $"https://{Guid.NewGuid():N}.example.org/";
        using var edited = await lead.Edit(
            email,
            desk.Revision,
            new
            {
                kind = "set-fill",
                row = row.Id,
                piece = block.Id,
                field = field.Name,
                value = new { kind = "link", href },
            }
        );
        edited.EnsureSuccessStatusCode();
        foreach (var (who, sees) in ((string, bool)[])[("wren", true), ("imran", true), ("hanna", false)])
        {
            var links = await (await server.As(who)).GetStringAsync("/api/links/recent");
            Assert.True(sees == links.Contains(href, StringComparison.Ordinal), $"{who}: {links}");
        }
    }

    private static async Task<Guid> EmailOf(string type, HttpClient lead)
    {
        var templates = JsonNode.Parse(await lead.GetStringAsync($"/api/templates?campaignType={type}"))!;
        var id = Guid.CreateVersion7();
        using var made = await lead.PostAsJsonAsync(
            "/api/emails",
            new
            {
                id,
                name = "Ofthetable",
                template = templates["templates"]![0]!["id"]!.GetValue<Guid>(),
            }
        );
        made.EnsureSuccessStatusCode();
        return id;
    }

    private static string Bare(string pattern) =>
        System.Text.RegularExpressions.Regex.Replace(
            pattern.Trim('/'),
            @"\{(?<name>\w+):(guid|int|long)\}",
            "{${name}}",
            System.Text.RegularExpressions.RegexOptions.ExplicitCapture,
            TimeSpan.FromSeconds(1)
        );

    private sealed record Place(
        Guid Email,
        Guid Template,
        Guid Row,
        Guid SecretTemplate,
        Guid SecretRow,
        Guid House,
        Guid Snippet,
        string Picture,
        Guid HandOff
    );

    private static string Fill(string path, bool secret, Place p) =>
        path.Replace("/templates/{id}", $"/templates/{(secret ? p.SecretTemplate : p.Template)}", StringComparison.Ordinal)
            .Replace("/rows/{id}", $"/rows/{(secret ? p.SecretRow : p.Row)}", StringComparison.Ordinal)
            .Replace("/emails/{id}", $"/emails/{p.Email}", StringComparison.Ordinal)
            .Replace("/hand-offs/{id}", $"/hand-offs/{p.HandOff}", StringComparison.Ordinal)
            .Replace("{address}", "none", StringComparison.Ordinal)
            .Replace("{reader}", "none", StringComparison.Ordinal)
            .Replace("/destinations/{id}", $"/destinations/{Guid.NewGuid()}", StringComparison.Ordinal)
            .Replace("/webhooks/{id}", $"/webhooks/{Guid.NewGuid()}", StringComparison.Ordinal)
            .Replace("/tokens/{id}", $"/tokens/{Guid.NewGuid()}", StringComparison.Ordinal)
            .Replace("{destination}", Guid.NewGuid().ToString(), StringComparison.Ordinal)
            .Replace("{delivery}", Guid.NewGuid().ToString(), StringComparison.Ordinal)
            .Replace("{send}", Guid.NewGuid().ToString(), StringComparison.Ordinal)
            .Replace("{**name}", "mustache/index.html", StringComparison.Ordinal)
            .Replace("/house-styles/{id}", $"/house-styles/{p.House}", StringComparison.Ordinal)
            .Replace("/snippets/{id}", $"/snippets/{p.Snippet}", StringComparison.Ordinal)
            .Replace("/sample-readers/{id}", $"/sample-readers/{Guid.NewGuid()}", StringComparison.Ordinal)
            .Replace("/audiences/fields/{key}", "/audiences/fields/first-name", StringComparison.Ordinal)
            .Replace("/audiences/named/{key}", "/audiences/named/members", StringComparison.Ordinal)
            .Replace("/pictures/{id}", $"/pictures/{p.Picture}", StringComparison.Ordinal)
            .Replace("/accounts/{id}", $"/accounts/{Guid.NewGuid()}", StringComparison.Ordinal)
            .Replace("/sessions/{id}", "/sessions/none", StringComparison.Ordinal)
            .Replace("/mailroom/{id}", "/mailroom/1", StringComparison.Ordinal)
            .Replace("/teams/{id}", $"/teams/{Guid.NewGuid()}", StringComparison.Ordinal)
            .Replace("{person}", Guid.NewGuid().ToString(), StringComparison.Ordinal)
            .Replace("{email}", p.Email.ToString(), StringComparison.Ordinal)
            .Replace("{comment}", Guid.NewGuid().ToString(), StringComparison.Ordinal)
            .Replace("/jobs/{id}", $"/jobs/{Guid.NewGuid()}", StringComparison.Ordinal)
            .Replace("{job}", Guid.NewGuid().ToString(), StringComparison.Ordinal)
            .Replace("/files/{id}", $"/files/{new string('a', 64)}", StringComparison.Ordinal)
            .Replace("{revision}", "0", StringComparison.Ordinal)
            .Replace("{number}", "1", StringComparison.Ordinal)
            .Replace("{key}", "members-gazette", StringComparison.Ordinal)
            .Replace("{name}", "newsletter", StringComparison.Ordinal)
            .Replace("{row}", "none", StringComparison.Ordinal)
            .Replace("{picture}", p.Picture, StringComparison.Ordinal)
            .Replace("{*path:nonfile}", "rooms", StringComparison.Ordinal)
            .Replace("{**rest}", "nowhere", StringComparison.Ordinal)
        + path.Split('/')[^1] switch
        {
            "why" => "?row=none",
            "view" => "?view=no-media-queries",
            "import" => $"?id={Guid.CreateVersion7()}",
            "check" => "?href=x",
            _ => "",
        };

    private async Task<Place> Places(HttpClient owner)
    {
        var ids = new List<Guid>();
        foreach (var (path, body) in new (string, Func<Guid, object>)[] { ("templates", id => new
                {
                    id,
                    name = "Of the table",
                    campaignType = "members-gazette",
                }), ("templates", id => new
                {
                    id,
                    name = "Of the owner",
                    campaignType = "members-gazette",
                }), ("rows", id => new
                {
                    id,
                    name = "Of the table",
                    rowKind = "main",
                }), ("rows", id => new
                {
                    id,
                    name = "Of the owner",
                    rowKind = "main",
                }) })
        {
            var id = Guid.CreateVersion7();
            (await owner.PostAsJsonAsync($"/api/{path}", body(id))).EnsureSuccessStatusCode();
            (await owner.PostAsJsonAsync($"/api/{path}/{id}/releases", new { note = "First" })).EnsureSuccessStatusCode();
            ids.Add(id);
        }

        (await owner.PutAsJsonAsync($"/api/templates/{ids[1]}/status", new { @private = true })).EnsureSuccessStatusCode();
        (await owner.PutAsJsonAsync($"/api/rows/{ids[3]}/status", new { @private = true })).EnsureSuccessStatusCode();
        var house = (await Running.House(owner)).Id;
        return new Place(
            (await server.NewEmail(owner)).Id,
            ids[0],
            ids[2],
            ids[1],
            ids[3],
            house,
            server.Query(db => db.Documents.First(d => d.TechnicalName == "lost-property").Id),
            server.Query(db => db.Pictures.First().Id),
            server.Query(db => db.HandOffs.First().Id)
        );
    }

    private async Task<HttpClient> AnotherDesigner()
    {
        using (var scope = server.Services.CreateScope())
        {
            var accounts = scope.ServiceProvider.GetRequiredService<UserManager<Account>>();
            var dora = new Account
            {
                UserName = "dora@larkfell.example.org",
                Email = "dora@larkfell.example.org",
                Name = "Dora Fell",
            };
            Assert.True((await accounts.CreateAsync(dora, "steam-and-cinders")).Succeeded);
            Assert.True((await accounts.AddToRoleAsync(dora, nameof(Role.Designer))).Succeeded);
        }

        return await server.As("dora");
    }
}
