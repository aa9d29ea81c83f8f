using System.Text.RegularExpressions;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Core.Languages;
using GoldenRule.Core.Resolving;

namespace GoldenRule.Core.Tests;

/// <summary>Emails in languages that run from right to left.</summary>
public sealed partial class DirectionTests
{
    private static CompiledEmail Compile(string language, string? text = null)
    {
        Document email = new SetLanguage(language).Apply(Larkfell.Gazette);
        email = text is null
            ? email
            : new SetFill("viaduct", "text", "text", new FieldValue.Prose(RichText.FromParagraphs(text))).Apply(email);
        return Compiler.Compile(
            Resolver.Resolve(
                (Email)email,
                RunningOrder.From((Email)email, Larkfell.Masters),
                Larkfell.Style,
                Larkfell.Pictures,
                inline: Larkfell.Inline((Email)email)
            ),
            "",
            Purpose.Sending
        );
    }

    /// <summary>Directions as the CLDR has them (characterOrder); the languages of the list are from memory.</summary>
    [Theory]
    [InlineData("ar", "rtl")]
    [InlineData("ar-EG", "rtl")]
    [InlineData("he", "rtl")]
    [InlineData("he-IL", "rtl")]
    [InlineData("fa", "rtl")]
    [InlineData("ur-PK", "rtl")]
    [InlineData("pa-Arab", "rtl")]
    [InlineData("pa", "ltr")]
    [InlineData("en-GB", "ltr")]
    [InlineData("de", "ltr")]
    [InlineData("xx", "ltr")]
    public void The_language_decides_which_way_it_runs(string language, string direction)
    {
        var html = Compile(language).HtmlText();
        Assert.Contains($"<html lang=\"{language}\" dir=\"{direction}\">", html, StringComparison.Ordinal);
        Assert.Contains($"<div role=\"article\" aria-roledescription=\"email\" dir=\"{direction}\"", html, StringComparison.Ordinal);
    }

    [Fact]
    public void Sides_are_turned_and_nothing_else_is()
    {
        var (ltr, rtl) = (Compile("en-GB").HtmlText(), Compile("ar").HtmlText());
        Assert.Contains("align=\"left\"", ltr, StringComparison.Ordinal);
        Assert.DoesNotContain("align=\"left\"", rtl, StringComparison.Ordinal);
        Assert.DoesNotContain("text-align:left", rtl, StringComparison.Ordinal);
        // The same again when it is turned back: no rule turns one way only.
        Assert.Equal(Bare(ltr), Bare(Mirror(rtl)));

        static string Mirror(string html) =>
            Sides()
                .Replace(html, m => m.Value.EndsWith("left", StringComparison.Ordinal) ? m.Value[..^4] + "right" : m.Value[..^5] + "left");

        // Numbers between isolates, languages, the direction itself and values of four sides, which have tests of their own.
        static string Bare(string html) => Others().Replace(html, "");
    }

    /// <summary>Words in VML run the same way: those of a button by themselves, those on a background picture in their table.</summary>
    [Fact]
    public void What_stands_in_vml_has_its_direction()
    {
        var html = Compile("ar").HtmlText();
        var buttons = Regex.Matches(html, "<v:roundrect.*?</v:roundrect>", RegexOptions.Singleline, TimeSpan.FromSeconds(5));
        Assert.NotEmpty(buttons);
        Assert.All(buttons, b => Assert.Contains("<center dir=\"rtl\"", b.Value, StringComparison.Ordinal));
        var boxes = Regex.Matches(html, "<v:textbox[^>]*>.*?<table[^>]*>", RegexOptions.Singleline, TimeSpan.FromSeconds(5));
        Assert.All(boxes, b => Assert.Contains("<table dir=\"rtl\"", b.Value, StringComparison.Ordinal));
        Assert.DoesNotContain("dir=\"rtl\"", Compile("en-GB").HtmlText(), StringComparison.Ordinal);
    }

