using System.Collections.Immutable;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Resolving;

namespace GoldenRule.Core.Checking;

/// <summary>What the checks look at.</summary>
/// <param name="Compiled">Compiled for sending.</param>
/// <param name="Transactional">True for campaign types that answer a reader's own act, such as a booking confirmation.</param>
public sealed record Inspection(ResolvedEmail Email, CompiledEmail Compiled, bool Transactional)
{
    /// <summary>Every block with its row and the view it is written from.</summary>
    public ImmutableArray<(ResolvedRow Row, BlockView View, WritableKind Kind)> Blocks { get; } =
    [
        .. Email.Rows.SelectMany(row => row.Blocks.Select(block =>
            (row, Compiled.Press.View(row, block, Compiled.Press.Dress.Width), BlockKinds.Of(block.Master)))),
    ];
}

/// <summary>One thing that can be wrong with an email. A new check is one class and one line in <see cref="CheckList"/>.</summary>
public abstract class Check
{
    /// <summary>Stable name, as it stands in findings.</summary>
    public abstract string Name { get; }

    /// <summary>Why it matters, and the source that says so.</summary>
    public abstract string Why { get; }

    public abstract IEnumerable<Finding> Run(Inspection inspection);

    private protected Finding Found(Severity severity, Place place, string message, string? evidence = null, Remedy? remedy = null) =>
        new(Name, severity, place, message, evidence, remedy);

    private protected static string Label(ResolvedBlock block) => block.Master.Name ?? BlockKinds.Of(block.Master).Label;

    private protected static bool IsFilled(ResolvedRow row, ResolvedBlock block, string field) =>
        row.Source.EmailFills.GetValueOrDefault(block.Id)?.Content.ContainsKey(field) == true;
}
