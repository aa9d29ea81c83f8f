using System.Collections.Immutable;
using System.Text;
using FsCheck.Xunit;
using GoldenRule.Core.Audiences;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Reviews;
using GoldenRule.Core.Sending;

namespace GoldenRule.Core.Tests;

public sealed class SendingTests
{
    private sealed record ZoneMoment(string Zone, string Local, ImmutableArray<DateTime> At);

    private static readonly DateTime Monday = new(2026, 11, 30, 10, 0, 0, DateTimeKind.Utc);

    private static readonly AudiencePlan Plan = AudiencePlan.Empty with
    {
        Fields =
        [
            new()
            {
                Key = "first-name",
                Label = "First name",
                Type = MergeFieldType.Text,
            },
            new()
            {
                Key = "journeys",
                Label = "Journeys",
                Type = MergeFieldType.Number,
            },
        ],
    };

    /// <summary>Against Intl in Node, 500 seeded moments of ten zones, see tests/browser/zone-moments.mjs.</summary>
    [Fact]
    public void Moments_in_time_zones_are_those_that_Intl_has()
    {
        var all = DocumentJson.Read<ImmutableArray<ZoneMoment>>(
            File.ReadAllText(Path.Combine(AppContext.BaseDirectory, "zone-moments.json"))
        );
        Assert.Equal(500, all.Length);
        var (twice, never) = (0, 0);
        foreach (var (zone, local, at) in all)
        {
            var read = SendMoment.Read(local, zone);
            Assert.Equal(at.Length != 1, read.Note.Length > 0);
            twice += at.Length == 2 ? 1 : 0;
            never += at.IsEmpty ? 1 : 0;
            if (!at.IsEmpty)
            {
                Assert.Equal(at[0], read.At);
                continue;
            }

            // What does not come is as much later as clocks go forward: its own clock then says more than was asked for.
            var shown = SendMoment.LocalOf(read.At, SendMoment.ZoneOf(zone)).ToDateTimeUnspecified();
            var asked = DateTime.Parse(local, System.Globalization.CultureInfo.InvariantCulture);
            Assert.InRange(shown - asked, TimeSpan.FromMinutes(30), TimeSpan.FromMinutes(60));
        }

        Assert.True(twice > 20 && never > 20, $"{twice} come twice, {never} never");
    }

    [Theory]
    [InlineData("2026-11-30 10:00", "Europe/London", "start")]
    [InlineData("2026-02-30T10:00", "Europe/London", "start")]
    [InlineData("2026-11-30T10:00", "Europe/Atlantis", "zone")]
    public void What_is_no_moment_is_refused(string local, string zone, string piece) =>
        Assert.Equal(piece, Assert.Throws<StructureException>(() => SendMoment.Read(local, zone)).Piece);

    [Fact]
    public void Two_thousand_in_batches_of_200_every_half_hour_take_four_and_a_half_hours()
    {
        var plan = BatchPlan.Draw(new BatchRule(), 2_000, Monday, "Europe/London");
        Assert.Equal(10, plan.Length);
        Assert.All(plan, b => Assert.Equal(200, b.Size));
        Assert.Equal(Monday.AddHours(4.5), plan[^1].At);
    }

    [Fact]
    public void Batches_grow_from_day_to_day_and_keep_to_the_hours_of_a_zone_also_across_a_change_of_clocks()
    {
        // London, clocks go back on 25 October 2026: 9 o'clock is 08:00 UTC before and 09:00 UTC after (IANA Time Zone Database).
        var start = new DateTime(2026, 10, 24, 8, 0, 0, DateTimeKind.Utc);
        var plan = BatchPlan.Draw(new BatchRule(100, 240, 50, 200, 9, 18), 1_000, start, "Europe/London");
        Assert.Equal([100, 100, 100, 150, 150, 150, 200, 50], plan.Select(b => b.Size));
        Assert.Equal(new DateTime(2026, 10, 25, 9, 0, 0, DateTimeKind.Utc), plan[3].At);
        Assert.All(plan, b => Assert.InRange(SendMoment.LocalOf(b.At, SendMoment.ZoneOf("Europe/London")).Hour, 9, 17));
    }

