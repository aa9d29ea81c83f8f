using System.Text;
using GoldenRule.Core.Audiences;
using GoldenRule.Core.Checking;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Core.Resolving;
using GoldenRule.Core.Tests;

/// <summary>
/// What the heart of the job does with the demo's gazette, its stories repeated until it has so many rows, each with two of 40 snippets
/// and one of 30 fields in it.
/// </summary>
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
        resolved = Resolver.Resolve(email, order, Larkfell.Style, Larkfell.Pictures, inline: Inline);
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
        var now = Resolver.Resolve(
            edited,
            RunningOrder.From(edited, Larkfell.Masters, order),
            Larkfell.Style,
            Larkfell.Pictures,
            resolved,
            Inline
        );
        return Compile(now, compiled).Rows.Length;
    }

    private static readonly InlineValues Inline = new SnippetCatalog(
        Enumerable
            .Range(0, 40)
            .Select(i => new CataloguedSnippet(
                Guid.NewGuid(),
                new Snippet
                {
                    Name = $"Snippet {i}",
                    Key = $"snippet-{i}",
                    Type = SnippetType.Text,
                    Values = [new ScheduledValue("v", "", new FieldValue.Prose(RichText.FromParagraphs($"what is said {i} times")))],
                },
                false
            ))
    )
        .At(DateTime.UnixEpoch)
        .For(
            AudiencePlan.Empty with
            {
                Fields =
                [
                    .. Enumerable
                        .Range(0, 30)
                        .Select(i => new MergeField
                        {
                            Key = $"field-{i}",
                            Label = $"Field {i}",
                            Type = MergeFieldType.Text,
                            Sample = $"sample {i}",
                            Fallback = "none",
                        }),
                ],
            },
            "en-GB"
        );

    private static Email Make(int rows)
    {
        var email = WithNodes(Larkfell.Gazette);
        var stories = email.Zones["stories"];
        var added = Enumerable.Range(0, Math.Max(0, rows - 8)).Select(i => stories[i % stories.Length] with { Id = $"story{i}" });
        var kept = rows < 8 ? stories.Take(Math.Max(1, rows - 5)) : stories.Concat(added);
        return email with { Zones = email.Zones.SetItem("stories", [.. kept]) };
    }

    private static Email WithNodes(Email email)
    {
        var at = 0;
        return email with
        {
            Zones = email.Zones.SetItem(
                "stories",
                [
                    .. email
                        .Zones["stories"]
                        .Select(row =>
                            row with
                            {
                                Fills = row.Fills.SetItem(
                                    "text",
                                    row.Fills["text"] with
                                    {
                                        Content = row.Fills["text"]
                                            .Content.SetItem("text", new FieldValue.Prose(RichText.FromParagraphs(Words(at++)))),
                                    }
                                ),
                            }
                        ),
                ]
            ),
        };

        static string Words(int i) =>
            $"Four hundred blocks, {new InlineNode(InlineKind.Snippet, $"snippet-{2 * i % 40}")} and a patient heron: how "
            + $"{new InlineNode(InlineKind.Field, $"field-{i % 30}")} spent "
            + $"{new InlineNode(InlineKind.Snippet, $"snippet-{((2 * i) + 1) % 40}")} on the river piers.";
    }

    private static CompiledEmail Compile(ResolvedEmail email, CompiledEmail? previous) =>
        Compiler.Compile(email, "https://larkfell.example.org/pictures/", Purpose.Sending, previous);
}
