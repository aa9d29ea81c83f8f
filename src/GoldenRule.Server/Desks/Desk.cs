using System.Collections.Immutable;
using System.Text;
using GoldenRule.Core.Audiences;
using GoldenRule.Core.Checking.Checks;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Core.Governance;
using GoldenRule.Core.Releases;
using GoldenRule.Data;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Emails;

namespace GoldenRule.Server.Desks;

/// <summary>Lays a document out on the composing desk for one person.</summary>
public sealed class Desk(CompilationCache compilations, EditPipeline pipeline)
{
    /// <summary>Whoever has the author's role and nothing more, for "see it as an author".</summary>
    private static readonly Person AnAuthor = new(Guid.Empty, "An author", [Role.Author]);

    public DeskAnswer Whole(LoadedDocument loaded, Person person) =>
        Lay(loaded, compilations.Compile(loaded), (OpenDocument.OfRows)EditPipeline.Open(loaded), null, person, asAuthor: false);

    /// <summary>A template or saved row as a colleague would meet it, to look at.</summary>
    public DeskAnswer AsAuthor(LoadedDocument loaded)
    {
        var compiled = compilations.CompileStarted(loaded);
        var open = new OpenDocument.OfEmail(compiled.DocumentLayout.Email, compiled.Order, loaded.Library.Masters, EmailState.Draft);
        return Lay(loaded, compiled, open, null, AnAuthor, asAuthor: true);
    }

    /// <param name="seen">The revision the asker has; where it is still known, rows that did not change since are left out.</param>
    public DeskAnswer Changed(LoadedDocument loaded, long seen, string? styleSeen, Person person)
    {
        var before = compilations.At(loaded.Stored.Id, seen);
        var after = loaded.CompiledRevision ?? compilations.Compile(loaded);
        var open = (OpenDocument.OfRows)EditPipeline.Open(loaded);
        var comparable =
            before is not null
            && styleSeen == StyleVersion(loaded, after, open, person)
            && ReferenceEquals(before.Resolved.Style, after.Resolved.Style);
        return Lay(loaded, after, open, comparable ? before : null, person, asAuthor: false);
    }

    /// <summary>The answer with what the person could take back and bring again of what is stored.</summary>
    public async Task<DeskAnswer> WithHistoryAsync(DeskAnswer laid, LoadedDocument loaded, Person person, CancellationToken cancel)
    {
        var (undo, redo) = await pipeline.HistoryAsync(loaded, person.Id, cancel);
        return laid with { CanUndo = undo, CanRedo = redo };
    }

    // Whoever got or lost a role may do other things to every row, and nobody changes what is in review.
    private static string StyleVersion(LoadedDocument loaded, CompiledRevision compiled, OpenDocument open, Person person) =>
        loaded.Library.Styles.Version(compiled.Order.Template.HouseStyle)
        + compiled.Inspected.Inspection.NodesVersion
        + string.Concat(open.As(person).Roles.Order().Select(r => $" {r}"))
        + (loaded.Stored.State is EmailState.InReview or EmailState.HandedOff ? " kept" : "");

    private static DeskAnswer Lay(
        LoadedDocument loaded,
        CompiledRevision compiled,
        OpenDocument.OfRows open,
        CompiledRevision? before,
        Person person,
        bool asAuthor
    )
    {
        var layer = new RowLayer(compiled, open, loaded.Library, person);
        return new DeskAnswer(
            loaded.Stored.Id,
            loaded.Stored.Kind,
            loaded.Document.Name,
            loaded.Stored.State,
            loaded.Stored.Revision,
            loaded.Stored.ChangedAt,
            asAuthor,
            loaded.Document is Email email
                ? new DeskEmail(
                    Template(email, compiled, loaded.Library),
                    DeskAside.List(email.Unplaced),
                    compiled.Inspected.Inspection.Fillable
                )
                : null,
            About(loaded),
            Head(compiled.DocumentLayout.Email, open, person),
            Order(compiled, open, person, layer),
            before is null,
            [.. Changed(compiled, before).Select(layer.Row)],
            Proof(compiled, before, StyleVersion(loaded, compiled, open, person)),
            before is null ? new FindingsChange(0, 0, compiled.Findings) : FindingsChange.Between(before.Findings, compiled.Findings),
            false,
            false
        );
    }

