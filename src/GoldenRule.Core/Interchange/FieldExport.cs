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

/// <summary>A condition as the sending platform has to work it out of each reader: yes or no.</summary>
/// <param name="Name">As it stands in the files.</param>
/// <param name="Readers">For whom it is yes, as a sentence.</param>
/// <param name="Definition">The same over fields, with no audience in it.</param>
public sealed record ConditionDefinition(string Name, string Readers, Condition Definition);

/// <summary>Something that a platform's profile cannot say.</summary>
/// <param name="Where">The row's name, or which part of the inbox.</param>
public sealed record Unsayable(string Where, string What);

/// <summary>An email with its fields and conditions written for a sending platform, and the tables that say what each is.</summary>
/// <param name="Faults">What cannot be said; where there are any, the email is not to be sent.</param>
public sealed record FieldExport(
    CompiledEmail Email,
    ExportProfile Profile,
    string PlainText,
    ImmutableArray<FieldDefinition> Fields,
    ImmutableArray<ConditionDefinition> Conditions,
    ImmutableArray<Unsayable> Faults
)
{
    /// <summary>The plain text for format=flowed (RFC 3676).</summary>
    public required string FlowingText { get; init; }

    /// <param name="kept">Compiled with its fields left open.</param>
    public static FieldExport Write(CompiledEmail kept, AudiencePlan plan, ExportProfile profile) =>
        new PlatformWriter(kept, plan, profile).Write();

    /// <summary>The same in words: what the one gets of whom these values are known. A sample's plain text is made so.</summary>
    public static string Fill(string text, InlineValues values) =>
        KeptField.Replace(text, field =>
            field.InAddress ? Uri.EscapeDataString(values.FieldWords(field.Key)) : values.FieldWords(field.Key)
        );

    /// <summary>What the platform is given of one reader: each value as it is written, by the name it has in the files.</summary>
    /// <param name="language">BCP 47 tag of the email.</param>
    public static ImmutableSortedDictionary<string, string> Data(
        SampleReader reader,
        AudiencePlan plan,
        string language,
        ExportProfile profile
    )
    {
        var data = ImmutableSortedDictionary.CreateBuilder<string, string>(StringComparer.Ordinal);
        foreach (var field in plan.Fields)
        {
            if (reader.Values.TryGetValue(field.Key, out var value) && value.Length > 0)
            {
                var words = field.Write(value, language);
                data[ExportProfile.NameOf(new KeptField(field.Key, false))] =
                    field.Type == MergeFieldType.Date && profile.Date.Length > 0 ? value : words;
                data[ExportProfile.NameOf(new KeptField(field.Key, true))] = Uri.EscapeDataString(words);
            }
        }

        return data.ToImmutable();
    }

    /// <summary>Which of the conditions hold of one reader, by their names in the files.</summary>
    public ImmutableSortedDictionary<string, bool> Holding(SampleReader reader, AudiencePlan plan) =>
        Conditions.ToImmutableSortedDictionary(
            c => c.Name,
            c => Audiences.Conditions.Holds(c.Definition, plan, reader.Values),
            StringComparer.Ordinal
        );

    /// <summary>The tables, each as JSON and as CSV (RFC 4180), by the names of their files.</summary>
    public IEnumerable<(string Name, byte[] Content)> Tables()
    {
        if (!Fields.IsEmpty)
        {
            yield return ("fields.json", Json(Fields));
            yield return ("fields.csv", Csv(Fields));
        }

        if (!Conditions.IsEmpty)
        {
            yield return ("conditions.json", Json(Conditions));
            yield return (
                "conditions.csv",
                Csv(
                    Conditions.Select(c => new
                    {
                        c.Name,
                        c.Readers,
                        Definition = DocumentJson.Write(c.Definition),
                    })
                )
            );
        }
    }

    private static byte[] Json<T>(ImmutableArray<T> table) => JsonSerializer.SerializeToUtf8Bytes(table, DocumentJson.Options);

    private static byte[] Csv<T>(IEnumerable<T> table)
    {
        using var text = new StringWriter(CultureInfo.InvariantCulture);
        // What begins like a formula is none.
        var form = new CsvConfiguration(CultureInfo.InvariantCulture) { InjectionOptions = InjectionOptions.Escape };
        using (var csv = new CsvWriter(text, form, leaveOpen: true))
        {
            csv.WriteRecords(table);
        }

        return Encoding.UTF8.GetBytes(text.ToString());
    }
}
