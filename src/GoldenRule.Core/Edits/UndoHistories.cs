using System.Collections.Concurrent;

namespace GoldenRule.Core.Edits;

/// <summary>Undo and redo of one document, for each of its authors.</summary>
public sealed class UndoHistories
{
    private readonly ConcurrentDictionary<Guid, UndoHistory> byAuthor = new();

    public UndoHistory Of(Guid author) => byAuthor.GetOrAdd(author, static _ => new UndoHistory());

    /// <summary>How many authors it knows.</summary>
    public int People => byAuthor.Count;

    /// <summary>How many steps it knows of all of them.</summary>
    public int Steps => byAuthor.Values.Sum(history => history.Steps);

    /// <summary>Takes in edits that one of them just made: nobody else has anything to undo in them.</summary>
    /// <param name="before">The document's revision before them.</param>
    public void Follow(Guid author, long before, IReadOnlyCollection<HistoryEntry> made)
    {
        foreach (var (person, history) in byAuthor)
        {
            history.Follow(before, before + made.Count, person == author ? made : []);
        }
    }
}
