namespace GoldenRule.Core.HouseStyles;

/// <summary>
/// A colour by perceived lightness (0 to 1), chroma (0 to about 0.4) and hue (degrees): OKLCH of CSS Color 4, 9.2.
/// Steps of equal size look equal, and a change of lightness keeps the hue, which sRGB's own channels do not.
/// </summary>
public readonly record struct Oklch(double Lightness, double Chroma, double Hue)
{
    /// <summary>The difference that is just noticeable, by CSS Color 4, 13.2.</summary>
    private const double JustNoticeable = 0.02;

    /// <summary>Matrices are those of CSS Color 4, 19 (linear sRGB to LMS and LMS to OKLab).</summary>
    public static Oklch FromColour(Colour colour)
    {
        var (r, g, b) = colour.Linear;
        var (l, a, bb) = ToLab(r, g, b);
        var hue = Math.Atan2(bb, a) * 180 / Math.PI;
        return new Oklch(l, Math.Sqrt((a * a) + (bb * bb)), hue < 0 ? hue + 360 : hue);
    }

    /// <summary>
    /// The colour that a screen can show and that is nearest to this one: same lightness and hue, chroma taken back as
    /// far as needed (CSS Color 4, 13.2: binary search with local clipping).
    /// </summary>
    public Colour ToColour()
    {
        if (Lightness >= 1)
        {
            return new Colour(255, 255, 255);
        }

        if (Lightness <= 0)
        {
            return default;
        }

        if (IsShown(ToLinear(Chroma)) || FromClipped(Chroma) < JustNoticeable)
        {
            return Clip(Chroma);
        }

        var (least, most, leastIsShown) = (0.0, Chroma, true);
        while (most - least > 0.0001)
        {
            var chroma = (least + most) / 2;
            if (leastIsShown && IsShown(ToLinear(chroma)))
            {
                least = chroma;
                continue;
            }

            var difference = FromClipped(chroma);
            if (difference >= JustNoticeable)
            {
                most = chroma;
            }
            else if (JustNoticeable - difference < 0.0001)
            {
                return Clip(chroma);
            }
            else
            {
                leastIsShown = false;
                least = chroma;
            }
        }

        return Clip((least + most) / 2);
    }

    private Colour Clip(double chroma)
    {
        var (r, g, b) = ToLinear(chroma);
        return Colour.FromLinear(r, g, b);
    }

    // How far the colour moves by clipping, as deltaEOK: the distance in OKLab.
    private double FromClipped(double chroma)
    {
        var (r, g, b) = ToLinear(chroma);
        var (l, a, bb) = ToLab(Math.Clamp(r, 0, 1), Math.Clamp(g, 0, 1), Math.Clamp(b, 0, 1));
        var (x, y) = Along(chroma);
        return Math.Sqrt(Math.Pow(l - Lightness, 2) + Math.Pow(a - x, 2) + Math.Pow(bb - y, 2));
    }

    private (double A, double B) Along(double chroma)
    {
        var angle = Hue * Math.PI / 180;
        return (chroma * Math.Cos(angle), chroma * Math.Sin(angle));
    }

    private (double Red, double Green, double Blue) ToLinear(double chroma)
    {
        var (a, b) = Along(chroma);
        var l = Cube(Lightness + (0.3963377773761749 * a) + (0.2158037573099136 * b));
        var m = Cube(Lightness - (0.1055613458156586 * a) - (0.0638541728258133 * b));
        var s = Cube(Lightness - (0.0894841775298119 * a) - (1.2914855480194092 * b));
        return (
            (4.0767416360759583 * l) - (3.3077115392580629 * m) + (0.2309699031821043 * s),
            (-1.2684379732850315 * l) + (2.6097573492876882 * m) - (0.3413193760026570 * s),
            (-0.0041960761386756 * l) - (0.7034186179359362 * m) + (1.7076146940746117 * s)
        );
    }

    private static (double L, double A, double B) ToLab(double red, double green, double blue)
    {
        var l = Math.Cbrt((0.4122214694707629 * red) + (0.5363325372617349 * green) + (0.0514459932675022 * blue));
        var m = Math.Cbrt((0.2119034958178251 * red) + (0.6806995506452344 * green) + (0.1073969535369405 * blue));
        var s = Math.Cbrt((0.0883024591900564 * red) + (0.2817188391361215 * green) + (0.6299787016738222 * blue));
        return (
            (0.2104542683093140 * l) + (0.7936177747023054 * m) - (0.0040720430116193 * s),
            (1.9779985324311684 * l) - (2.4285922420485799 * m) + (0.4505937096174110 * s),
            (0.0259040424655478 * l) + (0.7827717124575296 * m) - (0.8086757549230774 * s)
        );
    }

    private static bool IsShown((double Red, double Green, double Blue) c)
    {
        const double Rounding = 0.000075;
        return Math.Min(c.Red, Math.Min(c.Green, c.Blue)) >= -Rounding && Math.Max(c.Red, Math.Max(c.Green, c.Blue)) <= 1 + Rounding;
    }

    private static double Cube(double value) => value * value * value;
}
