using System.Collections.Immutable;
using GoldenRule.Core.Audiences;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Tests;

/// <summary>Conditions over readers' fields: what they mean, how they are said, and which can hold together.</summary>
public sealed class ConditionTests
{
    private static readonly AudiencePlan Plan = new()
    {
        Name = "Audiences",
        Fields =
        [
            new MergeField
            {
                Key = "member",
                Label = "Member",
                Type = MergeFieldType.YesNo,
            },
            new MergeField
            {
                Key = "district",
                Label = "District",
                Type = MergeFieldType.Choice,
                Choices = ["Valley", "Hills", "Coast"],
            },
            new MergeField
            {
                Key = "visits",
                Label = "Visits",
                Type = MergeFieldType.Number,
            },
            new MergeField
            {
                Key = "joined",
                Label = "Joined",
                Type = MergeFieldType.Date,
                Format = FieldFormat.LongDate,
                Always = true,
            },
            new MergeField
            {
                Key = "town",
                Label = "Town",
                Type = MergeFieldType.Text,
            },
            new MergeField
            {
                Key = "interests",
                Label = "Interests",
                Type = MergeFieldType.Tags,
                Choices = ["Steam", "Tearoom", "Volunteering"],
            },
            new MergeField
            {
                Key = "lists",
                Label = "Lists",
                Type = MergeFieldType.Tags,
                Choices = ["News", "Events"],
                Always = true,
            },
        ],
        Audiences = [new Audience("members", "Members", Test("member", Comparison.Is, "yes"))],
    };

    // Every value that could make a difference to what is asked below, and some that make none.
    private static readonly ImmutableSortedDictionary<string, string[]> Domain = new Dictionary<string, string[]>
    {
        ["member"] = ["", "yes", "no"],
        ["district"] = ["", "Valley", "Hills", "Coast"],
        ["visits"] = ["", "1", "2", "2.5", "3", "4"],
        ["joined"] = ["2020-01-01", "2020-01-02", "2020-01-03", "2020-02-01", "2020-02-02"],
        ["town"] = ["", "Larkfell", "LARKFELL", "Ravensby", "Ault"],
        ["interests"] =
        [
            "",
            "Steam",
            "Tearoom",
            "Volunteering",
            "Steam;Tearoom",
            "Steam;Volunteering",
            "Tearoom;Volunteering",
            "Steam;Tearoom;Volunteering",
        ],
        ["lists"] = ["News", "Events", "News;Events"],
    }.ToImmutableSortedDictionary();

    private static Condition.Test Test(string field, Comparison comparison, params string[] values) => new(field, comparison, [.. values]);

    private static Condition.Group All(params Condition[] parts) => new(Matching.All, [.. parts]);

    private static Condition.Group Any(params Condition[] parts) => new(Matching.Any, [.. parts]);

    private static Condition.Group None(params Condition[] parts) => new(Matching.None, [.. parts]);

    /// <summary>The sets found by solving are those found by trying every reader there could be.</summary>
    [Fact]
    public void Solving_finds_the_sets_that_trying_every_reader_finds()
    {
        for (var seed = 1; seed <= 300; seed++)
        {
            var random = new Random(seed);
            // Two or three fields at once, so that every reader can be tried.
            var fields = Domain.Keys.OrderBy(_ => random.Next()).Take(random.Next(1, 4)).ToArray();
            ImmutableArray<Condition> conditions =
            [
                .. Enumerable.Range(0, random.Next(1, 6)).Select(_ => Made(random, fields, Condition.Deepest)),
            ];
            var tried = Readers(fields).Select(r => Sets(conditions, r)).ToHashSet();

            var solved = Reachable.Solve(Plan, conditions);

            Assert.True(tried.SetEquals(solved.All), $"seed {seed}: {DocumentJson.Write(conditions)}");
            Assert.Equal(solved.All.Length, solved.All.Distinct().Count());
            foreach (var combination in solved.All)
            {
                var reader = solved.ReaderOf(combination);
                Assert.True(Sets(conditions, reader) == combination, $"seed {seed}: {DocumentJson.Write(reader)} is not of {combination}.");
                Assert.All(reader, v => Assert.True(Plan.FindField(v.Key)!.Holds(v.Value)));
            }
        }
    }

