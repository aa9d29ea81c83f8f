using System.Collections.Immutable;
using GoldenRule.Core.Languages;

namespace GoldenRule.Server.Emails;

/// <summary>A language that an email can be in.</summary>
/// <param name="Tag">BCP 47.</param>
public sealed record LanguageEntry(string Tag, Direction Direction);

/// <summary>The languages there is data of; an email can have any other tag all the same.</summary>
public static class LanguageEndpoints
{
    public static void MapLanguages(this IEndpointRouteBuilder api) =>
        api.MapGet("/languages", () => All).WithTags("Emails").WithName("listLanguages");

    private static readonly ImmutableArray<LanguageEntry> All =
    [
        .. DateWords
            .Languages.Union(Writing.Languages.Keys, StringComparer.OrdinalIgnoreCase)
            .Order(StringComparer.Ordinal)
            .Select(tag => new LanguageEntry(tag, Writing.ForLanguage(tag).Direction)),
    ];
}
