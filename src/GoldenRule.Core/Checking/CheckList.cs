using System.Collections.Immutable;
using System.Threading;
using GoldenRule.Core.Checking.Checks;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Checking;

/// <summary>What an inspection found.</summary>
/// <param name="ByRow">What was found in each row, so that rows which stay the same need not be judged again.</param>
/// <param name="Findings">The worst first, otherwise in reading order.</param>
public sealed record Inspected(Inspection Inspection, ImmutableArray<JudgedRow> ByRow, ImmutableArray<Finding> Findings);

public sealed record JudgedRow(InspectedRow Row, ImmutableArray<RowFinding> Findings);

/// <param name="Check">Its place in <see cref="CheckList.All"/>.</param>
public readonly record struct RowFinding(int Check, Finding Finding);

/// <summary>Every check there is, all run at once.</summary>
public static class CheckList
{
    public static ImmutableArray<Check> All { get; } =
    [
        new OffBrandColourCheck(),
        new OffBrandFontCheck(),
        new OffBrandSizeCheck(),
        new RequiredRowCheck(),
        new UpdateCheck(required: true),
        new UpdateCheck(required: false),
        new DetachedRowCheck(),
        new SnippetExpiredCheck(),
        new SnippetScopeCheck(),
        new SnippetRetiredCheck(),
        new RetiredCheck(),
        new SnippetChangesCheck(),
        new ContrastCheck(dark: false),
        new ContrastCheck(dark: true),
        new LinkDistinctCheck(),
        new AltTextCheck(),
        new HeadingOrderCheck(),
        new LinkWordsCheck(),
        new LanguageCheck(),
        new TextSizeCheck(least: true),
        new TextSizeCheck(least: false),
        new LineHeightCheck(),
        new TargetSizeCheck(least: true),
        new TargetSizeCheck(least: false),
        new GradeLevelCheck(),
        new UnsubscribeCheck(),
        new PostalAddressCheck(),
        new ListUnsubscribeCheck(),
        new SubjectCheck(),
        new SubjectLengthCheck(),
        new ShoutingCheck(),
        new PreheaderCheck(),
        new PreheaderLengthCheck(),
        new SenderCheck(),
        new RecipientCheck(),
        new SenderDomainCheck(),
        new ManyLinksCheck(),
        new PicturesOnlyCheck(),
        new LinkCheck(),
        new PlainHttpCheck(),
        new LinkHostCheck(),
        new FieldInHostCheck(),
        new LimitCheck(),
        new PlaceholderCheck(),
        new DefaultWordingCheck(),
        new LeftFromBeforeCheck(),
        new PastDateCheck(),
        new DoubledWordCheck(),
        new FieldFallbackCheck(),
        new PlainTextBehindCheck(),
        new PlainTextFieldsCheck(),
        new ClientSupportCheck(),
        new ClippedCheck(nearly: false),
        new ClippedCheck(nearly: true),
        new HeadStyleCheck(),
        new PictureWeightCheck(),
        new TotalWeightCheck(),
        new AttachmentWeightCheck(),
        new UnknownNodeCheck(),
        new ConditionCheck(),
        new NeverSeenCheck(),
        new CombinationsCheck(),
        new MissingPictureCheck(),
        new EmptyRowCheck(),
        new TooWideCheck(),
        new ZoneCheck(),
    ];

    private static readonly ImmutableDictionary<string, Check> ByName = All.ToImmutableDictionary(c => c.Name, StringComparer.Ordinal);

    // By what is inspected, each with its place in the list.
    private static readonly ImmutableArray<ImmutableArray<(int Index, RowCheck Check)>> OfRows =
    [
        .. Enum.GetValues<Inspection.Subject>()
            .Select(of => All.Index().Where(c => c.Item is RowCheck && c.Item.From <= of).Select(c => (c.Index, (RowCheck)c.Item)))
            .Select(ImmutableArray.ToImmutableArray),
    ];

    /// <summary>Null: there is none of that name.</summary>
    public static Check? Find(string name) => ByName.GetValueOrDefault(name);

    /// <param name="previous">What was found before the last edit: rows that did not change are taken over from it.</param>
    public static Inspected Run(Inspection inspection, Inspected? previous = null, CancellationToken cancel = default)
    {
        if (previous is not null)
        {
            inspection.TakeOver(previous.Inspection);
        }

        var same = previous is not null && previous.Inspection.Context == inspection.Context && previous.Inspection.Of == inspection.Of;
        if (same && previous!.Inspection.SaysTheSame(inspection))
        {
            return previous with { Inspection = inspection };
        }

        var found = new List<Finding>();
        var byRow = IncrementalMap.Rows(
            inspection.Rows,
            same ? (previous!.Inspection.Rows, previous.ByRow) : default,
            (row, _) => new JudgedRow(row, Judge(row, inspection, found)),
            cancel
        );
        var here = new List<Finding>[All.Length];
        foreach (var judged in byRow)
        {
            foreach (var (check, finding) in judged.Findings)
            {
                (here[check] ??= []).Add(finding);
            }
        }

        var all = new List<Finding>();
        var readers = ByReaders.Of(inspection, cancel);
        for (var i = 0; i < All.Length; i++)
        {
            var check = All[i];
            if (
                (check is RowCheck && here[i] is null)
                || inspection.Of < check.From
                || inspection.Context.Policy.SeverityOf(check, inspection.Context.CampaignType) is not { } severity
            )
            {
                continue;
            }

            foreach (var one in check is RowCheck byRows ? byRows.Gather(here[i]) : readers?.Run(check) ?? check.Run(inspection))
            {
                all.Add(one.Severity == severity ? one : one with { Severity = severity });
            }
        }

        return new Inspected(inspection, byRow, InOrder(all, inspection));
    }

    private static ImmutableArray<RowFinding> Judge(InspectedRow row, Inspection inspection, List<Finding> found)
    {
        ImmutableArray<RowFinding>.Builder? judged = null;
        foreach (var (i, check) in OfRows[(int)inspection.Of])
        {
            check.Run(row, inspection, found);
            if (found.Count == 0)
            {
                continue;
            }

            judged ??= ImmutableArray.CreateBuilder<RowFinding>();
            foreach (var finding in found)
            {
                judged.Add(new RowFinding(i, finding));
            }

            found.Clear();
        }

        return judged?.ToImmutable() ?? [];
    }

    private static ImmutableArray<Finding> InOrder(List<Finding> found, Inspection inspection)
    {
        if (found.Count == 0)
        {
            return [];
        }

        var order = inspection
            .Email.Rows.Select((row, index) => (row.Id, index))
            .ToDictionary(r => r.Id, r => r.index, StringComparer.Ordinal);
        return
        [
            .. found
                .OrderByDescending(f => f.Severity)
                .ThenBy(f => f.Place.Row is { } row ? order.GetValueOrDefault(row, -1) : int.MaxValue),
        ];
    }
}
