using System.Collections.Immutable;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Core.Governance;

namespace GoldenRule.Core.Interchange;

/// <summary>A place of an email where words stand.</summary>
/// <param name="Key">"row/piece/field", and for a part of it what part: an item and its field, a table's row and column, a link's
/// number. "details/subject".</param>
/// <param name="Where">In words: "Story 2, Headline".</param>
/// <param name="Words">What stands there, as written; wording that only says what belongs there counts as nothing.</param>
/// <param name="Limits">What bounds it.</param>
/// <param name="Allowed">Whether the asker may write there.</param>
public sealed record CopyPlace(
    string Key,
    string Where,
    string? Instruction,
    FieldValue Words,
    ImmutableArray<Limit> Limits,
    Decision Allowed
)
{
    /// <summary>Null: it is a detail of the inbox line.</summary>
    public OrderedRow? Row { get; init; }

    public Block? Block { get; init; }

    /// <summary>The limits in words: "60 characters, 10 words". Null: there is none.</summary>
    public string? LimitWords =>
        string.Join(
            ", ",
            Limits
                .SelectMany(l =>
                    new[]
                    {
                        l.Characters is { } characters ? $"{characters} characters" : null,
                        l.Words is { } words ? $"{words} words" : null,
                        l.Lines is { } lines ? $"{lines} {(lines == 1 ? "line" : "lines")}" : null,
                    }
                )
                .OfType<string>()
        )
            is { Length: > 0 } said
            ? said
            : null;

    /// <summary>The first limit that other words would break, in words. Null: none.</summary>
    public string? Broken(FieldValue words) =>
        Limits.SelectMany(l => Measuring.Measure(words, l, PictureCatalog.Empty)).FirstOrDefault(m => m.Broken) is { } broken
            ? $"{broken.Value} {broken.Of}, and {broken.Bound} are allowed"
            : null;
}

/// <summary>Every place of an email where words stand, in reading order, and how words are put there.</summary>
public sealed class CopyPlaces
{
    private readonly OpenDocument.OfEmail document;
    private readonly Dictionary<string, CopyPlace> byKey;
    private readonly Dictionary<string, FieldValue> written = new(StringComparer.Ordinal);
    private readonly List<(string Key, Func<FieldValue, Edit> Edit)> order = [];

    public CopyPlaces(OpenDocument.OfEmail document, Person person)
    {
        this.document = document;
        All = [.. Details(person).Concat(document.Order.Rows.SelectMany(row => InRow(row, person)))];
        byKey = All.ToDictionary(p => p.Key, StringComparer.Ordinal);
    }

    public ImmutableArray<CopyPlace> All { get; }

    public CopyPlace? Find(string key) => byKey.GetValueOrDefault(key);

    /// <summary>Puts words at a place; what is put into parts of one field goes together.</summary>
    public void Write(CopyPlace place, FieldValue words)
    {
        if (place.Row is not { } row)
        {
            var detail = place.Key["details/".Length..];
            Keep(place.Key, words, value => new SetDetail(detail, ((FieldValue.Words)value).Text));
            return;
        }

        var parts = place.Key.Split('/');
        var (piece, field) = (parts[1], parts[2]);
        var key = string.Join('/', parts[..3]);
        var standing = written.GetValueOrDefault(key) ?? row.ContentOf(place.Block!)[field];
        Keep(key, standing.Map(new PutWords(place.Key[key.Length..], words)), value => new SetFill(row.Id, piece, field, value));
    }

    /// <summary>The edits that put there what was written.</summary>
    public ImmutableArray<Edit> Edits() => [.. order.Select(o => o.Edit(written[o.Key]))];

    private void Keep(string key, FieldValue value, Func<FieldValue, Edit> edit)
    {
        if (!written.ContainsKey(key))
        {
            order.Add((key, edit));
        }

        written[key] = value;
    }

    private IEnumerable<CopyPlace> Details(Person person)
    {
        var allowed = Governor.Decide(person, new SetDetail("subject", ""), document);
        yield return new CopyPlace(
            "details/subject",
            "Inbox line, Subject",
            null,
            new FieldValue.Words(document.Email.Details.Subject),
            [],
            allowed
        );
        yield return new CopyPlace(
            "details/preheader",
            "Inbox line, Preheader",
            null,
            new FieldValue.Words(document.Email.Details.Preheader),
            [],
            allowed
        );
    }

    private IEnumerable<CopyPlace> InRow(OrderedRow row, Person person)
    {
        var alike = document.Order.Rows.Where(r => r.Name == row.Name).ToList();
        var name = alike.Count > 1 ? $"{row.Name} {alike.IndexOf(row) + 1}" : row.Name;
        foreach (var block in row.Row.Blocks)
        {
            var kind = BlockKinds.For(block);
            var content = row.ContentOf(block);
            foreach (var field in kind.Fields)
            {
                var standing = content[field.Name];
                var allowed = Governor.Decide(person, new SetFill(row.Id, block.Id, field.Name, standing), document);
                var where = $"{name}, {block.Name ?? kind.Label}{(kind.Fields.Length > 1 ? ": " + field.Label : "")}";
                foreach (var (part, label, words, limit) in Parts(field, standing))
                {
                    var hint = block.Placeholder && !row.IsFilled(block.Id, field.Name);
                    yield return new CopyPlace(
                        $"{row.Id}/{block.Id}/{field.Name}{part}",
                        where + label,
                        block.Instruction ?? (hint ? words.AsText() ?? "" : null),
                        hint ? Emptied(words) : words,
                        [.. block.Limits.Where(l => l.Key == limit).Select(l => l.Value)],
                        allowed
                    )
                    {
                        Row = row,
                        Block = block,
                    };
                }
            }
        }
    }

    private static List<(FieldPart Part, string Label, FieldValue Words, string Limit)> Parts(Field field, FieldValue value)
    {
        var parts = new WordParts(field);
        value.Visit(parts);
        return
        [
            .. parts
                .Found.OrderBy(p => p.Part.Item)
                .ThenBy(p => p.Part.Name is null ? 0 : field.Entry.TakeWhile(e => e.Name != p.Part.Name).Count()),
        ];
    }

    private sealed class WordParts(Field field) : FieldVisitor
    {
        public List<(FieldPart Part, string Label, FieldValue Words, string Limit)> Found { get; } = [];

        public override void Words(string text, FieldPart part) => Add(part, new FieldValue.Words(text));

        public override void Prose(RichText text, FieldPart part) => Add(part, new FieldValue.Prose(text));

        private void Add(FieldPart part, FieldValue words) =>
            Found.Add(
                part switch
                {
                    { Item: 0 } => (part, "", words, field.Name),
                    { Name: { } name } => (
                        part,
                        $" {part.Item}, {field.Entry.First(e => e.Name == name).Label}",
                        words,
                        $"{field.Name}/{name}"
                    ),
                    { Column: > 0 } => (part, $" row {part.Item}, column {part.Column}", words, ""),
                    _ => (part, $" {part.Item}", words, ""),
                }
            );
    }

    // Puts words in the place of one part and leaves the others as they are.
    private sealed class PutWords(string at, FieldValue words) : FieldMap
    {
        public override string Words(string text, FieldPart part) => part.ToString() == at ? ((FieldValue.Words)words).Text : text;

        public override RichText Prose(RichText text, FieldPart part) => part.ToString() == at ? ((FieldValue.Prose)words).Text : text;
    }

    private static FieldValue Emptied(FieldValue words) =>
        words is FieldValue.Prose ? new FieldValue.Prose(RichText.Empty) : new FieldValue.Words("");
}
