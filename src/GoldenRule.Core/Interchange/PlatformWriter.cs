using System.Collections.Immutable;
using System.Text;
using GoldenRule.Core.Audiences;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Interchange;

/// <summary>Writes an email's fields and conditions the way a sending platform's profile has it.</summary>
/// <param name="kept">Compiled with its fields left open.</param>
/// <param name="settled">True: it is what some readers get, and what stands there is theirs.</param>
internal sealed class PlatformWriter(CompiledEmail kept, AudiencePlan plan, ExportProfile profile, bool settled = false)
{
    private readonly SortedDictionary<string, KeptField> fields = new(StringComparer.Ordinal);
    private readonly List<ConditionDefinition> conditions = [];
    private readonly Dictionary<string, string> names = new(StringComparer.Ordinal);
    private readonly List<Unsayable> faults = [];
    private string where = "";

    public FieldExport Write()
    {
        var email = kept.Source.Email;
        var details = email.Details with
        {
            Subject = Plain("subject", email.Details.Subject),
            Preheader = Plain("preheader", email.Details.Preheader),
        };
        where = "head";
        var opening = Html(kept.Opening);
        var rows = kept.Rows.Select(Row).ToImmutableArray();
        where = "plain text";
        var made = ConditionalText.Of(kept).Write((row, block, words) => Within(row, Within(block, Plain(words))));
        var hand = email.PlainText is { } written ? written with { Text = Literally(written.Text) } : null;
        return new FieldExport(
            kept with
            {
                Opening = opening,
                Rows = rows,
                Source = kept.Source with { Email = email with { Details = details, PlainText = hand } },
            },
            profile,
            hand?.Text ?? FlowedText.Fixed(made),
            [.. fields.Select(f => Define(f.Key, f.Value))],
            [.. conditions],
            [.. faults.Distinct()]
        )
        {
            FlowingText = FlowedText.Stuffed(hand?.Text ?? made),
        };
    }

    private CompiledRow Row(CompiledRow row)
    {
        where = row.Source.Name;
        var (html, at) = (new StringBuilder(), 0);
        foreach (var part in row.Parted?.Html ?? [])
        {
            html.Append(Html(row.Html.Span[at..part.Start]));
            html.Append(Within(part.Condition, Html(row.Html.Span.Slice(part.Start, part.Length))));
            at = part.Start + part.Length;
        }

        html.Append(Html(row.Html.Span[at..]));
        return row with { Html = Encoding.UTF8.GetBytes(Within(row.Source.Condition, html.ToString())) };
    }

    private byte[] Html(byte[] html) => Encoding.UTF8.GetBytes(Html(html.AsSpan()));

    private string Html(ReadOnlySpan<byte> html) =>
        KeptField.Replace(
            Encoding.UTF8.GetString(html),
            field => Value(field, html: true, text => Literally(HtmlWriter.Escape(text))),
            Literally
        );

    private string Plain(string what, string text)
    {
        where = what;
        return Plain(text);
    }

    private string Plain(string text) => KeptField.Replace(text, field => Value(field, html: false, Literally), Literally);

    private string Literally(string text)
    {
        if (profile.Literal.Length > 0 || profile.FindMark(text) is not { Mark: var mark })
        {
            return profile.Literally(text);
        }

        faults.Add(new(where, $"The words \"{mark}\" stand there, which {profile.Name} would take for its own."));
        return text;
    }

    /// <param name="escape">How the fallback is written where it stands.</param>
    private string Value(KeptField found, bool html, Func<string, string> escape)
    {
        var name = ExportProfile.NameOf(found);
        fields[name] = found;
        var field = plan.FindField(found.Key);
        // What is percent-encoded already needs no escaping.
        var pattern = html && !found.InAddress || profile.Plain.Length == 0 ? profile.Field : profile.Plain;
        if (field?.Type == MergeFieldType.Date && profile.Date.Length > 0 && !found.InAddress)
        {
            pattern = profile.Date;
        }

        var value = ExportProfile.Named(pattern, name);
        if (field is not { Always: false, Fallback: { Length: > 0 } fallback })
        {
            return value;
        }

        if (profile.Else.Length == 0)
        {
            faults.Add(new(where, $"\"{field.Label}\" has the fallback \"{fallback}\", and {profile.Name} has no words for one."));
            return value;
        }

        var instead = escape(found.InAddress ? Uri.EscapeDataString(fallback) : fallback);
        return ExportProfile.Named(profile.Open, name)
            + value
            + ExportProfile.Named(profile.Else, name)
            + instead
            + ExportProfile.Named(profile.Close, name);
    }

    private string Within(Condition? condition, string text)
    {
        if (condition is null || settled)
        {
            return text;
        }

        if (profile.Open.Length == 0)
        {
            faults.Add(
                new(where, $"It is shown to {ConditionWords.Sentence(condition, plan)}, and {profile.Name} has no words for a condition.")
            );
            return text;
        }

        var name = NameOf(condition);
        return ExportProfile.Named(profile.Open, name) + text + ExportProfile.Named(profile.Close, name);
    }

    private string NameOf(Condition condition)
    {
        var written = DocumentJson.Write(condition);
        if (!names.TryGetValue(written, out var name))
        {
            var wanted = condition is Condition.Audience one ? $"audience-{one.Key}" : $"condition-{names.Count + 1}";
            for (name = wanted; plan.FindField(name) is not null || names.ContainsValue(name); name += "-x") { }
            names[written] = name;
            conditions.Add(new(name, ConditionWords.Sentence(condition, plan), Conditions.Expand(condition, plan)));
        }

        return name;
    }

    private FieldDefinition Define(string name, KeptField found)
    {
        var field = plan.FindField(found.Key);
        var asDate = field?.Type == MergeFieldType.Date && profile.Date.Length > 0 && !found.InAddress;
        var like = field?.Sample is { Length: > 0 } sample
            ? $"like \"{(asDate ? sample : field.Write(sample, kept.Context.Language))}\""
            : "as it is";
        return new(
            name,
            field?.Label ?? found.Key,
            field?.Type.ToString() ?? "",
            like + (found.InAddress ? ", percent-encoded (RFC 3986)" : ""),
            field?.Fallback ?? ""
        );
    }
}
