using System.Collections.Immutable;
using AngleSharp.Html.Parser;
using GoldenRule.Core.Reviews;

namespace GoldenRule.Core.Sending;

/// <summary>A link of an email that was handed off, and where it stands.</summary>
/// <param name="Row">Id of the first row that has it; empty: none was found.</param>
/// <param name="RowName">What that row is called.</param>
/// <param name="Words">What is pressed: its text, or what its picture shows; empty: it says nothing.</param>
/// <param name="Places">How often it stands there.</param>
public sealed record PlacedLink(string Address, string Row, string RowName, string Words, int Places);

/// <summary>The links of an email as they are clicked.</summary>
public static class LinkPlaces
{
    /// <param name="html">As it was sent; addresses as the export profile writes them.</param>
    public static ImmutableArray<PlacedLink> Find(string html, SeenEmail seen)
    {
        var parser = new HtmlParser();
        var sent = Anchors(parser, html).GroupBy(a => a.Address, StringComparer.Ordinal);
        var rows = seen
            .Rows.SelectMany(r => Anchors(parser, r.Html).Select(a => (Row: r, a.Address)))
            .GroupBy(a => a.Address, StringComparer.Ordinal)
            .ToDictionary(g => g.Key, g => g.First().Row, StringComparer.Ordinal);
        return
        [
            .. sent.Select(link =>
            {
                var row = RowOf(link.Key, rows);
                return new PlacedLink(
                    link.Key,
                    row?.Id ?? "",
                    row?.Name ?? "",
                    link.Select(a => a.Words).FirstOrDefault(w => w.Length > 0) ?? "",
                    link.Count()
                );
            }),
        ];
    }

    // Link tracking adds to an address at its end what no proof has.
    private static SeenRow? RowOf(string address, Dictionary<string, SeenRow> rows)
    {
        if (rows.TryGetValue(address, out var row))
        {
            return row;
        }

        var longest = rows.Keys.Where(known => address.StartsWith(known, StringComparison.Ordinal)).MaxBy(known => known.Length);
        return longest is null ? null : rows[longest];
    }

    private static IEnumerable<(string Address, string Words)> Anchors(HtmlParser parser, string html) =>
        parser
            .ParseDocument(html)
            .QuerySelectorAll("a[href]")
            .Select(a =>
                (
                    a.GetAttribute("href")!.Trim(),
                    string.Join(' ', a.TextContent.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries)) is { Length: > 0 } text
                        ? text
                        : a.QuerySelector("img[alt]")?.GetAttribute("alt") ?? ""
                )
            )
            .Where(a => a.Item1.Length > 0 && a.Item1[0] != '#');
}
