using FsCheck;
using FsCheck.Fluent;
using FsCheck.Xunit;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Tests;

public sealed class ColourTests
{
    /// <summary>
    /// WCAG 2.2, "relative luminance": 0 for black, 1 for white; the coefficients are those of its formula, which a full
    /// channel leaves as they are. #777 and #767676 are the well-known pair on either side of 4.5 (from memory).
    /// </summary>
    [Theory]
    [InlineData("#000000", 0)]
    [InlineData("#ffffff", 1)]
    [InlineData("#ff0000", 0.2126)]
    [InlineData("#00ff00", 0.7152)]
    [InlineData("#0000ff", 0.0722)]
    public void Luminance_is_that_of_WCAG(string colour, double expected) => Assert.Equal(expected, Colour.Parse(colour).Luminance, 10);

    [Theory]
    [InlineData("#000", "#fff", 21)]
    [InlineData("#fff", "#fff", 1)]
    [InlineData("#777777", "#ffffff", 4.478)]
    [InlineData("#767676", "#ffffff", 4.542)]
    public void Contrast_is_that_of_WCAG(string a, string b, double expected)
    {
        Assert.Equal(expected, Colour.Contrast(Colour.Parse(a), Colour.Parse(b)), 3);
        Assert.Equal(Colour.Contrast(Colour.Parse(b), Colour.Parse(a)), Colour.Contrast(Colour.Parse(a), Colour.Parse(b)));
    }

    /// <summary>1,000 random pairs as the independent library colorjs.io computes them (see tests/browser/vectors.mjs).</summary>
    [Fact]
    public void Contrast_agrees_with_colorjs()
    {
        var pairs = Vectors.Read("colorjs-contrast.csv");
        Assert.Equal(1000, pairs.Count);
        Assert.All(pairs, p => Assert.Equal(
                Vectors.Number(p[2]),
                Colour.Contrast(Colour.Parse(p[0]), Colour.Parse(p[1])),
                // colorjs.io takes the sRGB matrix with more digits than WCAG prints: they part in the fourth digit.
                tolerance: 0.002
            ));
    }

    /// <summary>CSS Color 4, 5.2: #rgb repeats each digit.</summary>
    [Theory]
    [InlineData("#1a2", "#11aa22")]
    [InlineData("#ABCDEF", "#abcdef")]
    public void Short_and_upper_case_forms_are_read(string text, string expected) => Assert.Equal(expected, Colour.Parse(text).ToString());

    [Theory]
    [InlineData("red")]
    [InlineData("#12")]
    [InlineData("#12345g")]
    [InlineData("#+12345")]
    [InlineData("")]
    public void What_is_no_colour_is_refused(string text) => Assert.False(Colour.TryParse(text, out _));

    /// <summary>WCAG 2.2, 1.4.3 and its definition of large scale: 18 pt is 24 CSS px, 14 pt bold is 18.66.</summary>
    [Theory]
    [InlineData(16, false, 4.5)]
    [InlineData(23.9, false, 4.5)]
    [InlineData(24, false, 3)]
    [InlineData(18.66, true, 3)]
    [InlineData(18.66, false, 4.5)]
    public void Large_text_needs_less(double size, bool bold, double needed) =>
        Assert.Equal(needed, new Reading("", default, default, size, bold, false).Needed);

    /// <summary>
    /// The 34 pairs of G. Sharma, W. Wu, E. Dalal, "The CIEDE2000 Color-Difference Formula" (2005), table 1. Typed from
    /// memory; a figure remembered wrongly would fail against an implementation that colorjs.io confirms below.
    /// </summary>
    [Fact]
    public void CIEDE2000_gives_the_published_differences()
    {
        var pairs = Vectors.Read("sharma-ciede2000.csv");
        Assert.Equal(34, pairs.Count);
        Assert.All(pairs, line =>
        {
            var v = line.Select(Vectors.Number).ToArray();
            Assert.Equal(v[6], CieLab.Difference(new CieLab(v[0], v[1], v[2]), new CieLab(v[3], v[4], v[5])), 4);
            Assert.Equal(v[6], CieLab.Difference(new CieLab(v[3], v[4], v[5]), new CieLab(v[0], v[1], v[2])), 4);
        });
    }

