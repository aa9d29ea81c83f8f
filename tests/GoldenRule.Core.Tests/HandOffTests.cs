using System.Collections.Immutable;
using System.Text;
using GoldenRule.Core.Audiences;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Governance;
using GoldenRule.Core.HandOffs;
using GoldenRule.Core.Interchange;
using GoldenRule.Core.Resolving;
using GoldenRule.Core.Reviews;

namespace GoldenRule.Core.Tests;

public sealed class HandOffTests
{
    private static readonly DateTimeOffset At = new(2027, 3, 2, 9, 0, 0, TimeSpan.Zero);

    private static FrozenEmail Freeze(AudiencePlan plan, ExportProfile chosen)
    {
        var email = Larkfell.Emails.Single(e => e.Name.Contains("Spring", StringComparison.Ordinal)).Email;
        CompiledEmail Compile(Purpose purpose, bool kept) =>
            Compiler.Compile(
                Resolver.Resolve(
                    email,
                    RunningOrder.From(email, Larkfell.Masters),
                    Larkfell.Style,
                    Larkfell.Pictures,
                    inline: kept ? Larkfell.Inline(email).WithFieldsKept() : Larkfell.Inline(email)
                ),
                "https://larkfell.example.org/pictures/",
                purpose,
                pageAt: "https://larkfell.example.org/view/A"
            );
        var pictures = Compile(Purpose.Sending, true).PictureNames().Select(n => (n, Encoding.UTF8.GetBytes(n))).ToImmutableArray();
        return FrozenEmail.Freeze(
            Compile(Purpose.Sending, true),
            plan,
            chosen,
            new FreezeTerms(
                SeenEmail.Look(Compile(Purpose.Sending, false), Compile(Purpose.Proof, false), (Guid.Empty, "Larkfell", 1)),
                "<p>sheet</p>",
                pictures,
                [new MessagePart("a.pdf", "application/pdf", [1, 2]), new MessagePart("a.pdf", "application/pdf", [3])],
                At,
                "1@larkfell.example.org"
            )
        );
    }

    private static HandOffRecord Record(FrozenEmail frozen) =>
        new(
            HandOffRecord.CurrentFormat,
            Guid.Empty,
            1,
            Guid.Empty,
            "Spring",
            "offer",
            "Shop offer",
            3,
            "",
            At.UtcDateTime,
            Guid.Empty,
            "Bea",
            "",
            null,
            "en-GB",
            frozen.Details,
            "https://larkfell.example.org/view/A",
            "mustache",
            frozen.Profiles,
            [],
            [],
            [],
            frozen.Fields,
            [],
            [.. frozen.Files.Select(f => f.File)]
        );

    [Fact]
    public void The_same_email_freezes_to_the_same_bytes_and_its_record_reads_back()
    {
        var (one, two) = (Freeze(Larkfell.Audiences, ExportProfile.Mustache), Freeze(Larkfell.Audiences, ExportProfile.Mustache));
        Assert.Equal(one.Files.Select(f => f.File), two.Files.Select(f => f.File));
        Assert.Equal(one.Files.Length, one.Files.Select(f => f.File.Name).Distinct().Count());
        var json = Record(one).Write();
        Assert.Equal(json, HandOffRecord.Read(json).Write());
        foreach (var kind in Enum.GetValues<HandOffFileKind>())
        {
            Assert.Contains(one.Files, f => f.File.Kind == kind);
        }
    }

    [Fact]
    public async Task A_hand_off_holds_until_one_byte_of_it_is_another()
    {
        var frozen = Freeze(Larkfell.Audiences, ExportProfile.Mustache);
        var json = Record(frozen).Write();
        var files = frozen.Files.ToDictionary(f => f.File.Name, f => f.Content);
        Task<HandOffVerification> Check(string record, Func<string, byte[]?> read) =>
            HandOffVerification.CheckAsync(record, HandOffRecord.SealOf(json), file => Task.FromResult(read(file.Name)));

        var sound = await Check(json, name => files[name]);
        Assert.True(sound.Holds);
        Assert.Equal((files.Count, files.Values.Sum(f => (long)f.Length)), (sound.Files, sound.Bytes));
        foreach (var name in files.Keys)
        {
            var changed = files[name].ToArray();
            changed[^1] ^= 1;
            Assert.Contains(name, Assert.Single((await Check(json, n => n == name ? changed : files[n])).Faults), StringComparison.Ordinal);
            Assert.Equal($"{name} is missing.", Assert.Single((await Check(json, n => n == name ? null : files[n])).Faults));
        }

        Assert.Contains(
            "record",
            Assert.Single((await Check(json.Replace("\"Bea\"", "\"Ben\"", StringComparison.Ordinal), n => files[n])).Faults),
            StringComparison.Ordinal
        );
    }

