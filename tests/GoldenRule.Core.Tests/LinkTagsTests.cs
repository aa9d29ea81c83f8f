using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Tests;

/// <summary>Names and values in the addresses of links. Addresses are taken apart again by .NET's own Uri.</summary>
public sealed class LinkTagsTests
{
    private static readonly LinkTags Tags = new(
        [new("utm_source", "email"), new("utm_campaign", "{campaign}"), new("utm_content", "{row}"), new("utm_day", "{day}")],
        []
    );

    // RFC 3986, 1.1.2 and 3: every part that an address may have; and the base of 5.4.
    [Theory]
    [InlineData("http://a/b/c/d;p?q", "http://a/b/c/d;p?q&T")]
    [InlineData("https://larkfell.example.org", "https://larkfell.example.org?T")]
    [InlineData("https://larkfell.example.org/over/there?name=ferret#nose", "https://larkfell.example.org/over/there?name=ferret&T#nose")]
    [InlineData("https://larkfell.example.org:8042/#a?b", "https://larkfell.example.org:8042/?T#a?b")]
    [InlineData("https://larkfell.example.org/?", "https://larkfell.example.org/?T")]
    [InlineData("https://larkfell.example.org/?a=1&", "https://larkfell.example.org/?a=1&T")]
    [InlineData("mailto:post@larkfell.example.org?subject=utm", "mailto:post@larkfell.example.org?subject=utm")]
    [InlineData("tel:+441632960000", "tel:+441632960000")]
    public void What_an_address_has_stays(string href, string expected)
    {
        var tags = new LinkTags([new("t", "a b&c")], []);
        var tagged = tags.AppliesTo(href) ? TaggedLinkOf(href, tags) : href;
        Assert.Equal(expected.Replace("T", "t=a%20b%26c", StringComparison.Ordinal), tagged);
        Assert.Equal(new Uri(href).Fragment, new Uri(tagged).Fragment);
        Assert.StartsWith(new Uri(href).Query.TrimEnd('&'), new Uri(tagged).Query, StringComparison.Ordinal);
    }

    [Fact]
    public void A_name_that_is_there_is_not_written_again()
    {
        var tagged = TaggedLinkOf("https://larkfell.example.org/?utm_source=mine", Tags);
        Assert.Single(new Uri(tagged).Query.Split("utm_source="), p => p.StartsWith("mine", StringComparison.Ordinal));
        Assert.Contains("utm_campaign=march-the-viaduct-reopens", tagged, StringComparison.Ordinal);
        Assert.DoesNotContain("utm_day", tagged, StringComparison.Ordinal);
    }

    [Fact]
    public void Only_what_goes_out_is_tagged_and_no_way_out_is()
    {
        var plain = Larkfell.Resolve(Larkfell.Gazette);
        var hrefs = Hrefs(Compiler.Compile(LinkTrackedEmail.Track(plain, Tags), "https://larkfell.example.org/pictures/", Purpose.Sending));
        var before = Hrefs(Compiler.Compile(plain, "https://larkfell.example.org/pictures/", Purpose.Sending));
        Assert.Equal(before.Count, hrefs.Count);
        Assert.Contains(hrefs, h =>
            h.Contains("utm_source=email", StringComparison.Ordinal) && h.Contains("utm_content=", StringComparison.Ordinal)
        );
        Assert.All(hrefs.Where(h => h.Contains("unsubscribe", StringComparison.OrdinalIgnoreCase)), h =>
            Assert.DoesNotContain("utm_", h, StringComparison.Ordinal)
        );
        var narrow = LinkTrackedEmail.Track(plain, Tags with { Hosts = ["example.net"] });
        Assert.Equal(before, Hrefs(Compiler.Compile(narrow, "https://larkfell.example.org/pictures/", Purpose.Sending)));
    }

    [Theory]
    [InlineData("utm source", "x", "utm source")]
    [InlineData("a", "{month}", "{month}")]
    [InlineData("a", " ", "1 to 200")]
    public void A_rule_that_cannot_be_says_why(string name, string value, string said) =>
        Assert.Contains(new LinkTags([new(name, value)], []).Faults(), f => f.Contains(said, StringComparison.Ordinal));

    [Theory]
    [InlineData("Members’ gazette, März 2027", "members-gazette-märz-2027")]
    [InlineData("  --  ", "")]
    [InlineData("Ops: 10:40", "ops-10-40")]
    public void Words_become_a_slug(string words, string slug) => Assert.Equal(slug, LinkTags.Slug(words));

    private static string TaggedLinkOf(string href, LinkTags tags)
    {
        var email = Larkfell.Gazette;
        var block = new FieldValue.Link(href);
        var resolved = Larkfell.Resolve((Email)new Core.Edits.SetFill("hero", "button", "link", block).Apply(email));
        return (
            (FieldValue.Link)
                LinkTrackedEmail.Track(resolved, tags).Rows.Single(r => r.Id == "hero").Blocks.Single(b => b.Id == "button").Content["link"]
        ).Href;
    }

    private static List<string> Hrefs(CompiledEmail email) =>
        [
            .. new AngleSharp.Html.Parser.HtmlParser()
                .ParseDocument(email.HtmlText())
                .QuerySelectorAll("a[href]")
                .Select(a => a.GetAttribute("href")!),
        ];
}