    [GeneratedRegex("(?<=(?:padding|margin|border)-|text-align:|align=\")(left|right)")]
    private static partial Regex Sides();

    [GeneratedRegex("[\u2066\u2069]|lang=\"[^\"]*\"| ?dir=\"[^\"]*\"|(?:padding|margin|border-radius):[^;\"}]*")]
    private static partial Regex Others();

    /// <summary>CSS Box Model 3, 6.1 and Backgrounds 3, 4.1: sides from the top clockwise, corners from the top left clockwise.</summary>
    [Theory]
    [InlineData("padding:1px 2px 3px 4px", "padding:1px 4px 3px 2px")]
    [InlineData("padding:1px 2px 3px", "padding:1px 2px 3px")]
    [InlineData("margin:0 0 0 auto;color:red", "margin:0 auto 0 0;color:red")]
    [InlineData("border-radius:1px 2px 3px 4px", "border-radius:2px 1px 4px 3px")]
    [InlineData("border-left:1px solid;padding-right:2px", "border-right:1px solid;padding-left:2px")]
    [InlineData("border-left-color:red", "border-right-color:red")]
    [InlineData("text-align:left;float:right", "text-align:right;float:left")]
    [InlineData("background:url(left.png);font-family:Left", "background:url(left.png);font-family:Left")]
    [InlineData(".a{text-align:left!important}", ".a{text-align:right!important}")]
    public void Each_declaration_is_turned_as_CSS_means_it(string css, string turned)
    {
        Assert.Equal(turned, Mirrored.Declarations(css));
        Assert.Equal(css, Mirrored.Declarations(turned));
    }

    [Fact]
    public void Words_are_never_turned()
    {
        var html = Compile("ar", "style=\"text-align:left\" align=\"left\" padding-left: 3px <table role").HtmlText();
        Assert.Contains(
            "style=&quot;text-align:left&quot; align=&quot;left&quot; padding-left: 3px &lt;table role",
            html,
            StringComparison.Ordinal
        );
    }

    /// <summary>
    /// Unicode Standard Annex 9, 2.4 and 3.3.4: what stands between LRI (U+2066) and PDI (U+2069) runs from left to right, and what
    /// is around it is as if it were not there.
    /// </summary>
    [Theory]
    [InlineData("اتصل 01632 960 217 اليوم", "اتصل \u206601632 960 217\u2069 اليوم")]
    [InlineData("من 10:00 إلى 16:30", "من \u206610:00\u2069 إلى \u206616:30\u2069")]
    [InlineData("post@larkfell.example.org", "\u2066post@larkfell.example.org\u2069")]
    [InlineData("https://larkfell.example.org/a?b=1 هنا", "\u2066https://larkfell.example.org/a?b=1\u2069 هنا")]
    [InlineData("3+44 20 7946", "3\u2066+44 20 7946\u2069")]
    [InlineData("في 2027", "في 2027")]
    [InlineData("שלום", "שלום")]
    [InlineData("", "")]
    public void Numbers_and_addresses_are_isolated(string text, string isolated)
    {
        Assert.Equal(isolated, Isolated.Words(text));
        Assert.Equal(isolated, Isolated.Words(isolated));
        Assert.Contains(isolated, Compile("ar", text).HtmlText().Replace("&amp;", "&", StringComparison.Ordinal), StringComparison.Ordinal);
        Assert.DoesNotContain("\u2066", Compile("en-GB", text).HtmlText(), StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("\u206612 34\u2069 56 78", "\u206612 34\u2069 \u206656 78\u2069")]
    [InlineData("\u206612 34 إلى 56 78", "\u206612 34 إلى 56 78")]
    public void What_is_isolated_already_stays(string text, string isolated) => Assert.Equal(isolated, Isolated.Words(text));

    [Fact]
    public void The_plain_text_says_the_same_words()
    {
        Assert.Contains("\u206601632 960 217\u2069", Compile("he", "טלפון 01632 960 217").MadeText(), StringComparison.Ordinal);
    }
}
