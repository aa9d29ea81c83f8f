using System.Reflection;
using System.Threading;
using GoldenRule.Core.Checking;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Interchange;
using GoldenRule.Core.Releases;
using GoldenRule.Core.Resolving;
using GoldenRule.Core.Sending;

namespace GoldenRule.Core.Tests;

/// <summary>Long work ends where nobody waits for it any more, or where it takes too much.</summary>
public sealed class CancellationTests
{
    private static readonly CancellationToken Ended = new(canceled: true);

    private static readonly Dictionary<string, Action<CancellationToken>> Work = new(StringComparer.Ordinal)
    {
        ["Resolver.Resolve"] = cancel =>
            Resolver.Resolve(
                Larkfell.Gazette,
                RunningOrder.From(Larkfell.Gazette, Larkfell.Masters),
                Larkfell.Style,
                Larkfell.Pictures,
                null,
                null,
                cancel
            ),
        ["Compiler.Compile"] = cancel => Compiler.Compile(Larkfell.Resolve(Larkfell.Gazette), "", Purpose.Sending, null, cancel),
        ["CheckList.Run"] = cancel =>
            CheckList.Run(
                new Inspection(Larkfell.Resolve(Larkfell.Gazette), Larkfell.Compile(Larkfell.Gazette), CheckContext.Usual),
                null,
                cancel
            ),
        ["CopyDeck.Read"] = cancel => CopyDeck.Read("Key,Text\nhero/headline/text,Steam\n", Places, _ => true, cancel),
        ["CopyLayout.Plan"] = cancel =>
            CopyLayout.Plan(PastedText.Read("# One\n\nWords\n"), Larkfell.Open(Larkfell.Gazette), Larkfell.Author, () => "new", cancel),
        ["CssReader.Read"] = cancel => CssReader.Read(":root{--brand:#123456}", cancel),
        ["DesignTokensReader.Read"] = cancel => DesignTokensReader.Read("""{"brand":{"$type":"color","$value":"#123456"}}""", cancel),
        ["PastedHtml.Read"] = cancel => PastedHtml.Read("<p>Words</p>", cancel),
        ["PastedText.Read"] = cancel => PastedText.Read("Words", cancel),
        ["Reach.NewBlockers"] = cancel =>
            Reach.NewBlockers(
                new ReachedEmail(Larkfell.Gazette, RunningOrder.From(Larkfell.Gazette, Larkfell.Masters), CheckContext.Usual),
                Larkfell.Style,
                Larkfell.Style,
                Larkfell.Pictures,
                cancel
            ),
        ["RecipientFile.Read"] = cancel => RecipientFile.Read("Email\nada@example.org\n"u8.ToArray(), Larkfell.Audiences, cancel),
        ["SampleReaderFile.Read"] = cancel => SampleReaderFile.Read("First name\nAda\n", Larkfell.Audiences, null, Guid.NewGuid, cancel),
        ["Replacing.Plan"] = cancel => new Replacing("steam", "smoke").Plan(Places, cancel),
    };

    private static CopyPlaces Places => new(Larkfell.Open(Larkfell.Gazette), Larkfell.Author);

    /// <summary>Whatever of the core can be ended is here.</summary>
    [Fact]
    public void Everything_that_can_be_ended_ends()
    {
        var all = typeof(Compiler)
            .Assembly.GetExportedTypes()
            .SelectMany(t => t.GetMethods(BindingFlags.Public | BindingFlags.Static | BindingFlags.Instance | BindingFlags.DeclaredOnly))
            .Where(m => m.GetParameters().Any(p => p.ParameterType == typeof(CancellationToken)))
            .Select(m => $"{m.DeclaringType!.Name}.{m.Name}")
            .Distinct(StringComparer.Ordinal)
            .Order(StringComparer.Ordinal);
        Assert.Equal(Work.Keys.Order(StringComparer.Ordinal), all);
        foreach (var (name, work) in Work)
        {
            work(CancellationToken.None);
            Assert.True(Record.Exception(() => work(Ended)) is OperationCanceledException, name);
        }
    }
}
