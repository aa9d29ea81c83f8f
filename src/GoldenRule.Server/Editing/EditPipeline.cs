using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Core.Governance;
using GoldenRule.Core.HouseStyles;
using GoldenRule.Core.Validation;
using GoldenRule.Data;
using GoldenRule.Server.Hosting;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Storage;

namespace GoldenRule.Server.Editing;

/// <summary>An edit as the client sends it.</summary>
/// <param name="Id">UUIDv7 made by the client: sent twice, it is stored once.</param>
/// <param name="Step">Edits of one step are undone together; typing is one step until it pauses.</param>
public sealed record SentEdit(Guid Id, Guid Step, Edit Edit);

/// <param name="Base">The revision the sender had seen when they were made: what others set since is a conflict.</param>
/// <param name="Own">Edits of the same window that were stored since; they are none. Null: there are none.</param>
/// <param name="Seen">The revision the sender has seen by now, where that is newer; null: it is not.</param>
public sealed record EditsRequest(long Base, ImmutableArray<SentEdit> Edits, ImmutableArray<Guid>? Own = null, long? Seen = null);

/// <param name="Id">UUIDv7 made by the client, as for an edit.</param>
/// <param name="Skip">Steps that could not be taken back and are passed over; null: none.</param>
public sealed record UndoRequest(Guid Id, ImmutableArray<Guid>? Skip = null);

