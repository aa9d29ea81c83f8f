using System.Collections.Immutable;
using System.Globalization;
using System.Text;
using System.Threading;
using CsvHelper;
using CsvHelper.Configuration;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Governance;

namespace GoldenRule.Core.Interchange;

/// <summary>
/// All words of an email as one table, so that a writer or a translator can work outside; as CSV (RFC 4180) or as a
/// Markdown file. Coming back, the key says where each line belongs.
/// </summary>
public static class CopyDeck
{
    public const string CsvType = "text/csv; charset=utf-8";

    public const string MarkdownType = "text/markdown; charset=utf-8";

    private static readonly string[] Columns = ["Key", "Place", "Instruction", "Limit", "Text"];

    public static string Csv(CopyPlaces places)
    {
        using var text = new StringWriter(CultureInfo.InvariantCulture);
        using (
            var csv = new CsvWriter(
                text,
                new CsvConfiguration(CultureInfo.InvariantCulture)
                {
                    NewLine = "\r\n",
                    // Any part of a line end asks for quotation marks, not only a whole one (RFC 4180, 2.6).
                    ShouldQuote = field => field.Field?.AsSpan().IndexOfAny(",\"\r\n") >= 0,
                }
            )
        )
        {
            foreach (var column in Columns)
            {
                csv.WriteField(column);
            }

            foreach (var place in places.All.Where(Offered))
            {
                csv.NextRecord();
                csv.WriteField(place.Key);
                csv.WriteField(Guarded(place.Where));
                csv.WriteField(Guarded(place.Instruction ?? ""));
                csv.WriteField(Guarded(place.LimitWords ?? ""));
                csv.WriteField(Guarded(Text(place.Words)));
            }

            csv.NextRecord();
        }

        return text.ToString();
    }

    /// <summary>A heading for each place, its key in a comment, then the words.</summary>
    public static string Markdown(CopyPlaces places, string name)
    {
        var text = new StringBuilder($"# {name}\n");
        foreach (var place in places.All.Where(Offered))
        {
            text.Append(CultureInfo.InvariantCulture, $"\n## {place.Where}\n<!-- key: {place.Key} -->\n");
            var hint = string.Join(
                    ". ",
                    new[] { place.Instruction, place.LimitWords is { } limit ? $"At most {limit}" : null }.OfType<string>()
                )
                .ReplaceLineEndings(" ");
            text.Append(hint.Length > 0 ? $"> {hint}\n" : "").Append('\n').Append(Text(place.Words)).Append('\n');
        }

        return text.ToString();
    }

    /// <summary>What a deck that comes back would change.</summary>
    /// <param name="deck">CSV or Markdown, as it was taken out.</param>
    /// <param name="isVariable">Whether there is a brand variable of that key, or a snippet or field: "snippet:key", "field:key".</param>
    /// <exception cref="StructureException">It is neither; says where it is wrong.</exception>
    public static CopyPlan Read(string deck, CopyPlaces places, Func<string, bool> isVariable, CancellationToken cancel = default)
    {
        var lines = deck.TrimStart('\ufeff').TrimStart().StartsWith('#') ? ReadMarkdown(deck) : ReadCsv(deck);
        var changes = ImmutableArray.CreateBuilder<CopyChange>();
        var seen = new HashSet<string>(StringComparer.Ordinal);
        foreach (var (key, where, text) in lines)
        {
            cancel.ThrowIfCancellationRequested();
            if (!seen.Add(key))
            {
                changes.Add(
                    new CopyChange(key, where, "", text, CopyFate.Refused, "The place stands twice in the deck; the first one counts.")
                );
                continue;
            }

            if (places.Find(key) is not { } place)
            {
                changes.Add(new CopyChange(key, where, "", text, CopyFate.Refused, "The email has no such place any more."));
                continue;
            }

            var now = Text(place.Words);
            if (Same(text, now))
            {
                changes.Add(new CopyChange(key, place.Where, now, text, CopyFate.Same));
                continue;
            }

            FieldValue words =
                place.Words is FieldValue.Prose
                    ? new FieldValue.Prose(ProseMarkdown.Read(text, isVariable))
                    : new FieldValue.Words(
                        InlineNode.FromTokens(string.Join(' ', text.Split('\n').Select(l => l.Trim())).Trim(), node =>
                            isVariable(node.Token[1..^1])
                        )
                    );
            var why = WhyNot(place, words);
            changes.Add(new CopyChange(key, place.Where, now, text, why is null ? CopyFate.Changed : CopyFate.Refused, why));
            if (why is null)
            {
                places.Write(place, words);
            }
        }

        return new CopyPlan(changes.ToImmutable(), places.Edits(), []);
    }

