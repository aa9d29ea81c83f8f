using System.Text.Json;

namespace GoldenRule.Server.Hosting;

/// <summary>A value of an enumeration in a query, written as it is in JSON: "sign-off".</summary>
public static class Named
{
    /// <summary>Null for null. An unknown name is a bad request.</summary>
    public static T? Read<T>(string? name, string parameter)
        where T : struct, Enum =>
        name is null
            ? null
            : Enum.GetValues<T>().Where(v => JsonNamingPolicy.KebabCaseLower.ConvertName(v.ToString()) == name).Cast<T?>().FirstOrDefault()
                ?? throw new ProblemException(
                    400,
                    "bad-request",
                    "The request cannot be read",
                    $"\"{parameter}\" is one of {string.Join(", ", NamesOf<T>())}."
                );

    private static IEnumerable<string> NamesOf<T>()
        where T : struct, Enum => Enum.GetNames<T>().Select(JsonNamingPolicy.KebabCaseLower.ConvertName);
}
