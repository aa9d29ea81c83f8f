using System.Security.Cryptography;
using System.Text.Json;

namespace GoldenRule.Server.Hosting;

/// <summary>Of two who change the same at once the second is told, and loses nothing of what they typed.</summary>
internal static class SetVersion
{
    /// <summary>Another text once anything that people set is another.</summary>
    public static string Of(params object[] set) =>
        Convert.ToHexStringLower(SHA256.HashData(JsonSerializer.SerializeToUtf8Bytes(set)))[..16];

    /// <param name="seen">Null: whatever it is by now.</param>
    /// <param name="what">"destination".</param>
    /// <param name="address">Empty: it has none.</param>
    /// <exception cref="ProblemException">Somebody changed it since it was seen.</exception>
    public static void Require(string? seen, string now, string what, string name, string address)
    {
        if (seen is not null && seen != now)
        {
            throw new ProblemException(
                409,
                "changed-meanwhile",
                "It was changed meanwhile",
                $"Somebody changed this {what} while you did: it is called \"{name}\" now"
                    + (address.Length > 0 ? $", at {address}" : "")
                    + ". What you typed stays here; change it again to have it so."
            );
        }
    }
}