    [Fact]
    public void CIEDE2000_of_screen_colours_agrees_with_colorjs() =>
        Assert.All(Vectors.Read("colorjs-ciede2000.csv"), p =>
            Assert.Equal(Vectors.Number(p[2]), CieLab.Difference(Colour.Parse(p[0]), Colour.Parse(p[1])), tolerance: 0.001)
        );

    [Fact]
    public void OKLCH_agrees_with_colorjs() => Assert.All(Vectors.Read("colorjs-oklch.csv"), p =>
        {
            var colour = Oklch.FromColour(Colour.Parse(p[0]));
            Assert.Equal(Vectors.Number(p[1]), colour.Lightness, 6);
            Assert.Equal(Vectors.Number(p[2]), colour.Chroma, 6);
            Assert.Equal(Vectors.Number(p[3]), colour.Hue, 3);
            Assert.Equal(p[0], colour.ToColour().ToString());
        });

    /// <summary>CSS Color 4, 13.2. Two of 255 steps are left for where the two searches stop.</summary>
    [Fact]
    public void What_no_screen_shows_is_brought_in_as_colorjs_does() => Assert.All(Vectors.Read("colorjs-gamut.csv"), p =>
        {
            var shown = new Oklch(Vectors.Number(p[0]), Vectors.Number(p[1]), Vectors.Number(p[2])).ToColour();
            var expected = Colour.Parse(p[3]);
            Assert.InRange(shown.Red - expected.Red, -2, 2);
            Assert.InRange(shown.Green - expected.Green, -2, 2);
            Assert.InRange(shown.Blue - expected.Blue, -2, 2);
        });

    /// <summary>
    /// Over random pairs that fail: the shade offered passes, keeps its hue, and none nearer than that by two steps of 8 bits
    /// passes.
    /// </summary>
    [Property(MaxTest = 300)]
    public Property The_nearest_shade_passes_and_none_nearer_does() => Prop.ForAll(Gen.Choose(0, 0xffffff).Two().ToArbitrary(), pair =>
        {
            var (colour, against) = (Of(pair.Item1), Of(pair.Item2));
            if (Colour.Contrast(colour, against) >= 4.5)
            {
                return true;
            }

            // Black or white always has 4.5 against any colour: their ratios multiply to 21.
            var shade = Passing.NearestShade(colour, against, 4.5)!.Value;
            var (own, to) = (Oklch.FromColour(colour), Oklch.FromColour(shade));
            var way = Math.Max(0, Math.Abs(to.Lightness - own.Lightness) - (2.0 / 255)) * Math.Sign(to.Lightness - own.Lightness);
            var nearer = Enumerable.Range(0, 100).Select(i => (own with { Lightness = own.Lightness + (way * i / 100) }).ToColour());
            var turned = Math.Abs(((to.Hue - own.Hue + 540) % 360) - 180);
            return Colour.Contrast(shade, against) >= 4.5
                // Near black the ratio is all but flat, and 8 bits make it go up and down by a hundredth or two.
                && nearer.All(n => Colour.Contrast(n, against) < 4.55)
                // Off the hue by no more than what CSS Color 4 calls just noticeable, 0.02 in OKLab, and the rounding to 8 bits.
                && to.Chroma * Math.Sin(Math.Min(turned, 90) * Math.PI / 180) < 0.025;
        });

    [Fact]
    public void The_brand_colour_offered_passes_and_looks_most_alike()
    {
        (string, Colour)[] brand =
        [
            ("red", Colour.Parse("#c4532e")),
            ("old-red", Colour.Parse("#8e2a1c")),
            ("green", Colour.Parse("#1f3a34")),
            ("cream", Colour.Parse("#f4e9d2")),
        ];
        Assert.Equal("old-red", Passing.NearestBrandColour(Colour.Parse("#c4532e"), Colour.Parse("#f4e9d2"), 4.5, brand)!.Value.Key);
        Assert.Null(Passing.NearestBrandColour(Colour.Parse("#777777"), Colour.Parse("#777777"), 21, brand));
    }

    private static Colour Of(int rgb) => new((byte)(rgb >> 16), (byte)(rgb >> 8), (byte)rgb);
}
