using System.Collections.Immutable;
using System.Globalization;
using System.Text;
using System.Threading;
using CsvHelper;
using CsvHelper.Configuration;
using GoldenRule.Core.Audiences;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Interchange;

namespace GoldenRule.Core.Sending;

/// <summary>Somebody whom an email is sent to.</summary>
/// <param name="Values">By the field's key, as <see cref="MergeField.Read"/> has them.</param>
public sealed record ListedRecipient(string Address, ImmutableSortedDictionary<string, string> Values);

/// <summary>Why a line of a list is left out.</summary>
public enum LeftOutReason
{
    /// <summary>Its address is none, or a value cannot be read.</summary>
    Broken,

    /// <summary>The address stood there before.</summary>
    Twice,

    /// <summary>It is the address of a role, not of a person.</summary>
    Role,
}

/// <param name="Line">From 1, the heading's among them.</param>
public sealed record LeftOutLine(int Line, LeftOutReason Why, string Message);

/// <param name="Charset">What its characters were written in: "utf-8", "utf-16" or "windows-1252".</param>
/// <param name="Columns">Which column is which field.</param>
/// <param name="LeftOut">The first of them, at most <see cref="RecipientFile.MostTold"/>.</param>
/// <param name="Counts">How many lines are left out for each reason.</param>
public sealed record ReadRecipients(
    string Charset,
    ImmutableArray<MappedColumn> Columns,
    ImmutableArray<ListedRecipient> Recipients,
    ImmutableArray<LeftOutLine> LeftOut,
    ImmutableSortedDictionary<LeftOutReason, int> Counts
);

/// <summary>A small list of recipients as CSV (RFC 4180): a line of headings, then one line for each.</summary>
public static class RecipientFile
{
    /// <summary>Recipients of one file. A larger list belongs on a sending platform.</summary>
    public const int Most = 50_000;

    public const int MostTold = 100;

    /// <summary>What the column of addresses is mapped onto.</summary>
    public const string AddressColumn = "address";

    private const int LongestLocalPart = 64; // RFC 5321, 4.5.3.1.1
    private const int LongestAddress = 254; // RFC 5321, 4.5.3.1.3

    private static readonly string[] AddressHeadings = ["email", "emailaddress", "mail", "address"];

    // RFC 2142, 2 to 6, and "noreply": common practice, no source.
    private static readonly HashSet<string> Roles = new(
        [
            "abuse",
            "admin",
            "administrator",
            "ftp",
            "hostmaster",
            "info",
            "list",
            "list-request",
            "marketing",
            "news",
            "no-reply",
            "noc",
            "noreply",
            "postmaster",
            "sales",
            "security",
            "support",
            "usenet",
            "uucp",
            "webmaster",
            "www",
        ],
        StringComparer.OrdinalIgnoreCase
    );

    /// <exception cref="StructureException">It is no such file, or a list that is too long.</exception>
    public static ReadRecipients Read(byte[] file, AudiencePlan plan, CancellationToken cancel = default)
    {
        var (text, charset) = Decode(file);
        using var csv = SampleReaderFile.Open(text);
        if (!csv.Read() || !csv.ReadHeader() || csv.HeaderRecord is not { Length: > 0 } headings)
        {
            throw new StructureException("The file is empty: its first line names the columns.", "file");
        }

        var columns = ColumnsOf(headings, plan);
        var (found, told) = (ImmutableArray.CreateBuilder<ListedRecipient>(), ImmutableArray.CreateBuilder<LeftOutLine>());
        var counts = new SortedDictionary<LeftOutReason, int>();
        var known = new HashSet<string>(StringComparer.OrdinalIgnoreCase);
        while (csv.Read())
        {
            cancel.ThrowIfCancellationRequested();
            if (One(csv, columns, plan, known, out var fault) is { } one)
            {
                found.Add(one);
            }
            else
            {
                counts[fault!.Why] = counts.GetValueOrDefault(fault.Why) + 1;
                if (told.Count < MostTold)
                {
                    told.Add(fault);
                }
            }

            if (found.Count > Most)
            {
                throw new StructureException(
                    $"The list has more than {Most:N0} recipients. Keep one of that size on the sending platform and choose it there.",
                    "file"
                );
            }
        }

        return new(charset, columns, found.ToImmutable(), told.ToImmutable(), counts.ToImmutableSortedDictionary());
    }

