using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Checking;

/// <summary>
/// What the Flesch–Kincaid figures are counted from, in English. Grade level: J. P. Kincaid et al., "Derivation of New
/// Readability Formulas", 1975; reading ease: R. Flesch, "A New Readability Yardstick", 1948.
/// </summary>
public readonly record struct Readability(int Words, int Sentences, int Syllables)
{
    public static Readability None { get; }

    /// <summary>Years of school that the text asks for.</summary>
    public double Grade => Words == 0 ? 0 : (0.39 * Words / Sentences) + (11.8 * Syllables / Words) - 15.59;

    /// <summary>About 0, hard, to 100, easy.</summary>
    public double Ease => Words == 0 ? 0 : 206.835 - (1.015 * Words / Sentences) - (84.6 * Syllables / Words);

    public static Readability operator +(Readability a, Readability b) =>
        new(a.Words + b.Words, a.Sentences + b.Sentences, a.Syllables + b.Syllables);

    /// <summary>Of the prose of a whole email.</summary>
    public static Readability Measure(Inspection inspection) => inspection.Rows.Aggregate(None, (sum, row) => sum + row.Readability);

    /// <summary>Of the prose of a row: headings, labels and tables are no sentences.</summary>
    public static Readability Measure(IEnumerable<InspectedBlock> blocks) =>
        blocks
            .Where(b => b.Kind.Group != KindGroup.Service)
            .SelectMany(b => b.Content)
            .Select(c => c.Value)
            .OfType<FieldValue.Prose>()
            .SelectMany(p => p.Text.Paragraphs)
            .Aggregate(None, (sum, paragraph) => sum + Measure(paragraph.PlainText));

    /// <summary>A sentence ends at ".", "!" or "?" and at the end of the text.</summary>
    public static Readability Measure(ReadOnlySpan<char> text)
    {
        var (words, sentences, syllables, open) = (0, 0, 0, false);
        for (var i = 0; i < text.Length; )
        {
            if (!IsOfWord(text, i))
            {
                if (open && text[i] is '.' or '!' or '?' && (i + 1 == text.Length || !char.IsLetterOrDigit(text[i + 1])))
                {
                    sentences += open ? 1 : 0;
                    open = false;
                }

                i++;
                continue;
            }

            var start = i;
            while (i < text.Length && IsOfWord(text, i))
            {
                i++;
            }

            words++;
            open = true;
            syllables += SyllablesOf(text[start..i]);
        }

        return new Readability(words, sentences + (open ? 1 : 0), syllables);
    }

    /// <summary>Stretches of vowels, without endings that are not spoken. At least one.</summary>
    public static int SyllablesOf(ReadOnlySpan<char> word)
    {
        var (count, last) = (0, false);
        foreach (var c in word)
        {
            var vowel = IsVowel(c);
            count += vowel && !last ? 1 : 0;
            last = vowel;
        }

        // "being", "doing": two stretches that touch.
        count += word.Length > 3 && word.EndsWith("ing", StringComparison.OrdinalIgnoreCase) && IsVowel(word[^4]) ? 1 : 0;

        // "rode", "rides", "walked", but not "table", "boxes", "wanted".
        if (count > 1 && word.Length > 2)
        {
            var ending = word switch
            {
                [.., 'e' or 'E'] => 1,
                [.., 'e' or 'E', 's' or 'S' or 'd' or 'D'] => 2,
                _ => 0,
            };
            var before = ending > 0 && word.Length > ending ? char.ToLowerInvariant(word[^(ending + 1)]) : ' ';
            var silent = ending switch
            {
                1 => !IsVowel(before) && !(before == 'l' && word.Length > 2 && !IsVowel(word[^3])),
                2 when char.ToLowerInvariant(word[^1]) == 'd' => before is not 't' and not 'd' && !IsVowel(before),
                2 => before is not 's' and not 'x' and not 'z' and not 'c' and not 'g' and not 'h'
                    && !IsVowel(before)
                    && !(before == 'l' && word.Length > 3 && !IsVowel(word[^4])),
                _ => false,
            };
            count -= silent ? 1 : 0;
        }

        return Math.Max(1, count);
    }

    private static bool IsOfWord(ReadOnlySpan<char> text, int at) =>
        char.IsLetterOrDigit(text[at])
        || (
            text[at] is '\'' or '’' or '-'
            && at > 0
            && at + 1 < text.Length
            && char.IsLetterOrDigit(text[at - 1])
            && char.IsLetterOrDigit(text[at + 1])
        );

    private static bool IsVowel(char c) => char.ToLowerInvariant(c) is 'a' or 'e' or 'i' or 'o' or 'u' or 'y';
}
