using AngleSharp.Html.Parser;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Tests;

/// <summary>The email as it is shown elsewhere: simulated clients, the inbox, HTML laid out to be read.</summary>
public sealed class ProofViewTests
{
    [Fact]
    public void Without_media_queries_nothing_else_is_gone()
    {
        var html = Larkfell.Compile(Larkfell.Gazette).HtmlText();
        var plain = SimulatedView.Render(html, ProofView.NoMediaQueries);
        Assert.DoesNotContain("@media", plain, StringComparison.Ordinal);
        Assert.Contains("[data-ogsc]", plain, StringComparison.Ordinal);
        Assert.Equal(html[html.IndexOf("<body", StringComparison.Ordinal)..], plain[plain.IndexOf("<body", StringComparison.Ordinal)..]);
    }

    [Theory]
    [InlineData("background-color:#ffffff", ProofView.PartlyRecoloured, true)]
    [InlineData("background-color:#1f3a34", ProofView.PartlyRecoloured, false)]
    [InlineData("color:#25302b", ProofView.PartlyRecoloured, true)]
    [InlineData("color:#f4e9d2", ProofView.PartlyRecoloured, false)]
    [InlineData("background-color:#1f3a34", ProofView.FullyRecoloured, true)]
    [InlineData("color:#f4e9d2", ProofView.FullyRecoloured, true)]
    public void Recolouring_turns_light_to_dark_and_in_part_leaves_what_is_dark(string declaration, ProofView view, bool turned)
    {
        var shown = SimulatedView.Render($"<p style=\"{declaration};margin:0\">", view);
        var colour = Colour.Parse(shown[(shown.IndexOf('#') is var at ? at : 0)..][..7]);
        var former = Colour.Parse(declaration.Split(':')[1]);
        Assert.Equal(turned, former != colour);
        Assert.Equal(turned ? former.Luminance < 0.2 : former.Luminance >= 0.2, colour.Luminance >= 0.2);
        Assert.EndsWith(";margin:0\">", shown, StringComparison.Ordinal);
    }

    [Fact]
    public void What_could_be_read_can_still_be_read_when_all_is_recoloured()
    {
        // Black on white and the brand's own pairs, turned over.
        foreach (var (text, background) in new[] { ("#000000", "#ffffff"), ("#25302b", "#ffffff"), ("#f4e9d2", "#1f3a34") })
        {
            var shown = SimulatedView.Render($"<p style=\"color:{text};background-color:{background}\">", ProofView.FullyRecoloured);
            var found = System.Text.RegularExpressions.Regex.Matches(shown, "#[0-9a-f]{6}").Select(m => Colour.Parse(m.Value)).ToList();
            Assert.True(Colour.Contrast(found[0], found[1]) >= 4.5);
        }
    }

    [Fact]
    public void HTML_laid_out_to_be_read_is_the_same_document()
    {
        foreach (var (name, email) in Larkfell.Emails)
        {
            var html = Larkfell.Compile(email).HtmlText();
            var readable = Readable.Format(html);
            Assert.True(readable.Count(c => c == '\n') > 40, name);
            var (one, other) = (new HtmlParser().ParseDocument(html), new HtmlParser().ParseDocument(readable));
            Assert.Equal(
                one.All.Select(e => (e.LocalName, e.GetAttribute("style"))),
                other.All.Select(e => (e.LocalName, e.GetAttribute("style")))
            );
            // White space was added only where tables and heads drop it.
            Assert.Equal(Texts(one), Texts(other));
        }

        static IEnumerable<string> Texts(AngleSharp.Dom.IDocument page) =>
            page
                .All.Where(e => e.LocalName is not ("table" or "tbody" or "tr" or "head" or "html"))
                .SelectMany(e => e.ChildNodes.OfType<AngleSharp.Dom.IText>().Select(t => t.Data));
    }

    [Fact]
    public void An_inbox_cuts_by_whole_characters_and_says_so()
    {
        var details = new EmailDetails
        {
            SenderName = "Larkfell",
            Subject = string.Concat(Enumerable.Repeat("👩‍🚒", 50)),
            Preheader = "",
        };
        var line = InboxLine.OnPhone(details, "Headline\n========\n\nThe first words of the body.");
        Assert.True(line.Subject.Cut);
        Assert.Equal(38, Measuring.Characters(line.Subject.Text));
        Assert.EndsWith("👩‍🚒…", line.Subject.Text, StringComparison.Ordinal);
        Assert.True(line.FromBody);
        Assert.Equal("Headline The first words of the body.", line.Preheader.Text);
        var whole = InboxLine.OnDesktop(
            new EmailDetails
            {
                SenderAddress = "post@larkfell.example.org",
                Subject = "Short",
                Preheader = "Also short",
            },
            ""
        );
        Assert.Equal(
            (false, false, false, "post@larkfell.example.org"[..21] + "…"),
            (whole.Subject.Cut, whole.Preheader.Cut, whole.FromBody, whole.Sender.Text)
        );
    }
}
