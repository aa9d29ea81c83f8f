using System.Globalization;

namespace GoldenRule.Core.Tests;

/// <summary>How often what is read is mutated, and from which seed: tests/fuzz/run asks for more.</summary>
internal static class FuzzSettings
{
    public static int Seed => Setting("FUZZ_SEED", 20261129);

    public static int Mutations => Setting("FUZZ_MUTATIONS", 2_000);

    private static int Setting(string name, int otherwise) =>
        int.TryParse(Environment.GetEnvironmentVariable(name), CultureInfo.InvariantCulture, out var set) ? set : otherwise;
}
