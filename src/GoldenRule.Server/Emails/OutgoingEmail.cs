using System.Collections.Immutable;
using GoldenRule.Core.Audiences;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Interchange;
using GoldenRule.Core.Resolving;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Hosting;

namespace GoldenRule.Server.Emails;

/// <summary>
/// An email as it leaves: its links carry the tags of its campaign type, and what it shows stands where readers reach it.
/// </summary>
/// <param name="PicturesAt">Address that picture files stand under, with its closing slash.</param>
/// <param name="PageAt">Address of its page for browsers; empty: it has none.</param>
public sealed record OutgoingEmail(CompiledRevision Compiled, LibrarySnapshot Library, string PicturesAt, string PageAt = "")
{
    /// <summary>Before the hand-off: its page is not there yet, and that address says so.</summary>
    /// <param name="at">Scheme and host of this server, as readers reach it.</param>
    public static OutgoingEmail Draft(CompiledRevision compiled, LibrarySnapshot library, string at) =>
        new(compiled, library, at + CompilationCache.PicturesAt, at + PublicAddress.BrowserPages + PublicAddress.DraftPage);

    /// <summary>Whom it is written to. Null: many readers.</summary>
    public Recipient? To => Compiled.Resolved.Email.Recipient;

    /// <summary>
    /// Nobody's in particular: fields say their samples, and everything is shown. One that is written to one person is theirs.
    /// </summary>
    public CompiledEmail Whole() =>
        To is { } person ? Settled(Compile(Compiled.Resolved), SampleReader.From(person, Library.Audiences)) : Compile(Compiled.Resolved);

    /// <summary>As one reader gets it.</summary>
    public CompiledEmail For(SampleReader reader) =>
        To is not null
            ? Whole()
            : SeenBy(
                Compile(Compiled.DocumentLayout.Resolve(Library, inline: Compiled.Resolved.Inline.As(reader))),
                reader,
                Library.Audiences
            );

    private CompiledEmail Settled(CompiledEmail email, SampleReader reader) =>
        email.Settled(condition => Conditions.Holds(condition, Library.Audiences, reader.Values));

    /// <summary>What one reader sees of an email.</summary>
    public static CompiledEmail SeenBy(CompiledEmail email, SampleReader reader, AudiencePlan plan) =>
        email.Seen(condition => Conditions.Holds(condition, plan, reader.Values));

    /// <summary>With its fields and conditions written for a sending platform.</summary>
    public FieldExport ForPlatform(ExportProfile profile) => FieldExport.Write(WithFieldsKept(), Library.Audiences, profile);

    /// <summary>The same as one email for each combination of conditions.</summary>
    /// <exception cref="StructureException">There are too many.</exception>
    public ImmutableArray<CombinationEmail> ForEachCombination(ExportProfile profile) =>
        CombinationExport.Write(WithFieldsKept(), Library.Audiences, profile);

    /// <summary>With its fields left open, see <see cref="KeptField"/>.</summary>
    public CompiledEmail WithFieldsKept()
    {
        if (To is not null)
        {
            return Whole();
        }

        return Compile(
            Compiled.Inspected.Inspection.HasFields
                ? Compiled.DocumentLayout.Resolve(Library, inline: Compiled.Resolved.Inline.WithFieldsKept())
                : Compiled.Resolved
        );
    }

    /// <summary>
    /// The plain text as one sample reader gets it, made the way the exported one is: lines are wrapped before anyone's values stand
    /// in them.
    /// </summary>
    public string TextFor(SampleReader reader) =>
        To is not null
            ? Whole().PlainText()
            : FieldExport.Fill(SeenBy(WithFieldsKept(), reader, Library.Audiences).PlainText(), Compiled.Resolved.Inline.As(reader));

    /// <summary>The HTML as it stands in its bundle.</summary>
    public byte[] BundledHtml(ExportProfile profile) =>
        (this with { PicturesAt = BundleFile.PicturesAt }).ForPlatform(profile).Email.Html();

    private CompiledEmail Compile(ResolvedEmail resolved) =>
        Compiler.Compile(
            LinkTrackedEmail.Track(resolved, Library.Plan.Find(Compiled.Order.Template.CampaignType)?.LinkTags ?? LinkTags.None),
            PicturesAt,
            Purpose.Sending,
            pageAt: PageAt
        );
}
