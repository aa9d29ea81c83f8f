using System.Collections.Immutable;
using System.Text;
using GoldenRule.Core.Checking.Checks;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Governance;
using GoldenRule.Core.Edits;
using GoldenRule.Core.Resolving;
using GoldenRule.Server.Editing;

namespace GoldenRule.Server.Emails;

/// <summary>Lays an email out on the composing desk for one person.</summary>
public sealed class Desk(ProofPress press, EditRoad road)
{
    public Task<DeskAnswer> WholeAsync(Kept kept, Person person, CancellationToken cancel) =>
        LayAsync(kept, press.Press(kept), null, person, cancel);

    /// <param name="seen">The revision the asker has; where it is the one before this edit, unchanged rows are left out.</param>
    public async Task<DeskAnswer> ChangedAsync(Kept kept, Pressed? before, long seen, string? styleSeen, Person person, CancellationToken cancel)
    {
        var after = press.Press(kept);
        var comparable = before is not null && before.Revision == seen && styleSeen == StyleVersion(kept, after)
            && ReferenceEquals(before.Resolved.Style, after.Resolved.Style);
        return await LayAsync(kept, after, comparable ? before : null, person, cancel);
    }

    private static bool SameFindings(Pressed before, Pressed after) =>
        before.Findings.Length == after.Findings.Length && before.Findings.Zip(after.Findings).All(f => f.First.IsSameAs(f.Second));

    private static string StyleVersion(Kept kept, Pressed pressed) => kept.Library.StyleVersion(pressed.Order.Template.HouseStyle);

    private async Task<DeskAnswer> LayAsync(Kept kept, Pressed pressed, Pressed? before, Person person, CancellationToken cancel)
    {
        var email = (Email)kept.Document;
        var open = (OpenDocument.OfEmail)EditRoad.Open(kept);
        var (undo, redo) = await road.HistoryAsync(kept, person.Id, cancel);
        var template = pressed.Order.Template;
        var former = before?.Proof.Rows.ToDictionary(r => r.Source.Id, StringComparer.Ordinal);
        // Allowances of a row depend on how many stand beside it, so rows come again where the arrangement changed.
        var arranged = before is null || !before.Order.Rows.Select(r => r.Id).SequenceEqual(pressed.Order.Rows.Select(r => r.Id));
        var opening = Encoding.UTF8.GetString(pressed.Proof.Opening);

        return new DeskAnswer(
            kept.Stored.Id,
            email.Name,
            kept.Stored.State,
            kept.Stored.Revision,
            kept.Stored.ChangedAt,
            before is null,
            StyleVersion(kept, pressed),
            pressed.Proof.Press.Dress.Width,
            new DeskTemplate(
                email.Template,
                template.Name,
                email.TemplateRelease,
                kept.Library.Newest[email.Template].Number,
                template.CampaignType,
                kept.Library.CampaignTypes.FirstOrDefault(t => t.Key == template.CampaignType)?.Name ?? template.CampaignType),
            email.Details,
            Allowance.From(Governor.Decide(person, new SetDetail("subject", ""), open)),
            Items(pressed, open, person),
            [
                .. pressed.Proof.Rows
                    .Where(r => arranged || former is null || !ReferenceEquals(former.GetValueOrDefault(r.Source.Id), r))
                    .Select(r => Row(r, pressed, open, person)),
            ],
            before is not null && before.Proof.Opening.AsSpan().SequenceEqual(pressed.Proof.Opening) ? null : opening,
            before is not null && SameFindings(before, pressed) ? null : pressed.Findings,
            new DeskWeight(pressed.Sending.HtmlBytes, WeightCheck.Clipped),
            undo,
            redo);
    }

    private static ImmutableArray<DeskItem> Items(Pressed pressed, OpenDocument.OfEmail open, Person person) =>
    [
        .. pressed.Order.Template.Order.Select(item => item is Zone zone
            ? new DeskItem(null, new DeskZone(
                zone.Id,
                zone.Name ?? zone.Id,
                zone.Least,
                zone.Most,
                zone.Instruction,
                Allowances.OfZone(person, open, zone),
                [.. open.Email.Zones.GetValueOrDefault(zone.Id, []).Select(r => r.Id)]))
            : new DeskItem(item.Id, null)),
    ];

    private static DeskRow Row(CompiledRow compiled, Pressed pressed, OpenDocument.OfEmail open, Person person)
    {
        var row = compiled.Source;
        var allowed = Allowances.Of(person, open, row.Source);
        return new DeskRow(
            row.Id,
            row.Name,
            row.Source.Master.RowKind,
            row.Source.Zone?.Id,
            row.Source.Master.Instruction,
            row.Surface,
            [.. row.Columns.Select(c => new DeskColumn(c.Parts, [.. c.Blocks.Select(b => Block(b, row, pressed, allowed))]))],
            allowed.Move,
            allowed.Remove,
            allowed.Duplicate,
            Encoding.UTF8.GetString(compiled.Html));
    }

    private static DeskBlock Block(ResolvedBlock block, ResolvedRow row, Pressed pressed, RowAllowances allowed)
    {
        var kind = BlockKinds.Of(block.Master);
        var allowance = allowed.Blocks.First(b => b.Block == block.Id);
        var fills = row.Source.EmailFills.GetValueOrDefault(block.Id);
        return new DeskBlock(
            block.Id,
            block.Master.Name ?? kind.Label,
            kind.Name,
            block.Master.Instruction,
            block.Master.Placeholder,
            [
                .. kind.Fields.Select(f => new DeskField(
                    f.Name,
                    f.Label,
                    block.Content[f.Name],
                    fills?.Content.ContainsKey(f.Name) == true,
                    block.Master.Limits.TryGetValue(f.Name, out var limit)
                        ? Measuring.Measure(block.Content[f.Name], limit, pressed.Resolved.Pictures)
                        : [])),
            ],
            [
                .. kind.Look.Where(p => block.Master.Offers.ContainsKey(p.Name))
                    .Select(p => new DeskLook(p.Name, p.Label, block.Look[p.Name], block.Master.Offers[p.Name])),
            ],
            allowance.Content,
            allowance.Look);
    }
}
