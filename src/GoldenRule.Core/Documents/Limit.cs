using System.Collections.Immutable;
using System.Globalization;

namespace GoldenRule.Core.Documents;

/// <summary>A measured bound on what stands in one field. Null or empty: not bounded.</summary>
public sealed record Limit
{
    /// <summary>Most characters as a reader counts them: Unicode extended grapheme clusters (UAX #29).</summary>
    public int? Characters { get; init; }

    public int? Words { get; init; }

    /// <summary>Least width of a picture, in its own pixels.</summary>
    public int? PictureWidth { get; init; }

    /// <summary>Least height of a picture, in its own pixels.</summary>
    public int? PictureHeight { get; init; }

    /// <summary>Hosts a link may lead to, with everything below them.</summary>
    public ImmutableArray<string> Hosts { get; init; } = [];
}

/// <summary>One limit measured: where the value stands and what is allowed.</summary>
/// <param name="Of">What is counted: characters, words, width, height or host.</param>
/// <param name="Value">The figure found.</param>
/// <param name="Bound">The most, or for pictures the least, allowed.</param>
public sealed record Measurement(string Of, int Value, int Bound, bool Broken);

public static class Measuring
{
    /// <summary>Counts characters as a reader does, by the grapheme rules of Unicode (UAX #29).</summary>
    public static int Characters(string text) => new StringInfo(text).LengthInTextElements;

    /// <summary>Counts stretches without white space.</summary>
    public static int Words(string text)
    {
        var count = 0;
        var inside = false;
        foreach (var c in text)
        {
            var blank = char.IsWhiteSpace(c);
            count += !blank && !inside ? 1 : 0;
            inside = !blank;
        }

        return count;
    }

    /// <summary>Every bound of the limit against the value. Bounds that do not apply to its type are left out.</summary>
    public static ImmutableArray<Measurement> Measure(FieldValue value, Limit limit, PictureShelf pictures)
    {
        var found = ImmutableArray.CreateBuilder<Measurement>();
        var words = value switch
        {
            FieldValue.Words w => w.Text,
            FieldValue.Prose p => p.Text.PlainText,
            _ => null,
        };
        if (words is not null && limit.Characters is { } characters)
        {
            found.Add(Most("characters", Characters(words), characters));
        }

        if (words is not null && limit.Words is { } most)
        {
            found.Add(Most("words", Words(words), most));
        }

        if (value is FieldValue.Shown shown && pictures.Find(shown.Picture) is { } picture)
        {
            if (limit.PictureWidth is { } width)
            {
                found.Add(new Measurement("width", picture.Width, width, picture.Width < width));
            }

            if (limit.PictureHeight is { } height)
            {
                found.Add(new Measurement("height", picture.Height, height, picture.Height < height));
            }
        }

        if (value is FieldValue.Target { Href: var href } && !limit.Hosts.IsEmpty
            && Uri.TryCreate(href, UriKind.Absolute, out var uri) && uri.Host.Length > 0)
        {
            found.Add(new Measurement("host", 0, 0, !limit.Hosts.Any(h => IsWithin(uri.Host, h))));
        }

        return found.ToImmutable();
    }

    private static Measurement Most(string of, int value, int bound) => new(of, value, bound, value > bound);

    private static bool IsWithin(string host, string allowed) =>
        host.Equals(allowed, StringComparison.OrdinalIgnoreCase)
        || host.EndsWith("." + allowed, StringComparison.OrdinalIgnoreCase);
}
