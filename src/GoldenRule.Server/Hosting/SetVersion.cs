using System.Security.Cryptography;
using System.Text.Json;

namespace GoldenRule.Server.Hosting;

/// <param name="Version">Of the setting that was stored; to be sent with the next change of it, as If-Match.</param>
public sealed record StoredSetting(string Version);

/// <summary>Of two who change the same at once the second is told, and loses nothing of what they typed.</summary>
internal static class SetVersion
{
    /// <summary>Another text once anything that people set is another.</summary>
    public static string Of(params object[] set) =>
        Convert.ToHexStringLower(SHA256.HashData(JsonSerializer.SerializeToUtf8Bytes(set)))[..16];

    /// <summary>The same for a setting.</summary>
    /// <param name="seen">As If-Match writes it. Null: whatever it is by now.</param>
    /// <param name="whatItIs">What it is now, as a sentence.</param>
    /// <exception cref="ProblemException">Somebody set it since it was seen.</exception>
    public static void Require(string? seen, string now, string whatItIs)
    {
        if (seen is not null && seen != $"\"{now}\"")
        {
            throw Changed(412, $"Somebody set this while you did. {whatItIs} What you set stays here; change it again to have it so.");
        }
    }

    /// <param name="seen">Null: whatever it is by now.</param>
    /// <param name="what">"destination".</param>
    /// <param name="address">Empty: it has none.</param>
    /// <exception cref="ProblemException">Somebody changed it since it was seen.</exception>
    public static void Require(string? seen, string now, string what, string name, string address)
    {
        if (seen is not null && seen != now)
        {
            throw Changed(
                409,
                $"Somebody changed this {what} while you did: it is called \"{name}\" now"
                    + (address.Length > 0 ? $", at {address}" : "")
                    + ". What you typed stays here; change it again to have it so."
            );
        }
    }

    // 412 where a header's condition failed (RFC 9110, 13.1.1), 409 where what was seen stands in the request itself.
    private static ProblemException Changed(int status, string detail) => new(status, "changed-since", "It was changed meanwhile", detail);
}
