using System.Collections.Immutable;
using System.Text.Json;
using System.Text.RegularExpressions;
using FsCheck;
using FsCheck.Fluent;
using FsCheck.Xunit;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Governance;
using GoldenRule.Core.Reviews;

namespace GoldenRule.Core.Tests;

/// <summary>Who may ask, take back and decide, against a table of the rule; words marked, and comments that follow them.</summary>
public sealed partial class ReviewTests
{
    private static readonly Guid Asker = Guid.NewGuid(),
        Writer = Guid.NewGuid(),
        Legal = Guid.NewGuid(),
        Lead = Guid.NewGuid(),
        OtherLead = Guid.NewGuid(),
        Reviewer = Guid.NewGuid();

    private static readonly IReadOnlySet<Guid> Writers = new HashSet<Guid> { Asker, Writer };

    private static Person Someone(Guid id, params Role[] roles) => new(id, "Someone", [.. roles]);

    private static ReviewRound Round(WhenOvertaken overtaken = WhenOvertaken.AskAgain, params ApprovalNeed[] needs) =>
        new(
            1,
            Asker,
            3,
            needs.Length > 0 ? [.. needs] : [new ApprovalNeed("Legal", [], [Legal]), new ApprovalNeed("Lead", [Role.Lead], [])],
            overtaken,
            [],
            RoundState.Open
        );

    private static ReviewDecision Says(string need, Guid person, ReviewVerdict verdict, string hash = "now") =>
        new(need, person, verdict, verdict == ReviewVerdict.Approve ? "" : "Not yet", DateTime.UnixEpoch, hash);

    public static TheoryData<EmailState, Role, bool, bool> Acts()
    {
        var data = new TheoryData<EmailState, Role, bool, bool>();
        foreach (var state in Enum.GetValues<EmailState>())
        {
            foreach (var role in Enum.GetValues<Role>())
            {
                // Ask: whoever writes emails, of a draft. Take back: the same, of what is in review.
                data.Add(
                    state,
                    role,
                    state == EmailState.Draft && role != Role.Reviewer,
                    state == EmailState.InReview && role != Role.Reviewer
                );
            }
        }

        return data;
    }

    [Theory]
    [MemberData(nameof(Acts))]
    public void Those_who_write_emails_ask_about_drafts_and_take_back_what_is_in_review(
        EmailState state,
        Role role,
        bool asks,
        bool takesBack
    )
    {
        var person = Someone(Guid.NewGuid(), role);
        Assert.Equal(asks, ReviewPermissions.MayAsk(person, state, new AskObstacles(0, 0, 0)) is Decision.Allowed);
        Assert.Equal(takesBack, ReviewPermissions.MayTakeBack(person, state) is Decision.Allowed);
    }

    [Theory]
    [InlineData(1, 0, 0, "1 blocker must")]
    [InlineData(0, 2, 0, "2 fields must")]
    [InlineData(0, 0, 3, "3 warnings must")]
    public void What_is_wrong_or_still_to_fill_stops_the_asking_and_is_counted(int blockers, int toFill, int unanswered, string reason)
    {
        var refused = Assert.IsType<Decision.Refused>(
            ReviewPermissions.MayAsk(Someone(Asker, Role.Author), EmailState.Draft, new AskObstacles(blockers, toFill, unanswered))
        );
        Assert.StartsWith(reason, refused.Reason, StringComparison.Ordinal);
    }

    public static TheoryData<string, bool, string?> Deciders() =>
        new()
        {
            { nameof(Legal), true, "Legal" },
            { nameof(Lead), true, "Lead" },
            { nameof(Reviewer), false, null },
            { nameof(Writer), false, null },
            { nameof(Asker), false, null },
        };

    [Theory]
    [MemberData(nameof(Deciders))]
    public void Those_the_rule_names_decide_and_nobody_who_wrote_in_it(string who, bool decides, string? need)
    {
        var person = who switch
        {
            nameof(Legal) => Someone(Legal, Role.Reviewer),
            nameof(Lead) => Someone(Lead, Role.Lead),
            nameof(Reviewer) => Someone(Reviewer, Role.Reviewer),
            nameof(Writer) => Someone(Writer, Role.Lead),
            _ => Someone(Asker, Role.Lead),
        };
        Assert.Equal(decides, ReviewPermissions.MayDecide(person, Round(), Writers, "now") is Decision.Allowed);
        Assert.IsType<Decision.Refused>(ReviewPermissions.MayDecide(person, null, Writers, "now"));
        Assert.IsType<Decision.Refused>(ReviewPermissions.MayDecide(person, Round() with { State = RoundState.TakenBack }, Writers, "now"));
        if (decides)
        {
            Assert.Equal(need, ReviewPermissions.NeedOf(person, Round(), "now")?.Name);
        }
    }

