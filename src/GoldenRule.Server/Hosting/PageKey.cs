using System.Globalization;

namespace GoldenRule.Server.Hosting;

/// <summary>Where a page of a list ended: lists are paged by key, so that what is added meanwhile moves nothing.</summary>
public sealed record PageKey(DateTime At, Guid Id)
{
    public override string ToString() => string.Create(CultureInfo.InvariantCulture, $"{At.Ticks}.{Id:N}");

    /// <summary>Null for null. An unreadable key is a bad request.</summary>
    public static PageKey? Read(string? text)
    {
        if (text is null)
        {
            return null;
        }

        var parts = text.Split('.');
        return parts.Length == 2 && long.TryParse(parts[0], NumberStyles.None, CultureInfo.InvariantCulture, out var ticks)
            && ticks <= DateTime.MaxValue.Ticks && Guid.TryParse(parts[1], out var id)
            ? new PageKey(new DateTime(ticks, DateTimeKind.Utc), id)
            : throw new ProblemException(400, "bad-request", "The request cannot be read", "\"after\" is not a page key of this list.");
    }
}
