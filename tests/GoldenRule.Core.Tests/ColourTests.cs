using System.Globalization;
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
    public void Luminance_is_that_of_WCAG(string colour, double expected) =>
        Assert.Equal(expected, Colour.Parse(colour).Luminance, 10);

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
        var pairs = File.ReadLines(Path.Combine(AppContext.BaseDirectory, "Vectors", "colorjs-contrast.csv")).Select(l => l.Split(',')).ToList();
        Assert.Equal(1000, pairs.Count);
        Assert.All(pairs, p => Assert.Equal(
            double.Parse(p[2], CultureInfo.InvariantCulture),
            Colour.Contrast(Colour.Parse(p[0]), Colour.Parse(p[1])),
            // colorjs.io takes the sRGB matrix with more digits than WCAG prints: they part in the fourth digit.
            tolerance: 0.002));
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
}
