namespace GoldenRule.Core.Documents;

/// <summary>What brand variables, snippets, fields and audiences are referred to by.</summary>
public static class TechnicalName
{
    public const int Longest = 60;

    public static bool IsOne(ReadOnlySpan<char> name)
    {
        if (name.Length is 0 or > Longest || !char.IsAsciiLetterLower(name[0]))
        {
            return false;
        }

        foreach (var c in name)
        {
            if (!char.IsAsciiLetterLower(c) && !char.IsAsciiDigit(c) && c != '-')
            {
                return false;
            }
        }

        return true;
    }

    /// <summary>What is wrong with it, and what to write. Null: nothing.</summary>
    public static string? Fault(string name) =>
        IsOne(name) ? null : $"\"{name}\" is no technical name; write up to {Longest} small letters, digits and hyphens, a letter first.";
}
