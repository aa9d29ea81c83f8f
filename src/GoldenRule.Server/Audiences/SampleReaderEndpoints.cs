using System.Collections.Immutable;
using System.Security.Claims;
using System.Text.Json;
using GoldenRule.Core.Audiences;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Interchange;
using GoldenRule.Data;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.People;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Audiences;

/// <param name="Values">By the field's key, as they are typed.</param>
public sealed record SampleReaderRequest(string Name, ImmutableSortedDictionary<string, string> Values);

/// <param name="Csv">The file's text (RFC 4180).</param>
/// <param name="Columns">Which column is which field. Null: what the headings say.</param>
/// <param name="Store">False: only told what would come in.</param>
public sealed record ReaderFileRequest(
    [property: Longest(ReaderFileRequest.Longest)] string Csv,
    ImmutableArray<MappedColumn>? Columns = null,
    bool Store = false
)
{
    public const int Longest = 2_000_000;
}

/// <summary>Made-up readers, by whom proofs are looked at. No recipients.</summary>
public static class SampleReaderEndpoints
{
    public static void MapSampleReaders(this IEndpointRouteBuilder api)
    {
        var readers = api.MapGroup("/sample-readers").WithTags("Audiences");
        readers.MapGet("", ListAsync).WithName("listSampleReaders");
        readers.MapPut("/{id:guid}", PutAsync).WithName("putSampleReader");
        readers.MapDelete("/{id:guid}", DeleteAsync).WithName("deleteSampleReader");
        readers.MapDelete("", DeleteAllAsync).WithName("deleteSampleReaders");
        readers.MapPost("/file", ReadFileAsync).WithName("readSampleReaderFile");
    }

    public static async Task<SampleReader> FindAsync(Guid id, AudiencePlan plan, GoldenRuleDb db, CancellationToken cancel) =>
        FromStored(
            await db.SampleReaders.AsNoTracking().FirstOrDefaultAsync(r => r.Id == id, cancel)
                ?? throw ProblemException.NotFound("There is no such sample reader; it may have been deleted."),
            plan
        );

    /// <summary>A reader that is kept nowhere.</summary>
    /// <param name="values">Values by field, as JSON.</param>
    public static SampleReader MadeUp(string values, AudiencePlan plan)
    {
        try
        {
            return new SampleReader(
                Guid.Empty,
                "A made-up reader",
                JsonSerializer.Deserialize<ImmutableSortedDictionary<string, string>>(values, DocumentJson.Sent)
                    ?? throw new JsonException()
            ).Fitting(plan);
        }
        catch (JsonException)
        {
            throw ProblemException.Invalid("A made-up reader is a JSON object of texts by field, like {\"member\":\"yes\"}.", "values");
        }
    }

    private static SampleReader FromStored(StoredReader stored, AudiencePlan plan) =>
        new SampleReader(stored.Id, stored.Name, stored.Values.ToImmutableSortedDictionary(StringComparer.Ordinal)).Fitting(plan);

    private static async Task<ImmutableArray<SampleReader>> ListAsync(GoldenRuleDb db, LibraryCache library, CancellationToken cancel) =>
        await AllAsync((await library.GetAsync(db, cancel)).Audiences, db, cancel);

    public static async Task<ImmutableArray<SampleReader>> AllAsync(AudiencePlan plan, GoldenRuleDb db, CancellationToken cancel) =>
        [
            .. (await db.SampleReaders.AsNoTracking().OrderBy(r => r.Position).ThenBy(r => r.Id).ToListAsync(cancel)).Select(r =>
                FromStored(r, plan)
            ),
        ];

    private static async Task<SampleReader> PutAsync(
        Guid id,
        SampleReaderRequest request,
        ClaimsPrincipal user,
        GoldenRuleDb db,
        LibraryCache library,
        CancellationToken cancel
    )
    {
        MustKeep(user);
        var plan = (await library.GetAsync(db, cancel)).Audiences;
        var values = new Dictionary<string, string>(StringComparer.Ordinal);
        foreach (var (key, text) in request.Values)
        {
            var field = plan.FindField(key) ?? throw ProblemException.Invalid($"There is no field \"{key}\".", key);
            try
            {
                if (SampleReader.LengthFault(text) is { } length)
                {
                    throw new FormatException(length);
                }

                if (field.Read(text) is { Length: > 0 } value)
                {
                    values[key] = value;
                }
            }
            catch (FormatException fault)
            {
                throw ProblemException.Invalid($"{field.Label}: {fault.Message}", key);
            }
        }

        var name = DocumentMaker.Name(request.Name, "sample reader", 120);
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await LockAsync(db, cancel);
        var stored = await db.SampleReaders.FindAsync([id], cancel);
        if (stored is null)
        {
            var count = await db.SampleReaders.CountAsync(cancel);
            if (count >= SampleReader.Most)
            {
                throw TooMany();
            }

            stored = new StoredReader
            {
                Id = id,
                Name = name,
                Position = 1 + (await db.SampleReaders.MaxAsync(r => (int?)r.Position, cancel) ?? 0),
            };
            db.SampleReaders.Add(stored);
        }

        (stored.Name, stored.Values) = (name, values);
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(CancellationToken.None);
        return FromStored(stored, plan);
    }

    private static async Task DeleteAsync(Guid id, ClaimsPrincipal user, GoldenRuleDb db, CancellationToken cancel)
    {
        MustKeep(user);
        await db.SampleReaders.Where(r => r.Id == id).ExecuteDeleteAsync(cancel);
    }

    private static async Task DeleteAllAsync(ClaimsPrincipal user, GoldenRuleDb db, CancellationToken cancel)
    {
        MustKeep(user);
        await db.SampleReaders.ExecuteDeleteAsync(cancel);
    }

    private static async Task<ReadReaders> ReadFileAsync(
        ReaderFileRequest request,
        ClaimsPrincipal user,
        GoldenRuleDb db,
        LibraryCache library,
        CancellationToken cancel
    )
    {
        MustKeep(user);
        var plan = (await library.GetAsync(db, cancel)).Audiences;
        var read = SampleReaderFile.Read(request.Csv, plan, request.Columns, Guid.CreateVersion7, cancel);
        if (!request.Store || !read.Bad.IsEmpty)
        {
            return read;
        }

        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await LockAsync(db, cancel);
        if (await db.SampleReaders.CountAsync(cancel) + read.Readers.Length > SampleReader.Most)
        {
            throw TooMany();
        }

        var position = await db.SampleReaders.MaxAsync(r => (int?)r.Position, cancel) ?? 0;
        db.SampleReaders.AddRange(
            read.Readers.Select(r => new StoredReader
            {
                Id = r.Id,
                Name = r.Name,
                Values = new(r.Values, StringComparer.Ordinal),
                Position = ++position,
            })
        );
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(CancellationToken.None);
        return read;
    }

    private static void MustKeep(ClaimsPrincipal user) =>
        user.Person().MustBe("Sample readers are kept by leads and designers.", Role.Lead, Role.Designer);

    // Counted and added in turn: two at once would make more than there may be.
    private static Task LockAsync(GoldenRuleDb db, CancellationToken cancel) =>
        db.Database.ExecuteSqlAsync($"lock table sample_readers in share row exclusive mode", cancel);

    private static ProblemException TooMany() =>
        ProblemException.Invalid(
            $"There are at most {SampleReader.Most} sample readers. They are there to look at proofs by; delete some, or all, first."
        );
}
