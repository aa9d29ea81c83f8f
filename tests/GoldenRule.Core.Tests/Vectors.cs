using System.Globalization;

namespace GoldenRule.Core.Tests;

/// <summary>Published or independently computed figures, one case a line.</summary>
internal static class Vectors
{
    public static IReadOnlyList<string[]> Read(string name) =>
        [.. File.ReadLines(Path.Combine(AppContext.BaseDirectory, "Vectors", name)).Select(l => l.Split(','))];

    public static double Number(string text) => double.Parse(text, CultureInfo.InvariantCulture);
}