    /// <summary>The opposite holds of exactly those of whom it does not; both are said in words that name each field asked.</summary>
    [Fact]
    public void Its_sentence_names_every_field_that_it_asks()
    {
        for (var seed = 1; seed <= 100; seed++)
        {
            var condition = Made(new Random(seed), [.. Domain.Keys], Condition.Deepest);
            foreach (var test in condition.Leaves().OfType<Condition.Test>())
            {
                Assert.Contains(Plan.FindField(test.Field)!.Label, ConditionWords.Sentence(condition, Plan), StringComparison.Ordinal);
                Assert.Contains(Plan.FindField(test.Field)!.Label, ConditionWords.Opposite(condition, Plan), StringComparison.Ordinal);
            }
        }
    }

    [Fact]
    public void It_is_said_as_a_sentence()
    {
        Says("everyone", "nobody", Condition.Everyone);
        Says("Members", "not Members", new Condition.Audience("members"));
        Says(
            "Members and District is Valley, or Interests has Volunteering",
            "(not Members, or District is not Valley) and Interests does not have Volunteering",
            Any(
                All(new Condition.Audience("members"), Test("district", Comparison.Is, "Valley")),
                Test("interests", Comparison.Has, "Volunteering")
            )
        );
        Says("Visits is more than 2", "Visits is not more than 2", Test("visits", Comparison.More, "2"));
        Says(
            "Joined is before Thursday 2 January 2020",
            "Joined is not before Thursday 2 January 2020",
            Test("joined", Comparison.Before, "2020-01-02")
        );
        Says("Town is not known", "Town is known", Test("town", Comparison.Empty));
        Says(
            "Town is not \"Ault\" and District is not Valley or Hills",
            "Town is \"Ault\", or District is Valley or Hills",
            None(Test("town", Comparison.Is, "Ault"), Test("district", Comparison.OneOf, "Valley", "Hills"))
        );

        static void Says(string sentence, string opposite, Condition condition)
        {
            Assert.Equal(sentence, ConditionWords.Sentence(condition, Plan));
            Assert.Equal(opposite, ConditionWords.Opposite(condition, Plan));
        }
    }

    [Fact]
    public void Twelve_fields_that_have_nothing_to_do_with_each_other_make_every_combination()
    {
        var (plan, conditions) = Independent(12);

        var solved = Reachable.Solve(plan, conditions);

        Assert.Equal(4096, solved.All.Distinct().Count());
    }

    [Fact]
    public void Above_two_to_the_sixteenth_it_says_that_it_is_not_complete()
    {
        Assert.True(Reachable.Solve(Independent(16).Plan, Independent(16).Conditions).IsComplete);
        var (plan, conditions) = Independent(17);
        var solved = Reachable.Solve(plan, conditions);
        Assert.False(solved.IsComplete);
        Assert.Equal(131072, solved.Count);
        Assert.Empty(solved.All);
    }

    /// <summary>One question over many fields has two answers, however many readers there could be.</summary>
    [Fact]
    public void A_condition_over_twenty_fields_is_two_combinations()
    {
        var (plan, conditions) = Independent(20);
        Assert.Equal([0UL, 1UL], Reachable.Solve(plan, [new Condition.Group(Matching.All, conditions)]).All.Order());
    }

    /// <summary>However conditions hang together, the answer comes after a bounded work.</summary>
    [Fact]
    public void Conditions_that_hang_together_in_too_many_ways_are_not_complete_and_cost_little()
    {
        var (plan, yes) = Independent(60);
        // Each asks twenty fields, so that what is left of them differs for nearly every reader.
        ImmutableArray<Condition> tangle =
        [
            .. Enumerable.Range(0, 60).Select(i => (Condition)Any([.. Enumerable.Range(0, 20).Select(k => yes[(i + (k * k)) % 60])])),
        ];
        var solved = Reachable.Solve(plan, tangle);
        Assert.False(solved.IsComplete);
        Assert.Empty(solved.All);
    }

    [Theory]
    [InlineData(Comparison.Has, "Steam")]
    [InlineData(Comparison.Is, "Steam")]
    [InlineData(Comparison.More, "2")]
    [InlineData(Comparison.Is)]
    [InlineData(Comparison.Is, "no", "yes")]
    [InlineData(Comparison.Empty, "yes")]
    public void A_test_that_does_not_fit_its_field_is_told_and_holds_of_nobody(Comparison comparison, params string[] values)
    {
        var test = Test("member", comparison, values);
        Assert.NotNull(Conditions.Fault(test, Plan));
        Assert.Equal(0UL, Assert.Single(Reachable.Solve(Plan, [test]).All));
        Assert.All(Domain["member"], v => Assert.False(Conditions.Holds(test, Plan, Reader("member", v))));
    }

