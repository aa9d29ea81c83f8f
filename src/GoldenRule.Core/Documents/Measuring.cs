using System.Buffers;
using System.Collections.Immutable;
using System.Globalization;

namespace GoldenRule.Core.Documents;

/// <summary>One limit measured: where the value stands and what is allowed.</summary>
/// <param name="Of">What is counted: characters, words, lines, width, height, ratio (in hundredths), kilobytes, host, items or
/// items-least.</param>
/// <param name="Value">The figure found.</param>
/// <param name="Bound">The most, or for the size of pictures and least items the least, allowed.</param>
/// <param name="Item">For entries: which item, from 1; 0: the field itself.</param>
/// <param name="Field">For entries: the field of the item.</param>
public sealed record Measurement(string Of, int Value, int Bound, bool Broken, int Item = 0, string? Field = null);

public static class Measuring
{
    // White space that is no blank.
    private static readonly SearchValues<char> RareBlanks = SearchValues.Create([
        .. Enumerable.Range(0, 0x10000).Select(c => (char)c).Where(c => c != ' ' && char.IsWhiteSpace(c)),
    ]);

    /// <summary>Counts characters as a reader does, by the grapheme rules of Unicode (UAX #29).</summary>
    public static int Characters(ReadOnlySpan<char> text)
    {
        if (AreSingle(text))
        {
            return text.Length;
        }

        var count = 0;
        for (; !text.IsEmpty; count++)
        {
            text = text[StringInfo.GetNextTextElementLength(text)..];
        }

        return count;
    }

    // Every letter before the combining marks stands alone, and so do dashes, quotes and currency signs; only a carriage
    // return joins the line feed after it. This is nearly all text, and a look costs far less than the rules.
    private static bool AreSingle(ReadOnlySpan<char> text)
    {
        if (!text.ContainsAnyInRange('\u0300', '\uffff'))
        {
            return !text.Contains('\r');
        }

        foreach (var c in text)
        {
            if (c >= '\u0300' ? c is not ((>= '\u2010' and <= '\u2027') or (>= '\u20a0' and <= '\u20bf')) : c == '\r')
            {
                return false;
            }
        }

        return true;
    }

    /// <summary>Counts stretches without white space.</summary>
    public static int Words(ReadOnlySpan<char> text)
    {
        var inside = false;
        return Begun(text, ref inside);
    }

    // Most text is ASCII, of which that is seen sooner.
    private static bool HasRareBlank(ReadOnlySpan<char> text) => text.ContainsAnyExceptInRange(' ', '~') && text.ContainsAny(RareBlanks);

    // Words that begin in a stretch of text; the one before may have ended inside a word.
    private static int Begun(ReadOnlySpan<char> text, ref bool inside)
    {
        if (text.IsEmpty)
        {
            return 0;
        }

        var wasInside = inside;
        if (!HasRareBlank(text) && text.IndexOf("  ", StringComparison.Ordinal) < 0)
        {
            // Nearly all text: blanks that stand alone, which are counted far faster than characters are looked at.
            inside = text[^1] != ' ';
            return text.Count(' ') + (wasInside || text[0] == ' ' ? 0 : 1) - (inside ? 0 : 1);
        }

        var count = 0;
        foreach (var c in text)
        {
            var blank = char.IsWhiteSpace(c);
            count += !blank && !inside ? 1 : 0;
            inside = !blank;
        }

        return count;
    }