    [Property(MaxTest = 300)]
    public void A_plan_reaches_everyone_once_never_faster_than_its_rule(ushort readers, ushort size, ushort minutes, byte growth, byte from)
    {
        var rule = new BatchRule((size % 4_000) + 100, (minutes % 600) + 1, growth % 100, BatchRule.MostSize, from % 20, (from % 20) + 3);
        var plan = BatchPlan.Draw(rule, readers, Monday, "America/New_York");
        Assert.Equal(readers, plan.Sum(b => b.Size));
        Assert.Equal(Enumerable.Range(1, plan.Length), plan.Select(b => b.Number));
        Assert.All(plan, b => Assert.InRange(b.Size, 1, rule.Most));
        foreach (var (before, after) in plan.Zip(plan.Skip(1)))
        {
            Assert.True(after.At - before.At >= TimeSpan.FromMinutes(rule.Minutes));
        }
    }

    [Theory]
    [InlineData(0, 30, 0, 5000, 0, 24, "size")]
    [InlineData(200, 0, 0, 5000, 0, 24, "minutes")]
    [InlineData(200, 30, 201, 5000, 0, 24, "dailyGrowth")]
    [InlineData(200, 30, 0, 100, 0, 24, "most")]
    [InlineData(200, 30, 0, 5000, 12, 12, "until")]
    [InlineData(1, 1, 0, 1, 0, 24, "size")]
    public void A_rule_that_sends_nothing_or_for_ever_is_refused(
        int size,
        int minutes,
        int growth,
        int most,
        int from,
        int until,
        string piece
    )
    {
        var rule = new BatchRule(size, minutes, growth, most, from, until);
        Assert.Equal(piece, Assert.Throws<StructureException>(() => BatchPlan.Draw(rule, 50_000, Monday, "UTC")).Piece);
    }

    [Fact]
    public void What_is_drawn_anew_goes_on_with_numbers_and_growth()
    {
        var plan = BatchPlan.Draw(new BatchRule(100, 30, 100), 500, Monday.AddDays(1), "UTC", new FormerBatches(3, Monday));
        Assert.Equal([(4, 200), (5, 200), (6, 100)], plan.Select(b => (b.Number, b.Size)));
    }

    [Fact]
    public void A_list_leaves_out_what_is_doubled_broken_or_nobodys_and_says_each_line()
    {
        const string csv =
            "Email,First name,Journeys\r\nada@example.org,Ada,3\r\nADA@Example.org,Ada again,\r\ninfo@example.org,Info,\r\n"
            + "no address,Bo,\r\nbram@example.org,Bram,many\r\ncleo@example.org,\"Cléo, the first\",\r\ndov@example.org\r\n";
        var read = RecipientFile.Read(Encoding.UTF8.GetBytes(csv), Plan);
        Assert.Equal(["ada@example.org", "cleo@example.org"], read.Recipients.Select(r => r.Address));
        Assert.Equal("3", read.Recipients[0].Values["journeys"]);
        Assert.Equal("Cléo, the first", read.Recipients[1].Values["first-name"]);
        Assert.Equal(
            [
                (3, LeftOutReason.Twice),
                (4, LeftOutReason.Role),
                (5, LeftOutReason.Broken),
                (6, LeftOutReason.Broken),
                (8, LeftOutReason.Broken),
            ],
            read.LeftOut.Select(l => (l.Line, l.Why))
        );
        Assert.Equal(3, read.Counts[LeftOutReason.Broken]);
    }

    [Theory]
    [InlineData("utf-8")]
    [InlineData("utf-16")]
    [InlineData("windows-1252")]
    public void A_list_is_read_in_the_characters_that_spreadsheets_write(string charset)
    {
        var encoding = CodePagesEncodingProvider.Instance.GetEncoding(charset) ?? Encoding.GetEncoding(charset);
        byte[] file = [.. encoding.GetPreamble(), .. encoding.GetBytes("E-Mail;First name\nzoe@example.org;Zoë\n")];
        var read = RecipientFile.Read(file, Plan);
        Assert.Equal((charset, "Zoë"), (read.Charset, read.Recipients.Single().Values["first-name"]));
    }

