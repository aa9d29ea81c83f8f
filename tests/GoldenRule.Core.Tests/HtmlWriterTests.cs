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

    /// <summary>However often and wherever it is cut and grows, each piece stays what was written.</summary>
    [Fact]
    public void Pieces_that_were_cut_stay_as_they_were_written()
    {
        var random = new Random(2026);
        for (var round = 0; round < 200; round++)
        {
            var (cut, whole) = (new HtmlWriter(random.Next(1, 64)), new HtmlWriter());
            var pieces = new List<(ReadOnlyMemory<byte> Piece, string As)>();
            var from = 0;
            for (var i = 0; i < 60; i++)
            {
                var text = new string((char)random.Next('<', 'ö'), random.Next(0, 40));
                var number = random.Next();
                foreach (var html in new[] { cut, whole })
                {
                    _ = (i % 5) switch
                    {
                        0 => html.Html(text),
                        1 => html.Text(text),
                        2 => html.Number(number),
                        3 => html.Write($"<p title=\"{text}\">{number}</p>"),
                        _ => html.Write("<br>"u8),
                    };
                }

                Assert.Equal(Encoding.UTF8.GetString(whole.Written[from..]), Encoding.UTF8.GetString(cut.ToArray()));
                if (random.Next(3) == 0)
                {
                    pieces.Add((cut.Cut(), Encoding.UTF8.GetString(whole.Written[from..])));
                    from = whole.Written.Length;
                    Assert.Equal(0, cut.Written.Length);
                }
            }

            Assert.All(pieces, p => Assert.Equal(p.As, Encoding.UTF8.GetString(p.Piece.Span)));
        }
    }
}
