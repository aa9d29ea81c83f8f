namespace GoldenRule.Core.Checking;

/// <summary>The signs of features in CSS as the compiler and the sanitiser write it.</summary>
internal static class CssSigns
{
    /// <summary>Of the head's style block: at-rules, selectors and declarations.</summary>
    public static FeatureSet OfSheet(ReadOnlySpan<char> css)
    {
        var found = default(FeatureSet);
        Rules(ref found, css);
        return found;
    }

    /// <summary>Of the inside of one rule or of a style attribute.</summary>
    public static void AddDeclarations(ref FeatureSet found, ReadOnlySpan<char> css)
    {
        while (!css.IsEmpty)
        {
            // A ";" inside brackets, as in the entity of a quote within url(), ends nothing.
            var end = EndOfDeclaration(css);
            var one = css[..end];
            css = end == css.Length ? [] : css[(end + 1)..];
            var colon = one.IndexOf(':');
            if (colon > 0)
            {
                Declaration(ref found, one[..colon].Trim(), one[(colon + 1)..].Trim());
            }
        }
    }

    private static int EndOfDeclaration(ReadOnlySpan<char> css)
    {
        var depth = 0;
        for (var i = 0; i < css.Length; i++)
        {
            depth += css[i] switch
            {
                '(' => 1,
                ')' => -1,
                _ => 0,
            };
            if (css[i] == ';' && depth == 0)
            {
                return i;
            }
        }

        return css.Length;
    }

    private static void Declaration(ref FeatureSet found, ReadOnlySpan<char> property, ReadOnlySpan<char> value)
    {
        FeatureSigns.Add(ref found, "property", property);
        if (value.EndsWith("!important", StringComparison.Ordinal))
        {
            FeatureSigns.Add(ref found, "", "important");
            value = value[..^"!important".Length].TrimEnd();
        }

        FeatureSigns.Add(ref found, "value", $"{property}:{value}");
        for (var i = 0; i < value.Length; )
        {
            if (char.IsAsciiDigit(value[i]))
            {
                var start = i;
                while (i < value.Length && (char.IsAsciiDigit(value[i]) || value[i] == '.'))
                {
                    i++;
                }

                start = i;
                while (i < value.Length && (char.IsAsciiLetter(value[i]) || value[i] == '%'))
                {
                    i++;
                }

                FeatureSigns.Add(ref found, "unit", value[start..i]);
            }
            else if (value[i] == '#' || value[i] == '\'')
            {
                // A colour, or a quoted name: neither has units or functions in it.
                var close = value[i] == '\'' ? value[(i + 1)..].IndexOf('\'') + 2 : 1;
                i += Math.Max(1, close);
                while (i < value.Length && char.IsAsciiLetterOrDigit(value[i]))
                {
                    i++;
                }
            }
            else if (char.IsAsciiLetter(value[i]) || value[i] == '-')
            {
                var start = i;
                while (i < value.Length && (char.IsAsciiLetterOrDigit(value[i]) || value[i] == '-'))
                {
                    i++;
                }

                var called = i < value.Length && value[i] == '(';
                FeatureSigns.Add(ref found, called ? "function" : "word", value[start..i]);
                if (called && value[start..i] is "url")
                {
                    var close = value[i..].IndexOf(')');
                    i = close < 0 ? value.Length : i + close;
                }
            }
            else
            {
                i++;
            }
        }
    }

    private static void Rules(ref FeatureSet found, ReadOnlySpan<char> css)
    {
        while (true)
        {
            var open = css.IndexOf('{');
            if (open < 0)
            {
                return;
            }

            var prelude = css[..open].Trim();
            var close = Closing(css, open);
            var inside = css[(open + 1)..close];
            css = close + 1 >= css.Length ? [] : css[(close + 1)..];
            if (prelude.StartsWith("@"))
            {
                var name = prelude[1..];
                var blank = name.IndexOfAny(' ', '(');
                FeatureSigns.Add(ref found, "at", blank < 0 ? name : name[..blank]);
                for (var rest = prelude; rest.IndexOf('(') is >= 0 and var bracket; )
                {
                    rest = rest[(bracket + 1)..];
                    var end = rest.IndexOfAny(':', ')');
                    FeatureSigns.Add(ref found, "media", end < 0 ? rest : rest[..end].Trim());
                }

                Rules(ref found, inside);
            }
            else
            {
                Selectors(ref found, prelude);
                AddDeclarations(ref found, inside);
            }
        }
    }

    private static int Closing(ReadOnlySpan<char> css, int open)
    {
        var depth = 0;
        for (var i = open; i < css.Length; i++)
        {
            depth += css[i] switch
            {
                '{' => 1,
                '}' => -1,
                _ => 0,
            };
            if (depth == 0)
            {
                return i;
            }
        }

        return css.Length - 1;
    }

    private static void Selectors(ref FeatureSet found, ReadOnlySpan<char> selectors)
    {
        if (selectors.Contains(','))
        {
            FeatureSigns.Add(ref found, "selector", "grouping");
        }

        foreach (var range in selectors.Split(','))
        {
            var selector = selectors[range].Trim();
            var parts = 0;
            for (var i = 0; i < selector.Length; i++)
            {
                var kind = selector[i] switch
                {
                    '.' => "class",
                    '#' => "id",
                    '[' => "attribute",
                    '>' => "child",
                    '+' => "adjacent",
                    '~' => "sibling",
                    '*' => "universal",
                    ' '
                        when i + 1 < selector.Length
                            && selector[i + 1] is not ('>' or '+' or '~')
                            && selector[i - 1] is not ('>' or '+' or '~') => "descendant",
                    _ when char.IsAsciiLetter(selector[i]) && (i == 0 || selector[i - 1] is ' ' or '>' or '+' or '~') => "type",
                    _ => "",
                };
                parts = kind switch
                {
                    "descendant" or "child" or "adjacent" or "sibling" => 0,
                    "class" or "id" or "attribute" => parts + 1,
                    _ => parts,
                };
                if (parts > 1)
                {
                    FeatureSigns.Add(ref found, "selector", "chaining");
                }

                FeatureSigns.Add(ref found, "selector", kind);
                if (selector[i] == ':')
                {
                    var end = i + 1;
                    while (end < selector.Length && (char.IsAsciiLetter(selector[end]) || selector[end] is '-' or ':'))
                    {
                        end++;
                    }

                    FeatureSigns.Add(ref found, "pseudo", selector[(i + 1)..end].Trim(':'));
                    i = end - 1;
                }
                else if (selector[i] == '[')
                {
                    var end = selector[i..].IndexOf(']');
                    i = end < 0 ? selector.Length : i + end;
                }
            }
        }
    }
}
