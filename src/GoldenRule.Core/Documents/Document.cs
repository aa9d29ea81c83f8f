using System.Text.Json.Serialization;

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

    /// <summary>Whether it is made of rows, and can be drawn.</summary>
    [JsonIgnore]
    public bool HasRows => this is Email or Template or SavedRow;
}
