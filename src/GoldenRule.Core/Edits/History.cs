namespace GoldenRule.Core.Edits;

/// <summary>One stored edit, as far as undo needs to know it.</summary>
/// <param name="Step">Edits of one step are taken back together.</param>
/// <param name="Undoes">The step this one takes back or, if that was an undo, brings again. Null: it is new work.</param>
public sealed record HistoryEntry(long Sequence, Guid Step, Guid? Undoes);

/// <summary>
/// Undo and redo of one author over the stored edits, so that both work across sessions. An undo is an ordinary
/// edit that names the step it takes back; a redo takes back the undo.
/// </summary>
public sealed class History
{
    private readonly Stack<Guid> undo = new();
    private readonly Stack<Guid> redo = new();
    private Guid? lastStep;

    /// <summary>The step that undo would take back.</summary>
    public Guid? Undo => undo.TryPeek(out var step) ? step : null;

    /// <summary>The step (an undo) that redo would take back.</summary>
    public Guid? Redo => redo.TryPeek(out var step) ? step : null;

    /// <summary>The document's revision up to which the author's edits are taken in; 0 before the first.</summary>
    public long UpTo { get; private set; }

    /// <summary>Takes in the author's edits up to a revision of the document, in the order of their sequence. Known ones are passed over.</summary>
    public void Record(IEnumerable<HistoryEntry> entries, long upTo)
    {
        foreach (var entry in entries.Where(e => e.Sequence > UpTo))
        {
            Record(entry);
        }

        UpTo = Math.Max(UpTo, upTo);
    }

    /// <summary>Takes in edits just made, if everything before them is known; else they are read with the rest.</summary>
    public void Follow(long before, IEnumerable<HistoryEntry> entries)
    {
        var list = entries.ToList();
        if (UpTo == before && list.Count > 0)
        {
            Record(list, list[^1].Sequence);
        }
    }

    private void Record(HistoryEntry entry)
    {
        if (entry.Step == lastStep)
        {
            return;
        }

        lastStep = entry.Step;
        if (entry.Undoes is { } undone && undo.TryPeek(out var top) && top == undone)
        {
            undo.Pop();
            redo.Push(entry.Step);
        }
        else if (entry.Undoes is { } redone && redo.TryPeek(out var next) && next == redone)
        {
            redo.Pop();
            undo.Push(entry.Step);
        }
        else
        {
            undo.Push(entry.Step);
            redo.Clear();
        }
    }
}
