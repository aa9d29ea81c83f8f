namespace GoldenRule.Core.Compiling;

/// <summary>FNV-1a, 32 bits (Fowler, Noll, Vo): the same for the same text on every machine.</summary>
internal static class Fnv1a
{
    public static uint Hash(string text)
    {
        var hash = 2166136261u;
        foreach (var c in text)
        {
            hash = (hash ^ c) * 16777619;
        }

        return hash;
    }
}
