using System.Buffers;
using System.Net.Mail;

namespace GoldenRule.Core.Documents;

/// <summary>Addresses that mail comes from: the address alone, no name around it (RFC 5322, 3.4.1, addr-spec).</summary>
public static class MailAddresses
{
    public static bool IsOne(string text) => MailAddress.TryCreate(text, out var address) && address.Address == text;

    // Controls, the bidirectional ones of Unicode (UAX #9, 2.1 to 2.3), and what has no width; joiners are part of some names.
    private static readonly SearchValues<char> Hidden = SearchValues.Create([
        .. Enumerable
            .Range(0, 0x20)
            .Concat(Enumerable.Range(0x7F, 0x21))
            .Concat(Enumerable.Range(0x202A, 5))
            .Concat(Enumerable.Range(0x2066, 4))
            .Concat([0xAD, 0x200B, 0x2028, 0x2029, 0x2060, 0xFEFF])
            .Select(c => (char)c),
    ]);

    /// <summary>In small letters, of an address that is one.</summary>
    public static string DomainOf(string address) => new MailAddress(address).Host.ToLowerInvariant();

    /// <summary>
    /// Why readers could be misled by the name that stands before an address; null: they could not. Many mail clients show the name
    /// alone, so that an address in it reads as the sender's; characters that are not seen, or turn the direction, hide what is written.
    /// </summary>
    public static string? NameFault(string name)
    {
        if (name.Contains('@', StringComparison.Ordinal) || name.Contains('\uFF20', StringComparison.Ordinal))
        {
            return "The sender's name holds an \"@\": readers would take it for the address. Write the name alone.";
        }

        return name.AsSpan().IndexOfAny(Hidden) >= 0 ? "The sender's name holds characters that cannot be seen. Type it anew." : null;
    }
}