/// <summary>
/// The main road: decide, apply, complete, compile, append, all in one transaction that holds the document's row. Nothing
/// is acknowledged before it is stored, nothing is stored that cannot be drawn, and a refused edit leaves no trace.
/// </summary>
public sealed class EditPipeline(
    GoldenRuleDb db,
    LibraryCache library,
    HeadCache heads,
    CompilationCache compilations,
    HistoryGrowth growth,
    TimeProvider clock,
    ILogger<EditPipeline> log
)
{
    public async Task<LoadedDocument> LoadAsync(DocumentKind kind, Guid id, CancellationToken cancel)
    {
        var snapshot = await library.GetAsync(db, cancel);
        var stored = await db.Documents.AsNoTracking().FirstOrDefaultAsync(d => d.Id == id && d.Kind == kind, cancel)
            ?? throw NotFound(kind);
        return heads.Open(stored, snapshot);
    }

    public async Task<LoadedDocument> EditAsync(
        DocumentKind kind,
        Guid id,
        Person person,
        EditsRequest request,
        CancellationToken cancel
    ) => await EditAsync(kind, id, person, request, static loaded => loaded, cancel);

    /// <param name="lay">
    /// What the answer says of the document, made while the database stores it: of what it is given alone, without asking the database.
    /// </param>
    public async Task<T> EditAsync<T>(
        DocumentKind kind,
        Guid id,
        Person person,
        EditsRequest request,
        Func<LoadedDocument, T> lay,
        CancellationToken cancel
    )
    {
        if (request.Edits.Length > Bounds.EditsInRequest)
        {
            throw ProblemException.Invalid(
                $"One request holds at most {Bounds.EditsInRequest:N0} edits; this one has {request.Edits.Length:N0}. Send them in several."
            );
        }

        try
        {
            return await EditAsync(kind, id, person, request, repeated: false, lay, cancel);
        }
        catch (Exception fault)
            when (fault is ProblemException or StructureException || (fault is DbUpdateException stored && stored.IsTaken()))
        {
            // A browser that ended before it heard that they are stored has seen their revision since, and sends them again.
            db.ChangeTracker.Clear();
            var ids = request.Edits.Select(e => e.Id).ToList();
            if (!await db.Edits.AnyAsync(e => e.DocumentId == id && ids.Contains(e.Id), cancel))
            {
                throw;
            }

            return await EditAsync(kind, id, person, request, repeated: true, lay, cancel);
        }
    }

    // What is sent is taken to be new: asking would cost every key an answer of the database, and what is not is refused by its id.
    private Task<T> EditAsync<T>(
        DocumentKind kind,
        Guid id,
        Person person,
        EditsRequest request,
        bool repeated,
        Func<LoadedDocument, T> lay,
        CancellationToken cancel
    ) =>
        ChangeAsync(
            kind,
            id,
            person,
            null,
            async (stored, _) =>
            {
                var ids = request.Edits.Select(e => e.Id).ToList();
                // What was stored already is a repeat of a request whose answer was lost.
                var known = repeated
                    ? await db.Edits.Where(e => e.DocumentId == id && ids.Contains(e.Id)).Select(e => e.Id).ToListAsync(cancel)
                    : [];
                var fresh = request.Edits.Where(e => !known.Contains(e.Id)).ToList();
                if (fresh.Count > 0 && request.Base != stored.Revision)
                {
                    await db.RefuseConflictsAsync(id, request.Base, [.. ids, .. request.Own ?? []], fresh, person, cancel);
                }

                return fresh;
            },
            lay,
            cancel
        );

    /// <summary>Takes back the person's last step, or with <paramref name="redo"/> brings it again.</summary>
    /// <exception cref="ProblemException">Says why it cannot be, and which step it is.</exception>
    public async Task<LoadedDocument> UndoAsync(
        DocumentKind kind,
        Guid id,
        Person person,
        UndoRequest request,
        bool redo,
        CancellationToken cancel
    ) => await UndoAsync(kind, id, person, request, redo, static loaded => loaded, cancel);

    /// <param name="lay">As for an edit.</param>
    public async Task<T> UndoAsync<T>(
        DocumentKind kind,
        Guid id,
        Person person,
        UndoRequest request,
        bool redo,
        Func<LoadedDocument, T> lay,
        CancellationToken cancel
    )
    {
        Guid? step = null;
        try
        {
            return await ChangeAsync(
                kind,
                id,
                person,
                async stored => step = (await ReadHistoryAsync(stored, person.Id, cancel)).Next(redo, request.Skip ?? []),
                async (_, _) =>
                    await db.Edits.AnyAsync(e => e.DocumentId == id && e.Id == request.Id, cancel)
                        ? []
                        : await InversesAsync(
                            id,
                            person,
                            request.Id,
                            step
                                ?? throw ProblemException.Invalid(
                                    redo ? "There is nothing to bring back." : "There is nothing of yours to take back."
                                ),
                            cancel
                        ),
                lay,
                cancel
            );
        }
        catch (Exception fault) when (step is not null && fault is ProblemException or StructureException)
        {
            var problem = fault is StructureException cannot
                ? ProblemException.Invalid(cannot.Message, cannot.Piece)
                : (ProblemException)fault;
            problem.Details.Extensions["step"] = step;
            throw problem;
        }
    }

    private async Task<IReadOnlyList<SentEdit>> InversesAsync(Guid id, Person person, Guid requestId, Guid step, CancellationToken cancel)
    {
        var taken = await db
            .Edits.AsNoTracking()
            .Where(e => e.DocumentId == id && e.Step == step)
            .OrderByDescending(e => e.Sequence)
            .ToListAsync(cancel);
        var inverses = taken.Select(e => DocumentJson.ReadEdit<Edit>(e.Inverse)).ToList();
        var targets = taken.Select(e => e.Target).Where(t => t is not null).ToList();
        var newest = taken[0].Sequence;
        var others = db.Edits.Where(e => e.DocumentId == id && e.Sequence > newest && e.AuthorId != person.Id);
        if (
            await others.AnyAsync(e => targets.Contains(e.Target), cancel)
            || (
                inverses.Any(i => i.RemovesBlocks)
                && (await others.Select(e => e.Body).ToListAsync(cancel)).Exists(body => inverses.Exists(i => i.TakesAway(body)))
            )
        )
        {
            throw new ProblemException(
                409,
                "conflict",
                "Changed since",
                "Someone else has changed this since; taking yours back would lose theirs."
            );
        }

        return [.. inverses.Select((inverse, i) => new SentEdit(i == 0 ? requestId : Guid.CreateVersion7(), requestId, inverse))];
    }

    public async Task<(bool Undo, bool Redo)> HistoryAsync(LoadedDocument loaded, Guid person, CancellationToken cancel)
    {
        var history = await ReadHistoryAsync(loaded.Stored, person, cancel);
        return (history.Next(redo: false, []) is not null, history.Next(redo: true, []) is not null);
    }

    /// <summary>Applies every stored edit to the origin. Equals the head, or something is broken.</summary>
    public async Task<(long Revision, Document Replayed, Document Head)> ReplayAsync(DocumentKind kind, Guid id, CancellationToken cancel)
    {
        var stored = await db.Documents.AsNoTracking().FirstOrDefaultAsync(d => d.Id == id && d.Kind == kind, cancel)
            ?? throw NotFound(kind);
        var masters = (await library.GetAsync(db, cancel)).Masters;
        return (
            stored.Revision,
            Structure.Complete(await db.ReplayFromOriginAsync(stored, stored.Revision, cancel), masters),
            Structure.Complete(StoredForm.Read(kind, stored.Head), masters)
        );
    }

    /// <summary>An email as it stood at a revision, beside what it is now.</summary>
    public async Task<(LoadedDocument Now, Email Former)> AtAsync(Guid email, long revision, CancellationToken cancel)
    {
        var loaded = await LoadAsync(DocumentKind.Email, email, cancel);
        return revision >= 0 && revision <= loaded.Stored.Revision
            ? (loaded, (Email)Structure.Complete(await db.AtAsync(loaded.Stored, revision, cancel), loaded.Library.Masters))
            : throw ProblemException.NotFound($"The email has no revision {revision}; its last is {loaded.Stored.Revision}.");
    }

    public static OpenDocument Open(LoadedDocument loaded)
    {
        var open = OpenDocument.Open(
            loaded.Document,
            loaded.Library.Masters,
            loaded.Stored.State,
            loaded.Document.HasRows ? loaded.Layout.Order : null,
            loaded.Library.Plan.Teams
        );
        // An email stays what it was begun as, whatever its template is for by now.
        return open is OpenDocument.OfEmail && loaded.Stored.CampaignType is { } type ? open with { CampaignTypes = [type] } : open;
    }

    private async Task<T> ChangeAsync<T>(
        DocumentKind kind,
        Guid id,
        Person person,
        Func<StoredDocument, Task<Guid?>>? undone,
        Func<StoredDocument, Guid?, Task<IReadOnlyList<SentEdit>>> edits,
        Func<LoadedDocument, T> lay,
        CancellationToken cancel
    )
    {
        var known = heads.Find(id);
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        // Each answer waited for costs more than all it brings: the library's version comes with the document.
        var found = await db.Locked(id, known?.Revision)
            .Select(d => new { Stored = d, Library = db.LibraryStamp.Select(s => s.Version).Single() })
            .FirstOrDefaultAsync(cancel);
        if (found?.Stored is not { } stored || stored.Kind != kind)
        {
            throw NotFound(kind);
        }

        var snapshot = await library.GetAsync(db, found.Library, cancel);
        if (kind == DocumentKind.Email && !snapshot.Plan.Teams.Sees(person, stored.CampaignType))
        {
            throw NotFound(kind);
        }

        var before = known is { } held && held.Revision == stored.Revision ? held.Head : heads.Load(stored, snapshot.Masters);
        var loaded = new LoadedDocument(stored, before, snapshot);
        var step = undone is null ? null : await undone(stored);
        var sent = await edits(stored, step);
        var characters = 0L;
        foreach (var one in sent)
        {
            cancel.ThrowIfCancellationRequested();
            var (after, stores) = Append(loaded, person, one, step);
            loaded = loaded.With(after);
            characters += stores;
        }

        if (sent.Count == 0)
        {
            return lay(loaded);
        }

        // What is sent together holds together: an edit of several may refer to what a later one brings.
        DocumentBounds.Check(loaded.Document, before.Document);
        loaded = await Validity.CompleteAsync(before, loaded, db, cancel);
        loaded = loaded.Document.HasRows ? loaded with { CompiledRevision = Compiled(loaded, cancel) } : loaded;
        await db.FollowReferencesAsync(stored, before.References, loaded.Head.References, cancel);
        stored.Head = StoredForm.Write(loaded.Document);
        db.KeepSnapshot(stored, stored.Revision - sent.Count);
        stored.UpdateIndexColumns(loaded.Document);
        stored.ChangedAt = clock.GetUtcNow().UtcDateTime;
        // What was approved, or is looked at, is not what it is now.
        stored.State = stored.State is EmailState.Approved or EmailState.InReview ? EmailState.Draft : stored.State;
        growth.Count(id, characters);
        var storing = StoreAsync(transaction, cancel);
        T laid;
        try
        {
            laid = lay(loaded);
        }
        finally
        {
            await storing;
        }

        heads.Keep(stored, loaded.Head);
        if (loaded.CompiledRevision is { } compiledRevision)
        {
            compilations.Keep(id, compiledRevision);
        }

        var former = stored.Revision - sent.Count;
        heads.Histories(id).Follow(person.Id, former, [.. sent.Select((s, i) => new HistoryEntry(former + 1 + i, s.Step, step))]);
        return laid;
    }

    private async Task StoreAsync(IDbContextTransaction transaction, CancellationToken cancel)
    {
        // Should this fail, the whole of it is taken back: there is nothing to go back to in between.
        db.Database.AutoSavepointsEnabled = false;
        await db.SaveChangesAsync(cancel);
        // Nobody who leaves now makes an answer that says it is not stored.
        await transaction.CommitAsync(CancellationToken.None);
    }

    // Whatever it is that cannot be drawn: it is not stored, and whoever wrote it hears so.
    private CompiledRevision Compiled(LoadedDocument loaded, CancellationToken cancel)
    {
        try
        {
            return compilations.Prepare(loaded, cancel);
        }
        catch (Exception fault) when (fault is not (StructureException or ProblemException or OperationCanceledException))
        {
            log.LogError(fault, "{Kind} {Id} could not be compiled after an edit", loaded.Stored.Kind, loaded.Stored.Id);
            throw ProblemException.Invalid("What this would make cannot be drawn, so it was not stored. The document is as it was.");
        }
    }

    // The document after the edit, and how many characters its history grows by.
    private (Document After, int Characters) Append(LoadedDocument loaded, Person person, SentEdit sent, Guid? undoes)
    {
        var open = Open(loaded);
        var decision = undoes is null ? Governor.Decide(person, sent.Edit, open) : Governor.DecideUndo(person, sent.Edit, open);
        if (decision is Decision.Refused refused)
        {
            throw ProblemException.Refused(refused);
        }

        var after = EditApplication.Apply(sent.Edit, loaded.Document);
        var (body, inverse) = (DocumentJson.Write(sent.Edit), DocumentJson.Write(sent.Edit.Invert(loaded.Document)));
        loaded.Stored.Revision++;
        db.Edits.Add(
            new StoredEdit
            {
                DocumentId = loaded.Stored.Id,
                Sequence = loaded.Stored.Revision,
                Id = sent.Id,
                AuthorId = person.Id,
                At = clock.GetUtcNow().UtcDateTime,
                Step = sent.Step,
                Undoes = undoes,
                Target = sent.Edit.Target,
                Body = body,
                Inverse = inverse,
            }
        );
        return (after, body.Length + inverse.Length);
    }

    private async Task<UndoHistory> ReadHistoryAsync(StoredDocument stored, Guid person, CancellationToken cancel)
    {
        var histories = heads.Histories(stored.Id);
        var history = histories.Of(person);
        if (history.UpTo != stored.Revision)
        {
            var since = await db
                .Edits.Where(e =>
                    e.DocumentId == stored.Id && e.AuthorId == person && e.Sequence > history.UpTo && e.Sequence <= stored.Revision
                )
                .OrderBy(e => e.Sequence)
                .Select(e => new HistoryEntry(e.Sequence, e.Step, e.Undoes))
                .ToListAsync(cancel);
            history.Record(since, stored.Revision);
            heads.Keep(stored.Id, histories);
        }

        return history;
    }

    internal static ProblemException NotFound(DocumentKind kind) =>
        ProblemException.NotFound(
            kind switch
            {
                DocumentKind.Email => "There is no such email.",
                DocumentKind.Template => "There is no such template.",
                DocumentKind.Row => "There is no such saved row.",
                DocumentKind.Snippet => "There is no such snippet.",
                _ => "There is no such house style.",
            }
        );
}
