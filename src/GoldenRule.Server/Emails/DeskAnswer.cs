using System.Collections.Immutable;
using GoldenRule.Core.Checking;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Governance;

namespace GoldenRule.Server.Emails;

/// <summary>One field on the copy sheet.</summary>
/// <param name="Filled">True: this email says it, not the master.</param>
public sealed record DeskField(string Name, string Label, FieldValue Value, bool Filled, ImmutableArray<Measurement> Measured);

/// <summary>One look property with what may be chosen.</summary>
public sealed record DeskLook(string Name, string Label, string Value, ImmutableArray<string> Choices);

public sealed record DeskBlock(
    string Id,
    string Name,
    string Kind,
    string? Instruction,
    bool Placeholder,
    ImmutableArray<DeskField> Fields,
    ImmutableArray<DeskLook> Look,
    Allowance Content,
    Allowance LookAllowance);

public sealed record DeskColumn(int Parts, ImmutableArray<DeskBlock> Blocks);

/// <param name="Html">The row compiled as a proof.</param>
public sealed record DeskRow(
    string Id,
    string Name,
    RowKind RowKind,
    string? Zone,
    string? Instruction,
    Surface Surface,
    ImmutableArray<DeskColumn> Columns,
    Allowance Move,
    Allowance Remove,
    Allowance Duplicate,
    string Html);

/// <param name="Rows">Ids, in order.</param>
public sealed record DeskZone(
    string Id, string Name, int Least, int Most, string? Instruction, Allowance Add, ImmutableArray<string> Rows);

/// <summary>One item of the running order: a row of the template, or a zone with its rows.</summary>
public sealed record DeskItem(string? Row, DeskZone? Zone);

public sealed record DeskTemplate(Guid Id, string Name, int Release, int Newest, string CampaignType, string CampaignTypeName);

/// <param name="Bytes">Of the HTML as it would be sent.</param>
/// <param name="Most">Bytes after which it is clipped.</param>
public sealed record DeskWeight(int Bytes, int Most);

/// <summary>
/// The composing desk of one email. After an edit only the rows that changed are in it; <see cref="Order"/> always
/// names them all.
/// </summary>
/// <param name="Whole">True: every row is here.</param>
/// <param name="StyleVersion">Changes when the house style is released anew.</param>
/// <param name="Opening">HTML before the rows; null: it did not change.</param>
/// <param name="Findings">All of them; null: they did not change.</param>
public sealed record DeskAnswer(
    Guid Id,
    string Name,
    EmailState State,
    long Revision,
    DateTime KeptAt,
    bool Whole,
    string StyleVersion,
    int Width,
    DeskTemplate Template,
    EmailDetails Details,
    Allowance DetailsAllowance,
    ImmutableArray<DeskItem> Order,
    ImmutableArray<DeskRow> Rows,
    string? Opening,
    ImmutableArray<Finding>? Findings,
    DeskWeight Weight,
    bool CanUndo,
    bool CanRedo);
