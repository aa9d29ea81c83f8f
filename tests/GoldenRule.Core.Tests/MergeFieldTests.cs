using System.Collections.Immutable;
using System.Text;
using GoldenRule.Core.Audiences;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Core.Interchange;

namespace GoldenRule.Core.Tests;

/// <summary>What is known of readers: its types and how it is written, and sample readers from a file.</summary>
public sealed class MergeFieldTests
{
    private static MergeField Field(MergeFieldType type, FieldFormat format = FieldFormat.AsItIs) =>
        new()
        {
            Key = "field",
            Label = "Field",
            Type = type,
            Format = format,
            Choices = type is MergeFieldType.Choice or MergeFieldType.Tags ? ["valley", "hills", "Tearoom"] : [],
        };

    [Theory]
    [InlineData(MergeFieldType.Number, " 12.50 ", "12.50")]
    [InlineData(MergeFieldType.Number, "-3", "-3")]
    [InlineData(MergeFieldType.Date, "2027-02-28", "2027-02-28")]
    [InlineData(MergeFieldType.YesNo, "TRUE", "yes")]
    [InlineData(MergeFieldType.YesNo, "no", "no")]
    [InlineData(MergeFieldType.Choice, "Hills", "hills")]
    [InlineData(MergeFieldType.Tags, "tearoom; valley;tearoom;", "Tearoom;valley")]
    [InlineData(MergeFieldType.Text, " Ada ", "Ada")]
    [InlineData(MergeFieldType.Text, "", "")]
    public void A_value_is_read_into_one_form(MergeFieldType type, string text, string value) =>
        Assert.Equal(value, Field(type).Read(text));

    [Theory]
    [InlineData(MergeFieldType.Number, "12,50")]
    [InlineData(MergeFieldType.Number, "NaN")]
    [InlineData(MergeFieldType.Number, "99999999999999999999")]
    [InlineData(MergeFieldType.Date, "2027-02-29")]
    [InlineData(MergeFieldType.Date, "28/02/2027")]
    [InlineData(MergeFieldType.YesNo, "perhaps")]
    [InlineData(MergeFieldType.Choice, "the sea")]
    [InlineData(MergeFieldType.Tags, "valley;the sea")]
    public void What_does_not_fit_its_type_is_refused_with_the_reason(MergeFieldType type, string text) =>
        Assert.True(Assert.Throws<FormatException>(() => Field(type).Read(text)).Message.Length > 15);

    /// <summary>As the CLDR has it for each language; see also the front end's test against Intl.</summary>
    [Theory]
    [InlineData(MergeFieldType.Number, FieldFormat.AsItIs, "1234567.5", "en-GB", "1,234,567.5")]
    [InlineData(MergeFieldType.Number, FieldFormat.TwoDecimals, "1234.5", "de", "1.234,50")]
    [InlineData(MergeFieldType.Number, FieldFormat.TwoDecimals, "1234.5", "es", "1234,50")]
    [InlineData(MergeFieldType.Number, FieldFormat.TwoDecimals, "12345.5", "es", "12.345,50")]
    [InlineData(MergeFieldType.Number, FieldFormat.Whole, "1234567.6", "hi", "12,34,568")]
    [InlineData(MergeFieldType.Number, FieldFormat.Whole, "-0.2", "en-GB", "0")]
    [InlineData(MergeFieldType.Date, FieldFormat.LongDate, "2027-03-06", "en-GB", "Saturday 6 March 2027")]
    [InlineData(MergeFieldType.Date, FieldFormat.IsoDate, "2027-03-06", "en-GB", "2027-03-06")]
    [InlineData(MergeFieldType.Text, FieldFormat.Capital, "ångström", "sv", "Ångström")]
    [InlineData(MergeFieldType.Text, FieldFormat.Capitals, "ada", "en-GB", "ADA")]
    [InlineData(MergeFieldType.Tags, FieldFormat.AsItIs, "Tearoom;valley", "en-GB", "Tearoom, valley")]
    public void It_is_written_in_the_language_of_the_email(
        MergeFieldType type,
        FieldFormat format,
        string value,
        string language,
        string written
    ) => Assert.Equal(written, Field(type, format).Write(value, language));