    /// <summary>Addresses by RFC 5321, 4.1.2 and 4.5.3.1; the domain has to be one of the DNS (RFC 1123).</summary>
    [Theory]
    [InlineData("a@b", false)]
    [InlineData("a@b.example", true)]
    [InlineData("a.b+c@example.org", true)]
    [InlineData("a b@example.org", false)]
    [InlineData("Ada <ada@example.org>", false)]
    [InlineData("ada@example.org\0", false)]
    [InlineData("ada@example..org", false)]
    [InlineData("ada@[192.0.2.1]", false)]
    [InlineData("x@example.org,y@example.org", false)]
    [InlineData("aaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaa@example.org", false)]
    public void Only_what_is_one_address_is_sent_to(string address, bool taken)
    {
        var file = Encoding.UTF8.GetBytes($"Email\n\"{address.Replace("\"", "\"\"", StringComparison.Ordinal)}\"\n");
        Assert.Equal(taken, RecipientFile.Read(file, Plan).Recipients.Length == 1);
    }

    [Fact]
    public void A_list_that_is_too_long_or_none_is_refused()
    {
        var many = new StringBuilder("email\n");
        for (var i = 0; i <= RecipientFile.Most; i++)
        {
            many.Append(System.Globalization.CultureInfo.InvariantCulture, $"r{i}@example.org\n");
        }

        Assert.Contains(
            "more than 50,000",
            Assert.Throws<StructureException>(() => RecipientFile.Read(Encoding.UTF8.GetBytes(many.ToString()), Plan)).Message,
            StringComparison.Ordinal
        );
        Assert.Throws<StructureException>(() => RecipientFile.Read([], Plan));
        Assert.Throws<StructureException>(() => RecipientFile.Read("Name\nAda\n"u8.ToArray(), Plan));
    }

    // Common practice, no source: each sign by itself, and what is none.
    [Fact]
    public void Clicks_of_scanners_are_told_from_those_of_readers()
    {
        static ReaderEvent Click(string id, double seconds, string message, string link, string agent = "Mozilla/5.0", bool sent = true) =>
            new(id, ReaderEventKind.Clicked, Monday.AddSeconds(seconds), message, link, agent, sent ? Monday : null);

        var found = ScannerClicks.Find([
            Click("soon", 9, "m1", "a"),
            Click("later", 11, "m1", "a"),
            Click("program", 900, "m2", "a", "mail-scan/2.1"),
            Click("one", 900, "m3", "a", sent: false),
            Click("two", 901, "m3", "b", sent: false),
            Click("three", 901.5, "m3", "c", sent: false),
            Click("alone", 910, "m3", "a", sent: false),
            Click("twice", 900, "m4", "a"),
            Click("again", 901, "m4", "a"),
            Click("and again", 901.5, "m4", "a"),
            new("opened", ReaderEventKind.Opened, Monday.AddSeconds(1), "m5", "", "bot", Monday),
        ]);
        Assert.Equal(["one", "program", "soon", "three", "two"], found.Order(StringComparer.Ordinal));
    }

    [Fact]
    public void Links_are_placed_in_the_rows_that_have_them()
    {
        var row = new SeenRow(
            "row-1",
            "Offer",
            ImmutableSortedDictionary<string, string>.Empty,
            "",
            "",
            default,
            "",
            [],
            "<a href=\"https://larkfell.example.org/shop\">x</a>"
        );
        var seen = new SeenEmail("", [], "", [row], "", "", [], []);
        const string html =
            "<a href=\"https://larkfell.example.org/shop?from=a&amp;to=b\">Visit\n the shop</a><a href=\"#top\">Up</a>"
            + "<a href=\"https://elsewhere.example.org/\"><img alt=\"A mug\" src=\"x\"></a>"
            + "<a href=\"https://larkfell.example.org/shop?from=a&amp;to=b\"></a>";
        Assert.Equal<PlacedLink>(
            [
                new PlacedLink("https://larkfell.example.org/shop?from=a&to=b", "row-1", "Offer", "Visit the shop", 2),
                new PlacedLink("https://elsewhere.example.org/", "", "", "A mug", 1),
            ],
            LinkPlaces.Find(html, seen)
        );
    }

    [Fact]
    public void Leads_set_up_and_authors_send_what_stands()
    {
        var (lead, author, reviewer) = (Someone(Role.Lead), Someone(Role.Author), Someone(Role.Reviewer));
        Assert.Same(Governance.Decision.Yes, SendingPermissions.MaySetUp(lead));
        Assert.IsType<Governance.Decision.Refused>(SendingPermissions.MaySetUp(author));
        Assert.Same(Governance.Decision.Yes, SendingPermissions.MayPush(author, null, withdrawn: false));
        Assert.IsType<Governance.Decision.Refused>(SendingPermissions.MayPush(reviewer, null, withdrawn: false));
        Assert.IsType<Governance.Decision.Refused>(SendingPermissions.MayPush(lead, null, withdrawn: true));

        static Person Someone(Role role) => new(Guid.NewGuid(), "", [role]);
    }
}
