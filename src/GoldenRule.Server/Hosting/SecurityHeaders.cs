using Microsoft.Net.Http.Headers;

namespace GoldenRule.Server.Hosting;

/// <summary>What browsers are told not to do.</summary>
public static class SecurityHeaders
{
    public static Task Add(HttpContext http, Func<Task> next)
    {
        // Only when the answer goes out: where something was thrown, all headers set before are gone.
        http.Response.OnStarting(Set, http);
        return next();
    }

    private static Task Set(object state)
    {
        var http = (HttpContext)state;
        var headers = http.Response.Headers;
        // Mail HTML that is handed out says a stricter one itself. Proofs are srcdoc frames and inherit this: inline styles are
        // needed there, scripts are not and are refused.
        headers.TryAdd(
            HeaderNames.ContentSecurityPolicy,
            "default-src 'self'; script-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data: "
                + "blob:; font-src 'self'; connect-src 'self'; frame-src 'self'; object-src 'none'; base-uri 'none'; "
                + "form-action 'self'; frame-ancestors 'self'"
        );
        headers.XContentTypeOptions = "nosniff";
        headers["Referrer-Policy"] = "same-origin";
        if (http.Request.Path.StartsWithSegments("/api", StringComparison.Ordinal))
        {
            // What someone may see is theirs: nothing on the way keeps it.
            headers.TryAdd(HeaderNames.CacheControl, "no-store");
        }

        return Task.CompletedTask;
    }

    public static StaticFileOptions StaticFiles { get; } =
        new()
        {
            // The build names every asset after its content; the page itself is asked for anew.
            OnPrepareResponse = c =>
                c.Context.Response.Headers.CacheControl = c.Context.Request.Path.StartsWithSegments("/assets", StringComparison.Ordinal)
                    ? "public, max-age=31536000, immutable"
                    : "no-cache",
        };
}
