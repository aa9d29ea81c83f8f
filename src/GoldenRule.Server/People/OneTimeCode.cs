using System.Globalization;
using OtpNet;

namespace GoldenRule.Server.People;

/// <summary>
/// The six digits that an authenticator app shows for thirty seconds (RFC 6238 with HMAC-SHA-1, which all apps know). A code
/// opens once: who watches it being typed cannot use it again.
/// </summary>
public static class OneTimeCode
{
    /// <summary>Which of the periods of thirty seconds a code is of; null: it is of none that counts.</summary>
    /// <param name="secret">Base32, as the app has it.</param>
    /// <param name="after">Of the last code that was used; only later ones count.</param>
    public static long? Step(string secret, string code, DateTime at, long? after)
    {
        var typed = code.Replace(" ", "", StringComparison.Ordinal);
        if (typed.Length != 6 || !int.TryParse(typed, NumberStyles.None, CultureInfo.InvariantCulture, out _))
        {
            return null;
        }

        // A clock may be half a minute off either way (RFC 6238, 5.2).
        return
            new Totp(Base32Encoding.ToBytes(secret)).VerifyTotp(at, typed, out var step, new VerificationWindow(previous: 1, future: 1))
            && !(step <= after)
            ? step
            : null;
    }

    /// <summary>What an authenticator app reads from the QR code.</summary>
    public static string Address(string secret, string email) =>
        $"otpauth://totp/{Uri.EscapeDataString($"Golden Rule:{email}")}?secret={secret}&issuer={Uri.EscapeDataString("Golden Rule")}";
}
