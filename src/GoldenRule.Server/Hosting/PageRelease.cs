using System.Text.RegularExpressions;
using Microsoft.Extensions.FileProviders;

namespace GoldenRule.Server.Hosting;

/// <summary>
/// Tells whoever asks the API which page this server gives out, so that a page that was opened before an update knows that it is older.
/// </summary>
public static partial class PageRelease
{
    /// <summary>Path of the page's script, which the build names after its content.</summary>
    public const string Header = "Page-Script";

    public static IApplicationBuilder UsePageRelease(this IApplicationBuilder app, IFileProvider pages)
    {
        var script = ScriptOf(pages.GetFileInfo("index.html"));
        return script is null
            ? app
            : app.Use(
                (http, next) =>
                {
                    if (http.Request.Path.StartsWithSegments("/api", StringComparison.Ordinal))
                    {
                        http.Response.OnStarting(() =>
                        {
                            http.Response.Headers[Header] = script;
                            return Task.CompletedTask;
                        });
                    }

                    return next(http);
                }
            );
    }

    // Null: this server has no page, as where the front end is developed.
    private static string? ScriptOf(IFileInfo page)
    {
        if (!page.Exists)
        {
            return null;
        }

        using var reader = new StreamReader(page.CreateReadStream());
        return Script().Match(reader.ReadToEnd()) is { Success: true } found ? found.Groups["path"].Value : null;
    }

    // The page is our own, and a machine that stands still for a second is no reason not to start.
    [GeneratedRegex("<script type=\"module\"[^>]* src=\"(?<path>/assets/[^\"]+)\"", RegexOptions.ExplicitCapture)]
    private static partial Regex Script();
}
