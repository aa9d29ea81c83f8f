using System.Globalization;

namespace GoldenRule.Server.Hosting;

/// <summary>Where a page of a list ended: lists are paged by key, so that what is added meanwhile moves nothing.</summary>
/// <typeparam name="T">The id that tells entries of one moment apart.</typeparam>
public sealed record PageKey<T>(DateTime At, T Id)
    where T : IParsable<T>
{
    public override string ToString() => string.Create(CultureInfo.InvariantCulture, $"{At.Ticks}.{Id}");

    /// <summary>Null for null. An unreadable key is a bad request.</summary>
    public static PageKey<T>? Read(string? text)
    {
        if (text is null)
        {
            return null;
        }

        var point = text.IndexOf('.', StringComparison.Ordinal);
        return
            point > 0
            && long.TryParse(text.AsSpan(0, point), NumberStyles.None, CultureInfo.InvariantCulture, out var ticks)
            && ticks <= DateTime.MaxValue.Ticks
            && T.TryParse(text[(point + 1)..], CultureInfo.InvariantCulture, out var id)
            ? new PageKey<T>(new DateTime(ticks, DateTimeKind.Utc), id)
            : throw new ProblemException(400, "bad-request", "The request cannot be read", "The page key is none of this list.");
    }
}

public static class PageKey
{
    /// <summary>The key of the page after this one. Null: this is the last.</summary>
    /// <param name="page">One entry more than the page shows, where there are more.</param>
    /// <param name="size">Entries that a page shows.</param>
    public static string? Next<T, TId>(IReadOnlyList<T> page, int size, Func<T, PageKey<TId>> key)
        where TId : IParsable<TId> => page.Count > size ? key(page[size - 1]).ToString() : null;
}
