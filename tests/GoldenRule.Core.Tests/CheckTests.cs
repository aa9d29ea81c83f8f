using System.Text.RegularExpressions;
using GoldenRule.Core.Checking;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Core.HouseStyles;
using GoldenRule.Core.Releases;

namespace GoldenRule.Core.Tests;

/// <summary>Each check on an email it must find fault with, and on the same email put right.</summary>
public sealed partial class CheckTests
{
    private static readonly Email Sound = Good();

    /// <summary>The gazette with its one gap filled: nothing stops it.</summary>
    private static Email Good() =>
        (Email)new SetFill("viaduct", "picture", "alt", new FieldValue.Words("The viaduct.")).Apply(Larkfell.Gazette);

    private static FieldValue Words(string text) => new FieldValue.Words(text);

    public static TheoryData<string, Severity, string, Edit> Faults =>
        new()
        {
            { "subject", Severity.Stop, "subject", new SetDetail("subject", "  ") },
            { "subject-length", Severity.Advise, "subject", new SetDetail("subject", new string('a', 51)) },
            { "preheader", Severity.Warn, "preheader", new SetDetail("preheader", "") },
            { "preheader-length", Severity.Advise, "preheader", new SetDetail("preheader", new string('a', 39)) },
            { "preheader-length", Severity.Advise, "preheader", new SetDetail("preheader", new string('a', 131)) },
            { "placeholder-wording", Severity.Stop, "text", new ClearFill("hero", "headline", "text") },
            { "limit", Severity.Stop, "text", new SetFill("hero", "headline", "text", Words(new string('a', 61))) },
            { "limit", Severity.Stop, "link", new SetFill("hero", "button", "link", new FieldValue.Link("https://example.net/")) },
            { "link", Severity.Stop, "link", new SetFill("viaduct", "button", "link", new FieldValue.Link("")) },
            { "link", Severity.Stop, "link", new SetFill("viaduct", "button", "link", new FieldValue.Link("#")) },
            { "link", Severity.Stop, "link", new SetFill("viaduct", "button", "link", new FieldValue.Link("javascript:alert(1)")) },
            { "plain-http", Severity.Warn, "link", new SetFill("viaduct", "button", "link", new FieldValue.Link("http://example.org/")) },
            { "alt-text", Severity.Stop, "alt", new SetFill("viaduct", "picture", "alt", Words(" ")) },
            { "missing-picture", Severity.Stop, "picture", new SetFill("viaduct", "picture", "picture", new FieldValue.Image("gone")) },
            { "heading-order", Severity.Warn, "", new SetLook("viaduct", "headline", "level", "3") },
            { "zone", Severity.Stop, "", new MoveRow("boiler", "beside", 0) },
        };

    [Theory]
    [MemberData(nameof(Faults))]
    public void A_fault_is_found_where_it_is_and_not_before(string check, Severity severity, string field, Edit edit)
    {
        Assert.DoesNotContain(Larkfell.Check(Sound), f => f.Check == check && f.Severity == severity);
        var faulty = (Email)edit.Apply(edit is MoveRow ? new RemoveRow("meeting").Apply(Sound) : Sound);
        var finding = Assert.Single(Larkfell.Check(faulty), f => f.Check == check && f.Severity == severity);
        Assert.Equal(field, finding.Place.Field ?? "");
    }

    [Fact]
    public void A_sound_email_is_not_stopped() => Assert.DoesNotContain(Larkfell.Check(Sound), f => f.Severity == Severity.Stop);

    [Fact]
    public void Contrast_is_measured_in_both_schemes_and_told_with_its_ratio()
    {
        var pale = new StyleLayers(
            Larkfell.HouseStyle.WithVariable(Larkfell.HouseStyle.FindVariable("buffer-red")! with { Value = "#d99a6c" })
        );
        var finding = Assert.Single(Larkfell.Check(Sound, pale), f =>
            f.Check == "contrast" && f.Message.StartsWith("Button", StringComparison.Ordinal) && f.Severity == Severity.Stop
        );
        // colorjs.io 0.7: contrast of #f4e9d2 on #d99a6c is 1.98.
        Assert.StartsWith("1.98 : 1, needs 4.5", finding.Evidence, StringComparison.Ordinal);
        var dark = new StyleLayers(Larkfell.HouseStyle.WithVariable(Larkfell.HouseStyle.FindVariable("soot")! with { Dark = "#333333" }));
        Assert.Contains(Larkfell.Check(Sound, dark), f =>
            f.Check == "contrast-dark" && f.Severity == Severity.Warn && f.Message.Contains("dark mode", StringComparison.Ordinal)
        );
        Assert.DoesNotContain(Larkfell.Check(Sound), f => f.Check is "contrast" or "contrast-dark");
    }

    [Theory]
    [InlineData("13", Severity.Stop)]
    [InlineData("14", Severity.Advise)]
    [InlineData("15.5", Severity.Advise)]
    public void Small_text_is_found(string size, Severity severity)
    {
        var small = new StyleLayers(Larkfell.HouseStyle.WithStyle("body", "size", size));
        Assert.Contains(Larkfell.Check(Sound, small), f =>
            f.Check == (severity == Severity.Stop ? "text-size-least" : "text-size")
            && f.Severity == severity
            && f.Message.StartsWith("Text", StringComparison.Ordinal)
        );
        Assert.DoesNotContain(Larkfell.Check(Sound), f =>
            f.Check.StartsWith("text-size", StringComparison.Ordinal) && f.Message.StartsWith("Text:", StringComparison.Ordinal)
        );
    }

