using GoldenRule.Core.Compiling;

namespace GoldenRule.Core.Checking.Checks;

public sealed class HeadStyleCheck : Check
{
    /// <summary>Characters (common practice, no source).</summary>
    public const int Most = 8192;

    public override string Name => "head-style";

    public override string Label => "A long style block";

    public override CheckGroup Group => CheckGroup.Clients;

    public override Severity Usual => Severity.Warn;

    public override string Why =>
        "One large webmail drops a style block over 8,192 characters whole: no dark mode, no phone sizes (common practice, no source).";

    public override IEnumerable<Finding> Run(Inspection inspection)
    {
        var length = Length(inspection.Compiled);
        if (length > Most)
        {
            yield return Found(
                Place.Whole,
                "The style block is so long that it will be dropped. Let fewer rows narrow the house style.",
                $"{length} characters, dropped over {Most}"
            );
        }
    }

    /// <summary>Characters of an email's style block, all of them ASCII.</summary>
    public static int Length(CompiledEmail email)
    {
        var opening = email.Opening.AsSpan();
        var (start, end) = (opening.IndexOf("<style>"u8), opening.IndexOf("</style>"u8));
        return start < 0 ? 0 : end - start - "<style>".Length;
    }
}
