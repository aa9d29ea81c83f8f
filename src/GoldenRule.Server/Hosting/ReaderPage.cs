using System.Net;

namespace GoldenRule.Server.Hosting;

/// <summary>A page that tells readers something. They sign in nowhere, and search engines leave it alone.</summary>
internal static class ReaderPage
{
    /// <param name="form">HTML of what they can do there; empty: nothing.</param>
    public static Task TellAsync(HttpContext http, int status, string title, string what, string form = "")
    {
        http.Response.StatusCode = status;
        http.Response.Headers.CacheControl = "no-store";
        http.Response.ContentType = "text/html; charset=utf-8";
        return http.Response.WriteAsync(
            $"""
            <!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="robots" content="noindex"><title>{title}</title>
            <meta name="viewport" content="width=device-width,initial-scale=1"></head>
            <body style="margin:0;background:#fbf8f1;color:#1e2430;font:18px/1.5 Georgia,serif">
            <main style="max-width:560px;margin:0 auto;padding:64px 24px"><h1 style="font-size:26px">{title}</h1>
            <p>{WebUtility.HtmlEncode(what)}</p>{form}</main></body></html>
            """
        );
    }
}