    /// <summary>Every bound of the limit against the value. Bounds that do not apply to its type are left out.</summary>
    public static ImmutableArray<Measurement> Measure(FieldValue value, Limit limit, PictureCatalog pictures)
    {
        var found = ImmutableArray.CreateBuilder<Measurement>();
        var items = value.CountItems();
        if (items is { } count && limit.ItemsMost is { } itemsMost)
        {
            found.Add(Most("items", count, itemsMost));
        }

        if (items is { } number && limit.ItemsLeast is { } least)
        {
            found.Add(Least("items-least", number, least));
        }

        var words = value.AsText();
        if (words is not null && limit.Characters is { } characters)
        {
            found.Add(Most("characters", Characters(words), characters));
        }

        if (words is not null && limit.Words is { } most)
        {
            found.Add(Most("words", Words(words), most));
        }

        if (words is not null && limit.Lines is { } lines)
        {
            found.Add(Most("lines", words.Length == 0 ? 0 : words.AsSpan().Count('\n') + 1, lines));
        }

        if (value is FieldValue.Image shown && pictures.Find(shown.Picture) is { } picture)
        {
            if (limit.PictureWidth is { } width)
            {
                found.Add(Least("width", picture.Width, width));
            }

            if (limit.PictureHeight is { } height)
            {
                found.Add(Least("height", picture.Height, height));
            }

            if (limit.Ratio is { } ratio)
            {
                var shape = (double)picture.Width / picture.Height;
                found.Add(
                    new Measurement(
                        "ratio",
                        (int)Math.Round(shape * 100),
                        (int)Math.Round(ratio * 100),
                        Math.Abs(shape - ratio) > ratio / 100
                    )
                );
            }

            if (limit.PictureKilobytes is { } kilobytes)
            {
                found.Add(Most("kilobytes", (picture.Bytes + 1023) / 1024, kilobytes));
            }
        }

        if (value is FieldValue.Link { Href: var href } && !limit.Hosts.IsEmpty && Links.HostOf(href) is { Length: > 0 } host)
        {
            found.Add(new Measurement("host", 0, 0, !IsWithin(host, limit.Hosts)));
        }

        return found.ToImmutable();
    }

    /// <summary>A block's limit of that key against what stands there; of entries, each item's field that it bounds.</summary>
    /// <param name="key">A field's name, or "field/name" for a field of its items.</param>
    public static ImmutableArray<Measurement> Measure(
        IReadOnlyDictionary<string, FieldValue> content,
        string key,
        Limit limit,
        PictureCatalog pictures
    )
    {
        var slash = key.IndexOf('/', StringComparison.Ordinal);
        if (slash < 0)
        {
            return content.TryGetValue(key, out var value) ? Measure(value, limit, pictures) : [];
        }

        var (field, name) = (key[..slash], key[(slash + 1)..]);
        return content.GetValueOrDefault(field) is FieldValue.Entries entries
            ?
            [
                .. entries.Items.SelectMany(
                    (item, i) =>
                        item.TryGetValue(name, out var value)
                            ? Measure(value, limit, pictures).Select(m => m with { Item = i + 1, Field = name })
                            : []
                ),
            ]
            : [];
    }

    /// <summary>A quick look that says yes only where no bound can be broken; where it says no, it is to be measured.</summary>
    internal static bool Holds(FieldValue value, Limit limit, PictureCatalog pictures) =>
        value switch
        {
            // No text has more clusters than UTF-16 units.
            FieldValue.Words words => (limit.Characters is not { } characters || words.Text.Length <= characters)
                && (limit.Words is not { } most || words.Text.Length < most * 2 || Words(words.Text) <= most)
                && limit.Lines is null,
            FieldValue.Prose prose => HoldsProse(prose.Text, limit),
            FieldValue.Image image => limit.PictureRatio is null
                && (
                    pictures.Find(image.Picture) is not { } picture
                    || (
                        !(picture.Width < limit.PictureWidth)
                        && !(picture.Height < limit.PictureHeight)
                        && !(picture.Bytes > limit.PictureKilobytes * 1024L)
                    )
                ),
            FieldValue.Link => limit.Hosts.IsEmpty,
            _ => false,
        };

    private static bool HoldsProse(RichText text, Limit limit)
    {
        var units = text.Length;
        return limit.Lines is null
            && (limit.Characters is not { } characters || units <= characters)
            // No two words stand without a blank.
            && (limit.Words is not { } most || units < most * 2 || WordsOf(text) <= most);
    }

    private static int WordsOf(RichText text)
    {
        var words = 0;
        foreach (var paragraph in text.Paragraphs)
        {
            var inside = false;
            foreach (var run in paragraph.Runs)
            {
                words += Begun(run.Text, ref inside);
            }
        }

        return words;
    }

    private static Measurement Least(string of, int value, int bound) => new(of, value, bound, value < bound);

    private static Measurement Most(string of, int value, int bound) => new(of, value, bound, value > bound);

    /// <summary>Whether a host is one of those, or below one.</summary>
    internal static bool IsWithin(string host, ImmutableArray<string> allowed) => allowed.Any(a => IsWithin(host, a));

    private static bool IsWithin(string host, string allowed) =>
        host.Equals(allowed, StringComparison.OrdinalIgnoreCase) || host.EndsWith("." + allowed, StringComparison.OrdinalIgnoreCase);
}
