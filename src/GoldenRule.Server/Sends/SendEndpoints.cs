using System.Security.Claims;
using GoldenRule.Server.Destinations;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.People;

namespace GoldenRule.Server.Sends;

/// <summary>Sending hand-offs on: pushed as templates, and sent in batches.</summary>
public static class SendEndpoints
{
    public static void MapPushes(this IEndpointRouteBuilder api)
    {
        var of = api.MapGroup("/hand-offs/{id:guid}/pushes").WithTags("Sending");
        of.MapPost(
                "",
                async (
                    Guid id,
                    PushRequest request,
                    HttpContext http,
                    PushDesk desk,
                    SendDesk sends,
                    PublicAddress at,
                    CancellationToken cancel
                ) =>
                {
                    await desk.PushAsync(id, request.Destination, http.User.Person(), at.Base(http.Request), cancel);
                    return await sends.AnswerAsync(id, http.User.Person(), cancel);
                }
            )
            .RequireRateLimiting(RateLimits.Costly)
            .WithName("pushHandOff");
        of.MapDelete(
                "/{destination:guid}",
                async (Guid id, Guid destination, ClaimsPrincipal user, PushDesk desk, SendDesk sends, CancellationToken cancel) =>
                {
                    await desk.StopAsync(id, destination, user.Person(), cancel);
                    return await sends.AnswerAsync(id, user.Person(), cancel);
                }
            )
            .WithName("stopPush");
    }

    public static void MapSends(this IEndpointRouteBuilder api)
    {
        var of = api.MapGroup("/hand-offs/{id:guid}").WithTags("Sending");
        of.MapGet("/sending", (Guid id, ClaimsPrincipal user, SendDesk desk, CancellationToken cancel) =>
                desk.AnswerAsync(id, user.Person(), cancel)
            )
            .WithName("getSending");
        of.MapPost("/sends/plan", (Guid id, SendRequest request, ClaimsPrincipal user, SendDesk desk, CancellationToken cancel) =>
                desk.DrawAsync(id, request, user.Person(), cancel)
            )
            .RequireRateLimiting(RateLimits.Costly)
            .WithName("drawSend");
        of.MapPost("/sends", (Guid id, SendRequest request, HttpContext http, SendDesk desk, PublicAddress at, CancellationToken cancel) =>
                desk.SendAsync(id, request, http.User.Person(), at.Base(http.Request), cancel)
            )
            .RequireRateLimiting(RateLimits.Costly)
            .WithName("sendHandOff");
        of.MapPost(
                "/sends/{send:guid}/act",
                (Guid id, Guid send, SendActRequest request, ClaimsPrincipal user, SendDesk desk, CancellationToken cancel) =>
                    desk.ActAsync(id, send, request.Act, user.Person(), cancel)
            )
            .WithName("actOnSend");
        of.MapGet("/sends/{send:guid}/not-reached", (Guid id, Guid send, ClaimsPrincipal user, SendDesk desk, CancellationToken cancel) =>
                desk.NotReachedAsync(id, send, user.Person(), cancel)
            )
            .WithName("listNotReached");
    }
}
