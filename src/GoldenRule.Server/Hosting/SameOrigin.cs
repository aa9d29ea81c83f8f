using Microsoft.Net.Http.Headers;

namespace GoldenRule.Server.Hosting;

/// <summary>
/// Refuses what another site's page does with someone's cookie: changes, and listening to news (Fetch Metadata, W3C; where a
/// browser sends none, the Origin of RFC 6454). "Same site" is not enough: another port of the same machine is another's page.
/// </summary>
public static class SameOrigin
{
    public static Task Require(HttpContext http, RequestDelegate next)
    {
        var request = http.Request;
        var onlyReads = HttpMethods.IsGet(request.Method) || HttpMethods.IsHead(request.Method) || HttpMethods.IsOptions(request.Method);
        // A WebSocket begins with GET, and no browser keeps another page from reading what comes through it.
        return (onlyReads && !request.Path.StartsWithSegments(LiveHub.Path, StringComparison.Ordinal)) || IsOwn(request)
            ? next(http)
            : throw new ProblemException(
                403,
                "cross-site",
                "Sent by another site",
                "This came from a page that is not of this address. Open Golden Rule itself and do it there."
            );
    }

    private static bool IsOwn(HttpRequest request)
    {
        if (request.Headers["Sec-Fetch-Site"].ToString() is { Length: > 0 } site)
        {
            return site is "same-origin" or "none";
        }

        var origin = request.Headers[HeaderNames.Origin].ToString();
        return origin.Length == 0
            || string.Equals(
                origin,
                request.HttpContext.RequestServices.GetRequiredService<PublicAddress>().Base(request),
                StringComparison.OrdinalIgnoreCase
            );
    }
}
