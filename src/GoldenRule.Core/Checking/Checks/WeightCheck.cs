using System.Globalization;

namespace GoldenRule.Core.Checking.Checks;

public sealed class WeightCheck : Check
{
    /// <summary>Bytes after which one large webmail clips an email (common practice, no source).</summary>
    public const int Clipped = 102 * 1024;

    public override string Name => "size";

    public override string Why => "A major webmail clips HTML over 102 KB and hides the rest, the unsubscribe link with it (common practice, no source).";

    public override IEnumerable<Finding> Run(Inspection inspection)
    {
        var bytes = inspection.Compiled.HtmlBytes;
        if (bytes > Clipped * 8 / 10)
        {
            yield return Found(
                bytes > Clipped ? Severity.Stop : Severity.Advise,
                Place.Whole,
                bytes > Clipped ? "The email is so long that its end will be clipped. Take rows out." : "The email comes close to the length at which it is clipped.",
                string.Create(CultureInfo.InvariantCulture, $"{bytes / 1024.0:0.0} KB, clipped over 102"));
        }
    }
}
