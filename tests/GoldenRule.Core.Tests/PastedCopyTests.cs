using GoldenRule.Core.Documents;
using GoldenRule.Core.Interchange;

namespace GoldenRule.Core.Tests;

/// <summary>
/// What lies on the clipboard after a copy in word processors, web pages and mail. The shapes are written for this test
/// after what the formats publish: [MS-OI29500] and Microsoft's "HTML Clipboard Format", the HTML standard's paragraphs
/// and lists, and the inline styles that web-based editors write (common practice, no source).
/// </summary>
public sealed class PastedCopyTests
{
    private const string WordProcessor = """
        Version:1.0
        StartHTML:0000000105
        <html xmlns:o="urn:schemas-microsoft-com:office:office" xmlns:w="urn:schemas-microsoft-com:office:word">
        <head><style><!-- p.MsoNormal {font-family:"Calibri",sans-serif; color:red} -->
        </style><xml><w:WordDocument>noise</w:WordDocument></xml></head>
        <body lang=EN-GB style='word-wrap:break-word'><!--StartFragment-->
        <h1 style='margin:0'><span style='font-size:16.0pt;color:#C00000'>The viaduct   reopens<o:p></o:p></span></h1>
        <p class=MsoNormal><span style='font-family:"Comic Sans MS";color:#7030A0'>After <b>two winters</b> of <i>masonry</i>
        work.</span><o:p>&nbsp;</o:p></p>
        <p class=MsoListParagraphCxSpFirst style='text-indent:-18.0pt;mso-list:l0 level1 lfo1'><![if !supportLists]><span
        style='font-family:Symbol;mso-list:Ignore'>·<span
        style='font:7.0pt "Times New Roman"'>&nbsp;&nbsp; </span></span><![endif]>Members ride first</p>
        <p class=MsoListParagraphCxSpLast style='mso-list:l0 level1 lfo1'><![if !supportLists]><span
        style='mso-list:Ignore'>·<span>&nbsp;</span></span><![endif]>Dogs <a href="https://larkfell.example.org/dogs"><span
        style='color:blue'>travel free</span></a></p>
        <p class=MsoListParagraph style='mso-list:l1 level1 lfo2'><![if !supportLists]><span
        style='mso-list:Ignore'>1.<span>&nbsp;</span></span><![endif]>Book</p>
        <p class=MsoNormal style='display:none'>Hidden</p>
        <p class=MsoNormal><a href="javascript:alert(1)">Press</a> here<br>or there</p>
        <!--EndFragment--></body></html>
        """;

    private const string WebEditor = """
        <meta charset='utf-8'><b style="font-weight:normal;" id="guid-1"><p dir="ltr" style="line-height:1.38;"><span
        style="font-size:11pt;font-family:Arial;font-weight:700;">Bold</span><span
        style="font-style:italic;font-weight:400"> slanted</span></p>
        <ol><li dir="ltr" aria-level="1"><p
        dir="ltr" role="presentation"><span>First</span></p></li><li><p><span>Second</span></p></li></ol></b><br class="newline">
        """;

    private const string Mail = """
        <div dir="ltr"><div>Dear all,</div><div><br></div><div>Trains run <strong>from&nbsp;10:40</strong>.<div>See <a
        href='mailto:post@larkfell.example.org' style='color:green'>us</a></div></div>
        <table><tr><td>Adult</td><td>£24</td></tr></table><blockquote>Earlier words</blockquote><img src=x onerror=alert(1)
        ><script>alert(2)</script></div>
        """;

    private static string Tell(PastedPart part) =>
        (
            part.Heading > 0
                ? $"h{part.Heading} "
                : part.Paragraph.List switch
                {
                    ListStyle.Bullet => "* ",
                    ListStyle.Number => "1 ",
                    _ => "",
                }
        )
        + string.Concat(
            part.Paragraph.Runs.Select(r =>
                (r.Bold ? "<b>" : "")
                + (r.Italic ? "<i>" : "")
                + (r.Href is null ? "" : $"[{r.Href}]")
                + r.Text
                + (r.Bold || r.Italic || r.Href is not null ? "|" : "")
            )
        );

    [Fact]
    public void A_word_processors_meaning_is_kept_and_its_dress_dropped() =>
        Assert.Equal(
            [
                "h1 The viaduct reopens",
                "After <b>two winters| of <i>masonry| work.",
                "* Members ride first",
                "* Dogs [https://larkfell.example.org/dogs]travel free|",
                "1 Book",
                "Press here\nor there",
            ],
            PastedHtml.Read(WordProcessor).Select(Tell)
        );

    [Fact]
    public void A_web_editors_wrapper_makes_nothing_bold() =>
        Assert.Equal(["<b>Bold|<i> slanted|", "1 First", "1 Second"], PastedHtml.Read(WebEditor).Select(Tell));

    [Fact]
    public void Mail_is_read_block_by_block_and_runs_nothing() =>
        Assert.Equal(
            ["Dear all,", "Trains run <b>from 10:40|.", "See [mailto:post@larkfell.example.org]us|", "Adult", "£24", "Earlier words"],
            PastedHtml.Read(Mail).Select(Tell)
        );

    [Theory]
    [InlineData("One line\nanother", "One line", "another")]
    [InlineData("A line\nthat goes on\n\nA new one", "A line\nthat goes on", "A new one")]
    [InlineData("• first\n• second\n3) third", "* first", "* second", "1 third")]
    [InlineData(
        "# Title\n\nSee https://larkfell.example.org/a.",
        "h1 Title",
        "See [https://larkfell.example.org/a]https://larkfell.example.org/a|."
    )]
    [InlineData(@"{\rtf1\ansi Not for {\b anyone}}")]
    [InlineData("")]
    [InlineData("\r\n \r\n")]
    public void Plain_text_has_paragraphs_and_lists_too(string text, params string[] expected) =>
        Assert.Equal(expected, PastedText.Read(text).Select(Tell));

    [Theory]
    [InlineData("<p>unclosed <b>bold <i>both</b> slanted", 1)]
    [InlineData("<p>a<!-- <p>b --></p><![endif]--><p>c", 2)]
    [InlineData("\0\u202e<p>\u200b\u00ad</p>x", 1)]
    public void Broken_markup_is_read_as_browsers_read_it(string html, int paragraphs) =>
        Assert.Equal(paragraphs, PastedHtml.Read(html).Length);

    /// <summary>Depth costs no more than words: whoever pastes fifty thousand elements within one another gets his words back.</summary>
    [Fact]
    public void Nothing_is_too_deep()
    {
        var html = string.Concat(Enumerable.Repeat("<i>", 50_000)) + "deep<script>no</script> down";
        Assert.Equal("deep down", Assert.Single(PastedHtml.Read("<p>up</p>" + html).Skip(1)).Paragraph.PlainText);
        Assert.Equal("***", ProseMarkdown.Read(string.Concat(Enumerable.Repeat("> ", 2_000)) + "***", _ => false).PlainText[^3..]);
    }

    [Fact]
    public void In_one_text_a_heading_is_a_bold_paragraph()
    {
        var text = PastedPart.ToText(PastedHtml.Read("<h2>Loud</h2><p>quiet"));
        Assert.Equal([true, false], text.Paragraphs.Select(p => p.Runs.Single().Bold));
    }
}
