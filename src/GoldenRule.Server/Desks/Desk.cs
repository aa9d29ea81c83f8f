using System.Collections.Immutable;
using System.Text;
using GoldenRule.Core.Checking.Checks;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Core.Governance;
using GoldenRule.Core.Library;
using GoldenRule.Data;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Emails;

namespace GoldenRule.Server.Desks;

/// <summary>Lays a document out on the composing desk for one person.</summary>
public sealed class Desk(ProofPress press, EditRoad road)
{
    /// <summary>Whoever has the author's role and nothing more, for "see it as an author".</summary>
    private static readonly Person AnAuthor = new(Guid.Empty, "An author", [Role.Author]);

    public Task<DeskAnswer> WholeAsync(Kept kept, Person person, CancellationToken cancel) =>
        LayAsync(kept, press.Press(kept), null, person, cancel);

    /// <summary>A template or saved row as a colleague would meet it, to look at.</summary>
    public async Task<DeskAnswer> AsAuthorAsync(Kept kept, CancellationToken cancel)
    {
        var pressed = press.PressStarted(kept);
        var open = new OpenDocument.OfEmail(pressed.Laid.Email, pressed.Order, kept.Library.Masters, EmailState.Draft);
        return await LayAsync(kept, pressed, open, null, AnAuthor, asAuthor: true, cancel);
    }

    /// <param name="seen">The revision the asker has; where it is still known, rows that did not change since are left out.</param>
    public async Task<DeskAnswer> ChangedAsync(Kept kept, long seen, string? styleSeen, Person person, CancellationToken cancel)
    {
        var before = press.At(kept.Stored.Id, seen);
        var after = kept.Pressed ?? press.Press(kept);
        var comparable = before is not null && styleSeen == StyleVersion(kept, after)
            && ReferenceEquals(before.Resolved.Style, after.Resolved.Style);
        return await LayAsync(kept, after, comparable ? before : null, person, cancel);
    }

    private static string StyleVersion(Kept kept, Pressed pressed) => kept.Library.StyleVersion(pressed.Order.Template.HouseStyle);

    private Task<DeskAnswer> LayAsync(Kept kept, Pressed pressed, Pressed? before, Person person, CancellationToken cancel) =>
        LayAsync(kept, pressed, (OpenDocument.OfRows)EditRoad.Open(kept), before, person, asAuthor: false, cancel);

    private async Task<DeskAnswer> LayAsync(Kept kept, Pressed pressed, OpenDocument.OfRows open, Pressed? before, Person person, bool asAuthor, CancellationToken cancel)
    {
        var (undo, redo) = asAuthor ? (false, false) : await road.HistoryAsync(kept, person.Id, cancel);
        var former = before?.Proof.Rows.ToDictionary(r => r.Source.Id, StringComparer.Ordinal);
        // Allowances of a row depend on how many stand beside it, so rows come again where the arrangement changed.
        var arranged = before is null || !before.Order.Rows.Select(r => r.Id).SequenceEqual(pressed.Order.Rows.Select(r => r.Id));
        var layer = new RowLayer(pressed, open, kept.Library, person);

        return new DeskAnswer(
            kept.Stored.Id,
            kept.Stored.Kind,
            kept.Document.Name,
            kept.Stored.State,
            kept.Stored.Revision,
            kept.Stored.ChangedAt,
            before is null,
            asAuthor,
            StyleVersion(kept, pressed),
            pressed.Proof.Press.Dress.Width,
            kept.Document is Email email ? Template(email, pressed.Order.Template, kept.Library) : null,
            About(kept),
            pressed.Laid.Email.Details,
            pressed.Laid.Email.Attachments,
            pressed.Laid.Email.Language,
            kept.Document is Email held ? DeskAside.Of(held.SetAside) : [],
            open is OpenDocument.OfSavedRow ? new Allowance(false, Rules.WrongType, "A row has no subject and sender.") : Allowance.From(Governor.Decide(person, new SetDetail("subject", ""), open)),
            open is OpenDocument.OfTemplate ? Allowances.OfZone(person, open, null) : new Allowance(false, Rules.LockArrangement, "Rows are added in zones."),
            [.. pressed.Order.Template.Order.Select(layer.Item)],
            [
                .. pressed.Proof.Rows
                    .Where(r => arranged || former is null || !ReferenceEquals(former.GetValueOrDefault(r.Source.Id), r))
                    .Select(layer.Row),
            ],
            before is not null && before.Proof.Opening.AsSpan().SequenceEqual(pressed.Proof.Opening) ? null : Encoding.UTF8.GetString(pressed.Proof.Opening),
            before is null ? new FindingsChange(0, 0, pressed.Findings) : FindingsChange.Between(before.Findings, pressed.Findings),
            new DeskWeight(pressed.Sending.HtmlBytes, ClippedCheck.Most),
            undo,
            redo);
    }

    private static DeskTemplate Template(Email email, Template template, LibrarySnapshot library) => new(
        email.Template,
        template.Name,
        email.TemplateRelease,
        library.Newest[email.Template].Number,
        template.CampaignType,
        library.CampaignTypes.FirstOrDefault(t => t.Key == template.CampaignType)?.Name ?? template.CampaignType,
        Updates.Wait(email, library));

    private static DeskAbout? About(Kept kept)
    {
        var release = kept.Library.Newest.GetValueOrDefault(kept.Stored.Id);
        return kept.Document switch
        {
            SavedRow row => new DeskAbout(
                row.Description, row.Tags, row.CampaignTypes, row.RowKind, row.Instruction, row.VariantOf, row.Varies, kept.Library.StyleFor(row),
                release?.Number ?? 0, release?.Revision != kept.Stored.Revision, kept.Stored.Retired, kept.Stored.Private, RulesSummary.Of(row), false),
            Template template => new DeskAbout(
                template.Description, template.Tags, [template.CampaignType], null, null, null, null, template.HouseStyle,
                release?.Number ?? 0, release?.Revision != kept.Stored.Revision, kept.Stored.Retired, kept.Stored.Private, RulesSummary.Of(template, kept.Library.Masters), template.PlainTextOpen),
            _ => null,
        };
    }
}