    [Fact]
    public void A_reader_of_whom_it_is_not_known_gets_the_fallback_and_a_proof_the_sample()
    {
        var inline = Larkfell.Inline(Larkfell.Gazette);
        var node = new InlineNode(InlineKind.Field, "first-name");
        Assert.Equal("Ada", inline.Words(node));
        Assert.Equal("Tomos", inline.As(Larkfell.Readers.Single(r => r.Name.StartsWith("Tomos", StringComparison.Ordinal))).Words(node));
        Assert.Equal("traveller", inline.As(Larkfell.Readers.Single(r => r.Name == "Someone new")).Words(node));
        Assert.Equal(
            "",
            inline.As(Larkfell.Readers.Single(r => r.Name == "Someone new")).Words(new InlineNode(InlineKind.Field, "last-name"))
        );
        Assert.Equal(new KeptField("first-name", false).ToString(), inline.WithFieldsKept().Words(node));
    }

    /// <summary>A value within an address is encoded (RFC 3986, 2.1): it says nothing but itself.</summary>
    [Fact]
    public void A_value_in_an_address_cannot_lead_elsewhere()
    {
        var reader = new SampleReader(
            Guid.Empty,
            "Hostile",
            ImmutableSortedDictionary<string, string>.Empty.Add("first-name", "a b&c=d/../?x#\"<é")
        );
        Assert.Equal(
            "https://larkfell.example.org/?n=A%20b%26c%3Dd%2F..%2F%3Fx%23%22%3C%C3%A9",
            Larkfell
                .Inline(Larkfell.Gazette)
                .As(reader)
                .Address($"https://larkfell.example.org/?n={new InlineNode(InlineKind.Field, "first-name")}")
        );
    }

    [Fact]
    public void Its_type_stays_and_what_cannot_be_is_refused()
    {
        var plan = Larkfell.Audiences;
        Assert.Contains(
            "has a type and keeps it",
            Assert
                .Throws<StructureException>(() => new SetMergeField(plan.Fields[0] with { Type = MergeFieldType.Number }).Apply(plan))
                .Message,
            StringComparison.Ordinal
        );
        foreach (
            var wrong in (MergeField[])
                [
                    Field(MergeFieldType.Text) with
                    {
                        Key = "First Name",
                    },
                    Field(MergeFieldType.Text) with
                    {
                        Label = " ",
                    },
                    Field(MergeFieldType.Choice) with
                    {
                        Choices = [],
                    },
                    Field(MergeFieldType.Choice) with
                    {
                        Choices = ["one", "ONE"],
                    },
                    Field(MergeFieldType.Tags) with
                    {
                        Choices = ["a;b"],
                    },
                    Field(MergeFieldType.Text) with
                    {
                        Choices = ["a"],
                    },
                    Field(MergeFieldType.Date, FieldFormat.Capitals),
                    Field(MergeFieldType.Date, FieldFormat.LongDate) with
                    {
                        Sample = "soon",
                    },
                    Field(MergeFieldType.Text) with
                    {
                        Fallback = new InlineNode(InlineKind.Snippet, "x").ToString(),
                    },
                ]
        )
        {
            Assert.Throws<StructureException>(() => AudiencePlan.Check(plan with { Fields = plan.Fields.Add(wrong) }));
        }
    }

    private static ReadReaders Read(string csv, ImmutableArray<MappedColumn>? mapping = null) =>
        SampleReaderFile.Read(csv, Larkfell.Audiences, mapping, Guid.NewGuid);

    /// <summary>
    /// RFC 4180, section 2: quoted fields with commas, quotation marks and line ends; CRLF or LF; the last line end left out.
    /// </summary>
    [Theory]
    [InlineData("First name,Member\r\n\"Ada, Countess\",yes\r\n\"Say \"\"hello\"\"\",no\r\n")]
    [InlineData("\ufeffFirst name,Member\n\"Ada, Countess\",yes\n\"Say \"\"hello\"\"\",no")]
    [InlineData("first-name;member\r\n\"Ada, Countess\";yes\r\n\"Say \"\"hello\"\"\";no\r\n")]
    public void A_file_is_read_by_its_headings(string csv)
    {
        var read = Read(csv);
        Assert.Empty(read.Bad);
        Assert.Equal(["first-name", "member"], read.Columns.Select(c => c.Field));
        Assert.Equal(["Ada, Countess", "Say \"hello\""], read.Readers.Select(r => r.Values["first-name"]));
        Assert.Equal(["yes", "no"], read.Readers.Select(r => r.Values["member"]));
        Assert.Equal(["Reader 1", "Reader 2"], read.Readers.Select(r => r.Name));
    }

