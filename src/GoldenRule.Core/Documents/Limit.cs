using System.Collections.Immutable;
using System.Globalization;
using System.Text.Json.Serialization;

namespace GoldenRule.Core.Documents;

/// <summary>A measured bound on what stands in one field. Null or empty: not bounded.</summary>
public sealed record Limit
{
    /// <summary>Most characters as a reader counts them: Unicode extended grapheme clusters (UAX #29).</summary>
    public int? Characters { get; init; }

    public int? Words { get; init; }

    /// <summary>Most lines: stretches of text between line breaks and paragraph ends.</summary>
    public int? Lines { get; init; }

    /// <summary>Least width of a picture, in its own pixels.</summary>
    public int? PictureWidth { get; init; }

    /// <summary>Least height of a picture, in its own pixels.</summary>
    public int? PictureHeight { get; init; }

    /// <summary>Shape of a picture as width : height, "2:1" for example; a hundredth more or less is taken.</summary>
    public string? PictureRatio { get; init; }

    /// <summary>Most weight of a picture, in kilobytes of 1,024 bytes.</summary>
    public int? PictureKilobytes { get; init; }

    /// <summary>Hosts a link may lead to, with everything below them.</summary>
    public ImmutableArray<string> Hosts { get; init; } = [];

    /// <summary>Least items of a list of entries, links or rows of a table.</summary>
    public int? ItemsLeast { get; init; }

    public int? ItemsMost { get; init; }

    /// <summary>Width divided by height of <see cref="PictureRatio"/>. Null: there is none, or it is not two numbers.</summary>
    [JsonIgnore]
    public double? Ratio =>
        PictureRatio?.Split(':') is [var wide, var high]
        && double.TryParse(wide, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var w)
        && w > 0
        && double.TryParse(high, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var h)
        && h > 0
            ? w / h
            : null;

    /// <summary>What is wrong with the limit itself. Null: nothing.</summary>
    public string? Contradiction()
    {
        foreach (
            var (value, name) in (ReadOnlySpan<(int?, string)>)
                [
                    (Characters, "characters"),
                    (Words, "words"),
                    (Lines, "lines"),
                    (PictureWidth, "picture width"),
                    (PictureHeight, "picture height"),
                    (PictureKilobytes, "picture weight"),
                    (ItemsMost, "most items"),
                ]
        )
        {
            if (value is < 1)
            {
                return $"A limit of {value} on {name} leaves no room for anything.";
            }
        }

        if (ItemsLeast is < 0)
        {
            return "Least items cannot be below 0.";
        }

        if (ItemsLeast > ItemsMost)
        {
            return $"At least {ItemsLeast} and at most {ItemsMost} items contradict one another.";
        }

        if (PictureRatio is not null && Ratio is null)
        {
            return $"\"{PictureRatio}\" is no shape; write width and height as in 2:1.";
        }

        return Hosts.Select(Links.HostFault).FirstOrDefault(fault => fault is not null);
    }

    /// <summary>Both limits at once.</summary>
    public static Limit Tightest(Limit upper, Limit lower) =>
        new()
        {
            Characters = Least(upper.Characters, lower.Characters),
            Words = Least(upper.Words, lower.Words),
            Lines = Least(upper.Lines, lower.Lines),
            PictureWidth = Most(upper.PictureWidth, lower.PictureWidth),
            PictureHeight = Most(upper.PictureHeight, lower.PictureHeight),
            PictureRatio = upper.PictureRatio ?? lower.PictureRatio,
            PictureKilobytes = Least(upper.PictureKilobytes, lower.PictureKilobytes),
            Hosts = (upper.Hosts, lower.Hosts) switch
            {
                ({ IsEmpty: true }, var hosts) => hosts,
                (var hosts, { IsEmpty: true }) => hosts,
                _ => [.. lower.Hosts.Where(h => Measuring.IsWithin(h, upper.Hosts))],
            },
            ItemsLeast = Most(upper.ItemsLeast, lower.ItemsLeast),
            ItemsMost = Least(upper.ItemsMost, lower.ItemsMost),
        };

    /// <summary>Whether this bounds nothing less than the other does.</summary>
    public bool IsAsTightAs(Limit upper) =>
        AsTight(Characters, upper.Characters)
        && AsTight(Words, upper.Words)
        && AsTight(Lines, upper.Lines)
        && AsWide(PictureWidth, upper.PictureWidth)
        && AsWide(PictureHeight, upper.PictureHeight)
        && AsTight(PictureKilobytes, upper.PictureKilobytes)
        && (PictureRatio is null || upper.PictureRatio is null || PictureRatio == upper.PictureRatio)
        && (Hosts.IsEmpty || upper.Hosts.IsEmpty || Hosts.All(h => Measuring.IsWithin(h, upper.Hosts)))
        && AsWide(ItemsLeast, upper.ItemsLeast)
        && AsTight(ItemsMost, upper.ItemsMost);

    // What a limit leaves unsaid the one above still says: both hold.
    private static bool AsTight(int? own, int? upper) => own is null || upper is null || own <= upper;

    private static bool AsWide(int? own, int? upper) => own is null || upper is null || own >= upper;

    private static int? Least(int? a, int? b) => a is { } one && b is { } other ? Math.Min(one, other) : a ?? b;

    private static int? Most(int? a, int? b) => a is { } one && b is { } other ? Math.Max(one, other) : a ?? b;
}