    private static string Separator(ReadOnlySpan<char> head)
    {
        foreach (var sign in ",;\t")
        {
            if (head.Contains(sign))
            {
                return $"{sign}";
            }
        }

        return ",";
    }

    // Null: it may stand there.
    private static string? WhyNot(CopyPlace place, FieldValue words)
    {
        if (place.Allowed is Decision.Refused refused)
        {
            return refused.Reason;
        }

        var unsafeLink = words is FieldValue.Prose { Text: var prose }
            ? prose
                .Paragraphs.SelectMany(p => p.Runs)
                .FirstOrDefault(r => r.Href is { } href && BrandVariable(href) is null && !Links.IsSafe(href))
            : null;
        if (unsafeLink is not null)
        {
            return $"\"{unsafeLink.Href}\" is no address that may stand in an email.";
        }

        return place.Broken(words) is { } broken ? $"It would break its limit: {broken}." : null;
    }

    /// <summary>Words as a deck has them.</summary>
    public static string Text(FieldValue words) =>
        words switch
        {
            FieldValue.Words { Text: var text } => InlineNode.ToTokens(text),
            FieldValue.Prose { Text: var prose } => ProseMarkdown.Write(prose),
            _ => "",
        };

    private static string? BrandVariable(string href) => HouseStyles.BrandVariable.Reference(href);

    // What stands on the deck is what can be written; sealed places are not for the writer.
    private static bool Offered(CopyPlace place) => place.Allowed is Decision.Allowed;

    // Editors of tables change line ends and blanks at the end of cells.
    private static bool Same(string a, string b) => a.ReplaceLineEndings("\n").Trim() == b.ReplaceLineEndings("\n").Trim();

    // A cell that begins like a formula is one to a spreadsheet: a backslash before it makes it text, and goes when it comes back.
    private static string Guarded(string text) =>
        text.Length > 0 && text[0] is '=' or '+' or '-' or '@' or '\t' or '\r' ? "\\" + text : text;

    private static string Unguarded(string text) => text is ['\\', '=' or '+' or '-' or '@' or '\t' or '\r', ..] ? text[1..] : text;

    private static List<(string Key, string Where, string Text)> ReadCsv(string deck)
    {
        // Some save with semicolons, by the custom of their country.
        var head = deck.AsSpan(0, Math.Max(0, deck.IndexOfAny(['\r', '\n'])));
        using var csv = new CsvReader(
            new StringReader(deck.TrimStart('\ufeff')),
            new CsvConfiguration(CultureInfo.InvariantCulture)
            {
                Delimiter = Separator(head),
                BadDataFound = bad =>
                    throw new StructureException($"Line {bad.Context.Parser?.RawRow}: a quotation mark stands where none can."),
            }
        );
        if (
            !csv.Read()
            || !csv.ReadHeader()
            || csv.HeaderRecord is not { } columns
            || !columns.Contains("Key")
            || !columns.Contains("Text")
        )
        {
            throw new StructureException("That is no copy deck: its first line names the columns Key and Text.");
        }

        var lines = new List<(string, string, string)>();
        while (csv.Read())
        {
            if (!csv.TryGetField<string>("Key", out var key) || !csv.TryGetField<string>("Text", out var text))
            {
                throw new StructureException($"Line {csv.Parser.RawRow} has fewer columns than the first.");
            }

            _ = csv.TryGetField<string>("Place", out var where);
            if (!string.IsNullOrWhiteSpace(key))
            {
                lines.Add((key.Trim(), where ?? key, Unguarded(text ?? "").ReplaceLineEndings("\n")));
            }
        }

        return lines;
    }

    private static List<(string Key, string Where, string Text)> ReadMarkdown(string deck)
    {
        var found = new List<(string Key, string Where, string Text)>();
        string? where = null;
        string? key = null;
        var text = new List<string>();
        foreach (var line in deck.ReplaceLineEndings("\n").Split('\n'))
        {
            if (line.StartsWith("## ", StringComparison.Ordinal))
            {
                Close();
                where = line[3..].Trim();
            }
            else if (line.StartsWith("<!-- key: ", StringComparison.Ordinal) && line.TrimEnd().EndsWith("-->", StringComparison.Ordinal))
            {
                key = line["<!-- key: ".Length..line.LastIndexOf("-->", StringComparison.Ordinal)].Trim();
                text.Clear();
            }
            else if (key is not null && !(text.Count == 0 && line.StartsWith("> ", StringComparison.Ordinal)))
            {
                text.Add(line);
            }
        }

        Close();
        return found.Count > 0 ? found : throw new StructureException("That is no copy deck: no place has its key with it.");

        void Close()
        {
            if (key is not null)
            {
                found.Add((key, where ?? key, string.Join('\n', text).Trim('\n')));
            }

            (key, where) = (null, null);
            text.Clear();
        }
    }
}
