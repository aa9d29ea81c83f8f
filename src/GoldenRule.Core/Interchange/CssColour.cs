using System.Globalization;
using AngleSharp.Css.Values;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Interchange;

/// <summary>An opaque colour as CSS Color 4 writes it: by name, hexadecimal, rgb(), hsl(), oklch() or color(srgb …).</summary>
public static class CssColour
{
    /// <summary>Null: it is no colour, or one that lets through what lies behind it.</summary>
    public static Colour? Parse(string text)
    {
        text = text.Trim();
        if (Colour.TryParse(text.Length == 9 && text.EndsWith("ff", StringComparison.OrdinalIgnoreCase) ? text[..7] : text, out var hex))
        {
            return hex;
        }

        var open = text.IndexOf('(', StringComparison.Ordinal);
        if (open > 0 && text.EndsWith(')'))
        {
            return Function(
                text[..open].ToLowerInvariant(),
                text[(open + 1)..^1].Split([' ', ',', '/'], StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries)
            );
        }

        return CssColorValue.FromName(text) is { A: 255 } named ? new Colour(named.R, named.G, named.B) : null;
    }

    private static Colour? Function(string name, string[] parts)
    {
        var values = name == "color" ? parts.Skip(1).ToArray() : parts;
        if (values.Length is < 3 or > 4 || (values.Length == 4 && Number(values[3], 1) < 1) || (name == "color" && parts[0] != "srgb"))
        {
            return null;
        }

        return name switch
        {
            "rgb" or "rgba" => Whole(Number(values[0], 255) / 255, Number(values[1], 255) / 255, Number(values[2], 255) / 255),
            "color" => Whole(Number(values[0], 1), Number(values[1], 1), Number(values[2], 1)),
            "hsl" or "hsla" => Hsl(Degrees(values[0]), Number(values[1], 1), Number(values[2], 1)),
            "oklch" when Number(values[0], 1) is { } l && Number(values[1], 0.4) is { } c && Degrees(values[2]) is { } h => new Oklch(
                l,
                c,
                h
            ).ToColour(),
            _ => null,
        };
    }

    // CSS Color 4, 7.1: hue in degrees, the rest 0 to 1; plain numbers are per cent there.
    private static Colour? Hsl(double? hue, double? saturation, double? lightness)
    {
        if (hue is not { } h || saturation is not { } s || lightness is not { } l)
        {
            return null;
        }

        (s, l) = (s > 1 ? s / 100 : s, l > 1 ? l / 100 : l);
        double F(double n)
        {
            var k = (n + (h / 30)) % 12;
            return l - (s * Math.Min(l, 1 - l) * Math.Max(-1, Math.Min(Math.Min(k - 3, 9 - k), 1)));
        }

        return Whole(F(0), F(8), F(4));
    }

    private static Colour? Whole(double? r, double? g, double? b) =>
        r is { } red && g is { } green && b is { } blue ? new Colour(Channel(red), Channel(green), Channel(blue)) : null;

    private static byte Channel(double part) => (byte)Math.Round(Math.Clamp(part, 0, 1) * 255, MidpointRounding.AwayFromZero);

    // A percentage is a share of what the whole is here.
    private static double? Number(string text, double whole) =>
        text switch
        {
            "none" => 0,
            [.., '%'] => double.TryParse(text[..^1], NumberStyles.Float, CultureInfo.InvariantCulture, out var percent)
                ? percent * whole / 100
                : null,
            _ => double.TryParse(text, NumberStyles.Float, CultureInfo.InvariantCulture, out var number) ? number : null,
        };

    private static double? Degrees(string text)
    {
        var (plain, times) = text switch
        {
            [.., 't', 'u', 'r', 'n'] => (text[..^4], 360.0),
            [.., 'd', 'e', 'g'] => (text[..^3], 1.0),
            [.., 'r', 'a', 'd'] when !text.EndsWith("grad", StringComparison.Ordinal) => (text[..^3], 180 / Math.PI),
            _ => (text, 1.0),
        };
        return Number(plain, 1) is { } n ? ((n * times % 360) + 360) % 360 : null;
    }
}

/// <summary>Lengths of CSS in pixels.</summary>
public static class CssLength
{
    /// <summary>px, rem and em (by 16), pt (CSS Values 4, 6.2: 96/72). Null: another unit or none.</summary>
    public static string? Pixels(string text)
    {
        var (plain, times) = text.Trim() switch
        {
            "0" => ("0", 1.0),
            [.. var n, 'r', 'e', 'm'] => (n, 16.0),
            [.. var n, 'e', 'm'] => (n, 16.0),
            [.. var n, 'p', 'x'] => (n, 1.0),
            [.. var n, 'p', 't'] => (n, 96.0 / 72),
            _ => ("", 0.0),
        };
        return double.TryParse(plain, NumberStyles.Float, CultureInfo.InvariantCulture, out var number) && number >= 0
            ? Math.Round(number * times, 2).ToString(CultureInfo.InvariantCulture)
            : null;
    }
}
