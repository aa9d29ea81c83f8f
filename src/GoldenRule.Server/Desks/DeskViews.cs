using System.Collections.Immutable;
using System.Text;
using GoldenRule.Core.Audiences;
using GoldenRule.Core.Checking;
using GoldenRule.Core.Checking.Checks;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Core.Governance;
using GoldenRule.Core.Interchange;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Emails;

namespace GoldenRule.Server.Desks;

/// <param name="Revision">Of the email that it is of.</param>
/// <param name="Text">As it would be sent.</param>
/// <param name="Made">As it is made from the email.</param>
/// <param name="Behind">True: it is written by hand, and the email has changed since.</param>
/// <param name="Of">What it was written by hand over; null: it is made from the email.</param>
/// <param name="MadeOf">What an edit says that writes it by hand over the email as it is now.</param>
/// <param name="Write">Whether the asker may write it by hand.</param>
public sealed record DraftText(long Revision, string Text, string Made, bool Behind, string? Of, string MadeOf, Allowance Write);

public sealed record DraftInbox(InboxLine Phone, InboxLine Desktop);

public sealed record ViewedRow(string Id, string Html);

/// <summary>The email as some clients would show it. Simulated.</summary>
public sealed record DraftView(long Revision, string Opening, ImmutableArray<ViewedRow> Rows);

/// <summary>The email as one reader gets it, on one day.</summary>
/// <param name="Text">The plain text.</param>
public sealed record ReaderView(long Revision, string Opening, ImmutableArray<ViewedRow> Rows, string Text, DraftInbox Inbox);

public sealed record ReportedFinding(
    string Check,
    string Label,
    CheckGroup Group,
    Severity Severity,
    Place Place,
    string? PlaceName,
    string Message,
    string? Evidence,
    Remedy? Remedy,
    FoundFor? Readers,
    string Why
);

/// <param name="Rows">Names of the rows that use it; none: the head alone does.</param>
/// <param name="Missed">Names of the clients that leave it out.</param>
/// <param name="MissedShare">Of our readers, 0 to 1.</param>
/// <param name="Instead">What they see instead; null: nothing is provided.</param>
public sealed record ReportedFeature(
    string Slug,
    string Title,
    string Category,
    ImmutableArray<string> Rows,
    ImmutableArray<string> Missed,
    double MissedShare,
    ImmutableArray<string> Partly,
    double PartlyShare,
    string? Instead
);

/// <summary>All that the checks say of one document.</summary>
/// <param name="Checks">How many ran.</param>
/// <param name="Grade">Flesch–Kincaid grade level of its prose.</param>
/// <param name="HeadStyle">Characters of the style block.</param>
/// <param name="PictureBytes">Of all pictures it shows.</param>
public sealed record Report(
    string Name,
    long Revision,
    int Checks,
    ImmutableArray<ReportedFinding> Findings,
    ImmutableArray<ReportedFeature> Features,
    bool ClientMixKnown,
    Readability Reading,
    double Grade,
    double Ease,
    int HtmlBytes,
    int HeadStyle,
    long PictureBytes
);

/// <summary>A document looked at otherwise than on its proofs.</summary>
internal static class DeskViews
{
    public static DraftText Text(LoadedDocument loaded, CompilationCache compilations, Person person)
    {
        var sending = compilations.Compile(loaded).Sending;
        var made = sending.MadeText();
        var written = (loaded.Document as Email)?.PlainText;
        return new DraftText(
            loaded.Stored.Revision,
            sending.PlainText(),
            made,
            written is not null && !written.IsOf(made),
            written?.Of,
            WrittenText.Over(made, "").Of,
            loaded.Document is Email
                ? Allowance.From(Governor.Decide(person, new SetPlainText(null), EditPipeline.Open(loaded)))
                : new Allowance(false, Rules.WrongType, "The plain text of emails is written by hand, not of templates and rows.")
        );
    }

    public static DraftInbox Inbox(CompiledRevision compiled)
    {
        var (details, body) = (compiled.Resolved.Email.Details, compiled.Sending.MadeText());
        return new DraftInbox(InboxLine.OnPhone(details, body), InboxLine.OnDesktop(details, body));
    }