    [Fact]
    public void Every_bad_line_is_named_and_nothing_is_half_taken_in()
    {
        var read = Read(
            "Name,Member,Membership ends,Journeys this year\nAda,yes,2027-03-31,6\nBea,maybe,2027-13-01,6\nCy,no,,many\nDi,no\n"
        );
        Assert.Empty(read.Readers);
        Assert.Equal(
            [(3, "Member"), (3, "Membership ends"), (4, "Journeys this year"), (5, null)],
            read.Bad.Select(b => (b.Line, b.Column))
        );
        Assert.All(read.Bad, b => Assert.True(b.Message.Length > 10));
    }

    [Fact]
    public void A_column_is_read_into_the_field_it_is_mapped_onto()
    {
        var read = Read(
            "a,b,c\nAda,yes,x\n",
            [new MappedColumn("a", "name"), new MappedColumn("b", "member"), new MappedColumn("c", null)]
        );
        Assert.Equal("Ada", Assert.Single(read.Readers).Name);
        Assert.Equal(["member"], read.Readers[0].Values.Keys);
        Assert.Throws<StructureException>(() => Read("a,b\n1,2\n", [new MappedColumn("a", "member"), new MappedColumn("b", "member")]));
        Assert.Throws<StructureException>(() => Read("a\n1\n", [new MappedColumn("a", "shoe-size")]));
        Assert.Throws<StructureException>(() => Read("a\n1\n", [new MappedColumn("z", "member")]));
    }

    [Theory]
    [InlineData("")]
    [InlineData("First name\n")]
    [InlineData("First name,First name\nAda,Bea\n")]
    [InlineData("First name\n\"Ada\n")]
    [InlineData("First name\nA\"da\n")]
    public void What_is_no_such_file_is_refused(string csv) =>
        Assert.True(Assert.Throws<StructureException>(() => Read(csv)).Message.Length > 15);

    private sealed record Table(string Name, string Csv, Dictionary<string, string>[] Rows);

    /// <summary>Tables that other programs wrote, with what they say (npm "csv-spectrum" 2.0.0), each heading a field of text.</summary>
    [Fact]
    public void Tables_of_other_programs_are_read_as_they_are_meant()
    {
        var tables = System.Text.Json.JsonSerializer.Deserialize<Table[]>(
            File.ReadAllText(Path.Combine(AppContext.BaseDirectory, "Vectors", "csv-spectrum.json")),
            System.Text.Json.JsonSerializerOptions.Web
        )!;
        // RFC 4180, 2.5: a field that is not quoted has no quotation marks; these coordinates have, and are refused.
        foreach (var table in tables.Where(t => t.Name != "location_coordinates"))
        {
            var headings = table.Rows[0].Keys.ToList();
            var plan = AudiencePlan.Empty with
            {
                Fields =
                [
                    .. headings.Select(
                        (h, i) =>
                            new MergeField
                            {
                                Key = $"column-{i}",
                                Label = h,
                                Type = MergeFieldType.Text,
                            }
                    ),
                ],
            };
            var read = SampleReaderFile.Read(
                table.Csv,
                plan,
                [.. headings.Select((h, i) => new MappedColumn(h, $"column-{i}"))],
                Guid.NewGuid
            );
            Assert.Empty(read.Bad);
            Assert.Equal(
                table.Rows.SelectMany(r => headings.Select(h => r[h].ReplaceLineEndings("\n").Trim())),
                read.Readers.SelectMany(r =>
                    headings.Select((_, i) => r.Values.GetValueOrDefault($"column-{i}", "").ReplaceLineEndings("\n"))
                )
            );
        }
    }

    [Fact]
    public void It_is_no_list_of_recipients()
    {
        var csv = new StringBuilder("First name\n");
        for (var i = 0; i < 10_000; i++)
        {
            csv.Append("Ada\n");
        }

        Assert.Contains(
            "no list of recipients",
            Assert.Throws<StructureException>(() => Read(csv.ToString())).Message,
            StringComparison.Ordinal
        );
        Assert.Equal(500, Read("First name\n" + string.Concat(Enumerable.Repeat("Ada\n", 500))).Readers.Length);
    }
}
