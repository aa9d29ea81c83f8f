using System.Collections.Immutable;
using System.Text;
using GoldenRule.Core.Audiences;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Interchange;

namespace GoldenRule.Core.Merging;

/// <summary>
/// A compiled email as parts, for mail merge: what is everyone's is written once, what is a reader's own is filled in. It holds all
/// that it asks for, so that it is filled in alike whatever becomes of the library.
/// </summary>
/// <param name="Language">BCP 47 tag.</param>
/// <param name="Text">Plain text whose full lines end in a blank, see <see cref="FlowedText"/>.</param>
/// <param name="Unsubscribe">The way out that headers repeat; empty: it offers none.</param>
/// <param name="Pictures">Names of the picture files it shows.</param>
/// <param name="PicturesAt">Address that they stand under.</param>
/// <param name="PageAddress">Of the page for browsers, nobody's in particular; empty: there is none.</param>
/// <param name="Fields">Those that it asks for.</param>
public sealed record MergeEmail(
    string Language,
    string SenderName,
    string SenderAddress,
    ImmutableArray<MergePart> Subject,
    ImmutableArray<MergePart> Html,
    ImmutableArray<MergePart> Text,
    ImmutableArray<MergePart> Unsubscribe,
    ImmutableArray<string> Pictures,
    string PicturesAt,
    string PageAddress,
    ImmutableArray<MergeField> Fields
)
{
    private readonly Derived derived = new();

    /// <summary>The fields as readers are judged by.</summary>
    private AudiencePlan Plan => derived.Get(() => AudiencePlan.Empty with { Fields = Fields });

    /// <param name="kept">Compiled with its fields left open.</param>
    public static MergeEmail From(CompiledEmail kept, AudiencePlan plan)
    {
        var (source, page) = (kept.Source.Email, kept.Context.PageAt);
        var html = new List<MergePart>(MergePart.Read(Encoding.UTF8.GetString(kept.Opening), true, page));
        foreach (var row in kept.Rows)
        {
            html.AddRange(Within(row.Source.Condition, plan, PartsOf(row, plan, page)));
        }

        html.Add(new MergePart.Words(Encoding.UTF8.GetString(kept.Closing)));
        var made = new MergeEmail(
            source.Language,
            source.Details.SenderName,
            source.Details.SenderAddress,
            [.. MergePart.Read(source.Details.Subject, false, page)],
            Joined(html),
            Joined(source.PlainText is { } hand ? MergePart.Read(hand.Text, false, page) : TextOf(kept, plan, page)),
            ListUnsubscribe.Find(kept.Source, kept.Context) is { } way ? [.. MergePart.Read(way, false, page)] : [],
            kept.PictureNames(),
            kept.Context.PicturesAt,
            page,
            []
        );
        var asked = made.AskedFields().ToHashSet(StringComparer.Ordinal);
        return made with { Fields = [.. plan.Fields.Where(f => asked.Contains(f.Key))] };
    }

    /// <summary>As one reader gets it.</summary>
    /// <param name="pageAddress">Where this reader finds the page for browsers. Null: where everyone does.</param>
    public MessageContent For(SampleReader reader, string? pageAddress = null)
    {
        var one = new MergeReader(reader, Plan, Language, pageAddress ?? PageAddress);
        return new MessageContent(
            Language,
            SenderName,
            SenderAddress,
            Write(Subject, one),
            Write(Html, one),
            FlowedText.Stuffed(Write(Text, one)),
            Write(Unsubscribe, one),
            Pictures,
            PicturesAt
        );
    }

    /// <summary>The HTML alone.</summary>
    public string HtmlFor(SampleReader reader, string? pageAddress = null) =>
        Write(Html, new MergeReader(reader, Plan, Language, pageAddress ?? PageAddress));

    private static string Write(ImmutableArray<MergePart> parts, MergeReader reader)
    {
        if (parts is [MergePart.Words { Text: var only }])
        {
            return only;
        }

        var text = new StringBuilder(parts.Sum(p => p is MergePart.Words { Text.Length: var length } ? length : 64));
        foreach (var part in parts)
        {
            part.Write(text, reader);
        }

        return text.ToString();
    }

    private static IEnumerable<MergePart> PartsOf(CompiledRow row, AudiencePlan plan, string page)
    {
        var at = 0;
        foreach (var part in row.Parted?.Html ?? [])
        {
            foreach (var one in Read(at, part.Start - at))
            {
                yield return one;
            }

            foreach (var one in Within(part.Condition, plan, Read(part.Start, part.Length)))
            {
                yield return one;
            }

            at = part.Start + part.Length;
        }

        foreach (var one in Read(at, row.Html.Length - at))
        {
            yield return one;
        }

        IEnumerable<MergePart> Read(int start, int length) =>
            MergePart.Read(Encoding.UTF8.GetString(row.Html.Span.Slice(start, length)), true, page);
    }

    private static IEnumerable<MergePart> TextOf(CompiledEmail kept, AudiencePlan plan, string page) =>
        ConditionalText
            .Of(kept)
            .Sections()
            .SelectMany(section => Within(section.Row, plan, Within(section.Block, plan, MergePart.Read(section.Words, false, page))));

    // An audience may be another one tomorrow: what it asks stands here.
    private static IEnumerable<MergePart> Within(Condition? condition, AudiencePlan plan, IEnumerable<MergePart> parts) =>
        condition is null ? parts : [new MergePart.Conditional(Conditions.Expand(condition, plan), [.. parts])];

    // Neighbours that are everyone's are one.
    private static ImmutableArray<MergePart> Joined(IEnumerable<MergePart> parts)
    {
        var (joined, words) = (ImmutableArray.CreateBuilder<MergePart>(), new StringBuilder());
        foreach (var part in parts)
        {
            if (part is MergePart.Words { Text: var text })
            {
                words.Append(text);
                continue;
            }

            Flush();
            joined.Add(part);
        }

        Flush();
        return joined.ToImmutable();

        void Flush()
        {
            if (words.Length > 0)
            {
                joined.Add(new MergePart.Words(words.ToString()));
                words.Clear();
            }
        }
    }

    // In words or in conditions.
    private IEnumerable<string> AskedFields() => new[] { Subject, Html, Text, Unsubscribe }.SelectMany(parts => parts).SelectMany(Asked);

    private static IEnumerable<string> Asked(MergePart part) =>
        part switch
        {
            MergePart.Field field => [field.Key],
            MergePart.Conditional only => only
                .Parts.SelectMany(Asked)
                .Concat(only.Condition.Leaves().OfType<Condition.Test>().Select(test => test.Field)),
            _ => [],
        };
}
