namespace GoldenRule.Core.Documents;

/// <summary>
/// How much there may be of anything: far more than an email needs, and little enough that whatever someone sends costs
/// no one else their turn. What is stored already is opened whatever its size.
/// </summary>
public static class Bounds
{
    /// <summary>Characters of one text that is sent, where nothing else is said of it.</summary>
    public const int Text = 100_000;

    /// <summary>Items of one list that is sent.</summary>
    public const int Items = 5_000;

    public const int EditsInRequest = 1_000;

    public const int BlocksInRow = 100;

    public const int RowsInDocument = 300;

    /// <summary>Of one house style.</summary>
    public const int Variables = 1_000;
}

/// <summary>Characters of a text that is sent, where they may be more than <see cref="Bounds.Text"/>.</summary>
[AttributeUsage(AttributeTargets.Property)]
public sealed class LongestAttribute(int characters) : Attribute
{
    public int Characters { get; } = characters;
}