    [Fact]
    public void The_law_binds_marketing_and_not_transactions()
    {
        string[] Stops(bool transactional)
        {
            var booking = Larkfell.Emails.Single(e => e.Name.StartsWith("Booking", StringComparison.Ordinal)).Email;
            var bare = Larkfell.Resolve(booking) is var r ? r with { Rows = [.. r.Rows.Where(row => row.Id != "footer")] } : null!;
            return
            [
                .. CheckList
                    .Run(
                        new Inspection(
                            bare,
                            Compiling.Compiler.Compile(bare, "", Compiling.Purpose.Sending),
                            CheckContext.Usual with
                            {
                                Transactional = transactional,
                            }
                        )
                    )
                    .Findings.Where(f => f.Severity == Severity.Stop)
                    .Select(f => f.Check),
            ];
        }

        Assert.Equal(["unsubscribe", "postal-address"], Stops(transactional: false));
        Assert.Empty(Stops(transactional: true));
    }

    [Fact]
    public void An_email_that_would_be_clipped_is_stopped()
    {
        var words = string.Join(' ', Enumerable.Repeat("steam", 20_000));
        var long_ = (Email)new SetFill("meeting", "text", "text", new FieldValue.Prose(RichText.FromParagraphs(words))).Apply(Sound);
        Assert.Contains(Larkfell.Check(long_), f => f.Check == "clipped" && f.Severity == Severity.Stop);
        Assert.DoesNotContain(Larkfell.Check(Sound), f => f.Check is "clipped" or "nearly-clipped");
    }

    /// <summary>The quick looks before a limit is measured and before a doubled word is searched for never miss one.</summary>
    [Fact]
    public void What_is_looked_at_quickly_is_found_as_what_is_measured()
    {
        var random = new Random(15);
        string[] said = ["the", "The", "a", "é", "É", "3", "-", "'", "coaches and two engines", "\u00a0", "\t"];
        string[] between = [" ", "  ", "\n", " \t", ""];
        var (doubled, passed) = (0, 0);
        for (var i = 0; i < 150; i++)
        {
            var words = Text(random.Next(1, 24));
            var prose = RichText.FromParagraphs([.. Enumerable.Range(0, random.Next(1, 5)).Select(_ => Text(random.Next(30)))]);
            var email = (Email)new SetFill("hero", "headline", "text", new FieldValue.Words(words)).Apply(Sound);
            email = (Email)new SetFill("meeting", "text", "text", new FieldValue.Prose(prose)).Apply(email);
            var inspected = Larkfell.Inspect(email);

            var blocks = inspected.Inspection.Rows.SelectMany(r => r.Blocks).Select(b => b.Block).ToList();
            var broken = blocks
                .SelectMany(b => b.Master.Limits.SelectMany(l => Measuring.Measure(b.Content, l.Key, l.Value, Larkfell.Pictures)))
                .Count(m => m.Broken);
            var twice = new[] { words, prose.PlainText }.Count(t => Twice().IsMatch(t));
            Assert.Equal(broken, inspected.Findings.Count(f => f.Check == "limit"));
            Assert.Equal(twice, inspected.Findings.Count(f => f.Check == "doubled-word"));
            (doubled, passed) = (doubled + twice, passed + broken);
        }

        Assert.True(doubled > 30 && passed > 30, $"{doubled} doubled, {passed} passed");

        string Text(int pieces) =>
            string.Concat(Enumerable.Range(0, pieces).Select(_ => said[random.Next(said.Length)] + between[random.Next(between.Length)]));
    }

    [GeneratedRegex(
        @"\b(?<word>\p{L}+)[ \t\n]+\k<word>\b",
        RegexOptions.IgnoreCase | RegexOptions.CultureInvariant | RegexOptions.ExplicitCapture,
        1000
    )]
    private static partial Regex Twice();

    [Fact]
    public void A_remedy_mends_what_it_stands_beside()
    {
        var finding = Assert.Single(Larkfell.Check(Larkfell.Gazette), f => f.Check == "alt-text");
        var mended = (Email)finding.Remedy!.Edits.Aggregate((Document)Larkfell.Gazette, (d, e) => e.Apply(d));
        Assert.DoesNotContain(Larkfell.Check(mended), f => f.Check == "alt-text");
        Assert.IsType<Governance.Decision.Allowed>(
            Governance.Governor.Decide(Larkfell.Author, finding.Remedy.Edits[0], Larkfell.Open(Larkfell.Gazette))
        );
    }

    [Fact]
    public void Reach_tells_what_would_newly_be_blocked()
    {
        var pale = new StyleLayers(
            Larkfell.HouseStyle.WithVariable(Larkfell.HouseStyle.FindVariable("buffer-red")! with { Value = "#d99a6c" })
        );
        var reached = new Releases.ReachedEmail(Sound, RunningOrder.From(Sound, Larkfell.Masters), CheckContext.Usual);
        Assert.Contains(Releases.Reach.NewBlockers(reached, Larkfell.Style, pale, Larkfell.Pictures), s => s.Check == "contrast");
        Assert.Empty(Releases.Reach.NewBlockers(reached, Larkfell.Style, Larkfell.Style, Larkfell.Pictures));
    }

    [Fact]
    public void Every_check_has_a_name_of_its_own_and_a_reason() =>
        Assert.Equal(
            CheckList.All.Length,
            CheckList.All.Where(c => c.Why.Length > 20).Select(c => c.Name).Distinct(StringComparer.Ordinal).Count()
        );
}
