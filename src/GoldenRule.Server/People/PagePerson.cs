using System.Security.Claims;
using GoldenRule.Server.Hosting;
using Microsoft.AspNetCore.Authorization;

namespace GoldenRule.Server.People;

/// <summary>
/// Windows of one browser share a session: where somebody else has signed in meanwhile, what a page opened by one person asks is
/// not done in the name of the other. A page says whose it is; whoever says nothing, as a script, is who is signed in.
/// </summary>
public static class PagePerson
{
    /// <summary>Id of the person a page was opened by.</summary>
    public const string Header = "Page-Person";

    public static Task Require(HttpContext http, RequestDelegate next)
    {
        var of = http.Request.Headers[Header].ToString();
        var isOthers =
            of.Length > 0
            && http.User.FindFirstValue(ClaimTypes.NameIdentifier) is { } here
            && !string.Equals(of, here, StringComparison.OrdinalIgnoreCase);
        // What anyone may ask, signing in among it, is done in nobody's name.
        return isOthers && http.GetEndpoint()?.Metadata.GetMetadata<IAllowAnonymous>() is null
            ? throw new ProblemException(
                401,
                "other-person",
                "Someone else is signed in here",
                "Someone else has signed in in another window of this browser. Sign in again to go on in this one."
            )
            : next(http);
    }
}
