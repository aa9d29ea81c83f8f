using System.Collections.Immutable;
using System.Globalization;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Audiences;

/// <summary>
/// Conditions over variables, each part once however often it stands: what is left of a condition once a variable has a value
/// is looked up by number. (Bryant 1986, "Graph-based algorithms for Boolean function manipulation", has the idea.)
/// </summary>
internal sealed class ConditionGraph
{
    public const int False = 0;
    public const int True = 1;

    private readonly List<Node> nodes = [new(Kind.Constant, [], -1, null), new(Kind.Constant, [], -1, null)];
    private readonly Dictionary<string, int> known = new(StringComparer.Ordinal);
    private readonly Dictionary<(int Node, int Variable, int Value), int> left = [];
    private readonly ImmutableArray<ReaderVariable> variables;
    private readonly ILookup<string, int> byField;
    private readonly AudiencePlan plan;

    /// <param name="conditions">With no audience in them.</param>
    public ConditionGraph(AudiencePlan plan, IEnumerable<Condition> conditions)
    {
        this.plan = plan;
        var tests = conditions
            .SelectMany(c => c.Leaves())
            .OfType<Condition.Test>()
            .Where(t => Conditions.Fault(t, plan) is null)
            .GroupBy(t => t.Field, StringComparer.Ordinal);
        variables =
        [
            .. tests.SelectMany(t =>
                plan.FindField(t.Key)! is { Type: MergeFieldType.Tags } tags
                    ? ReaderVariable.OfTags(tags, t)
                    : [ReaderVariable.Of(plan.FindField(t.Key)!, [.. t])]
            ),
        ];
        byField = Enumerable.Range(0, variables.Length).ToLookup(i => variables[i].Field.Key, StringComparer.Ordinal);
    }

    public ImmutableArray<ReaderVariable> Variables => variables;

    /// <summary>The number of a condition, or of what holds of every reader's tags.</summary>
    public int Add(Condition condition) =>
        condition switch
        {
            Condition.Group { Match: Matching.All } all => Join(Kind.And, all.Parts.Select(Add)),
            Condition.Group { Match: Matching.Any } any => Join(Kind.Or, any.Parts.Select(Add)),
            Condition.Group none => Not(Join(Kind.Or, none.Parts.Select(Add))),
            Condition.Test test => Add(test),
            _ => throw new InvalidOperationException("An audience is to be written out first."),
        };

    /// <summary>Every tag of readers of whom some tag is always known, as one condition for each such field.</summary>
    public IEnumerable<int> AlwaysKnown() =>
        variables
            .Where(v => v is { Tag: not null, Field.Always: true })
            .Select(v => v.Field.Key)
            .Distinct(StringComparer.Ordinal)
            .Select(AnyTag);

    /// <summary>The variables that a node asks.</summary>
    public IEnumerable<int> VariablesOf(int node) =>
        nodes[node].Kind == Kind.Test ? [nodes[node].Variable] : nodes[node].Parts.SelectMany(VariablesOf).Distinct();

    /// <summary>What is left of a node once a variable has one of its values.</summary>
    public int With(int node, int variable, int value)
    {
        var at = nodes[node];
        if (at.Kind == Kind.Constant || (at.Kind == Kind.Test && at.Variable != variable))
        {
            return node;
        }

        if (left.TryGetValue((node, variable, value), out var done))
        {
            return done;
        }

        done = at.Kind switch
        {
            Kind.Test => Says(at, value) ? True : False,
            Kind.Not => Not(With(at.Parts[0], variable, value)),
            _ => Join(at.Kind, at.Parts.Select(p => With(p, variable, value))),
        };
        return left[(node, variable, value)] = done;
    }

    private bool Says(Node test, int value)
    {
        var of = variables[test.Variable];
        return of.Tag is null ? Conditions.Holds(test.Test!, of.Field, of.Values[value]) : of.Values[value].Length > 0;
    }

    private int Add(Condition.Test test)
    {
        if (Conditions.Fault(test, plan) is not null)
        {
            return False;
        }

        var here = byField[test.Field];
        if (plan.FindField(test.Field)!.Type != MergeFieldType.Tags)
        {
            return Leaf(here.First(), test, $"{test.Is} {string.Join(';', test.Values)}");
        }

        return test.Is switch
        {
            Comparison.Empty => Not(AnyTag(test.Field)),
            Comparison.NotEmpty => AnyTag(test.Field),
            _ => Join(Kind.Or, here.Where(i => test.Values.Contains(variables[i].Tag!)).Select(i => Leaf(i, null, ""))),
        };
    }

    private int AnyTag(string field) => Join(Kind.Or, byField[field].Select(i => Leaf(i, null, "")));

    private int Leaf(int variable, Condition.Test? test, string says) =>
        Number(string.Create(CultureInfo.InvariantCulture, $"?{variable} {says}"), () => new Node(Kind.Test, [], variable, test));

    private int Not(int part)
    {
        if (part <= True)
        {
            return True - part;
        }

        return nodes[part].Kind == Kind.Not
            ? nodes[part].Parts[0]
            : Number(string.Create(CultureInfo.InvariantCulture, $"!{part}"), () => new Node(Kind.Not, [part], -1, null));
    }

    private int Join(Kind kind, IEnumerable<int> parts)
    {
        // What settles it whatever the others say, and what says nothing.
        var (settles, nothing) = kind == Kind.And ? (False, True) : (True, False);
        var rest = new SortedSet<int>(parts);
        if (rest.Contains(settles))
        {
            return settles;
        }

        rest.Remove(nothing);
        return rest.Count switch
        {
            0 => nothing,
            1 => rest.Min,
            _ => Number((kind == Kind.And ? "&" : "|") + string.Join(',', rest), () => new Node(kind, [.. rest], -1, null)),
        };
    }

    private int Number(string says, Func<Node> make)
    {
        if (!known.TryGetValue(says, out var number))
        {
            number = nodes.Count;
            nodes.Add(make());
            known[says] = number;
        }

        return number;
    }

    private enum Kind
    {
        Constant,
        Test,
        Not,
        And,
        Or,
    }

    private sealed record Node(Kind Kind, ImmutableArray<int> Parts, int Variable, Condition.Test? Test);
}
