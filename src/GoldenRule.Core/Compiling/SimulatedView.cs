using System.Text.RegularExpressions;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Compiling;

/// <summary>Ways that mail clients show an email otherwise than it was made.</summary>
public enum ProofView
{
    /// <summary>Media queries are left out: no phone sizes, no dark scheme.</summary>
    NoMediaQueries,

    /// <summary>
    /// Light backgrounds become dark and dark text light; what is dark already stays (common practice of some clients, no
    /// source).
    /// </summary>
    PartlyRecoloured,

    /// <summary>Every colour gets the lightness of its opposite (common practice of some clients, no source).</summary>
    FullyRecoloured,
}

/// <summary>
/// Compiled HTML as a client would show it that drops media queries or recolours by itself. Simulated: each client has
/// rules of its own, which change without notice.
/// </summary>
public static partial class SimulatedView
{
    public static string Render(string html, ProofView view) =>
        view switch
        {
            ProofView.NoMediaQueries => MediaQuery().Replace(html, ""),
            ProofView.PartlyRecoloured => Declared().Replace(html, m => Recolour(m, full: false)),
            ProofView.FullyRecoloured => Declared().Replace(html, m => Recolour(m, full: true)),
            _ => throw new ArgumentOutOfRangeException(nameof(view)),
        };

    private static string Recolour(Match declaration, bool full)
    {
        var colour = Colour.Parse(declaration.Groups["colour"].Value);
        var background = declaration.Groups["property"].Value is not "color";
        var light = Oklch.FromColour(colour).Lightness > 0.6;
        return full || (background ? light : !light)
            ? declaration.Value[..^declaration.Groups["colour"].Length] + Opposite(colour)
            : declaration.Value;
    }

    // Not quite to black and white, as the clients that do this do not either.
    private static Colour Opposite(Colour colour)
    {
        var (lightness, chroma, hue) = Oklch.FromColour(colour);
        return new Oklch(0.16 + ((1 - lightness) * 0.8), chroma, hue).ToColour();
    }

    [GeneratedRegex(
        "(?<property>background-color|border(-[a-z]+)?|color):[^;\"{}#]*(?<colour>#[0-9a-fA-F]{6})",
        RegexOptions.ExplicitCapture
    )]
    private static partial Regex Declared();

    [GeneratedRegex("@media[^{]*\\{([^{}]*\\{[^{}]*\\})*[^{}]*\\}", RegexOptions.ExplicitCapture)]
    private static partial Regex MediaQuery();
}
