using System.Collections.Immutable;

namespace GoldenRule.Core.HouseStyles;

/// <param name="Share">Of the picture's plain areas, 0 to 1.</param>
public sealed record PaletteColour(Colour Colour, double Share);

/// <summary>
/// The colours a picture is made of, largest areas first. Near-equals are one colour. Pixels that only soften an edge
/// are not counted: a pixel counts where at least two of its four neighbours are like it, and a small colour that lies
/// between two larger ones is taken for their blend.
/// </summary>
public static class Palette
{
    /// <summary>Up to this difference in each channel two neighbours are alike; JPEG blurs flat areas by about as much.</summary>
    private const int Alike = 10;

    /// <summary>CIEDE2000 under which two colours are one.</summary>
    private const double Same = 6;

    /// <summary>Share of the plain areas under which a colour is not worth a name.</summary>
    private const double Least = 0.004;

    /// <summary>A blend takes less than this share.</summary>
    private const double LargestBlend = 0.03;

    private const int MostBins = 2048;

    /// <param name="rgba">Four bytes a pixel, not premultiplied, row by row.</param>
    /// <param name="most">How many colours are wanted.</param>
    public static ImmutableArray<PaletteColour> FromPixels(ReadOnlySpan<byte> rgba, int width, int height, int most = 12)
    {
        if (width < 1 || height < 1 || rgba.Length != width * height * 4)
        {
            throw new ArgumentException("The pixels do not fill width and height.", nameof(rgba));
        }

        var plain = Count(rgba, width, height, plainOnly: true);
        var groups = Group(plain.Count > 0 ? plain : Count(rgba, width, height, plainOnly: false));
        var total = (double)groups.Sum(g => g.Pixels);
        var colours = groups
            .OrderByDescending(g => g.Pixels)
            .ThenBy(g => g.Seed.ToString(), StringComparer.Ordinal)
            .Select(g => new PaletteColour(g.Colour, g.Pixels / total))
            .Where(c => c.Share >= Least)
            .ToList();
        return [.. colours.Where((c, i) => c.Share >= LargestBlend || !IsBlend(c.Colour, colours.Take(i))).Take(most)];
    }

    private static Dictionary<int, int> Count(ReadOnlySpan<byte> rgba, int width, int height, bool plainOnly)
    {
        var counted = new Dictionary<int, int>();
        for (var y = 0; y < height; y++)
        {
            for (var x = 0; x < width; x++)
            {
                var at = ((y * width) + x) * 4;
                if (rgba[at + 3] < 250 || (plainOnly && !IsPlain(rgba, width, height, x, y)))
                {
                    continue;
                }

                var colour = (rgba[at] << 16) | (rgba[at + 1] << 8) | rgba[at + 2];
                counted[colour] = counted.GetValueOrDefault(colour) + 1;
            }
        }

        return counted;
    }

    private static bool IsPlain(ReadOnlySpan<byte> rgba, int width, int height, int x, int y)
    {
        var like = 0;
        foreach (var (dx, dy) in (ReadOnlySpan<(int, int)>)[(-1, 0), (1, 0), (0, -1), (0, 1)])
        {
            var (nx, ny) = (x + dx, y + dy);
            if (nx < 0 || ny < 0 || nx >= width || ny >= height)
            {
                continue;
            }

            var (a, b) = (((y * width) + x) * 4, ((ny * width) + nx) * 4);
            if (
                rgba[b + 3] >= 250
                && Math.Abs(rgba[a] - rgba[b]) <= Alike
                && Math.Abs(rgba[a + 1] - rgba[b + 1]) <= Alike
                && Math.Abs(rgba[a + 2] - rgba[b + 2]) <= Alike
            )
            {
                like++;
            }
        }

        return like >= 2;
    }

    // The commonest colours first, so that what is flat in the picture names its group exactly.
    private static List<ColourGroup> Group(Dictionary<int, int> counted)
    {
        var groups = new List<ColourGroup>();
        foreach (
            var bin in counted
                .GroupBy(c => c.Key & 0xf8f8f8)
                .Select(b => b.OrderByDescending(c => c.Value).ThenBy(c => c.Key).ToList())
                .OrderByDescending(b => b.Sum(c => (long)c.Value))
                .ThenBy(b => b[0].Key)
                .Take(MostBins)
        )
        {
            var colour = Read(bin[0].Key);
            var lab = CieLab.FromColour(colour);
            var group = groups.Where(g => CieLab.Difference(g.Lab, lab) < Same).MinBy(g => CieLab.Difference(g.Lab, lab));
            if (group is null)
            {
                groups.Add(group = new ColourGroup(colour, lab));
            }

            bin.ForEach(c => group.Add(Read(c.Key), c.Value));
        }

        return groups;
    }

    private static Colour Read(int rgb) => new((byte)(rgb >> 16), (byte)(rgb >> 8), (byte)rgb);

    private static bool IsBlend(Colour colour, IEnumerable<PaletteColour> larger)
    {
        var others = larger.Select(l => l.Colour).ToList();
        return others.Where((_, i) => others.Skip(i + 1).Any(b => IsBetween(colour, others[i], b))).Any();
    }

    // Within 12 of 255 of the line between two colours, and not near either end.
    private static bool IsBetween(Colour c, Colour a, Colour b)
    {
        var (dx, dy, dz) = (b.Red - a.Red, b.Green - a.Green, b.Blue - a.Blue);
        var length = (dx * dx) + (dy * dy) + (dz * dz);
        var along = (((c.Red - a.Red) * dx) + ((c.Green - a.Green) * dy) + ((c.Blue - a.Blue) * dz)) / (double)length;
        var off =
            Math.Pow(a.Red + (along * dx) - c.Red, 2)
            + Math.Pow(a.Green + (along * dy) - c.Green, 2)
            + Math.Pow(a.Blue + (along * dz) - c.Blue, 2);
        return along is > 0.08 and < 0.92 && off < 144;
    }

    private sealed class ColourGroup(Colour seed, CieLab lab)
    {
        private (long Red, long Green, long Blue) sum;
        private int seedPixels;

        public Colour Seed { get; } = seed;

        public CieLab Lab { get; } = lab;

        public int Pixels { get; private set; }

        /// <summary>The colour of the flat area, or the mean where there is none, as in a photograph.</summary>
        public Colour Colour => seedPixels * 4 >= Pixels ? Seed : new Colour(Mean(sum.Red), Mean(sum.Green), Mean(sum.Blue));

        public void Add(Colour colour, int pixels)
        {
            Pixels += pixels;
            seedPixels += colour == Seed ? pixels : 0;
            sum = (
                sum.Red + ((long)colour.Red * pixels),
                sum.Green + ((long)colour.Green * pixels),
                sum.Blue + ((long)colour.Blue * pixels)
            );
        }

        private byte Mean(long total) => (byte)Math.Round((double)total / Pixels);
    }
}
