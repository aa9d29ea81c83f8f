using GoldenRule.Server.Hosting;

namespace GoldenRule.Server.Plan;

/// <summary>Names of teams and campaign types.</summary>
internal static class PlanName
{
    private const int Longest = 60;

    /// <exception cref="ProblemException">It is empty or too long.</exception>
    public static string Read(string said, string what)
    {
        var name = string.Join(' ', said.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries));
        return name.Length is 0 or > Longest
            ? throw ProblemException.Invalid($"The name of a {what} has 1 to {Longest} characters; this one has {name.Length}.", "name")
            : name;
    }
}
