using System.Collections.Immutable;
using System.Globalization;
using System.Threading;
using CsvHelper;
using CsvHelper.Configuration;
using GoldenRule.Core.Audiences;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Interchange;

/// <summary>A column of a file, and the field it would be read into.</summary>
/// <param name="Field">Key of the field, <see cref="SampleReaderFile.NameColumn"/>, or null: it is left out.</param>
public sealed record MappedColumn(string Column, string? Field);

/// <param name="Line">From 1, the heading's among them.</param>
/// <param name="Column">Null: the line as a whole.</param>
public sealed record BadLine(int Line, string? Column, string Message);

/// <summary>What a file of sample readers holds. Where any line is bad there are no readers: nothing is half taken in.</summary>
public sealed record ReadReaders(ImmutableArray<MappedColumn> Columns, ImmutableArray<SampleReader> Readers, ImmutableArray<BadLine> Bad);

/// <summary>Sample readers as CSV (RFC 4180): a line of headings, then one line a reader.</summary>
public static class SampleReaderFile
{
    /// <summary>What a column is mapped onto whose text is what the sample is called.</summary>
    public const string NameColumn = "name";

    /// <summary>Bad lines told of at most.</summary>
    private const int MostBad = 100;

    /// <param name="mapping">Which column is which field. Null: by what the headings say.</param>
    /// <param name="newId">Gives each reader an id.</param>
    /// <exception cref="StructureException">It is no such file.</exception>
    public static ReadReaders Read(
        string csv,
        AudiencePlan plan,
        ImmutableArray<MappedColumn>? mapping,
        Func<Guid> newId,
        CancellationToken cancel = default
    )
    {
        using var reader = Open(csv);
        if (!Advance(reader) || !reader.ReadHeader() || reader.HeaderRecord is not { Length: > 0 } headings)
        {
            throw new StructureException("The file is empty: its first line names the columns.");
        }

        if (headings.Distinct(StringComparer.Ordinal).Count() != headings.Length)
        {
            throw new StructureException("Two columns have one heading. Give each its own.");
        }

        var columns = mapping is { } given ? Checked(given, headings, plan) : Guessed(headings, plan);
        var readers = ImmutableArray.CreateBuilder<SampleReader>();
        var bad = ImmutableArray.CreateBuilder<BadLine>();
        while (bad.Count < MostBad && Advance(reader))
        {
            cancel.ThrowIfCancellationRequested();
            if (readers.Count + bad.Select(b => b.Line).Distinct().Count() >= SampleReader.Most)
            {
                throw new StructureException(
                    $"The file has more than {SampleReader.Most} readers. These are samples "
                        + "to look at proofs by; no list of recipients belongs here."
                );
            }

            var line = reader.Parser.RawRow;
            if (reader.Parser.Count != headings.Length)
            {
                bad.Add(new BadLine(line, null, $"It has {reader.Parser.Count} columns; the first line has {headings.Length}."));
                continue;
            }

            if (One(reader, line, columns, plan, readers.Count + 1, newId, bad) is { } one)
            {
                readers.Add(one);
            }
        }

        if (bad.Count == 0 && readers.Count == 0)
        {
            throw new StructureException("The file has a line of headings and no readers.");
        }

        return new ReadReaders(columns, bad.Count == 0 ? readers.ToImmutable() : [], bad.ToImmutable());
    }

    internal static CsvReader Open(string csv)
    {
        var text = csv.TrimStart('\ufeff');
        var head = text.AsSpan(0, Math.Max(0, text.AsSpan().IndexOfAny('\r', '\n') is var end && end < 0 ? text.Length : end));
        return new CsvReader(
            new StringReader(text),
            new CsvConfiguration(CultureInfo.InvariantCulture)
            {
                // Some save with semicolons, by the custom of their country.
                Delimiter = head.Contains(',') || !head.Contains(';') ? "," : ";",
                TrimOptions = TrimOptions.None,
                BadDataFound = bad =>
                    throw new StructureException($"Line {bad.Context.Parser?.RawRow}: a quotation mark stands where none can."),
            }
        );
    }

    private static bool Advance(CsvReader reader) => reader.Read();

    private static SampleReader? One(
        CsvReader reader,
        int line,
        ImmutableArray<MappedColumn> columns,
        AudiencePlan plan,
        int number,
        Func<Guid> newId,
        ImmutableArray<BadLine>.Builder bad
    )
    {
        var values = ImmutableSortedDictionary.CreateBuilder<string, string>(StringComparer.Ordinal);
        var name = "";
        var good = true;
        for (var i = 0; i < columns.Length; i++)
        {
            var text = InlineNode.Without(reader.GetField(i) ?? "").Replace("\0", "", StringComparison.Ordinal);
            if (SampleReader.LengthFault(text) is { } length)
            {
                bad.Add(new BadLine(line, columns[i].Column, length));
                good = false;
            }
            else if (columns[i].Field == NameColumn)
            {
                name = text.Trim();
            }
            else if (columns[i].Field is { } key && plan.FindField(key) is { } field)
            {
                try
                {
                    if (field.Read(text) is { Length: > 0 } value)
                    {
                        values[key] = value;
                    }
                }
                catch (FormatException fault)
                {
                    bad.Add(new BadLine(line, columns[i].Column, fault.Message));
                    good = false;
                }
            }
        }

        return good ? new SampleReader(newId(), name.Length is > 0 and <= 120 ? name : $"Reader {number}", values.ToImmutable()) : null;
    }

    private static ImmutableArray<MappedColumn> Checked(ImmutableArray<MappedColumn> mapping, string[] headings, AudiencePlan plan)
    {
        if (!mapping.Select(m => m.Column).SequenceEqual(headings))
        {
            throw new StructureException("The columns are not those of the file. Choose the file again.");
        }

        foreach (var column in mapping)
        {
            if (column.Field is { } key && key != NameColumn && plan.FindField(key) is null)
            {
                throw new StructureException($"There is no field \"{key}\".", column.Column);
            }
        }

        return mapping.Where(m => m.Field is not null).GroupBy(m => m.Field).FirstOrDefault(g => g.Count() > 1) is { } twice
            ? throw new StructureException(
                $"Two columns would be read into \"{twice.Key}\": {string.Join(", ", twice.Select(m => m.Column))}."
            )
            : mapping;
    }

    // What a heading calls like a field is it; of two the first.
    internal static ImmutableArray<MappedColumn> Guessed(string[] headings, AudiencePlan plan)
    {
        var taken = new HashSet<string>(StringComparer.Ordinal);
        return
        [
            .. headings.Select(heading =>
            {
                var said = Plain(heading);
                var key = plan.Fields.Where(f => !f.Retired).FirstOrDefault(f => Plain(f.Key) == said || Plain(f.Label) == said)?.Key
                    ?? (said is "name" or "reader" or "sample" ? NameColumn : null);
                return new MappedColumn(heading, key is not null && taken.Add(key) ? key : null);
            }),
        ];
    }

    internal static string Plain(string text) => string.Concat(text.Where(char.IsLetterOrDigit)).ToLowerInvariant();
}
