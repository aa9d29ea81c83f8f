using System.Net.Mail;

namespace GoldenRule.Core.Documents;

/// <summary>Addresses that mail comes from: the address alone, no name around it (RFC 5322, 3.4.1, addr-spec).</summary>
public static class MailAddresses
{
    public static bool IsOne(string text) => MailAddress.TryCreate(text, out var address) && address.Address == text;
}
