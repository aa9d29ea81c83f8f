namespace GoldenRule.Server.Hosting;

/// <summary>Answers with an email's HTML, which is somebody's words: it may show pictures and styles, and run nothing.</summary>
public static class MailHtml
{
    public static IResult Answer(HttpContext http, byte[] html, string? downloadName = null)
    {
        http.Response.Headers.ContentSecurityPolicy = "sandbox; default-src 'none'; img-src 'self' data:; style-src 'unsafe-inline'";
        http.Response.Headers.CacheControl = "private, no-cache";
        return Results.File(html, "text/html; charset=utf-8", downloadName);
    }
}