    [Fact]
    public void What_is_gone_is_told_and_holds_of_nobody()
    {
        foreach (Condition gone in new Condition[] { new Condition.Audience("tearoom"), Test("shoe-size", Comparison.Empty) })
        {
            Assert.Contains("There is no", Conditions.Fault(gone, Plan), StringComparison.Ordinal);
            Assert.Equal(0UL, Assert.Single(Reachable.Solve(Plan, [gone]).All));
        }
    }

    [Fact]
    public void An_audience_of_something_that_cannot_be_asked_is_refused_with_its_name()
    {
        Refused(new Audience("valley", "Valley", Test("district", Comparison.Is, "Sea")), "Valley");
        Refused(new Audience("valley", "Valley", Test("county", Comparison.Is, "Sea")), "county");
        Refused(new Audience("valley", "Valley", new Condition.Audience("members")), "no other audience");
        Refused(new Audience("Valley!", "Valley", Condition.Everyone), "");
        Refused(new Audience("valley", "Valley", All(Any(All(Test("member", Comparison.Empty))))), "2 deep");
        Refused(new Audience("valley", " ", Condition.Everyone), "name");

        static void Refused(Audience audience, string why)
        {
            var refused = Assert.Throws<StructureException>(() => AudiencePlan.Check(Plan with { Audiences = [audience] }));
            Assert.Contains(why, refused.Message, StringComparison.Ordinal);
            Assert.Equal($"audiences/{audience.Key}", refused.Piece);
        }
    }

    /// <summary>Fields of yes and no, and as many conditions that each ask one.</summary>
    internal static (AudiencePlan Plan, ImmutableArray<Condition> Conditions) Independent(int count)
    {
        var keys = Enumerable.Range(0, count).Select(i => $"f{i}").ToArray();
        return (
            new AudiencePlan
            {
                Name = "Audiences",
                Fields =
                [
                    .. keys.Select(k => new MergeField
                    {
                        Key = k,
                        Label = k,
                        Type = MergeFieldType.YesNo,
                    }),
                ],
            },
            [.. keys.Select(k => Test(k, Comparison.Is, "yes"))]
        );
    }

    private static ImmutableSortedDictionary<string, string> Reader(string field, string value) =>
        ImmutableSortedDictionary<string, string>.Empty.Add(field, value);

    private static ulong Sets(ImmutableArray<Condition> conditions, IReadOnlyDictionary<string, string> reader) =>
        conditions.Select((c, i) => Conditions.Holds(c, Plan, reader) ? 1UL << i : 0UL).Aggregate(0UL, (a, b) => a | b);

    private static IEnumerable<ImmutableSortedDictionary<string, string>> Readers(IEnumerable<string> fields) =>
        fields.Aggregate(
            (IEnumerable<ImmutableSortedDictionary<string, string>>)[ImmutableSortedDictionary<string, string>.Empty],
            (readers, field) => readers.SelectMany(r => Domain[field].Select(v => r.Add(field, v)))
        );

    private static Condition Made(Random random, string[] fields, int deep)
    {
        if (deep == 0 || random.Next(3) == 0)
        {
            return fields.Contains("member") && random.Next(6) == 0 ? new Condition.Audience("members") : MadeTest(random, fields);
        }

        return new Condition.Group(
            (Matching)random.Next(3),
            [.. Enumerable.Range(0, random.Next(1, 4)).Select(_ => Made(random, fields, deep - 1))]
        );
    }

    private static Condition.Test MadeTest(Random random, string[] fields)
    {
        var field = Plan.FindField(fields[random.Next(fields.Length)])!;
        var comparisons = Conditions.Of(field.Type);
        var comparison = comparisons[random.Next(comparisons.Length)];
        // Values in between and beyond are among those tried.
        string[] values = field.Type switch
        {
            MergeFieldType.YesNo => ["yes", "no"],
            MergeFieldType.Number => ["2", "3"],
            MergeFieldType.Date => ["2020-01-02", "2020-02-01"],
            MergeFieldType.Text => ["Larkfell", "ravensby"],
            _ => [.. field.Choices],
        };
        var (least, most) = Conditions.Values(comparison);
        return Test(
            field.Key,
            comparison,
            [.. values.OrderBy(_ => random.Next()).Take(most == 0 ? 0 : random.Next(least, Math.Min(most, 2) + 1))]
        );
    }
}
