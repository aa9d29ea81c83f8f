using System.Globalization;
using System.Net;
using System.Text;
using GoldenRule.PictureWorker;

namespace GoldenRule.Server.Thumbnails;

/// <summary>The screen that a document is looked at on.</summary>
public enum ThumbnailScreen
{
    Desktop,

    Phone,
}

/// <summary>
/// The page that thumbnails are drawn from: a frame for each, side by side, so that the browser is started once for many. The
/// frames run no script; the page's own makes each as tall as what it shows.
/// </summary>
public static class ThumbnailSheet
{
    /// <summary>As many as one page shows.</summary>
    public const int Most = 2 * PictureTiles.InLine;

    /// <summary>Pixels of a thumbnail for each CSS pixel of the screen.</summary>
    private const double Scale = 0.6;

    /// <summary>CSS pixels: what is further down is not shown.</summary>
    private const int ScreenHeight = 800;

    /// <summary>Changes with how thumbnails are drawn, so that former ones are drawn anew.</summary>
    public const string Version = "1";

    private static readonly int Width = (int)(ScreenWidth(ThumbnailScreen.Desktop) * Scale);

    private const int Height = (int)(ScreenHeight * Scale);

    // CSS pixels.
    private static int ScreenWidth(ThumbnailScreen screen) => screen == ThumbnailScreen.Phone ? 375 : 640;

    /// <summary>The tiles that a page of so many is cut into.</summary>
    public static PictureTiles Tiles(int count) => new(count, Width, Height);

    /// <summary>Size of the page in pixels.</summary>
    public static (int Width, int Height) Size(int count) => (PictureTiles.InLine * Width, Tiles(count).Lines * Height);

    /// <param name="documents">Their HTML, at most <see cref="Most"/>.</param>
    public static string Write(IReadOnlyList<(string Html, ThumbnailScreen Screen)> documents)
    {
        var (tiles, page) = (Tiles(documents.Count), new StringBuilder());
        page.Append(
            "<!doctype html><meta charset=\"utf-8\"><style>html,body{margin:0;background:transparent}"
                + "div{position:absolute;overflow:hidden}iframe{display:block;border:0;transform-origin:0 0}</style>"
        );
        for (var i = 0; i < documents.Count; i++)
        {
            var (left, top) = tiles.At(i);
            var (html, screen) = documents[i];
            page.Append(CultureInfo.InvariantCulture, $"<div style=\"left:{left}px;top:{top}px;width:{Width}px;height:{Height}px\">")
                .Append("<iframe sandbox=\"allow-same-origin\" style=\"width:")
                .Append(
                    CultureInfo.InvariantCulture,
                    $"{ScreenWidth(screen)}px;height:{ScreenHeight}px;transform:scale({Scale})\" srcdoc=\""
                )
                .Append(WebUtility.HtmlEncode(html))
                .Append("\"></iframe></div>");
        }

        return page.Append(
                "<script>onload=()=>{for(const f of document.querySelectorAll('iframe')){"
                    + "const ends=[...f.contentDocument.body.children].map(e=>e.getBoundingClientRect().bottom);"
                    + "f.style.height=Math.min(f.offsetHeight,Math.ceil(Math.max(1,...ends)))+'px'}}</script>"
            )
            .ToString();
    }
}
