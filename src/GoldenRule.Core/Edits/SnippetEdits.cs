using GoldenRule.Core.Audiences;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Edits;

/// <summary>Says what a snippet says, in one stretch of its schedule.</summary>
/// <param name="Id">Of the scheduled value.</param>
public sealed record SetSnippetValue(string Id, FieldValue Value) : Edit
{
    public override string Target => $"values/{Id}";

    public override Document Apply(Document document)
    {
        var snippet = Expect<Snippet>(document);
        return snippet with
        {
            Values = snippet.Values.SetItem(snippet.Require(Id), snippet.Values[snippet.Require(Id)] with { Value = Value }),
        };
    }

    public override Edit Invert(Document before)
    {
        var snippet = Expect<Snippet>(before);
        return new SetSnippetValue(Id, snippet.Values[snippet.Require(Id)].Value);
    }
}

/// <summary>Lets another value hold from a moment on.</summary>
public sealed record AddSnippetValue(ScheduledValue Value) : Edit
{
    public override string Target => $"values/{Value.Id}";

    public override Document Apply(Document document)
    {
        var snippet = Expect<Snippet>(document);
        return snippet.InOrder(snippet.Values.Add(Value));
    }

    public override Edit Invert(Document before) => new RemoveSnippetValue(Value.Id);
}

/// <summary>Takes one value out of the schedule: the one before it goes on.</summary>
public sealed record RemoveSnippetValue(string Id) : Edit
{
    public override string Target => $"values/{Id}";

    private protected override string Whole => Id;

    // Something always holds from the beginning.
    public override Document Apply(Document document)
    {
        var snippet = Expect<Snippet>(document);
        var at = snippet.Require(Id);
        if (snippet.Values.Length == 1)
        {
            throw new StructureException("It is the only value. Change what it says, or let the snippet expire.", Target);
        }

        var left = snippet.Values.RemoveAt(at);
        return snippet with { Values = at == 0 ? left.SetItem(0, left[0] with { From = "" }) : left };
    }

    public override Edit Invert(Document before)
    {
        var snippet = Expect<Snippet>(before);
        var at = snippet.Require(Id);
        // With the first gone, the second holds from the beginning: it gets its own moment back.
        return at == 0 && snippet.Values.Length > 1
            ? new RestoreFirstValue(snippet.Values[0], snippet.Values[1].From)
            : new AddSnippetValue(snippet.Values[at]);
    }
}

/// <summary>Takes back that the first value was removed.</summary>
/// <param name="NextFrom">From when on the one after it holds again.</param>
public sealed record RestoreFirstValue(ScheduledValue Value, string NextFrom) : Edit
{
    public override string Target => $"values/{Value.Id}";

    public override Document Apply(Document document)
    {
        var snippet = Expect<Snippet>(document);
        return snippet with { Values = [Value, snippet.Values[0] with { From = NextFrom }, .. snippet.Values[1..]] };
    }

    public override Edit Invert(Document before) => new RemoveSnippetValue(Value.Id);
}

/// <summary>Lets a value hold from another moment on.</summary>
public sealed record SetSnippetFrom(string Id, string From) : Edit
{
    public override string Target => $"values/{Id}/from";

    public override Document Apply(Document document)
    {
        var snippet = Expect<Snippet>(document);
        var at = snippet.Require(Id);
        return at == 0
            ? throw new StructureException("The first value holds from the beginning.", Target)
            : snippet.InOrder(snippet.Values.SetItem(at, snippet.Values[at] with { From = From }));
    }

    public override Edit Invert(Document before)
    {
        var snippet = Expect<Snippet>(before);
        return new SetSnippetFrom(Id, snippet.Values[snippet.Require(Id)].From);
    }
}

/// <summary>Lets a snippet expire at a moment; empty: it does not.</summary>
public sealed record SetSnippetExpiry(string At) : Edit
{
    public override string Target => "expires";

    public override Document Apply(Document document) => Expect<Snippet>(document) with { Expires = At };

    public override Edit Invert(Document before) => new SetSnippetExpiry(Expect<Snippet>(before).Expires);
}

/// <summary>Says who may change a snippet beside the leads.</summary>
public sealed record SetSnippetEditors(SnippetEditors Editors) : Edit
{
    public override string Target => "editors";

    public override Document Apply(Document document) => Expect<Snippet>(document) with { Editors = Editors };

    public override Edit Invert(Document before) => new SetSnippetEditors(Expect<Snippet>(before).Editors);
}

/// <summary>Uses another snippet wherever this one stands; null: it stands for itself again.</summary>
/// <param name="By">Key of the other.</param>
public sealed record ReplaceSnippet(string? By) : Edit
{
    public override string Target => "replaced-by";

    public override Document Apply(Document document) => Expect<Snippet>(document) with { ReplacedBy = By };

    public override Edit Invert(Document before) => new ReplaceSnippet(Expect<Snippet>(before).ReplacedBy);
}
