using System.Security.Cryptography;

namespace GoldenRule.Server.Webhooks;

/// <summary>A signing secret as Standard Webhooks write it: "whsec_" and 24 to 64 bytes in Base64.</summary>
public static class WebhookSecret
{
    private const string Beginning = "whsec_";

    public static string Make() => Beginning + Convert.ToBase64String(RandomNumberGenerator.GetBytes(32));

    public static bool IsOne(string secret)
    {
        Span<byte> bytes = stackalloc byte[96];
        return secret.StartsWith(Beginning, StringComparison.Ordinal)
            && secret.Length <= 100
            && Convert.TryFromBase64String(secret[Beginning.Length..], bytes, out var length)
            && length is >= 24 and <= 64;
    }
}
