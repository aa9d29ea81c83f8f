namespace GoldenRule.Core.Edits;

/// <summary>One stored edit, as far as undo needs to know it.</summary>
/// <param name="Step">Edits of one step are taken back together.</param>
/// <param name="Undoes">The step this one takes back or, if that was an undo, brings again. Null: it is new work.</param>
public sealed record HistoryEntry(long Sequence, Guid Author, Guid Step, Guid? Undoes);

/// <summary>
/// Undo and redo of one author over the stored edits, so that both work across sessions. An undo is an ordinary
/// edit that names the step it takes back; a redo takes back the undo.
/// </summary>
public sealed class History
{
    private readonly Stack<Guid> undo = new();
    private readonly Stack<Guid> redo = new();

    public History(IEnumerable<HistoryEntry> entries, Guid author)
    {
        Guid? last = null;
        foreach (var entry in entries.Where(e => e.Author == author).OrderBy(e => e.Sequence))
        {
            if (entry.Step == last)
            {
                continue;
            }

            last = entry.Step;
            Record(entry);
        }
    }

    /// <summary>The step that undo would take back.</summary>
    public Guid? Undo => undo.TryPeek(out var step) ? step : null;

    /// <summary>The step (an undo) that redo would take back.</summary>
    public Guid? Redo => redo.TryPeek(out var step) ? step : null;

    private void Record(HistoryEntry entry)
    {
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
