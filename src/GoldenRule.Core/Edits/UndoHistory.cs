namespace GoldenRule.Core.Edits;

/// <summary>One stored edit, as far as undo needs to know it.</summary>
/// <param name="Step">Edits of one step are taken back together.</param>
/// <param name="Undoes">The step this one takes back or, if that was an undo, brings again. Null: it is new work.</param>
public sealed record HistoryEntry(long Sequence, Guid Step, Guid? Undoes);

/// <summary>
/// Undo and redo of one author over the stored edits, so that both work across sessions. An undo is an ordinary
/// edit that names the step it takes back; a redo takes back the undo.
/// </summary>
public sealed class UndoHistory
{
    private readonly System.Threading.Lock turn = new();
    private readonly List<Guid> undo = [];
    private readonly List<Guid> redo = [];
    private Guid? lastStep;

    /// <summary>The step that undo would take back, or the undo that redo would. Null: there is none.</summary>
    /// <param name="skipped">Steps that are passed over, as they cannot be taken back.</param>
    public Guid? Next(bool redo, IReadOnlyCollection<Guid> skipped)
    {
        lock (turn)
        {
            var steps = redo ? this.redo : undo;
            return steps.FindLastIndex(step => !skipped.Contains(step)) is >= 0 and var at ? steps[at] : null;
        }
    }

    /// <summary>How many steps it knows.</summary>
    public int Steps
    {
        get
        {
            lock (turn)
            {
                return undo.Count + redo.Count;
            }
        }
    }

    /// <summary>The document's revision up to which the author's edits are taken in; 0 before the first.</summary>
    public long UpTo { get; private set; }

    /// <summary>
    /// Takes in the author's edits up to a revision of the document, in the order of their sequence. Known ones are passed over.
    /// </summary>
    public void Record(IEnumerable<HistoryEntry> entries, long upTo)
    {
        lock (turn)
        {
            foreach (var entry in entries.Where(e => e.Sequence > UpTo))
            {
                Record(entry);
            }

            UpTo = Math.Max(UpTo, upTo);
        }
    }

    /// <summary>Takes in edits just made, if everything before them is known; else they are read with the rest.</summary>
    public void Follow(long before, long upTo, IEnumerable<HistoryEntry> entries)
    {
        if (UpTo == before)
        {
            Record(entries, upTo);
        }
    }

    private void Record(HistoryEntry entry)
    {
        if (entry.Step == lastStep)
        {
            return;
        }

        lastStep = entry.Step;
        if (entry.Undoes is { } undone && undo.Remove(undone))
        {
            redo.Add(entry.Step);
        }
        else if (entry.Undoes is { } redone && redo.Remove(redone))
        {
            undo.Add(entry.Step);
        }
        else
        {
            undo.Add(entry.Step);
            redo.Clear();
        }
    }
}
