using System.Security.Cryptography;
using System.Text;
using GoldenRule.Data;
using Microsoft.AspNetCore.WebUtilities;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.People;

/// <summary>
/// Who signed in with which browser: whoever writes in an email with one account and approves it with another is one person. A cookie
/// says which browser it is; the database holds its hash. It opens nothing, and somebody who deletes it is not known by it.
/// </summary>
internal static class KnownBrowsers
{
    private const string Cookie = "golden-rule-browser";

    /// <summary>As long as browsers keep a cookie at most (RFC 6265bis, section 5.5).</summary>
    private static readonly TimeSpan Longest = TimeSpan.FromDays(400);

    /// <summary>Somebody signs in with it.</summary>
    public static async Task MarkAsync(HttpContext http, Guid person, DateTime now, GoldenRuleDb db, CancellationToken cancel)
    {
        if (Hash(http) is not { } browser)
        {
            var said = WebEncoders.Base64UrlEncode(RandomNumberGenerator.GetBytes(24));
            http.Response.Cookies.Append(
                Cookie,
                said,
                new CookieOptions
                {
                    HttpOnly = true,
                    IsEssential = true,
                    MaxAge = Longest,
                    SameSite = SameSiteMode.Lax,
                    Secure = http.Request.IsHttps,
                }
            );
            browser = Hash(said);
        }

        await db.Database.ExecuteSqlAsync(
            $"""
            insert into known_browsers (browser, person_id, seen_at) values ({browser}, {person}, {now})
            on conflict (browser, person_id) do update set seen_at = excluded.seen_at
            """,
            cancel
        );
        await db.KnownBrowsers.Where(b => b.SeenAt < now - Longest).ExecuteDeleteAsync(cancel);
    }

    /// <summary>Hash of what the browser of a request calls itself. Null: nobody has signed in with it.</summary>
    public static string? Hash(HttpContext http) => http.Request.Cookies[Cookie] is { Length: > 0 and <= 100 } said ? Hash(said) : null;

    /// <summary>Those of some people who sign in with that browser too.</summary>
    public static Task<List<Guid>> AlsoOfAsync(
        string? browser,
        Guid person,
        IReadOnlyCollection<Guid> among,
        GoldenRuleDb db,
        CancellationToken cancel
    ) =>
        db
            .KnownBrowsers.Where(b => b.Browser == browser && b.PersonId != person && among.Contains(b.PersonId))
            .Select(b => b.PersonId)
            .ToListAsync(cancel);

    private static string Hash(string said) => Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(said)));
}