    private static ImmutableArray<MappedColumn> ColumnsOf(string[] headings, AudiencePlan plan)
    {
        var columns = SampleReaderFile.Guessed(headings, plan);
        var at = Array.FindIndex(headings, h => AddressHeadings.Contains(SampleReaderFile.Plain(h)));
        return at < 0
            ? throw new StructureException("No column is called \"Email\": its heading says where the addresses stand.", "file")
            : columns.SetItem(at, new MappedColumn(headings[at], AddressColumn));
    }

    private static ListedRecipient? One(
        CsvReader csv,
        ImmutableArray<MappedColumn> columns,
        AudiencePlan plan,
        HashSet<string> known,
        out LeftOutLine? fault
    )
    {
        var line = csv.Parser.RawRow;
        fault = null;
        if (csv.Parser.Count != columns.Length)
        {
            fault = new(line, LeftOutReason.Broken, $"It has {csv.Parser.Count} columns; the first line has {columns.Length}.");
            return null;
        }

        var (address, values) = ("", ImmutableSortedDictionary.CreateBuilder<string, string>(StringComparer.Ordinal));
        for (var i = 0; i < columns.Length; i++)
        {
            var text = csv.GetField(i) ?? "";
            if (columns[i].Field == AddressColumn)
            {
                address = text.Trim();
            }
            else if (columns[i].Field is { } key && plan.FindField(key) is { } field)
            {
                try
                {
                    fault ??= SampleReader.LengthFault(text) is { } length
                        ? new(line, LeftOutReason.Broken, $"{columns[i].Column}: {length}")
                        : null;
                    if (field.Read(InlineNode.Without(text).Replace("\0", "", StringComparison.Ordinal)) is { Length: > 0 } value)
                    {
                        values[key] = value;
                    }
                }
                catch (FormatException wrong)
                {
                    fault ??= new(line, LeftOutReason.Broken, $"{columns[i].Column}: {wrong.Message}");
                }
            }
        }

        fault = (IsAddress(address), fault) switch
        {
            (false, _) => new(line, LeftOutReason.Broken, $"\"{Shortened(address)}\" is no email address."),
            (_, { } wrong) => wrong,
            _ when !known.Add(address) => new(line, LeftOutReason.Twice, $"{address} stood there before."),
            _ when Roles.Contains(address[..address.IndexOf('@', StringComparison.Ordinal)]) => new(
                line,
                LeftOutReason.Role,
                $"{address} is the address of a role: several people read it, and none of them asked."
            ),
            _ => null,
        };
        return fault is null ? new(address, values.ToImmutable()) : null;
    }

    private static bool IsAddress(string address) =>
        address.Length <= LongestAddress
        && !address.Any(c => char.IsControl(c) || c is ' ' or '"' or '<' or '>' or ',' or ';')
        && MailAddresses.IsOne(address)
        && address.LastIndexOf('@') is > 0 and <= LongestLocalPart and var at
        && Uri.CheckHostName(address[(at + 1)..]) == UriHostNameType.Dns
        && address.IndexOf('.', at) > 0;

    private static string Shortened(string text) => text.Length <= 80 ? text : text[..80] + "…";

    // A mark at its beginning says it; without one, what is no UTF-8 is what Western spreadsheets write.
    private static (string Text, string Charset) Decode(byte[] file)
    {
        if (file is [0xFF, 0xFE, ..] or [0xFE, 0xFF, ..])
        {
            var utf16 = file[0] == 0xFF ? Encoding.Unicode : Encoding.BigEndianUnicode;
            return (utf16.GetString(file, 2, file.Length - 2), "utf-16");
        }

        try
        {
            return (new UTF8Encoding(false, throwOnInvalidBytes: true).GetString(file), "utf-8");
        }
        catch (DecoderFallbackException)
        {
            return (CodePagesEncodingProvider.Instance.GetEncoding(1252)!.GetString(file), "windows-1252");
        }
    }
}
