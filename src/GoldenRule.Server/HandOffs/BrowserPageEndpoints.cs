using System.Security.Cryptography;
using GoldenRule.Server.Hosting;
using Microsoft.Net.Http.Headers;

namespace GoldenRule.Server.HandOffs;

/// <summary>The pages themselves. Readers sign in nowhere; who has the address sees the page.</summary>
public static class BrowserPageEndpoints
{
    // Nothing runs, nothing is sent, nobody frames it; what it shows stands on this server.
    private const string Policy =
        "default-src 'none'; img-src 'self' data:; style-src 'unsafe-inline'; base-uri 'none'; form-action 'none'; "
        + "frame-ancestors 'none'; sandbox allow-popups allow-popups-to-escape-sandbox allow-top-navigation-by-user-activation";

    public static void MapBrowserPages(this IEndpointRouteBuilder routes) =>
        routes.MapMethods(PublicAddress.BrowserPages + "{address}", ["GET", "HEAD"], AnswerAsync).AllowAnonymous().ExcludeFromDescription();

    private static async Task AnswerAsync(string address, string? reader, HttpContext http, BrowserPages pages, CancellationToken cancel)
    {
        var headers = http.Response.Headers;
        headers.ContentSecurityPolicy = Policy;
        headers["X-Robots-Tag"] = "noindex";
        if (address == PublicAddress.DraftPage)
        {
            await ReaderPage.TellAsync(http, 404, "Not there yet", "This email was not handed off yet. Its page is there from then on.");
            return;
        }

        if (reader is { Length: > 0 })
        {
            await ForReaderAsync(address, reader, http, pages, cancel);
            return;
        }

        var (page, gone) = await pages.FindAsync(address, cancel);
        if (page is null)
        {
            await TellGoneAsync(http, gone);
            return;
        }

        headers.CacheControl = "public, max-age=60";
        headers.ETag = page.ETag;
        headers.Vary = HeaderNames.AcceptEncoding;
        if (http.Request.Headers.IfNoneMatch.ToString().Contains(page.ETag, StringComparison.Ordinal))
        {
            http.Response.StatusCode = 304;
            return;
        }

        var brotli = http.Request.Headers.AcceptEncoding.ToString().Contains("br", StringComparison.Ordinal);
        if (brotli)
        {
            headers.ContentEncoding = "br";
        }

        await WriteAsync(http, brotli ? page.Compressed : page.Html, cancel);
    }

    private static async Task ForReaderAsync(string address, string reader, HttpContext http, BrowserPages pages, CancellationToken cancel)
    {
        http.Response.Headers.CacheControl = "private, no-store";
        try
        {
            if (await pages.FindForAsync(address, reader, cancel) is { } html)
            {
                await WriteAsync(http, html, cancel);
                return;
            }
        }
        catch (CryptographicException)
        {
            await ReaderPage.TellAsync(
                http,
                403,
                "This address does not open",
                "It was changed on its way, or it is too old. Open the link in your email again, or the page without what follows the "
                    + "question mark."
            );
            return;
        }

        var (_, gone) = await pages.FindAsync(address, cancel);
        await TellGoneAsync(http, gone);
    }

    private static Task TellGoneAsync(HttpContext http, bool gone) =>
        gone
            ? ReaderPage.TellAsync(http, 410, "This page was closed", "Whoever sent this email has closed its page.")
            : ReaderPage.TellAsync(
                http,
                404,
                "There is no such page",
                "Open the link in your email again: a part of the address may be missing."
            );

    private static async Task WriteAsync(HttpContext http, byte[] html, CancellationToken cancel)
    {
        http.Response.ContentType = "text/html; charset=utf-8";
        http.Response.ContentLength = html.Length;
        if (!HttpMethods.IsHead(http.Request.Method))
        {
            await http.Response.Body.WriteAsync(html, cancel);
        }
    }
}