    [Fact]
    public void It_is_written_in_every_profile_that_has_words_for_it_and_refused_in_one_that_has_not()
    {
        var plain = new ExportProfile
        {
            Key = "plain",
            Name = "Plain",
            Field = "%NAME%",
        };
        var wordy = plain with { Key = "wordy", Open = "[NAME", Else = "|", Close = "]" };
        var plan = Larkfell.Audiences with { Profiles = [plain, wordy] };
        var frozen = Freeze(plan, wordy);
        Assert.Equal(["wordy", "mustache"], frozen.Profiles.Select(p => p.Key));
        Assert.Equal("profile", Assert.Throws<StructureException>(() => Freeze(plan, plain)).Piece);
    }

    // The whole table: roles, states and what stands in the way, against what the brief's rules say.
    [Theory]
    [InlineData(Role.Author, EmailState.Approved, 0, 0, false, false, "")]
    [InlineData(Role.Designer, EmailState.Approved, 0, 0, false, false, "")]
    [InlineData(Role.Lead, EmailState.Approved, 0, 0, false, false, "")]
    [InlineData(Role.Reviewer, EmailState.Approved, 0, 0, false, false, Rules.Role)]
    [InlineData(Role.Author, EmailState.Draft, 0, 0, false, false, Rules.State)]
    [InlineData(Role.Author, EmailState.InReview, 0, 0, false, false, Rules.State)]
    [InlineData(Role.Lead, EmailState.HandedOff, 0, 0, false, false, Rules.State)]
    [InlineData(Role.Lead, EmailState.Approved, 1, 0, false, false, Rules.State)]
    [InlineData(Role.Lead, EmailState.Approved, 0, 1, false, false, Rules.State)]
    [InlineData(Role.Lead, EmailState.Approved, 0, 0, true, false, Rules.State)]
    [InlineData(Role.Lead, EmailState.Approved, 0, 0, false, true, Rules.State)]
    public void Only_what_is_approved_and_sound_is_handed_off(
        Role role,
        EmailState state,
        int blockers,
        int toFill,
        bool changed,
        bool update,
        string rule
    )
    {
        var decision = HandOffPermissions.MayHandOff(
            new Person(Guid.NewGuid(), "One", [role]),
            state,
            new HandOffObstacles(blockers, toFill, changed, update)
        );
        Assert.Equal(rule, decision is Decision.Refused refused ? refused.Rule : "");
    }

    [Theory]
    [InlineData(Role.Author, true)]
    [InlineData(Role.Reviewer, false)]
    public void Who_hands_off_also_corrects_and_withdraws_and_leads_alone_set_pages(Role role, bool may)
    {
        var person = new Person(Guid.NewGuid(), "One", [role]);
        Assert.Equal(may, HandOffPermissions.MayWithdraw(person, false) is Decision.Allowed);
        Assert.Equal(may, HandOffPermissions.MayCorrect(person, EmailState.HandedOff) is Decision.Allowed);
        Assert.False(HandOffPermissions.MayWithdraw(person, true) is Decision.Allowed);
        Assert.False(HandOffPermissions.MayCorrect(person, EmailState.Draft) is Decision.Allowed);
        Assert.False(HandOffPermissions.MaySetPage(person, false) is Decision.Allowed);
        Assert.True(HandOffPermissions.MaySetPage(new Person(Guid.NewGuid(), "Two", [Role.Lead]), false) is Decision.Allowed);
    }
}
