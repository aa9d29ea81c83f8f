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
/// and one of 30 fields in it; some of them seen only by readers of whom a field says so, each row by a field of its own.
/// </summary>
internal sealed class Work
{
    private readonly Inspected inspected;
    private readonly Email edited;
    private readonly RunningOrder order;
    private readonly ResolvedEmail resolved;
    private readonly CompiledEmail compiled;
    private readonly string characters;
    private readonly byte[] encoded;

    /// <param name="conditions">So many of its stories are seen by some readers only.</param>
    public Work(int rows, int conditions = 0)
    {
        var email = Make(rows);
        email = email with { Zones = email.Zones.SetItem("stories", [.. email.Zones["stories"].Select(Seen)]) };
        edited = (Email)new SetFill("viaduct", "headline", "text", new FieldValue.Words("Another headline")).Apply(email);
        order = RunningOrder.From(email, Larkfell.Masters);
        resolved = Resolver.Resolve(email, order, Larkfell.Style, Larkfell.Pictures, inline: Inline);
        compiled = Compile(resolved, null);
        characters = compiled.HtmlText() + compiled.PlainText();
        encoded = new byte[Encoding.UTF8.GetMaxByteCount(characters.Length)];
        inspected = CheckList.Run(new Inspection(resolved, compiled, CheckContext.Usual));

        PlacedRow Seen(PlacedRow row, int i) =>
            i < conditions
                ? row with
                {
                    Fills = row.Fills.SetItem(
                        Larkfell.Masters.Row(row).Row.Id,
                        new PieceFill { Condition = new Condition.Test($"field-{i}", Comparison.Is, ["yes"]) }
                    ),
                }
                : row;
    }

    /// <summary>Every check for every combination of what readers see, nothing solved beforehand.</summary>
    public int CheckEveryCombination()
    {
        // As for a plan that was changed a moment ago.
        var anew = resolved with { Inline = Inline.WithFieldsKept() };
        return CheckList.Run(new Inspection(anew, compiled, CheckContext.Usual)).Findings.Length;
    }

    /// <summary>The same after one row's edit.</summary>
    public int CheckEveryCombinationAgain()
    {
        var now = CompileEdited();
        return CheckList.Run(new Inspection(now.Source, now, CheckContext.Usual), inspected).Findings.Length;
    }

    public byte[] Html => compiled.Html();

    public int EncodeUtf8() => Encoding.UTF8.GetBytes(characters, encoded);

    public int CompileAll() => Compile(resolved, null).HtmlBytes;

    public int CheckAll() => CheckList.Run(new Inspection(resolved, compiled, CheckContext.Usual)).Findings.Length;

    /// <summary>From the edit's document to the compiled email, with what was compiled before.</summary>
    public int EditOneRow() => CompileEdited().Rows.Length;

    private CompiledEmail CompileEdited()
    {
        var now = Resolver.Resolve(
            edited,
            RunningOrder.From(edited, Larkfell.Masters, order),
            Larkfell.Style,
            Larkfell.Pictures,
            resolved,
            Inline
        );
        return Compile(now, compiled);
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

        // With the dashes and apostrophes that the demo's own text has: what is all ASCII is encoded by other means.
        static string Words(int i) =>
            $"Four hundred blocks – {new InlineNode(InlineKind.Snippet, $"snippet-{2 * i % 40}")} and a heron’s patience: how "
            + $"{new InlineNode(InlineKind.Field, $"field-{i % 30}")} spent "
            + $"{new InlineNode(InlineKind.Snippet, $"snippet-{((2 * i) + 1) % 40}")} on the river piers.";
    }

    private static CompiledEmail Compile(ResolvedEmail email, CompiledEmail? previous) =>
        Compiler.Compile(email, "https://larkfell.example.org/pictures/", Purpose.Sending, previous);
}