    [Fact]
    public void One_person_counts_once_and_for_what_names_them()
    {
        var both = Someone(Legal, Role.Lead);
        var round = Round();
        Assert.Equal("Legal", ReviewPermissions.NeedOf(both, round, "now")!.Name);
        round = round.With(Says("Legal", Legal, ReviewVerdict.Approve));
        Assert.Equal(RoundState.Open, round.State);
        Assert.IsType<Decision.Refused>(ReviewPermissions.MayDecide(both, round, Writers, "now"));
        Assert.Equal(RoundState.Approved, round.With(Says("Lead", OtherLead, ReviewVerdict.Approve)).State);
    }

    [Fact]
    public void One_who_asks_for_changes_ends_the_round()
    {
        var round = Round().With(Says("Legal", Legal, ReviewVerdict.Approve)).With(Says("Lead", Lead, ReviewVerdict.AskForChanges));
        Assert.Equal(RoundState.ChangesAsked, round.State);
    }

    [Theory]
    [InlineData(WhenOvertaken.AskAgain, false)]
    [InlineData(WhenOvertaken.CarryOver, true)]
    public void An_approval_of_what_has_changed_since_holds_only_where_the_rule_says_so(WhenOvertaken overtaken, bool holds)
    {
        var round = Round(overtaken).With(Says("Legal", Legal, ReviewVerdict.Approve, "before"));
        Assert.Equal(holds, round.Standing("now")[0].Holds);
        Assert.Equal(holds, round.With(Says("Lead", Lead, ReviewVerdict.Approve)).State == RoundState.Approved);
        // Whoever approved what was there before approves it anew.
        Assert.Equal(!holds, ReviewPermissions.MayDecide(Someone(Legal, Role.Reviewer), round, Writers, "now") is Decision.Allowed);
    }

    [Fact]
    public void An_approval_that_nobody_could_give_is_known_before_anyone_is_asked()
    {
        var rule = new ReviewRule([new ApprovalNeed("Legal", [], [Legal]), new ApprovalNeed("Lead", [Role.Lead], [])]);
        Assert.Equal(
            ["Lead"],
            ReviewPermissions.WithoutAnyone(rule, [Someone(Legal, Role.Reviewer), Someone(Writer, Role.Lead)], Writers).AsEnumerable()
        );
    }

    [Theory]
    [InlineData("Children £8, adults £24", "Children £9, adults £24", "Children £|-8|+9|, adults £24")]
    [InlineData("One promise", "Six engines", "-One promise|+Six engines")]
    [InlineData("", "Steam", "+Steam")]
    [InlineData("Steam", "", "-Steam")]
    [InlineData("The same", "The same", "The same")]
    [InlineData("Five engines, one weekend", "Six engines, one frosty weekend", "-Five|+Six| engines, one |+frosty |weekend")]
    public void Words_are_marked_as_they_are_read(string before, string after, string marked)
    {
        var told = WordMarks
            .Compare(before, after)
            .Select(m =>
                m.Mark switch
                {
                    WordMark.Added => "+",
                    WordMark.Removed => "-",
                    _ => "",
                } + m.Text
            );
        Assert.Equal(marked, string.Join('|', told));
    }

    private static Gen<string> Texts { get; } =
        Gen.Elements("steam", "train", "train", "£8", "£9", "the", "–", "👍🏽", "été", ",", "\n")
            .ListOf()
            .Select(words => string.Join(' ', words));

    [Property(MaxTest = 1_000, Replay = "(20261130,7)")]
    public Property Marks_hold_both_texts_whole() => Prop.ForAll(Texts.Zip(Texts).ToArbitrary(), pair =>
        {
            var marks = WordMarks.Compare(pair.Item1, pair.Item2);
            string Of(WordMark other) => string.Concat(marks.Where(m => m.Mark != other).Select(m => m.Text));
            Assert.Equal(pair.Item1, Of(WordMark.Added));
            Assert.Equal(pair.Item2, Of(WordMark.Removed));
        });