    public static DraftView Simulated(CompiledRevision compiled, ProofView view) =>
        new(
            compiled.Revision,
            SimulatedView.Render(Encoding.UTF8.GetString(compiled.Proof.Opening), view),
            [
                .. compiled.Proof.Rows.Select(r => new ViewedRow(
                    r.Source.Id,
                    SimulatedView.Render(Encoding.UTF8.GetString(r.Html.Span), view)
                )),
            ]
        );

    /// <param name="reader">Null: nobody in particular.</param>
    /// <param name="day">Null: the day it goes out.</param>
    public static ReaderView ForReader(LoadedDocument loaded, SampleReader? reader, DateOnly? day, CancellationToken cancel)
    {
        var inline = loaded.Library.InlineFor(loaded.Layout.Email, day);
        var own = reader is null ? inline : inline.As(reader);
        var resolved = loaded.Layout.Resolve(loaded.Library, null, own, cancel);
        var proof = SeenBy(Compiler.Compile(resolved, CompilationCache.PicturesAt, Purpose.Proof, cancel: cancel));
        // Made the way the exported text is: lines are wrapped before anyone's values stand in them.
        var open = loaded.Layout.Resolve(loaded.Library, null, inline.WithFieldsKept(), cancel);
        var text = FieldExport.Fill(
            SeenBy(Compiler.Compile(open, CompilationCache.PicturesAt, Purpose.Sending, cancel: cancel)).MadeText(),
            own
        );
        var details = resolved.Email.Details;
        return new ReaderView(
            loaded.Stored.Revision,
            Encoding.UTF8.GetString(proof.Opening),
            [.. proof.Rows.Select(r => new ViewedRow(r.Source.Id, Encoding.UTF8.GetString(r.Html.Span)))],
            text,
            new DraftInbox(InboxLine.OnPhone(details, text), InboxLine.OnDesktop(details, text))
        );

        CompiledEmail SeenBy(CompiledEmail all) => reader is null ? all : OutgoingEmail.SeenBy(all, reader, loaded.Library.Audiences);
    }

    public static Report Report(LoadedDocument loaded, CompilationCache compilations)
    {
        var compiled = compilations.Compile(loaded);
        var names = compiled.Resolved.Rows.ToDictionary(r => r.Id, r => r.Name, StringComparer.Ordinal);
        var inspection = compiled.Inspected.Inspection;
        var reading = Readability.Measure(inspection);
        return new Report(
            loaded.Document.Name,
            compiled.Revision,
            CheckList.All.Count(c =>
                inspection.Of >= c.From && inspection.Context.Policy.SeverityOf(c, inspection.Context.CampaignType) is not null
            ),
            [.. compiled.Findings.Select(f => Found(f, names))],
            [
                .. ClientReport
                    .ForEmail(compiled.Sending, inspection.Context.Policy)
                    .Select(f => new ReportedFeature(
                        f.Feature.Slug,
                        f.Feature.Title,
                        f.Feature.Category,
                        [.. f.Rows.Select(r => names[r])],
                        [.. f.Missed.Clients.Select(c => c.Name)],
                        f.Missed.Share,
                        [.. f.Partly.Clients.Select(c => c.Name)],
                        f.Partly.Share,
                        f.Instead
                    )),
            ],
            !inspection.Context.Policy.Clients.IsEmpty,
            reading,
            reading.Grade,
            reading.Ease,
            compiled.Sending.HtmlBytes,
            HeadStyleCheck.Length(compiled.Sending),
            TotalWeightCheck.Pictures(inspection)
        );
    }

    private static ReportedFinding Found(Finding f, Dictionary<string, string> names)
    {
        var check = CheckList.Find(f.Check)!;
        return new ReportedFinding(
            f.Check,
            check.Label,
            check.Group,
            f.Severity,
            f.Place,
            f.Place.Row is { } row ? names.GetValueOrDefault(row) : null,
            f.Message,
            f.Evidence,
            f.Remedy,
            f.Readers,
            check.Why
        );
    }
}
