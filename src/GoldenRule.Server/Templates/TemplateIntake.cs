using System.Collections.Immutable;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Governance;
using GoldenRule.Core.Interchange;
using GoldenRule.Core.Validation;
using GoldenRule.Data;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.Pictures;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Templates;

/// <summary>
/// Takes a template file in, all of it or nothing: pictures and saved rows that are not here yet are added, brand
/// variables that the house style lacks become plain values, and the template is held to the rules of any edit.
/// </summary>
public sealed class TemplateIntake(
    GoldenRuleDb db,
    LibraryCache library,
    DocumentMaker maker,
    CompilationCache compilations,
    TimeProvider clock,
    PictureIntake intake
)
{
    /// <summary>Each is drawn anew.</summary>
    private const int MostPictures = 60;

    public async Task<(StoredDocument Stored, ImmutableArray<string> Rows, int Pictures)> TakeAsync(
        Guid id,
        TemplateFile file,
        string? name,
        string? campaignType,
        Guid? houseStyle,
        Person person,
        CancellationToken cancel
    )
    {
        if (await db.Documents.AsNoTracking().FirstOrDefaultAsync(d => d.Id == id, cancel) is { } before)
        {
            return before.Kind == DocumentKind.Template && before.CreatedBy == person.Id
                ? (before, [], 0)
                : throw new ProblemException(409, "conflict", "The id is taken", "Another document has this id. Ask again with a new one.");
        }

        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var snapshot = await library.GetAsync(db, cancel);
        var type = campaignType ?? file.Template.CampaignType;
        if (snapshot.Plan.Find(type) is null)
        {
            throw ProblemException.Invalid(
                $"The template is for \"{(file.CampaignTypeName.Length > 0 ? file.CampaignTypeName : type)}\", which "
                    + "is no campaign type here. Choose one of yours for it.",
                "template/campaignType"
            );
        }

        LibraryStatus.MustMake(person, [type], snapshot.Plan.Teams);
        var style = houseStyle
            ?? (snapshot.Styles.Layers.ContainsKey(file.Template.HouseStyle) ? file.Template.HouseStyle : snapshot.Styles.First);
        var pictures = await AddPicturesAsync(file, snapshot, person, cancel);
        var mapped = TemplatePacking.Settling(file, snapshot.Styles.For(style), picture => pictures.GetValueOrDefault(picture, picture));
        var (known, added) = await AddRowsAsync(file, mapped, type, snapshot, person, cancel);
        var template = mapped.Map(TemplatePacking.Point(file.Template, known)) with
        {
            Name = DocumentMaker.Name(name ?? file.Template.Name, "template"),
            CampaignType = type,
            HouseStyle = style,
        };
        DocumentBounds.Check(template, null);
        // Against a library that has the new rows already; nobody else sees them before all of it is there.
        var with = snapshot with { Masters = snapshot.Masters.With(added.Select(a => KeyValuePair.Create((a.Id, 1), a.Row))) };
        var loaded = await Validity.CompleteAsync(
            null,
            new LoadedDocument(maker.Stored(id, DocumentKind.Template, person, template, type), template, with),
            db,
            cancel
        );
        _ = compilations.CompileOnce(loaded, cancel);
        var stored = maker.Stored(id, DocumentKind.Template, person, loaded.Document, type);
        db.Documents.Add(stored);
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(CancellationToken.None);
        return (stored, [.. added.Select(a => a.Row.Name)], pictures.Count);
    }

    private async Task<Dictionary<string, string>> AddPicturesAsync(
        TemplateFile file,
        LibrarySnapshot snapshot,
        Person person,
        CancellationToken cancel
    )
    {
        var taken = new Dictionary<string, string>(StringComparer.Ordinal);
        if (file.Pictures.Length > MostPictures)
        {
            throw new StructureException(
                $"The file brings {file.Pictures.Length:N0} pictures; at most {MostPictures} are taken.",
                "$.pictures"
            );
        }

        for (var i = 0; i < file.Pictures.Length; i++)
        {
            var packed = file.Pictures[i];
            if (snapshot.Pictures.Find(packed.Id) is not null)
            {
                continue;
            }

            byte[] bytes;
            try
            {
                bytes = Convert.FromBase64String(packed.Data);
            }
            catch (FormatException)
            {
                throw new StructureException($"Picture {i + 1}, \"{packed.Name}\", is not Base64.", $"$.pictures[{i}].data");
            }

            var made = await intake.TakeAsync(bytes, $"{packed.Name}.{packed.Extension}", person.Id, clock.GetUtcNow().UtcDateTime, cancel);
            taken[packed.Id] = made.Picture.Id;
            if (await db.Pictures.AnyAsync(p => p.Id == made.Picture.Id, cancel))
            {
                continue;
            }

            made.Picture.Describe(packed.Name, packed.Alt, []);
            db.Pictures.Add(made.Picture);
            var names = made.Files.Select(f => f.Name).ToList();
            var there = await db.PictureFiles.Where(f => names.Contains(f.Name)).Select(f => f.Name).ToListAsync(cancel);
            db.PictureFiles.AddRange(made.Files.Where(f => !there.Contains(f.Name)));
            await db.SaveChangesAsync(cancel);
        }

        return taken;
    }

    // A row that is here with the same content is placed by reference; any other becomes a saved row of its own.
    private async Task<(Dictionary<(Guid, int), (Guid, int)> Known, ImmutableArray<(Guid Id, SavedRow Row)> Added)> AddRowsAsync(
        TemplateFile file,
        Mapped mapped,
        string type,
        LibrarySnapshot snapshot,
        Person person,
        CancellationToken cancel
    )
    {
        var known = new Dictionary<(Guid, int), (Guid, int)>();
        var added = ImmutableArray.CreateBuilder<(Guid, SavedRow)>();
        foreach (var packed in file.Rows)
        {
            var row = BlockKinds.Complete(mapped.Map(packed.Row) with { VariantOf = null });
            DocumentBounds.Check(row, null);
            var probe = new PlacedRow
            {
                Id = "probe",
                Master = packed.Id,
                Release = packed.Release,
            };
            if (
                snapshot.Releases.Newest.GetValueOrDefault(packed.Id) is { } mark
                && packed.Release <= mark.Number
                && DocumentJson.Same(snapshot.Masters.Row(probe) with { VariantOf = null }, row)
            )
            {
                known[(packed.Id, packed.Release)] = (packed.Id, packed.Release);
                continue;
            }

            row = row with { CampaignTypes = [.. row.CampaignTypes.Where(t => snapshot.Plan.Find(t) is not null)] };
            if (!snapshot.Plan.Teams.For(person, row.CampaignTypes).Is(Role.Lead, Role.Designer))
            {
                // Whoever makes rows for some teams only brings none in for others.
                row = row with { CampaignTypes = [type] };
            }

            var fresh = maker.Stored(Guid.CreateVersion7(), DocumentKind.Row, person, row, null);
            _ = compilations.CompileOnce(await Validity.CompleteAsync(null, new LoadedDocument(fresh, row, snapshot), db, cancel), cancel);
            db.Documents.Add(fresh);
            db.AddRelease(
                new StoredRelease
                {
                    DocumentId = fresh.Id,
                    Number = 1,
                    Kind = DocumentKind.Row,
                    Revision = 0,
                    Body = fresh.Head,
                    Note = $"Came with the template \"{file.Template.Name}\"",
                    AuthorId = person.Id,
                    At = clock.GetUtcNow().UtcDateTime,
                },
                row
            );
            known[(packed.Id, packed.Release)] = (fresh.Id, 1);
            added.Add((fresh.Id, row));
        }

        return (known, added.ToImmutable());
    }
}
