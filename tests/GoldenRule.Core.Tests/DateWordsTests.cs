using GoldenRule.Core.Checking;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Languages;

namespace GoldenRule.Core.Tests;

/// <summary>
/// Days as languages write them, from the Unicode CLDR; a test of the front end holds the names against the Intl of its runtime.
/// </summary>
public sealed class DateWordsTests
{
    [Theory]
    [InlineData("en-GB", "Saturday 6 March 2027")]
    [InlineData("en-US", "Saturday, March 6, 2027")]
    [InlineData("cy-GB", "Dydd Sadwrn, 6 Mawrth 2027")]
    [InlineData("de-DE", "Samstag, 6. März 2027")]
    [InlineData("de-AT", "Samstag, 6. März 2027")]
    [InlineData("fr-FR", "samedi 6 mars 2027")]
    [InlineData("es-ES", "sábado, 6 de marzo de 2027")]
    [InlineData("pl-PL", "sobota, 6 marca 2027")]
    [InlineData("ja", "2027年3月6日土曜日")]
    [InlineData("EN-gb-oxendict", "Saturday 6 March 2027")]
    [InlineData("tlh", "Saturday 6 March 2027")]
    public void A_day_is_written_as_the_language_of_the_email_writes_it(string language, string words) =>
        Assert.Equal(words, DateWords.ForLanguage(language).Day(new DateTime(2027, 3, 6)));

    /// <summary>Where a region has a name of its own for a month.</summary>
    [Fact]
    public void A_region_may_have_words_of_its_own() =>
        Assert.Equal(
            ("Donnerstag, 7. Jänner 2027", "Donnerstag, 7. Januar 2027"),
            (DateWords.ForLanguage("de-AT").Day(new DateTime(2027, 1, 7)), DateWords.ForLanguage("de-CH").Day(new DateTime(2027, 1, 7)))
        );

    public static TheoryData<string> Languages => [.. DateWords.Languages.Order(StringComparer.Ordinal)];

    [Theory]
    [MemberData(nameof(Languages))]
    public void What_a_language_writes_is_found_again_as_that_day(string language)
    {
        var words = DateWords.ForLanguage(language);
        Assert.Equal((7, 12, 12, 12), (words.Weekdays.Length, words.Months.Length, words.Alone.Length, words.Short.Length));
        Assert.All([.. words.Weekdays, .. words.Months, .. words.Alone, .. words.Short], w => Assert.NotEmpty(w.Trim()));
        for (var day = new DateTime(2026, 12, 28); day < new DateTime(2027, 12, 31); day = day.AddDays(17))
        {
            var written = words.Day(day);
            Assert.Equal(DateOnly.FromDateTime(day), Assert.Single(WrittenDates.In($"… {written} …", language)).Day);
        }
    }

    [Theory]
    [InlineData("cy-GB", "Ar agor o 6 Mawrth 2027 ymlaen", "2027-03-06")]
    [InlineData("de-DE", "Ab dem 6. März 2027", "2027-03-06")]
    [InlineData("de-DE", "Ab 6. Dez. 2027", "2027-12-06")]
    [InlineData("es-ES", "Desde el 6 de marzo de 2027", "2027-03-06")]
    [InlineData("pl-PL", "od 6 marca 2027 r.", "2027-03-06")]
    [InlineData("fr-FR", "le 2027-03-06", "2027-03-06")]
    [InlineData("en-GB", "on the 6th of March 2027", "2027-03-06")]
    [InlineData("fr-FR", "le 31 février 2027", null)]
    [InlineData("de-DE", "6 March 2027", null)]
    [InlineData("ja", "3 6 2027", null)]
    public void Days_inside_other_words_are_found_in_the_email_s_language(string language, string text, string? day) =>
        Assert.Equal(
            day,
            WrittenDates
                .In(text, language)
                .Select(d => d.Day.ToString("yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture))
                .SingleOrDefault()
        );
}