    private static IEnumerable<CompiledRow> Changed(CompiledRevision compiled, CompiledRevision? before)
    {
        // Allowances of a row depend on how many stand beside it, so rows come again where the arrangement changed.
        if (before is null || !before.Order.Rows.Select(r => r.Id).SequenceEqual(compiled.Order.Rows.Select(r => r.Id)))
        {
            return compiled.Proof.Rows;
        }

        var former = before.Proof.Rows.ToDictionary(r => r.Source.Id, StringComparer.Ordinal);
        return compiled.Proof.Rows.Where(r => !ReferenceEquals(former.GetValueOrDefault(r.Source.Id), r));
    }

    private static DeskHead Head(Email email, OpenDocument open, Person person) =>
        new(
            email.Details,
            email.Attachments,
            email.Language,
            open is OpenDocument.OfSavedRow
                ? new Allowance(false, Rules.WrongType, "A row has no subject and sender.")
                : Allowance.From(Governor.Decide(person, new SetDetail("subject", ""), open))
        );

    private static DeskOrder Order(CompiledRevision compiled, OpenDocument.OfRows open, Person person, RowLayer layer) =>
        new(
            [.. compiled.Order.Template.Order.Select(layer.Item)],
            open is OpenDocument.OfTemplate
                ? Allowances.OfZone(person, open, null)
                : new Allowance(false, Rules.LockArrangement, "Rows are added in zones.")
        );

    private static DeskProof Proof(CompiledRevision compiled, CompiledRevision? before, string styleVersion) =>
        new(
            styleVersion,
            compiled.Proof.Context.Theme.Width,
            before is not null && before.Proof.Opening.AsSpan().SequenceEqual(compiled.Proof.Opening)
                ? null
                : Encoding.UTF8.GetString(compiled.Proof.Opening),
            new DeskWeight(compiled.Sending.HtmlBytes, ClippedCheck.Most)
        );

    private static DeskTemplate Template(Email email, CompiledRevision compiled, LibrarySnapshot library)
    {
        var template = compiled.Order.Template;
        return new(
            email.Template,
            template.Name,
            email.TemplateRelease,
            library.Releases.Newest[email.Template].Number,
            template.CampaignType,
            library.Plan.Find(template.CampaignType)?.Name ?? template.CampaignType,
            Updates.Wait(email, library),
            Updates.MustTake(email, library),
            template.ForOnePerson,
            email.Recipient,
            template.ForOnePerson ? Asked(compiled) : []
        );
    }

    // In words or in conditions, each once, in the order they are met.
    private static ImmutableArray<string> Asked(CompiledRevision compiled) =>
        [
            .. compiled
                .Resolved.Rows.SelectMany(row => row.Blocks.SelectMany(b => b.Nodes))
                .Select(n => n.Node)
                .Concat(InlineNode.Find(compiled.Resolved.Written.Subject + compiled.Resolved.Written.Preheader).Select(n => n.Node))
                .Where(n => n.Kind == InlineKind.Field)
                .Select(n => n.Key)
                .Concat(
                    compiled
                        .Resolved.Conditions()
                        .SelectMany(c => Conditions.Expand(c, compiled.Resolved.Inline.Plan).Leaves())
                        .OfType<Condition.Test>()
                        .Select(test => test.Field)
                )
                .Distinct(StringComparer.Ordinal),
        ];

    private static DeskAbout? About(LoadedDocument loaded)
    {
        var release = loaded.Library.Releases.Newest.GetValueOrDefault(loaded.Stored.Id);
        return loaded.Document switch
        {
            SavedRow row => new DeskAbout(
                row.Description,
                row.Tags,
                row.CampaignTypes,
                row.RowKind,
                row.Instruction,
                row.VariantOf,
                row.Varies,
                loaded.Library.Styles.For(row),
                release?.Number ?? 0,
                release?.Revision != loaded.Stored.Revision,
                loaded.Stored.Retired,
                loaded.Stored.Private,
                RulesSummary.Write(row),
                false,
                false,
                loaded.Stored.Heir
            ),
            Template template => new DeskAbout(
                template.Description,
                template.Tags,
                [template.CampaignType],
                null,
                null,
                null,
                null,
                template.HouseStyle,
                release?.Number ?? 0,
                release?.Revision != loaded.Stored.Revision,
                loaded.Stored.Retired,
                loaded.Stored.Private,
                RulesSummary.Write(template, loaded.Library.Masters),
                template.PlainTextOpen,
                template.ForOnePerson,
                loaded.Stored.Heir
            ),
            _ => null,
        };
    }
}
