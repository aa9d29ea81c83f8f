using System.Text;
using GoldenRule.Core.Checking;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Core.Resolving;
using GoldenRule.Core.Tests;

/// <summary>What the heart of the job does with the demo's gazette, its stories repeated until it has so many rows.</summary>
internal sealed class Work
{
    private readonly Email edited;
    private readonly RunningOrder order;
    private readonly ResolvedEmail resolved;
    private readonly CompiledEmail compiled;
    private readonly string characters;
    private readonly byte[] encoded;

    public Work(int rows)
    {
        var email = Make(rows);
        edited = (Email)new SetFill("viaduct", "headline", "text", new FieldValue.Words("Another headline")).Apply(email);
        order = RunningOrder.From(email, Larkfell.Masters);
        resolved = Resolver.Resolve(email, order, Larkfell.Style, Larkfell.Pictures);
        compiled = Compile(resolved, null);
        characters = compiled.HtmlText() + compiled.PlainText();
        encoded = new byte[Encoding.UTF8.GetMaxByteCount(characters.Length)];
    }

    public byte[] Html => compiled.Html();

    public int EncodeUtf8() => Encoding.UTF8.GetBytes(characters, encoded);

    public int CompileAll() => Compile(resolved, null).HtmlBytes;

    public int CheckAll() => CheckList.Run(new Inspection(resolved, compiled, CheckContext.Usual)).Findings.Length;

    /// <summary>From the edit's document to the compiled email, with what was compiled before.</summary>
    public int EditOneRow()
    {
        var now = Resolver.Resolve(edited, RunningOrder.From(edited, Larkfell.Masters, order), Larkfell.Style, Larkfell.Pictures, resolved);
        return Compile(now, compiled).Rows.Length;
    }

    private static Email Make(int rows)
    {
        var email = Larkfell.Gazette;
        var stories = email.Zones["stories"];
        var added = Enumerable.Range(0, Math.Max(0, rows - 8)).Select(i => stories[i % stories.Length] with { Id = $"story{i}" });
        var kept = rows < 8 ? stories.Take(Math.Max(1, rows - 5)) : stories.Concat(added);
        return email with { Zones = email.Zones.SetItem("stories", [.. kept]) };
    }

    private static CompiledEmail Compile(ResolvedEmail email, CompiledEmail? previous) =>
        Compiler.Compile(email, "https://larkfell.example.org/pictures/", Purpose.Sending, previous);
}