    [Fact]
    public void Two_long_texts_with_nothing_in_common_are_marked_as_a_whole()
    {
        var (before, after) = (Many("a", 60_000), Many("b", 60_000));
        Assert.Equal(
            [new("Same ", WordMark.Kept), new(before, WordMark.Removed), new(after, WordMark.Added), new(" end", WordMark.Kept)],
            WordMarks.Compare($"Same {before} end", $"Same {after} end").AsEnumerable()
        );

        static string Many(string word, int count) => string.Join(' ', Enumerable.Range(0, count).Select(n => word + n));
    }

    private sealed record Pair(string Before, string After, string[] Added, string[] Removed);

    /// <summary>
    /// Against the npm package "diff" over 500 seeded pairs, see tests/browser/word-diffs.mjs: as few words, and the same ones.
    /// </summary>
    [Fact]
    public void The_same_words_are_added_and_removed_as_another_program_finds()
    {
        var pairs = JsonSerializer.Deserialize<Pair[]>(
            File.ReadAllText(Path.Combine(AppContext.BaseDirectory, "word-diffs.json")),
            JsonSerializerOptions.Web
        )!;
        Assert.Equal(500, pairs.Length);
        Assert.All(pairs, pair =>
        {
            var marks = WordMarks.Compare(pair.Before, pair.After);
            string[] Words(WordMark mark) =>
                [.. marks.Where(m => m.Mark == mark).SelectMany(m => Word().Matches(m.Text)).Select(w => w.Value).Order()];
            // Where words stand in another order there are several shortest ways, and each is right.
            Assert.Equal(pair.Removed.Length, Words(WordMark.Removed).Length);
            Assert.Equal(pair.Added.Length, Words(WordMark.Added).Length);
            if (pair.Added.Intersect(pair.Removed).Any())
            {
                return;
            }

            Assert.Equal(pair.Removed.Order(), Words(WordMark.Removed));
            Assert.Equal(pair.Added.Order(), Words(WordMark.Added));
        });
    }

    [GeneratedRegex(@"[\p{L}\p{N}]+")]
    private static partial Regex Word();

    [Theory]
    [InlineData("Adults £24, children £8.", "children £8", "All adults £24, and children £8.", "children £8")]
    [InlineData("Adults £24, children £8.", "£8", "Adults £24, children £9.", "£")]
    [InlineData("Adults £24, children £8.", "children", "Adults £24.", null)]
    [InlineData("steam and steam", "steam", "more steam and steam", "steam")]
    public void A_comment_follows_its_words(string before, string words, string after, string? found)
    {
        var pinned = new PinnedWords(before.IndexOf(words, StringComparison.Ordinal), words.Length);
        var now = pinned.Follow(before, after);
        Assert.Equal(found, now is { } at ? after.Substring(at.Start, at.Length) : null);
    }

    [Fact]
    public void What_changed_is_told_by_kind_and_what_changed_by_itself_apart()
    {
        var (before, after) = (
            Seen(Larkfell.Gazette),
            Seen(Larkfell.Gazette with { Details = Larkfell.Gazette.Details with { Subject = "Another" } })
        );
        Assert.Empty(SeenDifference.Between(before, before));
        Assert.NotEqual(before.Hash, after.Hash);
        var change = Assert.Single(SeenDifference.Between(before, after));
        Assert.Equal((SeenChangeKind.Words, "Subject", false), (change.Kind, change.Name, change.ByItself));

        // The house style's words are others: nobody touched the email.
        var restyled = after with
        {
            Rows = [.. after.Rows.Select((r, i) => i == 0 ? r with { Html = r.Html + "<!-- otherwise -->" } : r)],
        };
        var itself = Assert.Single(SeenDifference.Between(after, restyled));
        Assert.Equal((SeenChangeKind.HouseStyle, true), (itself.Kind, itself.ByItself));

        var reversed = SeenDifference.Between(after, after with { Rows = [.. after.Rows.Reverse()] });
        Assert.Equal(after.Rows.Length - 1, reversed.Count(c => c.Kind == SeenChangeKind.RowMoved));
        var shorter = SeenDifference.Between(after, after with { Rows = after.Rows.RemoveAt(1) });
        Assert.Equal(SeenChangeKind.RowRemoved, Assert.Single(shorter).Kind);
    }

    private static SeenEmail Seen(Email email)
    {
        var resolved = Larkfell.Resolve(email);
        return SeenEmail.Look(
            Compiling.Compiler.Compile(resolved, "/pictures/", Compiling.Purpose.Sending),
            Compiling.Compiler.Compile(resolved, "/pictures/", Compiling.Purpose.Proof),
            (Guid.Empty, "Larkfell", 1)
        );
    }
}
