using System.Globalization;
using GoldenRule.Server.Hosting;
using MimeKit;

namespace GoldenRule.Server.People;

/// <summary>The addresses that people sign in with.</summary>
internal static class EmailAddress
{
    // RFC 5321, 4.5.3.1.
    private const int Longest = 254;

    /// <summary>In small letters, without spaces around it.</summary>
    /// <exception cref="ProblemException">It is none, or has letters that pose as others.</exception>
    public static string Read(string said)
    {
        var address = said.Trim().ToLowerInvariant();
        // Letters of other scripts look like Latin ones, and nobody would see that two accounts are not the same person's.
        if (address.FirstOrDefault(c => c is < ' ' or > '~') is var odd and not '\0')
        {
            throw ProblemException.Invalid(
                $"\"{odd}\" (U+{((int)odd).ToString("X4", CultureInfo.InvariantCulture)}) is no letter of an address here: only a to z, "
                    + "digits and the usual marks are. Write an international domain as it is registered, with xn--.",
                "email"
            );
        }

        return
            address.Length <= Longest
            && MailboxAddress.TryParse(address, out var mailbox)
            && mailbox.Address == address
            && address.IndexOf('@', StringComparison.Ordinal) is > 0 and < 65
            && address[address.IndexOf('@', StringComparison.Ordinal)..].Contains('.', StringComparison.Ordinal)
            ? address
            : throw ProblemException.Invalid($"\"{said.Trim()}\" is no email address.", "email");
    }
}
