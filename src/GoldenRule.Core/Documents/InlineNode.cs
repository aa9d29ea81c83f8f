using System.Text;

namespace GoldenRule.Core.Documents;

/// <summary>What can stand within words without being words itself.</summary>
public enum InlineKind
{
    /// <summary>A snippet of the library.</summary>
    Snippet,

    /// <summary>A field of the reader's.</summary>
    Field,
}

/// <summary>
/// A node within words: what it says comes from elsewhere. In a text it stands as its kind and key between two noncharacters, which
/// Unicode keeps for internal use (The Unicode Standard, 23.7), so that nothing that anyone types can be taken for one.
/// </summary>
/// <param name="Key">Technical name.</param>
public readonly record struct InlineNode(InlineKind Kind, string Key)
{
    public const char Opens = '\uFDD0';
    public const char Closes = '\uFDD1';

    public override string ToString() => $"{Opens}{Name(Kind)}:{Key}{Closes}";

    /// <summary>As it is written where only letters can stand, in a copy deck for example: "{field:first-name}".</summary>
    public string Token => $"{{{Name(Kind)}:{Key}}}";

    /// <summary>The node that "field:first-name" stands for. Null: none.</summary>
    public static InlineNode? FromToken(string inside)
    {
        foreach (var kind in Kinds)
        {
            var name = Name(kind);
            if (
                inside.Length > name.Length + 1
                && inside.StartsWith(name, StringComparison.Ordinal)
                && inside[name.Length] == ':'
                && TechnicalName.IsOne(inside.AsSpan(name.Length + 1))
            )
            {
                return new InlineNode(kind, inside[(name.Length + 1)..]);
            }
        }

        return null;
    }

    public static bool AreIn(string text) => text.Contains(Opens, StringComparison.Ordinal);

    /// <summary>The node that is all of a text. Null: it is words, or more than one node.</summary>
    public static InlineNode? Only(string text) =>
        text.Length > 0 && text[0] == Opens && Next(text, 0) is var (node, start, end) && start == 0 && end == text.Length ? node : null;

    /// <summary>All in a text, in order, and where each stands.</summary>
    public static IEnumerable<(InlineNode Node, int Start, int End)> Find(string text)
    {
        for (var at = 0; Next(text, at) is { } found; at = found.End)
        {
            yield return found;
        }
    }

    /// <summary>Tells a text part by part: words, and the nodes between them.</summary>
    public static void Visit(string text, Action<string> words, Action<InlineNode> node)
    {
        var at = 0;
        for (; Next(text, at) is var (found, start, end); at = end)
        {
            if (start > at)
            {
                words(text[at..start]);
            }

            node(found);
        }

        if (at < text.Length)
        {
            words(text[at..]);
        }
    }

    /// <summary>The text with something else in the place of each; the same object where there is none.</summary>
    public static string Replace(string text, Func<InlineNode, string> with) => Made(text, words => words, with);

    /// <summary>A text with its nodes as <see cref="Token"/>s.</summary>
    public static string ToTokens(string text) => Replace(text, node => node.Token);

    /// <summary>The same back again.</summary>
    /// <param name="knows">Whether there is what a node refers to; what is not known stays words.</param>
    public static string FromTokens(string text, Func<InlineNode, bool> knows)
    {
        var made = new StringBuilder(text.Length);
        var at = 0;
        for (var open = text.IndexOf('{', StringComparison.Ordinal); open >= 0; open = text.IndexOf('{', open + 1))
        {
            var close = text.IndexOf('}', open);
            if (close > open && FromToken(text[(open + 1)..close]) is { } node && knows(node))
            {
                made.Append(text, at, open - at).Append(node);
                at = close + 1;
            }
        }

        return made.Append(text, at, text.Length - at).ToString();
    }

    /// <summary>The words alone.</summary>
    public static string WithoutNodes(string text) => Replace(text, _ => "");

    /// <summary>The text with something else in the place of the words between nodes; nodes stay.</summary>
    public static string Between(string text, Func<string, string> words) =>
        AreIn(text) ? Made(text, words, node => node.ToString()) : words(text);

    private static string Made(string text, Func<string, string> words, Func<InlineNode, string> node)
    {
        if (!AreIn(text))
        {
            return text;
        }

        var made = new StringBuilder(text.Length);
        Visit(text, between => made.Append(words(between)), found => made.Append(node(found)));
        return made.ToString();
    }

    /// <summary>What is wrong with the nodes of a text. Null: nothing.</summary>
    public static string? Fault(string text) =>
        HoldsMarks(text) && HoldsMarks(WithoutNodes(text))
            ? "The text holds one of the characters U+FDD0 to U+FDD6, which are no letters. Remove it."
            : null;

    /// <summary>The same without any of the characters that nodes are written with: of what comes from outside.</summary>
    public static string Without(string text) => HoldsMarks(text) ? string.Concat(text.Where(c => c is < '\uFDD0' or > '\uFDD6')) : text;

    // Those between which fields are left open and blocks stand apart while an email is compiled are nobody's either.
    private static bool HoldsMarks(string text) => text.AsSpan().ContainsAnyInRange('\uFDD0', '\uFDD6');

    private static (InlineNode Node, int Start, int End)? Next(string text, int from)
    {
        for (var start = text.IndexOf(Opens, from); start >= 0; start = text.IndexOf(Opens, start + 1))
        {
            var end = text.IndexOf(Closes, start);
            if (end < 0)
            {
                return null;
            }

            if (FromToken(text[(start + 1)..end]) is { } node)
            {
                return (node, start, end + 1);
            }
        }

        return null;
    }

    private static readonly InlineKind[] Kinds = Enum.GetValues<InlineKind>();

    private static string Name(InlineKind kind) => kind == InlineKind.Snippet ? "snippet" : "field";
}
