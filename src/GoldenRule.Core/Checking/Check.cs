using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Resolving;
using GoldenRule.Core.Validation;

namespace GoldenRule.Core.Checking;

/// <summary>The shelves that checks lie on.</summary>
public enum CheckGroup
{
    Brand,
    Reading,
    LawAndDelivery,
    Copy,
    Clients,
    Structure,
}

/// <summary>How a check is asked of an email of which not every reader sees all.</summary>
public enum Asked
{
    /// <summary>Of all of it at once: it judges rows by themselves, or none.</summary>
    Once,

    /// <summary>Of every combination of rows and blocks that some reader can see.</summary>
    OfEachReader,

    /// <summary>Of the most that a reader can see: it is a limit.</summary>
    OfTheMost,
}

/// <summary>
/// One thing that can be wrong with an email, at one severity. A new check is one class and one line in
/// <see cref="CheckList"/>; it derives from <see cref="RowCheck"/> where each row can be judged by itself.
/// </summary>
public abstract class Check
{
    /// <summary>Stable name, as it stands in findings.</summary>
    public abstract string Name { get; }

    /// <summary>What it looks for, as lists show it.</summary>
    public abstract string Label { get; }

    public abstract CheckGroup Group { get; }

    /// <summary>How grave it is unless the lead says otherwise.</summary>
    public abstract Severity Usual { get; }

    /// <summary>Why it matters, and the source that says so.</summary>
    public abstract string Why { get; }

    /// <summary>True: the law or the email's own integrity speaks, and nobody may set it otherwise.</summary>
    public virtual bool Fixed => false;

    /// <summary>The least finished thing that it is asked of.</summary>
    public virtual Inspection.Subject From => Inspection.Subject.Row;

    public abstract IEnumerable<Finding> Run(Inspection inspection);

    /// <summary>What it says of what some readers see.</summary>
    /// <param name="seen">Rows of the whole email, some of them with fewer blocks.</param>
    internal virtual IEnumerable<Finding> RunOn(List<InspectedRow> seen, Inspection whole) => Run(whole.Seen([.. seen]));

    /// <summary>How it is asked where rows and blocks have conditions.</summary>
    public virtual Asked Asked => Asked.Once;

    /// <summary>Whether it makes a difference to it if a row, or a block in it, is seen.</summary>
    public virtual bool Concerns(InspectedRow row, Inspection whole) => true;

    /// <summary>True: it is proven however many combinations there are.</summary>
    public virtual bool Necessary => Fixed;

    private protected Finding Found(Place place, string message, string? evidence = null, Remedy? remedy = null) =>
        new(Name, Usual, place, message, evidence, remedy);

    /// <summary>Something that is not filled in yet.</summary>
    private protected Finding ToFill(Place place, string message) => Found(place, message) with { ToFill = true };

    private protected static string NameOf(ResolvedBlock block) => block.Master.Name ?? BlockKinds.For(block.Master).Label;

    private protected static bool IsFilled(ResolvedRow row, ResolvedBlock block, string field) => row.Source.IsFilled(block.Id, field);
}

/// <summary>A check of a limit: it says the least and the most that a reader gets.</summary>
public abstract class MeasuredCheck : Check
{
    public sealed override Asked Asked => Asked.OfTheMost;

    public abstract double Measure(Inspection inspection);

    /// <summary>What is measured in words, with its unit.</summary>
    public abstract string Say(double measured);
}

/// <summary>A check that judges each row by itself, so that a row which did not change is not judged again.</summary>
public abstract class RowCheck : Check
{
    public sealed override IEnumerable<Finding> Run(Inspection inspection)
    {
        var found = new List<Finding>();
        foreach (var row in inspection.Rows)
        {
            Run(row, inspection, found);
        }

        return Gather(found);
    }

    public abstract void Run(InspectedRow row, Inspection inspection, List<Finding> found);

    /// <summary>What the rows said, put together for the whole email.</summary>
    public virtual IEnumerable<Finding> Gather(IReadOnlyList<Finding> found) => found;
}
