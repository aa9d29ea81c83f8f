using System.Collections.Immutable;
using System.Text;
using GoldenRule.Core.Documents;

namespace GoldenRule.Scale;

/// <summary>Other words, pictures and links in the place of those of an email, as long as those were.</summary>
internal sealed class OtherContent(Random random, IReadOnlyList<string> pictures) : FieldMap
{
    private static readonly string[] Vocabulary = (
        "railway engine signal viaduct timetable platform boiler carriage volunteer lineside tunnel cutting whistle guard "
        + "driver fireman tender brake coach compartment lantern semaphore sleeper ballast points junction branch summit "
        + "gradient embankment meadow heron valley moor river bridge mill quarry siding yard turntable coal water tower "
        + "steam gala dinner supper tearoom shop mug calendar book ticket booking seat window breakfast picnic market fair "
        + "winter spring summer autumn morning evening weekend holiday family children member gazette story repair overhaul "
        + "restore paint varnish brass copper rivet weld inspect certify return welcome depart arrive journey excursion "
        + "special charter lamplight carol ghost pumpkin daffodil bluebell heather snow frost thaw harvest orchard cider "
        + "the a of and to in for with from over under beside behind before after every another first last new old small"
    ).Split(' ');

    public override string Words(string text, FieldPart part) => text.Length == 0 ? text : Sentence(text.Length);

    public override RichText Prose(RichText text, FieldPart part) =>
        text with
        {
            Paragraphs =
            [
                .. text.Paragraphs.Select(p =>
                    p with
                    {
                        Runs = [.. p.Runs.Select(r => r.Variable is null ? r with { Text = Sentence(r.Text.Length) } : r)],
                    }
                ),
            ],
        };

    public override string Address(string href, FieldPart part) =>
        href.StartsWith("https://", StringComparison.Ordinal) ? $"https://larkfell.example.org/{Word()}/{random.Next(1000)}" : href;

    public override string Picture(string picture, FieldPart part) =>
        picture.Length == 64 ? pictures[random.Next(pictures.Count)] : picture;

    public ImmutableSortedDictionary<string, PieceFill> Fills(ImmutableSortedDictionary<string, PieceFill> fills) =>
        fills.ToImmutableSortedDictionary(
            f => f.Key,
            f =>
                f.Value with
                {
                    Content = f.Value.Content.ToImmutableSortedDictionary(c => c.Key, c => c.Value.Map(this), StringComparer.Ordinal),
                },
            StringComparer.Ordinal
        );

    public PlacedRow Row(PlacedRow row, int releases) =>
        row.Own is null ? row with { Fills = Fills(row.Fills), Release = random.Next(1, releases + 1) } : row;

    public string Title() => Sentence(random.Next(16, 46));

    /// <summary>Words of about that many characters, the first with a capital.</summary>
    public string Sentence(int length)
    {
        var text = new StringBuilder();
        while (text.Length < length)
        {
            text.Append(text.Length > 0 ? " " : "").Append(Word());
        }

        return text.Length == 0 ? "" : char.ToUpperInvariant(text[0]) + text.ToString(1, text.Length - 1);
    }

    private string Word() => Vocabulary[random.Next(Vocabulary.Length)];
}
