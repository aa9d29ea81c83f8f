using System.Globalization;

namespace GoldenRule.Core.Checking.Checks;

/// <param name="nearly">True: it comes close; false: it is clipped.</param>
public sealed class ClippedCheck(bool nearly) : MeasuredCheck
{
    /// <summary>Bytes after which one large webmail clips an email (common practice, no source).</summary>
    public const int Most = 102 * 1024;

    public override string Name => nearly ? "nearly-clipped" : "clipped";

    public override string Label => nearly ? "HTML that is nearly clipped" : "HTML that is clipped";

    public override CheckGroup Group => CheckGroup.Clients;

    public override Severity Usual => nearly ? Severity.Advise : Severity.Stop;

    public override string Why =>
        "A major webmail clips HTML over 102 KB and hides the rest, the unsubscribe link with it (common practice, no source).";

    public override double Measure(Inspection inspection) => inspection.Compiled.HtmlBytes;

    public override string Say(double measured) => string.Create(CultureInfo.InvariantCulture, $"{measured / 1024:0.0} KB");

    public override IEnumerable<Finding> Run(Inspection inspection)
    {
        var bytes = inspection.Compiled.HtmlBytes;
        if (nearly ? bytes is > Most * 8 / 10 and <= Most : bytes > Most)
        {
            yield return Found(
                Place.Whole,
                nearly
                    ? "The email comes close to the length at which it is clipped."
                    : "The email is so long that its end will be clipped. Take rows out.",
                string.Create(CultureInfo.InvariantCulture, $"{bytes / 1024.0:0.0} KB, clipped over {Most / 1024}")
            );
        }
    }
}
