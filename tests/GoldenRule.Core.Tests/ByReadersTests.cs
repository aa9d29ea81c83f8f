using System.Collections.Immutable;
using GoldenRule.Core.Audiences;
using GoldenRule.Core.Checking;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Core.Resolving;

namespace GoldenRule.Core.Tests;

/// <summary>Checks of an email of which not every reader sees all: what they say for each reader there can be.</summary>
public sealed class ByReadersTests
{
    private static readonly ImmutableArray<ImmutableSortedDictionary<string, string>> EveryReader =
    [
        .. from member in new[] { "yes", "no" }
        from home in new[] { "", "the valley", "the hills", "elsewhere" }
        from interests in new[] { "", "tearoom", "engines", "tearoom;engines" }
        select ImmutableSortedDictionary<string, string>.Empty.Add("member", member).Add("home", home).Add("interests", interests),
    ];

    private static readonly CheckContext Context = CheckContext.Usual with
    {
        CampaignType = "members-gazette",
        Needed = [RowKind.Main, RowKind.Footer],
        Today = new DateOnly(2026, 11, 25),
    };

    private static Condition Test(string field, Comparison comparison, params string[] values) =>
        new Condition.Test(field, comparison, [.. values]);

    private static Inspected Inspect(ResolvedEmail email) =>
        CheckList.Run(new Inspection(email, Compiler.Compile(email, "", Purpose.Sending), Context));

    private static ResolvedEmail Resolve(Email email) => Larkfell.Resolve(email);

    // The email that one reader gets, with nothing left to ask.
    private static ResolvedEmail Own(ResolvedEmail email, ImmutableSortedDictionary<string, string> reader)
    {
        bool Holds(Condition? c) => c is null || Conditions.Holds(c, Larkfell.Audiences, reader);
        return email with
        {
            Rows =
            [
                .. email
                    .Rows.Where(r => Holds(r.Condition))
                    .Select(r =>
                        r with
                        {
                            Condition = null,
                            Columns =
                            [
                                .. r.Columns.Select(c =>
                                    c with
                                    {
                                        Blocks = [.. c.Blocks.Where(b => Holds(b.Condition)).Select(b => b with { Condition = null })],
                                    }
                                ),
                            ],
                        }
                    ),
            ],
        };
    }

    /// <summary>What is found for each combination is what is found in the emails of all readers, one by one.</summary>
    [Fact]
    public void Solving_finds_what_looking_at_every_readers_email_finds()
    {
        var asked = CheckList.All.Where(c => c.Asked == Asked.OfEachReader).Select(c => c.Name).ToHashSet();
        var differing = 0;
        for (var seed = 1; seed <= 25; seed++)
        {
            var random = new Random(seed);
            var email = Conditioned(random);
            var each = EveryReader.Select(reader => (reader, Found: Of(Inspect(Own(email, reader))))).ToList();

            var whole = Inspect(email).Findings.Where(f => asked.Contains(f.Check)).ToList();

            Assert.True(
                each.SelectMany(e => e.Found).ToHashSet().SetEquals(whole.Select(Key)),
                $"seed {seed}: {string.Join(" | ", each.SelectMany(e => e.Found).Distinct().Except(whole.Select(Key)))}"
            );
            foreach (var finding in whole)
            {
                var everyone = each.TrueForAll(e => e.Found.Contains(Key(finding)));
                Assert.Equal(everyone, finding.Readers is null);
                if (finding.Readers is { } some)
                {
                    differing++;
                    // The made-up reader shows it.
                    Assert.Contains(Key(finding), Of(Inspect(Own(email, some.Example))));
                }
            }
        }

        Assert.True(differing > 20, $"only {differing} findings differed from reader to reader");

        HashSet<(string, Place, string)> Of(Inspected inspected) => [.. inspected.Findings.Where(f => asked.Contains(f.Check)).Select(Key)];

        static (string, Place, string) Key(Finding f) => (f.Check, f.Place, f.Message);
    }

    [Fact]
    public void A_finding_says_in_words_for_whom()
    {
        var order = RunningOrder.From(Larkfell.Gazette, Larkfell.Masters);
        Document email = Larkfell.Gazette;
        foreach (var main in order.Rows.Where(r => r.Master.RowKind == RowKind.Main))
        {
            email = new SetCondition(
                main.Id,
                main.Row.Id,
                new Condition.Group(Matching.Any, [new Condition.Audience("members"), Test("home", Comparison.Is, "the valley")])
            ).Apply(email);
        }

        var found = Inspect(Resolve((Email)email)).Findings.Single(f => f.Check == "required-row");
        Assert.Equal("There is no main row, and this campaign type needs one.", found.Message);
        Assert.Equal("not Members and Where they live is not the valley", found.Readers!.Who);
        Assert.Equal("no", found.Readers.Example["member"]);
        Assert.NotEqual("the valley", found.Readers.Example.GetValueOrDefault("home"));
    }

