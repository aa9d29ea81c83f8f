using System.Runtime.CompilerServices;
using System.Text.RegularExpressions;

namespace GoldenRule.Core.Tests;

/// <summary>Arrows point one way: a folder of the core uses only those before it in this list.</summary>
public sealed partial class ArrowTests
{
    private static readonly string[] Order =
    [
        "Documents",
        "Languages",
        "HouseStyles",
        "Audiences",
        "Edits",
        "Updates",
        "Governance",
        "Resolving",
        "Compiling",
        "Validation",
        "Checking",
        "Releases",
        "Reviews",
        "Coverage",
        "Specimens",
        "History",
        "Interchange",
        "Merging",
        "HandOffs",
        "Sending",
    ];

    [Fact]
    public void Folders_of_the_core_use_only_those_before_them()
    {
        var core = Path.Combine(Path.GetDirectoryName(Here())!, "../../src/GoldenRule.Core");
        var files = Directory
            .EnumerateFiles(core, "*.cs", SearchOption.AllDirectories)
            .Select(f => (File: f, Folder: Path.GetRelativePath(core, f).Split('/')[0]))
            .Where(f => f.Folder is not ("obj" or "bin"))
            .ToList();
        Assert.True(files.Count > 40);
        foreach (var (file, folder) in files)
        {
            Assert.Contains(folder, Order);
            foreach (Match used in Used().Matches(File.ReadAllText(file)))
            {
                Assert.True(
                    Array.IndexOf(Order, used.Groups[1].Value) <= Array.IndexOf(Order, folder),
                    $"{file} uses {used.Groups[1].Value}"
                );
            }
        }
    }

    [Fact]
    public void The_core_knows_no_database_web_or_clock()
    {
        var references = typeof(Documents.Email).Assembly.GetReferencedAssemblies().Select(a => a.Name!).ToList();
        Assert.DoesNotContain(references, r =>
            r.Contains("AspNetCore", StringComparison.Ordinal)
            || r.Contains("EntityFramework", StringComparison.Ordinal)
            || r.Contains("Npgsql", StringComparison.Ordinal)
        );
    }

    private static string Here([CallerFilePath] string path = "") => path;

    [GeneratedRegex(@"GoldenRule\.Core\.(\w+)")]
    private static partial Regex Used();
}
