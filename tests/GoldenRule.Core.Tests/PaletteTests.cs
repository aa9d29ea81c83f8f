using FsCheck;
using FsCheck.Fluent;
using FsCheck.Xunit;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Tests;

/// <summary>Colours read from pictures that the tests draw, so that the right answer is known.</summary>
public sealed class PaletteTests
{
    [Fact]
    public void Areas_are_named_exactly_largest_first_and_softened_edges_are_none()
    {
        var picture = new Canvas(200, 100, Colour.Parse("#f4e9d2"));
        picture.Disc(60, 50, 40, Colour.Parse("#1f3a34"));
        picture.Disc(150, 50, 25, Colour.Parse("#8e2a1c"));
        Assert.Contains(picture.Colours(), c => c != "#f4e9d2" && c != "#1f3a34" && c != "#8e2a1c");
        var palette = picture.Palette();
        Assert.Equal(["#f4e9d2", "#1f3a34", "#8e2a1c"], palette.Select(p => p.Colour.ToString()));
        Assert.InRange(palette[1].Share, 0.23, 0.27);
        Assert.InRange(palette[2].Share, 0.08, 0.11);
    }

    [Fact]
    public void What_shows_through_is_no_colour_of_the_picture()
    {
        var picture = new Canvas(100, 100, null);
        picture.Disc(50, 50, 30, Colour.Parse("#336699"));
        Assert.Equal("#336699", Assert.Single(picture.Palette()).Colour.ToString());
    }

    [Fact]
    public void Lines_one_pixel_wide_are_read_where_there_is_nothing_else()
    {
        var picture = new Canvas(80, 80, null);
        for (var i = 4; i < 76; i++)
        {
            picture.Set(i, i, Colour.Parse("#aa2200"), 255);
        }

        Assert.Equal("#aa2200", Assert.Single(picture.Palette()).Colour.ToString());
    }

    /// <summary>Two areas whose colours no one tells apart are one; two that anyone does are two.</summary>
    [Property(MaxTest = 100)]
    public Property Near_equals_are_one_colour() => Prop.ForAll(Gen.Choose(0, 0xffffff).Two().ToArbitrary(), pair =>
        {
            var (a, b) = (Of(pair.Item1), Of(pair.Item2));
            var picture = new Canvas(60, 40, a);
            picture.Box(0, 0, 20, 40, b);
            var difference = CieLab.Difference(a, b);
            return difference switch
            {
                < 5.9 => picture.Palette().Length == 1,
                > 6.1 => picture.Palette().Length == 2 && picture.Palette()[0].Colour == a,
                _ => true,
            };
        });

    /// <summary>As JPEG leaves flat areas: each channel off by a few, never the same twice.</summary>
    [Fact]
    public void Noise_makes_no_new_colours()
    {
        var picture = new Canvas(120, 80, Colour.Parse("#2a5a8a"));
        picture.Box(0, 0, 40, 80, Colour.Parse("#e0d0a0"));
        picture.Noise(4);
        var palette = picture.Palette();
        Assert.Equal(2, palette.Length);
        Assert.InRange(CieLab.Difference(palette[0].Colour, Colour.Parse("#2a5a8a")), 0, 3);
        Assert.InRange(palette[1].Share, 0.32, 0.35);
    }

    [Fact]
    public void Pixels_that_do_not_fill_the_picture_are_refused() =>
        Assert.Throws<ArgumentException>(() => Palette.FromPixels(new byte[12], 2, 2));

    private static Colour Of(int rgb) => new((byte)(rgb >> 16), (byte)(rgb >> 8), (byte)rgb);

    private sealed class Canvas
    {
        private readonly byte[] pixels;
        private readonly int width;
        private readonly int height;

        public Canvas(int width, int height, Colour? ground)
        {
            (this.width, this.height, pixels) = (width, height, new byte[width * height * 4]);
            if (ground is { } colour)
            {
                Box(0, 0, width, height, colour);
            }
        }

        public IEnumerable<string> Colours() =>
            pixels.Chunk(4).Where(p => p[3] == 255).Select(p => new Colour(p[0], p[1], p[2]).ToString()).Distinct();

        public System.Collections.Immutable.ImmutableArray<PaletteColour> Palette() =>
            HouseStyles.Palette.FromPixels(pixels, width, height);

        public void Set(int x, int y, Colour colour, byte alpha)
        {
            var at = ((y * width) + x) * 4;
            // Over what is there, as edges are softened.
            var share = alpha / 255.0;
            var under = pixels[at + 3] == 0 ? colour : new Colour(pixels[at], pixels[at + 1], pixels[at + 2]);
            pixels[at] = (byte)Math.Round((colour.Red * share) + (under.Red * (1 - share)));
            pixels[at + 1] = (byte)Math.Round((colour.Green * share) + (under.Green * (1 - share)));
            pixels[at + 2] = (byte)Math.Round((colour.Blue * share) + (under.Blue * (1 - share)));
            pixels[at + 3] = Math.Max(pixels[at + 3], alpha);
        }

        public void Box(int left, int top, int w, int h, Colour colour)
        {
            for (var y = top; y < top + h; y++)
            {
                for (var x = left; x < left + w; x++)
                {
                    Set(x, y, colour, 255);
                }
            }
        }

        // Sixteen samples a pixel, so that the edge is as soft as a drawing program makes it.
        public void Disc(int cx, int cy, int radius, Colour colour)
        {
            for (var y = cy - radius - 1; y <= cy + radius + 1; y++)
            {
                for (var x = cx - radius - 1; x <= cx + radius + 1; x++)
                {
                    var inside = Enumerable
                        .Range(0, 16)
                        .Count(i =>
                            Math.Pow(x + ((i % 4) * 0.25) + 0.125 - cx, 2) + Math.Pow(y + ((i / 4) * 0.25) + 0.125 - cy, 2)
                            <= radius * radius
                        );
                    if (inside > 0)
                    {
                        Set(x, y, colour, (byte)(inside * 255 / 16));
                    }
                }
            }
        }

        public void Noise(int most)
        {
            var next = 1u;
            for (var i = 0; i < pixels.Length; i++)
            {
                next = (next * 1103515245) + 12345;
                pixels[i] =
                    i % 4 == 3 ? pixels[i] : (byte)Math.Clamp(pixels[i] + (int)((next >> 16) % (uint)((2 * most) + 1)) - most, 0, 255);
            }
        }
    }
}
