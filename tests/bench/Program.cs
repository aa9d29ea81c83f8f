using System.Text;
using BenchmarkDotNet.Attributes;
using BenchmarkDotNet.Configs;
using BenchmarkDotNet.Diagnosers;
using BenchmarkDotNet.Exporters.Json;
using BenchmarkDotNet.Jobs;
using BenchmarkDotNet.Loggers;
using BenchmarkDotNet.Running;
using BenchmarkDotNet.Toolchains.InProcess.Emit;
using GoldenRule.Core.Checking;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Core.Resolving;
using GoldenRule.Core.Tests;

// The core's share of ./bench. Writes the email it compiles, so that the peers read the same one, and the figures.
var folder = args[0];
var thirty = Work.Make(30);
Directory.CreateDirectory(folder);
await File.WriteAllBytesAsync(Path.Combine(folder, "email.html"), Larkfell.Compile(thirty).Html());
BenchmarkRunner.Run<Work>(ManualConfig.CreateEmpty()
    .AddJob(Job.Default.WithToolchain(InProcessEmitToolchain.Instance).WithWarmupCount(3).WithIterationCount(9))
    .AddDiagnoser(MemoryDiagnoser.Default)
    .AddColumnProvider(BenchmarkDotNet.Columns.DefaultColumnProviders.Instance)
    .AddExporter(JsonExporter.Brief)
    .AddLogger(NullLogger.Instance)
    .WithArtifactsPath(folder));

/// <summary>What the heart of the job costs, by number of rows.</summary>
public class Work
{
    private Email email = null!;
    private Email edited = null!;
    private ResolvedEmail resolved = null!;
    private CompiledEmail compiled = null!;
    private string characters = "";
    private byte[] encoded = [];

    [Params(5, 30, 120)]
    public int Rows { get; set; }

    /// <summary>The demo's gazette with stories repeated until it has this many rows.</summary>
    public static Email Make(int rows)
    {
        var email = Larkfell.Gazette;
        var stories = email.Zones["stories"];
        var added = Enumerable.Range(0, Math.Max(0, rows - 8)).Select(i => stories[i % stories.Length] with { Id = $"story{i}" });
        var kept = rows < 8 ? stories.Take(Math.Max(1, rows - 5)) : stories.Concat(added);
        return email with { Zones = email.Zones.SetItem("stories", [.. kept]) };
    }

    [GlobalSetup]
    public void Setup()
    {
        email = Make(Rows);
        edited = (Email)new SetFill("viaduct", "headline", "text", new FieldValue.Words("Another headline")).Apply(email);
        resolved = Larkfell.Resolve(email);
        compiled = Compile(resolved, null);
        characters = compiled.HtmlText() + compiled.PlainText();
        encoded = new byte[Encoding.UTF8.GetMaxByteCount(characters.Length)];
    }

    [Benchmark]
    public int EncodeUtf8() => Encoding.UTF8.GetBytes(characters, encoded);

    [Benchmark]
    public int CompileAll() => Compile(resolved, null).HtmlBytes;

    [Benchmark]
    public int CheckAll() => CheckList.Run(new Inspection(resolved, compiled, Circumstances.Usual)).Findings.Length;

    /// <summary>From the edit's document to the compiled email, with what was compiled before.</summary>
    [Benchmark]
    public int EditOneRow()
    {
        var now = Resolver.Resolve(edited, RunningOrder.Of(edited, Larkfell.Masters), Larkfell.Style, Larkfell.Pictures, resolved);
        return Compile(now, compiled).Rows.Length;
    }

    private static CompiledEmail Compile(ResolvedEmail email, CompiledEmail? previous) =>
        Compiler.Compile(email, "https://larkfell.example.org/pictures/", Purpose.Sending, previous);
}
