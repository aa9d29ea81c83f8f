namespace GoldenRule.Core.HouseStyles;

/// <summary>Text as it lands on a background.</summary>
/// <param name="What">What is read: "button", "link" …</param>
/// <param name="Size">CSS pixels.</param>
/// <param name="Dark">True: as readers with a dark scheme see it.</param>
public sealed record Reading(string What, Colour Text, Colour Background, double Size, bool Bold, bool Dark)
{
    public double Ratio => Colour.Contrast(Text, Background);

    /// <summary>
    /// The least ratio of WCAG 2.2, 1.4.3: 3 for large text (24 px, or 18.66 px bold), 4.5 for other text.
    /// </summary>
    public double Needed => Size >= 24 || (Bold && Size >= 18.66) ? 3 : 4.5;

    public bool Passes => Ratio >= Needed;
}
