namespace GoldenRule.Core.Documents;

/// <summary>Locks in words.</summary>
public static class LockWords
{
    /// <summary>Who may: "anyone", "locked", "leads and 1 team only".</summary>
    public static string Write(Lock @lock) =>
        @lock switch
        {
            Lock.Sealed => "locked",
            Lock.Reserved reserved => string.Join(" and ", Named(reserved)) + " only",
            _ => "anyone",
        };

    private static IEnumerable<string> Named(Lock.Reserved reserved)
    {
        foreach (var role in reserved.Roles)
        {
            yield return role.ToString().ToLowerInvariant() + "s";
        }

        if (!reserved.Teams.IsEmpty)
        {
            yield return Count(reserved.Teams.Length, "team", "teams");
        }

        if (!reserved.People.IsEmpty)
        {
            yield return Count(reserved.People.Length, "named person", "named people");
        }
    }

    private static string Count(int count, string one, string many) => $"{count} {(count == 1 ? one : many)}";
}
