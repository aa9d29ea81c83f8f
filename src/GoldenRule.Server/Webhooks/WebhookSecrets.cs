using System.Security.Cryptography;
using System.Text;
using GoldenRule.Data;
using GoldenRule.Server.Destinations;
using Microsoft.AspNetCore.DataProtection;

namespace GoldenRule.Server.Webhooks;

/// <summary>The signing secrets of webhooks, which are stored encrypted.</summary>
public sealed class WebhookSecrets(IDataProtectionProvider protection)
{
    /// <summary>How long the secret before signs beside the new one.</summary>
    public static readonly TimeSpan FormerSigns = TimeSpan.FromHours(24);

    private readonly IDataProtector secrets = protection.CreateProtector("webhook's secret");

    public byte[] Seal(string secret) => secrets.Protect(Encoding.UTF8.GetBytes(secret));

    /// <summary>Those that sign at a moment, the newest first.</summary>
    /// <exception cref="DestinationException">They cannot be read any more.</exception>
    public List<string> Signing(StoredWebhook hook, DateTime now)
    {
        try
        {
            var signing = new List<string> { Open(hook.Secret) };
            if (hook.FormerSecret.Length > 0 && hook.FormerUntil > now)
            {
                signing.Add(Open(hook.FormerSecret));
            }

            return signing;
        }
        catch (CryptographicException fault)
        {
            throw new DestinationException("Its secret was stored under a key that is lost. Roll it.", null, fault);
        }
    }

    private string Open(byte[] stored) => Encoding.UTF8.GetString(secrets.Unprotect(stored));
}
