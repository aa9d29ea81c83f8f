using System.Collections.Immutable;
using System.Text;
using GoldenRule.Core.Audiences;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Core.Interchange;
using GoldenRule.Core.Resolving;

namespace GoldenRule.Core.Tests;

/// <summary>
/// Fields as a sending platform writes them. That what comes out is Mustache is proved in tests/browser/snippets.spec.ts, where the npm
/// package renders it.
/// </summary>
public sealed class FieldExportTests
{
    private static string Node(string key) => new InlineNode(InlineKind.Field, key).ToString();

    private static FieldExport Export(string text, string href = "https://larkfell.example.org/", string subject = "Steam") =>
        Export(ExportProfile.Mustache, text, href, subject);

    private static FieldExport Export(
        ExportProfile profile,
        string text,
        string href = "https://larkfell.example.org/",
        string subject = "Steam",
        params ReadOnlySpan<Edit> more
    ) => FieldExport.Write(Kept(text, href, subject, more), Larkfell.Audiences, profile);

    private static CompiledEmail Kept(string text, string href, string subject, ReadOnlySpan<Edit> more)
    {
        Document email = new SetFill("viaduct", "text", "text", new FieldValue.Prose(RichText.FromParagraphs(text))).Apply(
            Larkfell.Gazette
        );
        email = new SetFill("viaduct", "button", "link", new FieldValue.Link(href)).Apply(email);
        email = new SetDetail("subject", subject).Apply(email);
        foreach (var edit in more)
        {
            email = edit.Apply(email);
        }

        var resolved = Resolver.Resolve(
            (Email)email,
            RunningOrder.From((Email)email, Larkfell.Masters),
            Larkfell.Style,
            Larkfell.Pictures,
            inline: Larkfell.Inline(Larkfell.Gazette).WithFieldsKept()
        );
        return Compiler.Compile(resolved, "", Purpose.Sending);
    }

    [Fact]
    public void A_field_stands_with_its_fallback_in_words_and_encoded_in_an_address()
    {
        var export = Export(
            $"Hello {Node("first-name")}, {Node("member-number")}.",
            $"https://larkfell.example.org/?n={Node("first-name")}",
            $"For {Node("first-name")}"
        );
        var html = export.Email.HtmlText();
        Assert.Contains(
            "Hello {{#first-name}}{{first-name}}{{/first-name}}{{^first-name}}traveller{{/first-name}}, {{member-number}}.",
            html,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "?n={{#first-name-in-link}}{{&first-name-in-link}}{{/first-name-in-link}}"
                + "{{^first-name-in-link}}traveller{{/first-name-in-link}}",
            html,
            StringComparison.Ordinal
        );
        Assert.Equal(
            "For {{#first-name}}{{&first-name}}{{/first-name}}{{^first-name}}traveller{{/first-name}}",
            export.Email.Source.Email.Details.Subject
        );
        Assert.Contains("{{&member-number}}", export.PlainText, StringComparison.Ordinal);
        Assert.Equal(["first-name", "first-name-in-link", "member-number"], export.Fields.Select(f => f.Name));
        Assert.DoesNotContain(html + export.PlainText, c => c is >= '\uFDD0' and <= '\uFDD4');
    }

    [Fact]
    public void What_somebody_wrote_is_never_taken_for_a_mark()
    {
        var export = Export("{{first-name}} and {{{ }}", subject: "{{#x}}");
        Assert.Empty(export.Fields);
        Assert.Contains("{{=<% %>=}}{{<%={{ }}=%>first-name}}", export.Email.HtmlText(), StringComparison.Ordinal);
        Assert.Equal("{{=<% %>=}}{{<%={{ }}=%>#x}}", export.Email.Source.Email.Details.Subject);
    }

    [Fact]
    public void An_email_without_fields_is_exported_as_it_is()
    {
        var resolved = Larkfell.Resolve(Larkfell.Gazette);
        var compiled = Compiler.Compile(resolved, "", Purpose.Sending);
        var export = FieldExport.Write(compiled, Larkfell.Audiences, ExportProfile.Mustache);
        Assert.Equal(compiled.Html(), export.Email.Html());
        Assert.Equal(compiled.PlainText(), export.PlainText);
        Assert.Empty(export.Tables());
    }

