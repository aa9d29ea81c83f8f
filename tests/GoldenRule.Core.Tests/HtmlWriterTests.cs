using System.Text;
using AngleSharp.Html.Parser;
using GoldenRule.Core.Compiling;

namespace GoldenRule.Core.Tests;

/// <summary>What is written as a template, as an independent parser (AngleSharp, after the WHATWG HTML standard) reads it.</summary>
public sealed class HtmlWriterTests
{
    public static TheoryData<string> Texts =>
        ["", "plain", "a \"quoted\" <b>word</b> & more", "--><script>alert(1)</script>", "Łódź • 駅 🚂", "' onload='x"];

    [Theory]
    [MemberData(nameof(Texts))]
    public void A_string_in_a_hole_is_text_wherever_it_stands_and_bytes_are_html(string text)
    {
        var html = new HtmlWriter(1);
        html.Write($"""<p title="{text}" lang="{"en"u8}"{(text.Length > 5 ? " class=\"long\""u8 : [])}>• {text.AsSpan()} {-12}</p>""")
            .Write("<i>after</i>"u8);
        var body = new HtmlParser().ParseDocument(Encoding.UTF8.GetString(html.Written)).Body!;
        var p = body.FirstElementChild!;
        Assert.Equal(["P", "I"], body.Children.Select(c => c.TagName));
        Assert.Equal(text, p.GetAttribute("title"));
        Assert.Equal("en", p.GetAttribute("lang"));
        Assert.Equal(text.Length > 5 ? "long" : null, p.GetAttribute("class"));
        Assert.Equal($"• {text} -12", p.TextContent);
        Assert.Empty(p.Children);
    }
}
