using GoldenRule.Core.Documents;
using GoldenRule.Core.Resolving;

namespace GoldenRule.Core.Compiling;

/// <summary>What an email is compiled for.</summary>
public enum Purpose
{
    /// <summary>To be looked at while it is made: rows and pieces carry their ids.</summary>
    Proof,

    /// <summary>To be sent: nothing but the email.</summary>
    Sending,
}

/// <summary>What stays the same from row to row while an email is compiled.</summary>
/// <param name="PicturesAt">Address that picture files stand under, with its closing slash.</param>
public readonly record struct Press(Dress Dress, PictureShelf Pictures, string PicturesAt, Purpose Purpose)
{
    /// <summary>Whether rows and pieces carry their ids.</summary>
    public bool Marks => Purpose == Purpose.Proof;

    public BlockView View(ResolvedBlock block, Surface surface, int width) => new(block, Dress, Dress[surface], width, Pictures, PicturesAt);
}