    /// <summary>Rows that shut each other out make no gap: the combination without either cannot be reached.</summary>
    [Fact]
    public void What_cannot_come_about_is_not_found()
    {
        var order = RunningOrder.From(Larkfell.Gazette, Larkfell.Masters);
        var main = order.Rows.Where(r => r.Master.RowKind == RowKind.Main).ToList();
        Document email = Larkfell.Gazette;
        foreach (var more in main.Skip(2))
        {
            email = new SetCondition(more.Id, more.Row.Id, new Condition.Audience("members")).Apply(email);
        }

        email = new SetCondition(main[0].Id, main[0].Row.Id, Test("member", Comparison.Is, "yes")).Apply(email);
        email = new SetCondition(main[1].Id, main[1].Row.Id, Test("member", Comparison.IsNot, "yes")).Apply(email);
        Assert.DoesNotContain(Inspect(Resolve((Email)email)).Findings, f => f.Check == "required-row");
    }

    [Fact]
    public void A_limit_says_the_least_and_the_most()
    {
        var all = Inspect(Resolve(Larkfell.Gazette)).Findings.Single(f => f.Check == "many-links");
        var row = RunningOrder.From(Larkfell.Gazette, Larkfell.Masters).Find("viaduct")!;
        var email = new SetCondition(row.Id, row.Row.Id, new Condition.Audience("members")).Apply(Larkfell.Gazette);
        var found = Inspect(Resolve((Email)email)).Findings.Single(f => f.Check == "many-links");
        Assert.StartsWith(all.Evidence!, found.Evidence, StringComparison.Ordinal);
        Assert.Matches("; the least that a reader gets is [0-9]+$", found.Evidence);
        Assert.Equal("Members", found.Readers!.Who);
    }

    /// <summary>Above 65,536 combinations only what every email must have is proven, and that is said.</summary>
    [Fact]
    public void Too_many_combinations_prove_the_necessary_and_say_so()
    {
        var (plan, conditions) = ConditionTests.Independent(17);
        var email = Resolver.Resolve(
            Larkfell.Gazette,
            RunningOrder.From(Larkfell.Gazette, Larkfell.Masters),
            Larkfell.Style,
            Larkfell.Pictures,
            inline: Larkfell.Snippets.At(Larkfell.Today).For(plan, "en-GB")
        );
        var left = new Queue<Condition>(conditions);
        email = email with
        {
            Rows =
            [
                .. email.Rows.Select(row =>
                    row with
                    {
                        Columns =
                        [
                            .. row.Columns.Select(c =>
                                c with
                                {
                                    Blocks = [.. c.Blocks.Select(b => b with { Condition = left.TryDequeue(out var some) ? some : null })],
                                }
                            ),
                        ],
                    }
                ),
            ],
        };
        email = email with { Rows = [.. email.Rows.Select(r => r.Id == "footer" ? r with { Condition = conditions[0] } : r)] };
        var found = Inspect(email).Findings;
        Assert.Contains(found, f => f.Check == "combinations");
        var gap = found.Single(f => f.Check == "unsubscribe");
        Assert.Equal("f0 is not yes", gap.Readers!.Who);
    }

    /// <summary>A field without a fallback is no gap where only those see it of whom it is known.</summary>
    [Fact]
    public void Who_sees_a_field_may_be_just_those_of_whom_it_is_known()
    {
        var text = new FieldValue.Prose(RichText.FromParagraphs($"Dear {new InlineNode(InlineKind.Field, "last-name")}."));
        var email = new SetFill("viaduct", "text", "text", text).Apply(Larkfell.Gazette);
        Assert.Null(Gap(email)!.Readers);
        Assert.Null(Gap(new SetCondition("viaduct", "text", Test("last-name", Comparison.NotEmpty)).Apply(email)));
        var some = Gap(new SetCondition("viaduct", "text", new Condition.Audience("members")).Apply(email));
        Assert.Equal("Members and Last name is not known", some!.Readers!.Who);
        Assert.False(some.Readers.Example.ContainsKey("last-name"));

        Finding? Gap(Document changed) => Inspect(Resolve((Email)changed)).Findings.SingleOrDefault(f => f.Check == "field-fallback");
    }

    private static ResolvedEmail Conditioned(Random random)
    {
        var email = Resolve(Larkfell.Gazette);
        return email with
        {
            Rows =
            [
                .. email.Rows.Select(row =>
                    row with
                    {
                        Condition = Some(),
                        Columns =
                        [
                            .. row.Columns.Select(c => c with { Blocks = [.. c.Blocks.Select(b => b with { Condition = Some() })] }),
                        ],
                    }
                ),
            ],
        };

        Condition? Some() =>
            random.Next(9) switch
            {
                0 => new Condition.Audience("members"),
                1 => Test("home", Comparison.OneOf, "the valley", "the hills"),
                2 => new Condition.Group(
                    Matching.None,
                    [Test("interests", Comparison.Has, "tearoom"), Test("home", Comparison.Is, "elsewhere")]
                ),
                3 => Test("interests", Comparison.Empty),
                _ => null,
            };
    }
}
