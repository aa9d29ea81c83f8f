using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Tests;

public sealed class MeasuringTests
{
    /// <summary>Extended grapheme clusters by Unicode UAX #29; the samples follow its table 1a and rules GB9 to GB13.</summary>
    [Theory]
    [InlineData("", 0)]
    [InlineData("train", 5)]
    [InlineData("g\u0308", 1)]
    [InlineData("\uAC01", 1)]
    [InlineData("\u1100\u1161\u11A8", 1)]
    [InlineData("\u0E01\u0E33", 1)]
    [InlineData("\r\n", 1)]
    [InlineData("\U0001F1EC\U0001F1E7", 1)]
    [InlineData("\U0001F1EC\U0001F1E7\U0001F1E9\U0001F1EA", 2)]
    [InlineData("\U0001F468\u200D\U0001F469\u200D\U0001F467", 1)]
    [InlineData("\U0001F44D\U0001F3FD!", 2)]
    public void Characters_are_counted_as_readers_count(string text, int expected) => Assert.Equal(expected, Measuring.Characters(text));

    /// <summary>Every line of Unicode's own GraphemeBreakTest-15.0.0.txt: so many clusters as its breaks part.</summary>
    [Fact]
    public void Characters_are_counted_as_unicode_publishes()
    {
        var lines = File.ReadLines(Path.Combine(AppContext.BaseDirectory, "Vectors", "GraphemeBreakTest-15.0.0.txt"))
            .Select(l => l.Split('#')[0].Trim())
            .Where(l => l.Length > 0)
            .ToList();
        Assert.Equal(602, lines.Count);
        Assert.All(lines, line =>
        {
            var text = string.Concat(
                line.Split([' ', '÷', '×'], StringSplitOptions.RemoveEmptyEntries)
                    .Select(c => char.ConvertFromUtf32(Convert.ToInt32(c, 16)))
            );
            Assert.Equal(line.Count(c => c == '÷') - 1, Measuring.Characters(text));
        });
    }

    [Theory]
    [InlineData("", 0)]
    [InlineData("  \n ", 0)]
    [InlineData("one  two\nthree", 3)]
    [InlineData("don’t stop – ever", 4)]
    public void Words_are_stretches_without_white_space(string text, int expected) => Assert.Equal(expected, Measuring.Words(text));

    /// <summary>White space as Unicode has it (the White_Space property, which .NET's own splitting goes by).</summary>
    [Fact]
    public void Words_are_counted_as_splitting_at_white_space_counts_them()
    {
        var random = new Random(20);
        const string Letters = "aé—‘  \u00a0\t\n\u2003\u3000\u0085";
        for (var i = 0; i < 5000; i++)
        {
            var text = string.Concat(Enumerable.Range(0, random.Next(12)).Select(_ => Letters[random.Next(Letters.Length)]));
            Assert.Equal(text.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries).Length, Measuring.Words(text));
        }
    }

    [Fact]
    public void A_limit_holds_up_to_its_figure_and_breaks_beyond()
    {
        var limit = new Limit { Characters = 5, Words = 2 };
        Assert.All(Measuring.Measure(new FieldValue.Words("ab cd"), limit, PictureCatalog.Empty), m => Assert.False(m.Broken));
        Assert.All(Measuring.Measure(new FieldValue.Words("a b cd"), limit, PictureCatalog.Empty), m => Assert.True(m.Broken));
    }

    [Theory]
    [InlineData("https://larkfell.example.org/x", false)]
    [InlineData("https://shop.larkfell.example.org/x", false)]
    [InlineData("https://notlarkfell.example.org/x", true)]
    [InlineData("https://larkfell.example.org.example.net/", true)]
    public void A_host_admits_itself_and_what_is_below(string href, bool broken) =>
        Assert.Equal(
            broken,
            Measuring
                .Measure(new FieldValue.Link(href), new Limit { Hosts = ["larkfell.example.org"] }, PictureCatalog.Empty)
                .Single()
                .Broken
        );

    [Theory]
    [InlineData("https://example.org/", true)]
    [InlineData("mailto:a@example.org", true)]
    [InlineData("tel:+441632960000", true)]
    [InlineData("javascript:alert(1)", false)]
    [InlineData("JaVaScRiPt:alert(1)", false)]
    [InlineData("java\nscript:alert(1)", false)]
    [InlineData("data:text/html,x", false)]
    [InlineData("//example.org", false)]
    [InlineData("/here", false)]
    [InlineData("https://exa mple.org", false)]
    public void Only_addresses_that_belong_in_mail_are_safe(string href, bool safe) => Assert.Equal(safe, Links.IsSafe(href));
}
