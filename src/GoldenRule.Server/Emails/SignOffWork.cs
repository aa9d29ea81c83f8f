using System.Collections.Immutable;
using GoldenRule.Core.Audiences;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HandOffs;
using GoldenRule.Core.Interchange;
using GoldenRule.Data;
using GoldenRule.Server.Desks;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.Jobs;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Emails;

/// <summary>Prints an email's sign-off sheet.</summary>
public sealed class SignOffWork(
    GoldenRuleDb db,
    EditPipeline pipeline,
    CompilationCache compilations,
    HeadlessChromium chromium,
    PublicAddress address,
    TimeProvider clock
) : Work
{
    public const string WorkName = "sign-off";

    private const int Steps = 4;

    public override string Name => WorkName;

    public override async Task<WorkResult> RunAsync(StoredJob job, Progress progress, CancellationToken cancel)
    {
        await progress(1, Steps, "Compiling");
        var loaded = await pipeline.LoadAsync(DocumentKind.Email, job.Document!.Value, cancel);
        var compiled = compilations.Compile(loaded);
        var outgoing = OutgoingEmail.Draft(compiled, loaded.Library, address.OfServer()) with { PicturesAt = BundleFile.PicturesAt };
        var email = outgoing.Whole();
        var bundled = DraftMark
            .For(loaded.Stored.State, loaded.Stored.Revision)
            .MarkFile("index.html", outgoing.BundledHtml(ExportProfile.Mustache));
        var by = await db.Users.Where(u => u.Id == job.AskedBy).Select(u => u.Name).SingleAsync(cancel);
        var state = loaded.Stored.State switch
        {
            EmailState.Draft => "Draft",
            EmailState.InReview => "In review",
            EmailState.Approved => "Approved",
            _ => "Handed off",
        };
        var sheet = SignOffSheet.Write(
            email,
            compiled.Findings,
            new SignOffTerms(
                $"{state}, revision {loaded.Stored.Revision}",
                FrozenEmail.Sha256(bundled),
                $"Printed {clock.GetUtcNow():yyyy-MM-dd HH:mm} UTC for {by}",
                StylesOf(compiled, loaded.Library)
            )
        );
        await progress(2, Steps, "Fetching pictures");
        var files = await MailFiles.OfAsync(email, db, cancel);
        await progress(3, Steps, "Printing");
        var pdf = await chromium.PrintAsync(sheet, files.Select(f => (BundleFile.PicturesAt + f.Name, f.Content)), cancel);
        return new WorkResult($"{loaded.Document.Name}.pdf", "application/pdf", pdf);
    }

    /// <summary>The house style it is dressed in and those that lies on, the outermost first, with the numbers of their releases.</summary>
    public static ImmutableArray<(string Name, int Release)> StylesOf(CompiledRevision compiled, LibrarySnapshot library) =>
        [
            .. StyleLibrary
                .Chain(compiled.Order.Template.HouseStyle, library.Styles.All)
                .Select(s => (library.Styles.All[s].Name, library.Styles.Numbers[s])),
        ];
}
