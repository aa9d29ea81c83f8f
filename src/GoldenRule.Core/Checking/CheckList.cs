using System.Collections.Immutable;
using GoldenRule.Core.Checking.Checks;

namespace GoldenRule.Core.Checking;

/// <summary>Every check there is, all run at once.</summary>
public static class CheckList
{
    public static ImmutableArray<Check> All { get; } =
    [
        new SubjectCheck(),
        new PreheaderCheck(),
        new PlaceholderCheck(),
        new LimitCheck(),
        new LinkCheck(),
        new AltTextCheck(),
        new MissingPictureCheck(),
        new ContrastCheck(),
        new TextSizeCheck(),
        new HeadingOrderCheck(),
        new ZoneCheck(),
        new UnsubscribeCheck(),
        new PostalAddressCheck(),
        new WeightCheck(),
    ];

    /// <summary>Findings, the worst first, otherwise in reading order.</summary>
    public static ImmutableArray<Finding> Run(Inspection inspection)
    {
        var order = inspection.Email.Rows.Select((row, index) => (row.Id, index)).ToDictionary(r => r.Id, r => r.index, StringComparer.Ordinal);
        return
        [
            .. All.SelectMany(check => check.Run(inspection))
                .OrderByDescending(f => f.Severity)
                .ThenBy(f => f.Place.Row is { } row ? order.GetValueOrDefault(row, -1) : int.MaxValue),
        ];
    }
}
