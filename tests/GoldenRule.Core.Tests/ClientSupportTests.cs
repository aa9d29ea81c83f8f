using System.Text;
using GoldenRule.Core.Checking;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Specimens;

namespace GoldenRule.Core.Tests;

/// <summary>Client support, from the dataset of the npm package "caniemail" (a browser test holds the core's copy equal to it).</summary>
public sealed class ClientSupportTests
{
    private static int Index(string slug) => ClientSupport.Features.Select((f, i) => (f.Slug, i)).Single(f => f.Slug == slug).i;

    [Theory]
    [InlineData("<p style=\"display:flex;gap:4px\">", "css-display-flex css-display css-gap css-unit-px html-p")]
    [InlineData("<td align=\"left\" valign=\"top\" width=\"50%\">", "html-align html-valign html-width")]
    [InlineData(
        "<div style=\"width:calc((480px - 100%) * 480);margin:0 auto\">",
        "css-width css-unit-calc css-unit-px css-unit-percent css-margin html-div"
    )]
    [InlineData(
        "<div style=\"background-image:url('https://x.example/a.webp');background:linear-gradient(#fff,#000)\">",
        "css-background-image css-background css-linear-gradient html-div"
    )]
    [InlineData("<img src=\"https://x.example/a.webp\" alt=\"display:flex\">", "image-webp html-img")]
    [InlineData("<a href=\"#top\"></a><a href=\"mailto:a@b.example\">", "html-anchor-links html-mailto-links")]
    [InlineData(
        "<style>@media (prefers-color-scheme:dark){.a .b,h1>p{color:red!important}}</style>",
        "css-at-media css-at-media-prefers-color-scheme css-selector-class css-selector-descendant "
            + "css-selector-grouping css-selector-child css-selector-type css-important html-style"
    )]
    [InlineData(
        "<style>a:hover,[data-x] i+b,.a.b,#c,*{width:1vw}</style>",
        "css-pseudo-class-hover css-selector-attribute css-selector-descendant css-selector-adjacent-sibling "
            + "css-selector-chaining css-selector-class css-selector-id css-selector-universal "
            + "css-selector-grouping css-selector-type css-width css-unit-vw html-style"
    )]
    [InlineData(
        "<!--[if mso]><v:roundrect style=\"display:grid\"></v:roundrect><![endif]--><!--[if !mso]><!--><b>x</b><!--<![endif]-->",
        ""
    )]
    [InlineData("display:grid &lt;video&gt;", "")]
    public void Features_are_found_where_they_are_used_and_nowhere_else(string html, string slugs) =>
        Assert.Equal(
            slugs.Split(' ', StringSplitOptions.RemoveEmptyEntries).Order(StringComparer.Ordinal),
            FeatureScan.Scan(Encoding.UTF8.GetBytes(html)).All().Select(f => ClientSupport.Features[f].Slug).Order(StringComparer.Ordinal)
        );

    // As the dataset of 2025-09-09 has it for the newest version that was tested.
    [Theory]
    [InlineData("css-display-flex", "outlook.windows", 'n')]
    [InlineData("css-display-flex", "apple-mail.ios", 'y')]
    [InlineData("css-border-radius", "outlook.windows", 'n')]
    [InlineData("css-at-media", "gmail.mobile-webmail", 'n')]
    [InlineData("image-webp", "outlook.windows", 'n')]
    public void Support_is_as_the_dataset_says(string slug, string client, char support) =>
        Assert.Equal(support, ClientSupport.Features[Index(slug)].Support[ClientSupport.Clients.IndexOf(ClientSupport.Find(client)!)]);

    [Fact]
    public void Readers_are_counted_by_the_leads_client_mix()
    {
        var email = Larkfell.Compile(Larkfell.Gazette);
        UsedFeature Corners(CheckPolicy policy) => ClientReport.ForEmail(email, policy).Single(f => f.Feature.Slug == "css-border-radius");
        Assert.Equal(0, Corners(CheckPolicy.Usual with { Clients = CheckPolicy.Usual.Clients.Add("apple-mail.ios", 60) }).Missed.Share);
        var mixed = Corners(
            CheckPolicy.Usual with
            {
                Clients = CheckPolicy.Usual.Clients.Add("apple-mail.ios", 60).Add("outlook.windows", 20),
            }
        );
        Assert.Equal(0.25, mixed.Missed.Share, 6);
        Assert.Equal("outlook.windows", Assert.Single(mixed.Missed.Clients).Key);
        Assert.Equal("square corners", mixed.Instead);
        Assert.Contains("hero", mixed.Rows);
    }

    [Fact]
    public void Whatever_the_compiler_writes_and_a_client_leaves_out_is_provided_for()
    {
        var all = Larkfell
            .Emails.Select(e => Larkfell.Compile(e.Email))
            .Append(BlockSpecimen.Compile(Larkfell.Style, "https://larkfell.example.org/", Larkfell.Pictures));
        Assert.Empty(
            all.SelectMany(e => ClientReport.ForEmail(e, CheckPolicy.Usual))
                .Where(f => f.Instead is null && f.Missed.Share > 0)
                .Select(f => f.Feature.Slug)
                .Distinct()
        );
    }

    [Fact]
    public void Every_feature_of_the_dataset_that_HTML_can_show_has_a_sign() =>
        Assert.Empty(
            ClientSupport
                .Features.Where(f =>
                    f.Slug is not ("amp" or "bimi" or "html-comments" or "css-comments" or "css-nesting" or "image-hdr" or "image-apng")
                    && !FeatureSigns.ForFeature(f).Any()
                )
                .Select(f => f.Slug)
        );
}
