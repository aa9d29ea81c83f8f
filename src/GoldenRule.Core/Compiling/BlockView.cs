using GoldenRule.Core.Documents;
using GoldenRule.Core.Resolving;

namespace GoldenRule.Core.Compiling;

/// <summary>A block where it is being written: its values, its dress, and the width it has.</summary>
/// <param name="Width">CSS pixels of the column inside its padding.</param>
/// <param name="PicturesAt">Address that picture files stand under, with its closing slash.</param>
public readonly record struct BlockView(
    ResolvedBlock Block, Dress Dress, SurfaceDress Surface, int Width, PictureShelf Pictures, string PicturesAt)
{
    public string Look(string property) => Block.Look[property];
}
