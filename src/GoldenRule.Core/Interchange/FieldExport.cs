using System.Collections.Immutable;
using System.Globalization;
using System.Text;
using System.Text.Json;
using CsvHelper;
using CsvHelper.Configuration;
using GoldenRule.Core.Audiences;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Interchange;

/// <summary>A field as the sending platform has to fill it in.</summary>
/// <param name="Name">As it stands in the files.</param>
/// <param name="Label">What it is.</param>
/// <param name="Written">How its value is written, by an example.</param>
/// <param name="Fallback">What stands where it is not known; empty: nothing.</param>
public sealed record FieldDefinition(string Name, string Label, string Type, string Written, string Fallback);

/// <summary>An email with its fields written for a sending platform, and the table that says what each is.</summary>
public sealed record FieldExport(CompiledEmail Email, ImmutableArray<FieldDefinition> Fields)
{
    /// <param name="kept">Compiled with its fields left open.</param>
    public static FieldExport Write(CompiledEmail kept, AudiencePlan plan, ExportProfile profile)
    {
        var used = new SortedDictionary<string, KeptField>(StringComparer.Ordinal);
        var email = kept.Source.Email;
        var written = kept with
        {
            Opening = Bytes(kept.Opening),
            Rows = [.. kept.Rows.Select(r => r with { Html = Bytes(r.Html), Text = Plain(r.Text) })],
            Source = kept.Source with
            {
                Email = email with
                {
                    Details = email.Details with { Subject = Plain(email.Details.Subject), Preheader = Plain(email.Details.Preheader) },
                    PlainText = email.PlainText is { } hand ? hand with { Text = Literal(hand.Text) } : null,
                },
            },
        };
        return new FieldExport(written, [.. used.Select(u => Define(u.Key, u.Value, plan.FindField(u.Value.Key), kept.Context.Language))]);

        string Literal(string text) => text.Replace(profile.Mark, profile.Literal, StringComparison.Ordinal);

        byte[] Bytes(byte[] html) =>
            Encoding.UTF8.GetBytes(
                KeptField.Replace(Encoding.UTF8.GetString(html), field => Named(field, html: true, text => Literal(Escaped(text))), Literal)
            );

        string Plain(string text) => KeptField.Replace(text, field => Named(field, html: false, Literal), Literal);

        string Named(KeptField field, bool html, Func<string, string> escape)
        {
            used[ExportProfile.NameOf(field)] = field;
            return profile.Write(field, plan.FindField(field.Key), html, escape);
        }
    }

    /// <summary>The same in words: what the one gets of whom these values are known. A sample's plain text is made so.</summary>
    public static string Fill(string text, InlineValues values) =>
        KeptField.Replace(text, field =>
            field.InAddress ? Uri.EscapeDataString(values.FieldWords(field.Key)) : values.FieldWords(field.Key)
        );

    /// <summary>What the platform is given of one reader: each value as it is written, by the name it has in the files.</summary>
    /// <param name="language">BCP 47 tag of the email.</param>
    public static ImmutableSortedDictionary<string, string> Data(SampleReader reader, AudiencePlan plan, string language)
    {
        var data = ImmutableSortedDictionary.CreateBuilder<string, string>(StringComparer.Ordinal);
        foreach (var field in plan.Fields)
        {
            if (reader.Values.TryGetValue(field.Key, out var value) && value.Length > 0)
            {
                var words = field.Write(value, language);
                data[ExportProfile.NameOf(new KeptField(field.Key, false))] = words;
                data[ExportProfile.NameOf(new KeptField(field.Key, true))] = Uri.EscapeDataString(words);
            }
        }

        return data.ToImmutable();
    }

    /// <summary>The table as JSON.</summary>
    public byte[] Json() => JsonSerializer.SerializeToUtf8Bytes(Fields, DocumentJson.Options);

    /// <summary>The table as CSV (RFC 4180).</summary>
    public byte[] Csv()
    {
        using var text = new StringWriter(CultureInfo.InvariantCulture);
        // What begins like a formula is none.
        var form = new CsvConfiguration(CultureInfo.InvariantCulture) { InjectionOptions = InjectionOptions.Escape };
        using (var csv = new CsvWriter(text, form, leaveOpen: true))
        {
            csv.WriteRecords(Fields);
        }

        return Encoding.UTF8.GetBytes(text.ToString());
    }

    private static FieldDefinition Define(string name, KeptField kept, MergeField? field, string language) =>
        new(
            name,
            field?.Label ?? kept.Key,
            field?.Type.ToString() ?? "",
            (field?.Sample is { Length: > 0 } sample ? $"like \"{field.Write(sample, language)}\"" : "as it is")
                + (kept.InAddress ? ", percent-encoded (RFC 3986)" : ""),
            field?.Fallback ?? ""
        );

    // As the compiler escapes text.
    private static string Escaped(string text) => Encoding.UTF8.GetString(new Utf8Writer(text.Length).Text(text).Written);
}