    [Fact]
    public void The_tables_say_what_each_field_is()
    {
        var export = Export($"{Node("member-until")} {Node("interests")}");
        var tables = export.Tables().ToDictionary(t => t.Name, t => Encoding.UTF8.GetString(t.Content));
        var rows = tables["fields.csv"].Split("\r\n", StringSplitOptions.RemoveEmptyEntries);
        Assert.Equal("Name,Label,Type,Written,Fallback", rows[0]);
        Assert.Equal("member-until,Membership ends,Date,\"like \"\"Wednesday 31 March 2027\"\"\",", rows[2]);
        Assert.Contains("\"name\":\"member-until\"", tables["fields.json"], StringComparison.Ordinal);
        Assert.Equal(
            "Wednesday 31 March 2027",
            FieldExport.Data(Larkfell.Readers[0], Larkfell.Audiences, "en-GB", ExportProfile.Mustache)["member-until"]
        );
    }

    private static readonly ExportProfile Wordy = new()
    {
        Key = "wordy",
        Name = "Wordy",
        Field = "[[NAME]]",
        Plain = "[[NAME as it is]]",
        Date = "[[NAME as a date]]",
        Open = "[[when NAME]]",
        Else = "[[otherwise]]",
        Close = "[[end]]",
        Marks = "[[ <%",
        Literal = "[[say 'MARK']]",
    };

    private static SetCondition Shown(string piece, Condition condition) => new("viaduct", piece, condition);

    private static Condition Lives(string where) => new Condition.Test("home", Comparison.Is, [where]);

    [Fact]
    public void A_profile_says_how_everything_is_written()
    {
        var export = Export(
            Wordy,
            $"{Node("first-name")} [[x]] <% {Node("member-until")}",
            more: [Shown("text", new Condition.Audience("members")), Shown("headline", Lives("the valley"))]
        );
        var html = export.Email.HtmlText();
        Assert.Contains(
            "[[when first-name]][[first-name]][[otherwise]]traveller[[end]] [[say '[[']]x]] &lt;% [[member-until as a date]]",
            html,
            StringComparison.Ordinal
        );
        Assert.Contains("[[when first-name]][[first-name as it is]]", export.PlainText, StringComparison.Ordinal);
        Assert.Contains("[[say '<%']]", export.PlainText, StringComparison.Ordinal);
        Assert.Equal(["condition-1", "audience-members"], export.Conditions.Select(c => c.Name));
        Assert.Equal("Members", export.Conditions[1].Readers);
        Assert.IsType<Condition.Test>(export.Conditions[1].Definition);
        Assert.Matches("\\[\\[when audience-members\\]\\]<tr[^\\[]*\\[\\[when first-name", html);
        Assert.Contains(
            "Definition",
            Encoding.UTF8.GetString(export.Tables().Single(t => t.Name == "conditions.csv").Content),
            StringComparison.Ordinal
        );
        Assert.Equal("2027-03-31", FieldExport.Data(Larkfell.Readers[0], Larkfell.Audiences, "en-GB", Wordy)["member-until"]);
        Assert.Empty(export.Faults);
    }

    [Fact]
    public void What_a_profile_cannot_say_is_told_with_its_place()
    {
        var bare = Wordy with { Open = "", Else = "", Close = "", Literal = "" };
        var faults = Export(
            bare,
            $"{Node("first-name")} and [[x",
            subject: "<% now",
            more: [Shown("text", new Condition.Audience("members"))]
        ).Faults;
        var name = RunningOrder.From(Larkfell.Gazette, Larkfell.Masters).Find("viaduct")!.Name;
        Assert.Contains(faults, f => f.Where == name && f.What.Contains("the fallback \"traveller\"", StringComparison.Ordinal));
        Assert.Contains(faults, f => f.Where == name && f.What.Contains("It is shown to Members", StringComparison.Ordinal));
        Assert.Contains(faults, f => f.Where == name && f.What.Contains("\"[[\"", StringComparison.Ordinal));
        Assert.Contains(faults, f => f.Where == "subject" && f.What.Contains("\"<%\"", StringComparison.Ordinal));
        Assert.Equal(faults.Distinct(), faults);
    }

