using System.Security.Claims;
using System.Security.Cryptography;
using System.Text;
using System.Text.Encodings.Web;
using GoldenRule.Data;
using GoldenRule.Server.Hosting;
using Microsoft.AspNetCore.Authentication;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Options;

namespace GoldenRule.Server.Tokens;

/// <summary>Whoever shows a bearer token (RFC 6750). It opens what is for programs, and nothing that people sign in for.</summary>
public sealed class TokenSignIn(
    IOptionsMonitor<AuthenticationSchemeOptions> options,
    ILoggerFactory logger,
    UrlEncoder encoder,
    GoldenRuleDb db,
    TimeProvider clock
) : AuthenticationHandler<AuthenticationSchemeOptions>(options, logger, encoder)
{
    public new const string Scheme = "token";

    private const string Bearer = "Bearer ";
    private const string Beginning = "gr_";

    private static readonly TimeSpan UseIsToldEvery = TimeSpan.FromMinutes(1);

    public static string Make() =>
        Beginning + Convert.ToBase64String(RandomNumberGenerator.GetBytes(32)).TrimEnd('=').Replace('+', '-').Replace('/', '_');

    public static byte[] HashOf(string token) => SHA256.HashData(Encoding.UTF8.GetBytes(token));

    protected override async Task<AuthenticateResult> HandleAuthenticateAsync()
    {
        var said = Request.Headers.Authorization.ToString();
        if (!said.StartsWith(Bearer, StringComparison.OrdinalIgnoreCase) || said.Length > 200)
        {
            return AuthenticateResult.NoResult();
        }

        var (hash, now) = (HashOf(said[Bearer.Length..].Trim()), clock.GetUtcNow().UtcDateTime);
        var token = await db.Tokens.AsNoTracking().FirstOrDefaultAsync(t => t.Hash == hash && t.RevokedAt == null, Context.RequestAborted);
        if (token is null)
        {
            return AuthenticateResult.Fail("The token is not known, or was revoked.");
        }

        if (token.UsedAt is null || now - token.UsedAt > UseIsToldEvery)
        {
            await db.Tokens.Where(t => t.Id == token.Id).ExecuteUpdateAsync(t => t.SetProperty(x => x.UsedAt, now), Context.RequestAborted);
        }

        var identity = new ClaimsIdentity(token.Scopes.Select(scope => new Claim(TokenScopes.Claim, scope)), Scheme);
        return AuthenticateResult.Success(new(new ClaimsPrincipal(identity), Scheme));
    }

    protected override Task HandleChallengeAsync(AuthenticationProperties properties)
    {
        Response.Headers.WWWAuthenticate = "Bearer";
        return StatusAnswer.WriteAsync(Context, 401);
    }

    protected override Task HandleForbiddenAsync(AuthenticationProperties properties)
    {
        Response.Headers.WWWAuthenticate = "Bearer error=\"insufficient_scope\"";
        return StatusAnswer.WriteAsync(Context, 403);
    }
}
