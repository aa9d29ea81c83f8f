using GoldenRule.Core.Audiences;

namespace GoldenRule.Core.Interchange;

/// <summary>How a sending platform writes a field of the reader's. "%" stands for the field's name there.</summary>
/// <param name="Field">The value, escaped for HTML by the platform.</param>
/// <param name="Plain">The value as it is: in plain text and in the subject.</param>
/// <param name="Open">Before what stands where the field is known.</param>
/// <param name="Else">Between that and its fallback.</param>
/// <param name="Close">After the fallback.</param>
/// <param name="Mark">What begins everything that the platform reads; it must not be taken for that where somebody wrote it.</param>
/// <param name="Literal">What says <paramref name="Mark"/> itself.</param>
public sealed record ExportProfile(
    string Name,
    string Field,
    string Plain,
    string Open,
    string Else,
    string Close,
    string Mark,
    string Literal
)
{
    /// <summary>
    /// The Mustache specification, mustache(5) and its parts "interpolation", "sections", "inverted" and "delimiters": a value that is
    /// not known is falsy; the mark itself stands between changed delimiters.
    /// </summary>
    public static ExportProfile Mustache { get; } =
        new("Mustache", "{{%}}", "{{&%}}", "{{#%}}", "{{/%}}{{^%}}", "{{/%}}", "{{", "{{=<% %>=}}{{<%={{ }}=%>");

    /// <summary>A field with its fallback.</summary>
    /// <param name="kept">What was left open.</param>
    /// <param name="escape">How the fallback is written where it stands.</param>
    public string Write(KeptField kept, MergeField? field, bool html, Func<string, string> escape)
    {
        var name = NameOf(kept);
        // What is percent-encoded already needs no escaping.
        var value = Named(html && !kept.InAddress ? Field : Plain, name);
        if (field is not { Always: false, Fallback: { Length: > 0 } fallback })
        {
            return value;
        }

        var instead = escape(kept.InAddress ? Uri.EscapeDataString(fallback) : fallback);
        return Named(Open, name) + value + Named(Else, name) + instead + Named(Close, name);
    }

    /// <summary>What the platform calls it: a value that is encoded for an address is another one.</summary>
    public static string NameOf(KeptField kept) => kept.InAddress ? kept.Key + "-in-link" : kept.Key;

    private static string Named(string pattern, string name) => pattern.Replace("%", name, StringComparison.Ordinal);
}
