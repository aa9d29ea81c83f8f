using System.Collections.Concurrent;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Languages;

namespace GoldenRule.Core.Audiences;

/// <summary>What the nodes within an email's words come to. Immutable: as long as nothing they say changes it is the same object.</summary>
public sealed class InlineValues
{
    /// <summary>Of a library without snippets and fields.</summary>
    public static InlineValues None { get; } = SnippetCatalog.Empty.At(DateTime.UnixEpoch).For(AudiencePlan.Empty, "en");

    private readonly ConcurrentDictionary<InlineNode, string> words = new();
    private readonly string language;
    private readonly SampleReader? reader;
    private readonly bool keepFields;

    internal InlineValues(SnippetValues snippets, AudiencePlan plan, string language, SampleReader? reader, bool keepFields)
    {
        (Snippets, Plan) = (snippets, plan);
        (this.language, this.reader, this.keepFields) = (language, reader, keepFields);
        Direction = Writing.ForLanguage(language).Direction;
        Conditions = new ConditionSolver(plan);
    }

    public SnippetValues Snippets { get; }

    /// <summary>Which way the email's language runs.</summary>
    public Direction Direction { get; }

    public AudiencePlan Plan { get; }

    /// <summary>Which readers conditions mean.</summary>
    public ConditionSolver Conditions { get; }

    /// <summary>The same as one reader sees it.</summary>
    public InlineValues As(SampleReader one) => new(Snippets, Plan, language, one, false);

    // Of the last person: as long as an email is to the same one, what is resolved of it can be taken over.
    private Personal? personal;

    private sealed record Personal(Recipient Of, InlineValues Values);

    /// <summary>The same as whoever it is written to sees it. The same person, the same object.</summary>
    public InlineValues As(Recipient person)
    {
        var known = personal;
        if (known is null || !ReferenceEquals(known.Of, person))
        {
            personal = known = new Personal(person, As(SampleReader.From(person, Plan)));
        }

        return known.Values;
    }

    /// <summary>What one reader's field is in words, its fallback where it is not known; of a proof its sample.</summary>
    public string FieldWords(string key) => Plan.FindField(key) is { } field ? Field(field) : "";

    /// <summary>The same with the fields left open, see <see cref="KeptField"/>.</summary>
    public InlineValues WithFieldsKept() => new(Snippets, Plan, language, null, true);

    /// <summary>Plain words, in one line.</summary>
    public string Words(InlineNode node) =>
        node.Kind == InlineKind.Field && keepFields ? new KeptField(node.Key, false).ToString() : words.GetOrAdd(node, Written);

    /// <summary>What stands in prose in the place of a node.</summary>
    /// <param name="dress">The run that it stands in.</param>
    public IEnumerable<Run> Runs(InlineNode node, Run dress)
    {
        if (node.Kind != InlineKind.Snippet || Snippets.Find(node.Key)?.Value is not FieldValue.Prose { Text.Paragraphs: [var paragraph] })
        {
            yield return dress with
            {
                Text = Words(node),
            };
            yield break;
        }

        foreach (var run in paragraph.Runs)
        {
            yield return run with
            {
                Bold = run.Bold || dress.Bold,
                Italic = run.Italic || dress.Italic,
                Href = dress.Href ?? run.Href,
            };
        }
    }

    /// <summary>
    /// An address with its nodes filled in: one that is a snippet as a whole, or fields within it, encoded (RFC 3986, 2.1).
    /// </summary>
    public string Address(string href)
    {
        if (InlineNode.Only(href) is { Kind: InlineKind.Snippet } only)
        {
            return (Snippets.Find(only.Key)?.Value as FieldValue.Link)?.Href ?? "";
        }

        return InlineNode.Replace(href, node =>
            node.Kind == InlineKind.Field && keepFields ? new KeptField(node.Key, true).ToString() : Uri.EscapeDataString(Words(node))
        );
    }

    /// <summary>Id of a picture, of one that is a snippet.</summary>
    public string Picture(string picture) =>
        InlineNode.Only(picture) is { Kind: InlineKind.Snippet } only
            ? (Snippets.Find(only.Key)?.Value as FieldValue.Image)?.Picture ?? ""
            : picture;

    /// <summary>Whether there is what a node refers to.</summary>
    public bool Knows(InlineNode node) =>
        node.Kind == InlineKind.Snippet ? Snippets.Find(node.Key) is not null : Plan.FindField(node.Key) is not null;

    private string Written(InlineNode node) =>
        node.Kind switch
        {
            InlineKind.Snippet when Snippets.Find(node.Key) is { } snippet => Plain(snippet.Value),
            InlineKind.Field when Plan.FindField(node.Key) is { } field => Field(field),
            _ => node.Token,
        };

    private string Field(MergeField field)
    {
        var value = reader is null ? field.Sample : reader.Values.GetValueOrDefault(field.Key, "");
        return value.Length > 0 ? field.Write(value, language) : field.Fallback ?? (reader is null ? $"[{field.Label}]" : "");
    }

    private string Plain(FieldValue value) =>
        value switch
        {
            FieldValue.Prose prose => prose.Text.PlainText.Replace('\n', ' '),
            FieldValue.Moment moment => Dates.Words(moment, language),
            FieldValue.Words { Text: var number } when SnippetRules.Number(number) is { } known => Writing
                .ForLanguage(language)
                .Number(known, Decimals(number)),
            FieldValue.Link link => link.Href,
            _ => "",
        };

    // As many digits after the point as were written: 12.50 stays 12.50.
    private static int Decimals(string number) =>
        number.IndexOf('.', StringComparison.Ordinal) is >= 0 and var point ? number.Length - point - 1 : 0;
}
