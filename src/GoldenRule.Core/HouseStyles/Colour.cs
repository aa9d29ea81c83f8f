using System.Globalization;

namespace GoldenRule.Core.HouseStyles;

/// <summary>An opaque sRGB colour, 8 bits a channel: what every mail client understands.</summary>
public readonly record struct Colour(byte Red, byte Green, byte Blue)
{
    /// <summary>Reads "#rgb" or "#rrggbb" (CSS Color 4, 5.2), whatever the case.</summary>
    public static bool TryParse(string? text, out Colour colour)
    {
        colour = default;
        if (
            text is not { Length: 4 or 7 }
            || text[0] != '#'
            || !int.TryParse(text.AsSpan(1), NumberStyles.AllowHexSpecifier, CultureInfo.InvariantCulture, out var value)
        )
        {
            return false;
        }

        colour =
            text.Length == 7
                ? new Colour((byte)(value >> 16), (byte)(value >> 8), (byte)value)
                : new Colour((byte)((value >> 8 & 15) * 17), (byte)((value >> 4 & 15) * 17), (byte)((value & 15) * 17));
        return true;
    }

    public static Colour Parse(string text) =>
        TryParse(text, out var colour) ? colour : throw new FormatException($"\"{text}\" is not a colour; write it as #rrggbb.");

    /// <summary>Relative luminance, 0 to 1, as WCAG 2.2 defines it.</summary>
    public double Luminance => 0.2126 * Decode(Red) + 0.7152 * Decode(Green) + 0.0722 * Decode(Blue);

    /// <summary>Linear-light red, green and blue, each 0 to 1.</summary>
    public (double Red, double Green, double Blue) Linear => (Decode(Red), Decode(Green), Decode(Blue));

    /// <summary>The nearest 8-bit colour to linear-light channels; what lies outside 0 to 1 is clipped.</summary>
    public static Colour FromLinear(double red, double green, double blue) => new(Encode(red), Encode(green), Encode(blue));

    /// <summary>Contrast ratio, 1 to 21, as WCAG 2.2 defines it; the order does not matter.</summary>
    public static double Contrast(Colour a, Colour b)
    {
        var (x, y) = (a.Luminance, b.Luminance);
        return (Math.Max(x, y) + 0.05) / (Math.Min(x, y) + 0.05);
    }

    public override string ToString() => string.Create(CultureInfo.InvariantCulture, $"#{Red:x2}{Green:x2}{Blue:x2}");

    // The threshold is 0.04045, as in WCAG 2.2's definition (2.0 printed 0.03928; no 8-bit value falls between).
    private static readonly double[] Decoded =
    [
        .. Enumerable.Range(0, 256).Select(v => v / 255.0).Select(c => c <= 0.04045 ? c / 12.92 : Math.Pow((c + 0.055) / 1.055, 2.4)),
    ];

    private static double Decode(byte channel) => Decoded[channel];

    private static byte Encode(double linear)
    {
        var c = Math.Clamp(linear, 0, 1);
        return (byte)Math.Round(255 * (c <= 0.0031308 ? c * 12.92 : (1.055 * Math.Pow(c, 1 / 2.4)) - 0.055));
    }
}
