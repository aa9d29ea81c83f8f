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

    /// <summary>The email's dress, or that of a row which narrows the house style for itself.</summary>
    public Dress DressOf(ResolvedRow row) => ReferenceEquals(row.Style, Dress.Style) ? Dress : Dress.Of(row.Style);

    /// <param name="row">The row the block stands in: its dress holds.</param>
    public BlockView View(ResolvedRow row, ResolvedBlock block, int width)
    {
        var dress = DressOf(row);
        return new BlockView(block, dress, dress[row.Surface], width, Pictures, PicturesAt);
    }
}
