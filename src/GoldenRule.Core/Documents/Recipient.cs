using System.Collections.Immutable;

namespace GoldenRule.Core.Documents;

/// <summary>The one person whom an email is written to.</summary>
/// <param name="Address">Empty: it is given as a draft file, and sent by hand.</param>
/// <param name="Values">What is known of them, by the key of a merge field, as the field keeps it.</param>
public sealed record Recipient(string Name, string Address, ImmutableSortedDictionary<string, string> Values)
{
    private const int LongestName = 120;

    private const int LongestValue = 2_000;

    /// <summary>What is wrong with it, and what to write. Null: nothing.</summary>
    public string? Fault()
    {
        if (Name.Trim().Length is 0 or > LongestName || Name.Any(char.IsControl))
        {
            return $"Whoever it is to has a name of at most {LongestName} characters.";
        }

        if (Address.Length > 0 && !MailAddresses.IsOne(Address))
        {
            return $"\"{Address}\" is no address. Write it like reader@example.org.";
        }

        return Values.FirstOrDefault(v => v.Value.Length > LongestValue) is { Key: { } key, Value.Length: var length }
            ? $"What is said of \"{key}\" has {length:N0} characters; up to {LongestValue:N0} are taken."
            : null;
    }
}
