using System.Collections.Immutable;

namespace GoldenRule.Core.HouseStyles;

/// <summary>Colours that would be read where one cannot be.</summary>
public static class Passing
{
    /// <summary>
    /// The shade of the same hue, nearest in lightness, that has the contrast needed against another colour. Null:
    /// neither black's nor white's end of the hue has it.
    /// </summary>
    /// <param name="needed">Contrast ratio, 1 to 21.</param>
    public static Colour? NearestShade(Colour colour, Colour against, double needed)
    {
        var start = Oklch.FromColour(colour);
        return (Toward(0), Toward(1)) switch
        {
            ({ } darker, { } lighter) => Apart(darker) <= Apart(lighter) ? darker : lighter,
            var (darker, lighter) => darker ?? lighter,
        };

        double Apart(Colour shade) => Math.Abs(Oklch.FromColour(shade).Lightness - start.Lightness);

        // Towards one end contrast may first fall and then rises, so what passes is one stretch at that end.
        Colour? Toward(double end)
        {
            if (Colour.Contrast((start with { Lightness = end }).ToColour(), against) < needed)
            {
                return null;
            }

            var (fails, passes) = (start.Lightness, end);
            for (var i = 0; i < 24; i++)
            {
                var middle = (fails + passes) / 2;
                if (Colour.Contrast((start with { Lightness = middle }).ToColour(), against) < needed)
                {
                    fails = middle;
                }
                else
                {
                    passes = middle;
                }
            }

            return (start with { Lightness = passes }).ToColour();
        }
    }

    /// <summary>Of some brand colours, the one that passes and looks most like a given one. Null: none passes.</summary>
    public static (string Key, Colour Colour)? NearestBrandColour(
        Colour colour,
        Colour against,
        double needed,
        IEnumerable<(string Key, Colour Colour)> brand
    ) =>
        brand
            .Where(b => b.Colour != colour && Colour.Contrast(b.Colour, against) >= needed)
            .Select(b => ((string, Colour)?)b)
            .MinBy(b => CieLab.Difference(b!.Value.Item2, colour));
}
