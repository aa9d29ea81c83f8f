using System.Runtime.CompilerServices;
using System.Text.RegularExpressions;
using GoldenRule.Core.Checking;
using GoldenRule.Core.Compiling;

namespace GoldenRule.Core.Tests;

/// <summary>A new block kind or check is one file and one line in a list: nothing else knows them by name.</summary>
public sealed partial class ExtensionTests
{
    private static readonly string Core = Path.Combine(Path.GetDirectoryName(Here())!, "../../src/GoldenRule.Core");

    [Fact]
    public void Every_block_kind_is_one_file_and_one_line()
    {
        var files = Directory.EnumerateFiles(Path.Combine(Core, "Compiling/Blocks"), "*.cs").Select(Path.GetFileNameWithoutExtension);
        Assert.Equal(files.Order(StringComparer.Ordinal), BlockKinds.All.Select(k => k.GetType().Name).Order(StringComparer.Ordinal));
        Assert.Equal(BlockKinds.All.Length, BlockKinds.All.Select(k => k.Name).Distinct().Count());
    }

    [Fact]
    public void Every_check_is_one_file_and_stands_in_the_list()
    {
        var files = Directory.EnumerateFiles(Path.Combine(Core, "Checking/Checks"), "*Check.cs").Select(Path.GetFileNameWithoutExtension);
        Assert.Equal(
            files.Order(StringComparer.Ordinal),
            CheckList.All.Select(c => c.GetType().Name).Distinct().Order(StringComparer.Ordinal)
        );
        Assert.Equal(CheckList.All.Length, CheckList.All.Select(c => c.Name).Distinct().Count());
    }

    [Fact]
    public void Nothing_asks_a_block_kind_or_a_check_for_its_name()
    {
        var asking = Directory
            .EnumerateFiles(Core, "*.cs", SearchOption.AllDirectories)
            .Concat(Directory.EnumerateFiles(Path.Combine(Core, "../GoldenRule.Server"), "*.cs", SearchOption.AllDirectories))
            .Where(f => !f.Contains("/obj/", StringComparison.Ordinal))
            .SelectMany(f => Asked().Matches(File.ReadAllText(f)).Select(m => $"{Path.GetFileName(f)}: {m.Value}"))
            .ToList();
        Assert.Empty(asking);
    }

    private static string Here([CallerFilePath] string path = "") => path;

    // "block.Kind == "text"", "kind.Name is not ("heading"", "Kind switch { "button" =>", "f.Check == "link"".
    [GeneratedRegex(@"(\bKind|[kK]ind\.Name|\bCheck)\s*(==|!=|is|is not|switch\s*\{)\s*\(?\s*""[^""]*""")]
    private static partial Regex Asked();
}
