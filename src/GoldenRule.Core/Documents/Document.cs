namespace GoldenRule.Core.Documents;

/// <summary>
/// What people work on and what edits change: an email, a template, a saved row or a house style.
/// Immutable; stored as JSON with a format version (see <see cref="DocumentJson"/>).
/// </summary>
public abstract record Document
{
    public int Format { get; init; } = DocumentJson.CurrentFormat;

    /// <summary>Most characters of a name.</summary>
    public const int LongestName = 200;

    public required string Name { get; init; }
}