    /// <summary>One email for each combination: what its readers see, and no trace of a condition.</summary>
    [Fact]
    public void A_platform_without_conditions_gets_one_email_for_each_combination()
    {
        var kept = Kept(
            "For the valley.",
            "https://larkfell.example.org/",
            "Steam",
            [Shown("text", Lives("the valley")), Shown("button", new Condition.Audience("members")), Shown("headline", Lives("the hills"))]
        );
        var bare = Wordy with { Open = "", Else = "", Close = "" };
        var emails = CombinationExport.Write(kept, Larkfell.Audiences, bare);
        // In the valley, in the hills or neither; a member or not.
        Assert.Equal(6, emails.Length);
        Assert.Equal(6, emails.Select(e => e.File).Distinct().Count());
        Assert.All(emails, e => Assert.Empty(e.Export.Faults));
        foreach (var reader in Larkfell.Readers)
        {
            var mine = Assert.Single(emails, e => Conditions.Holds(e.Definition, Larkfell.Audiences, reader.Values));
            Assert.Equal(
                reader.Values.GetValueOrDefault("home") == "the valley",
                mine.Export.Email.HtmlText().Contains("For the valley.", StringComparison.Ordinal)
            );
            Assert.Equal(kept.Seen(c => Conditions.Holds(c, Larkfell.Audiences, reader.Values)).PlainText(), mine.Export.PlainText);
        }

        var files = CombinationExport.Files(emails).Select(f => f.Name).ToList();
        Assert.Equal(13, files.Count);
        Assert.Contains(files, f => f.Contains("members", StringComparison.Ordinal) && f.EndsWith(".html", StringComparison.Ordinal));
    }

    [Fact]
    public void More_combinations_than_are_written_are_refused_with_their_number()
    {
        var (plan, conditions) = ConditionTests.Independent(7);
        var row = RunningOrder
            .From(Larkfell.Gazette, Larkfell.Masters)
            .Rows.SelectMany(r => r.Row.Blocks.Select(b => (r.Id, b.Id)))
            .ToList();
        Document email = Larkfell.Gazette;
        for (var i = 0; i < conditions.Length; i++)
        {
            email = new SetCondition(row[i].Item1, row[i].Item2, conditions[i]).Apply(email);
        }

        var refused = Assert.Throws<StructureException>(() =>
            CombinationExport.Write(Compiler.Compile(Larkfell.Resolve((Email)email), "", Purpose.Sending), plan, Wordy)
        );
        Assert.Contains("There are 128 combinations", refused.Message, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("", "NAME", "", "", "Field")]
    [InlineData("NAME", "", "[", "", "begins and ends")]
    [InlineData("NAME", "", "", "else", "without the beginning")]
    [InlineData("two\nlines NAME", "", "", "", "one line")]
    public void A_profile_that_cannot_be_written_with_is_refused(string field, string plain, string open, string otherwise, string why)
    {
        var profile = Wordy with { Field = field, Plain = plain, Open = open, Else = otherwise, Close = "" };
        Assert.Contains(why, Fault(profile), StringComparison.OrdinalIgnoreCase);
        Assert.Contains("there already", Fault(Wordy with { Key = "mustache" }), StringComparison.Ordinal);
        Assert.Contains("MARK", Fault(Wordy with { Literal = "x" }), StringComparison.Ordinal);
        Assert.Same(Larkfell.Audiences, AudiencePlan.Check(Larkfell.Audiences));

        static string Fault(ExportProfile profile) =>
            Assert.Throws<StructureException>(() => AudiencePlan.Check(Larkfell.Audiences with { Profiles = [profile] })).Message;
    }
}
