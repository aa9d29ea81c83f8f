using GoldenRule.Data;

namespace GoldenRule.Server.Hosting;

/// <summary>Documents in the order that lists have them: the one changed last first, its id telling equals apart.</summary>
public static class NewestFirst
{
    /// <param name="after">The key that the page before ended with; null: from the first.</param>
    /// <exception cref="ProblemException">The key cannot be read.</exception>
    public static IOrderedQueryable<StoredDocument> Newest(this IQueryable<StoredDocument> documents, string? after = null)
    {
        if (PageKey<Guid>.Read(after) is { } key)
        {
            documents = documents.Where(d => d.ChangedAt < key.At || (d.ChangedAt == key.At && d.Id < key.Id));
        }

        return documents.OrderByDescending(d => d.ChangedAt).ThenByDescending(d => d.Id);
    }
}
