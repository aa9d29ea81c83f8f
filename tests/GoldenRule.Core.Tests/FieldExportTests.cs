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

    private static FieldExport Export(string text, string href = "https://larkfell.example.org/", string subject = "Steam")
    {
        Document email = new SetFill("viaduct", "text", "text", new FieldValue.Prose(RichText.FromParagraphs(text))).Apply(
            Larkfell.Gazette
        );
        email = new SetFill("viaduct", "button", "link", new FieldValue.Link(href)).Apply(email);
        email = new SetDetail("subject", subject).Apply(email);
        var resolved = Resolver.Resolve(
            (Email)email,
            RunningOrder.From((Email)email, Larkfell.Masters),
            Larkfell.Style,
            Larkfell.Pictures,
            inline: Larkfell.Inline(Larkfell.Gazette).WithFieldsKept()
        );
        return FieldExport.Write(Compiler.Compile(resolved, "", Purpose.Sending), Larkfell.Audiences, ExportProfile.Mustache);
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
}
