namespace GoldenRule.Core.HouseStyles;

/// <summary>
/// A colour in CIE Lab against the D50 white, as CSS Color 4 has it, and the CIEDE2000 difference: how unlike two
/// colours look. About 1 is just seen side by side; under 2.3 most people call them the same (common practice, no source).
/// </summary>
public readonly record struct CieLab(double L, double A, double B)
{
    public static CieLab FromColour(Colour colour)
    {
        var (r, g, b) = colour.Linear;
        // Linear sRGB to XYZ, adapted to D50 by Bradford (CSS Color 4, 19), by the white of D50.
        var x = F(((0.4360657468507431 * r) + (0.3851514704840794 * g) + (0.1430784199410926 * b)) / 0.9642956764295677);
        var y = F((0.2224931790846199 * r) + (0.7168870052967213 * g) + (0.0606198156186588 * b));
        var z = F(((0.0139223904500943 * r) + (0.0970812856657468 * g) + (0.7140993584005155 * b)) / 0.8251046025104602);
        return new CieLab((116 * y) - 16, 500 * (x - y), 200 * (y - z));
    }

    public static double Difference(Colour a, Colour b) => Difference(FromColour(a), FromColour(b));

    /// <summary>
    /// CIEDE2000 with all weights 1. Equations and their numbers: G. Sharma, W. Wu, E. Dalal, "The CIEDE2000
    /// Color-Difference Formula", Color Research and Application 30 (2005).
    /// </summary>
    public static double Difference(CieLab a, CieLab b)
    {
        // (2) to (7): chroma with a* stretched for greys, and hue.
        var meanChroma7 = Math.Pow((a.Chroma(1) + b.Chroma(1)) / 2, 7);
        var stretch = 1.5 - (0.5 * Math.Sqrt(meanChroma7 / (meanChroma7 + TwentyFive7)));
        var (c1, c2) = (a.Chroma(stretch), b.Chroma(stretch));
        var (h1, h2) = (a.Hue(stretch), b.Hue(stretch));

        // (8) to (11): differences in lightness, chroma and hue.
        var (dl, dc) = (b.L - a.L, c2 - c1);
        var grey = c1 * c2 == 0;
        var turn = grey ? 0 : h2 - h1;
        turn += turn switch
        {
            > 180 => -360,
            < -180 => 360,
            _ => 0,
        };
        var dh = 2 * Math.Sqrt(c1 * c2) * Sin(turn / 2);

        // (12) to (14): means; two hues more than half a turn apart meet on the other side.
        var (l, c, h) = ((a.L + b.L) / 2, (c1 + c2) / 2, h1 + h2);
        if (!grey)
        {
            h = h switch
            {
                _ when Math.Abs(h1 - h2) <= 180 => h / 2,
                < 360 => (h + 360) / 2,
                _ => (h - 360) / 2,
            };
        }

        // (15) to (22): weights and the turn of the blue ellipses.
        var t = 1 - (0.17 * Cos(h - 30)) + (0.24 * Cos(2 * h)) + (0.32 * Cos((3 * h) + 6)) - (0.20 * Cos((4 * h) - 63));
        var fromMiddle = Math.Pow(l - 50, 2);
        var sl = 1 + (0.015 * fromMiddle / Math.Sqrt(20 + fromMiddle));
        var sc = 1 + (0.045 * c);
        var sh = 1 + (0.015 * c * t);
        var c7 = Math.Pow(c, 7);
        var rotation = -2 * Math.Sqrt(c7 / (c7 + TwentyFive7)) * Sin(60 * Math.Exp(-Math.Pow((h - 275) / 25, 2)));
        return Math.Sqrt(Math.Pow(dl / sl, 2) + Math.Pow(dc / sc, 2) + Math.Pow(dh / sh, 2) + (rotation * (dc / sc) * (dh / sh)));
    }

    private const double TwentyFive7 = 6103515625;

    private double Chroma(double stretch) => Math.Sqrt((stretch * A * stretch * A) + (B * B));

    private double Hue(double stretch)
    {
        if (A == 0 && B == 0)
        {
            return 0;
        }

        var hue = Math.Atan2(B, stretch * A) * 180 / Math.PI;
        return hue < 0 ? hue + 360 : hue;
    }

    private static double F(double value) => value > 216.0 / 24389 ? Math.Cbrt(value) : ((24389.0 / 27 * value) + 16) / 116;

    private static double Sin(double degrees) => Math.Sin(degrees * Math.PI / 180);

    private static double Cos(double degrees) => Math.Cos(degrees * Math.PI / 180);
}
