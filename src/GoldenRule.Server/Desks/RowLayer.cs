using System.Collections.Immutable;
using System.Text;
using GoldenRule.Core.Audiences;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Governance;
using GoldenRule.Core.Resolving;
using GoldenRule.Server.Editing;
using Lock = GoldenRule.Core.Documents.Lock;

namespace GoldenRule.Server.Desks;

/// <summary>Rows and zones as they lie on the desk, with what one person may do to each.</summary>
internal sealed class RowLayer(CompiledRevision compiledRevision, OpenDocument.OfRows open, LibrarySnapshot library, Person person)
{
    // Rules are shown to those who may set them, where they are set.
    private readonly bool rules = open is not OpenDocument.OfEmail && open.As(person).Is(Role.Lead, Role.Designer);

    public DeskItem Item(OrderItem item) =>
        item is Zone zone
            ? new DeskItem(
                null,
                new DeskZone(
                    zone.Id,
                    zone.Name ?? zone.Id,
                    zone.Least,
                    zone.Most,
                    zone.Instruction,
                    zone.OwnRows,
                    Allowances.OfZone(person, open, zone),
                    [.. compiledRevision.Order.Rows.Where(r => r.Zone?.Id == zone.Id).Select(r => r.Id)],
                    rules ? zone with { Default = [], Locks = Locks.Unset } : null,
                    rules
                        ? Place(
                            zone,
                            [
                                .. Enum.GetValues<Aspect>()
                                    .Select(a => new DeskLock(
                                        a,
                                        zone.Locks[a],
                                        a == Aspect.Arrangement ? EffectiveLocks.ForArrangement(zone) : zone.Locks[a] ?? new Lock.Open(),
                                        new Lock.Open(),
                                        "the usual rules"
                                    )),
                            ]
                        )
                        : null
                )
            )
            : new DeskItem(item.Id, null);

    public DeskRow Row(CompiledRow compiled)
    {
        var row = compiled.Source;
        var source = row.Source;
        var allowed = Allowances.ForRow(person, open, source);
        var widths = RowWidths.Measure(row, compiledRevision.Proof.Context.ThemeOf(row)).ToList();
        return new DeskRow(
            row.Id,
            source.Row.Id,
            row.Name,
            source.Master.RowKind,
            source.IsOwn ? null : source.Placed.Master,
            source.IsOwn ? null : source.Placed.Release,
            !source.IsOwn && source.Placed.Master is { } master ? library.Releases.Newest.GetValueOrDefault(master)?.Number : null,
            source.Zone?.Id,
            source.Master.Instruction,
            row.Surface,
            source.Row.Background,
            row.Shown,
            ConditionOf(row.Condition, row.Source, source.Row.Id),
            Looks(RowLook.All, row.Look, source.Row.Offers, source),
            [
                .. row.Columns.Select(
                    (c, i) =>
                        new DeskColumn(
                            source.Row.Columns[i].Id,
                            c.Parts,
                            widths[i],
                            [.. c.Blocks.Select(b => Block(b, row, widths[i], allowed))]
                        )
                ),
            ],
            allowed.Move,
            allowed.Remove,
            allowed.Duplicate,
            allowed.Detach,
            allowed.Shape,
            allowed.Look,
            allowed.Shown,
            allowed.Audience,
            rules ? RowRules(source) : null,
            rules && open is OpenDocument.OfTemplate
                ? Place(
                    source.Placed,
                    [
                        .. Enum.GetValues<Aspect>()
                            .Where(a => a != Aspect.Arrangement)
                            .Select(a => new DeskLock(
                                a,
                                source.Placed.Locks[a],
                                EffectiveLocks.ForPiece(source, source.Row.Id, a),
                                EffectiveLocks.ForPiece(source, source.Row.Id, a, added: false),
                                source.IsOwn ? "the row" : "the saved row"
                            )),
                    ]
                )
                : null,
            Encoding.UTF8.GetString(compiled.Html.Span)
        );
    }

    private DeskBlock Block(ResolvedBlock block, ResolvedRow row, int width, RowAllowances allowed)
    {
        var kind = BlockKinds.For(block.Master);
        var allowance = allowed.Blocks.First(b => b.Block == block.Id);
        var fills = row.Source.Fills.GetValueOrDefault(block.Id);
        var written = row.Source.ContentOf(block.Master);
        return new DeskBlock(
            block.Id,
            block.Master.Name ?? kind.Label,
            kind.Name,
            kind.Label,
            kind.Drawing,
            block.Master.Instruction,
            block.Master.Placeholder,
            [
                .. kind.Fields.Select(f => new DeskField(
                    f.Name,
                    f.Label,
                    written[f.Name],
                    ReferenceEquals(block.Content[f.Name], written[f.Name]) ? null : block.Content[f.Name],
                    // A row of the template's own is filled like any other.
                    fills?.Content.ContainsKey(f.Name) == true
                        || (row.Source.IsOwn && !block.Master.Placeholder),
                    [
                        .. block
                            .Master.Limits.Where(l => l.Key == f.Name || l.Key.StartsWith(f.Name + "/", StringComparison.Ordinal))
                            .SelectMany(l => Measuring.Measure(block.Content, l.Key, l.Value, compiledRevision.Resolved.Pictures)),
                    ],
                    [.. f.Entry.Select(e => new DeskEntryField(e.Name, e.Label, e.Default))]
                )),
            ],
            Looks(kind.Look, block.Look, block.Master.Offers, row.Source),
            block.Shown,
            ConditionOf(block.Condition, row.Source, block.Id),
            kind.LeastWidth(compiledRevision.Proof.Context.View(row, block, width)),
            allowance.Content,
            allowance.Look,
            allowance.Arrange,
            rules ? BlockRules(row.Source, block.Id, block.Master, kind, block.Look) : null
        );
    }

    private DeskCondition? ConditionOf(Condition? condition, OrderedRow row, string piece) =>
        condition is null
            ? null
            : new DeskCondition(
                condition,
                ConditionWords.Sentence(condition, library.Audiences),
                row.IsOwn || row.Fills.GetValueOrDefault(piece)?.Condition is not null
            );

    // Where it is made, a piece may look any way its kind knows; further down, as it is offered.
    private ImmutableArray<DeskLook> Looks(
        ImmutableArray<LookProperty> properties,
        IReadOnlyDictionary<string, string> look,
        ImmutableSortedDictionary<string, ImmutableArray<string>> offers,
        OrderedRow row
    ) =>
        [
            .. properties
                .Where(p => Free(row) || offers.ContainsKey(p.Name))
                .Select(p => new DeskLook(p.Name, p.Label, p.Value(look), Free(row) ? p.Choices : offers[p.Name])),
        ];

    private bool Free(OrderedRow row) => row.IsBuilt || (open is not OpenDocument.OfEmail && row.IsOwn);

    private DeskRules RowRules(OrderedRow row) =>
        new(
            row.Row.Id,
            LocksOf(row, row.Row.Id, row.Master.Row.Locks),
            ImmutableSortedDictionary<string, Limit>.Empty,
            row.IsOwn ? row.Row.Offers : row.Placed.Rules.GetValueOrDefault(row.Row.Id, PieceRules.None).Offers,
            Offerable(RowLook.All, row.Row.Look, row.IsOwn ? null : row.Master.Row.Offers),
            row.IsOwn ? row.Master.Instruction : null,
            false
        );

    private DeskRules BlockRules(OrderedRow row, string piece, Block block, BlockKind kind, IReadOnlyDictionary<string, string> look)
    {
        var added = row.Placed.Rules.GetValueOrDefault(piece, PieceRules.None);
        var own = row.Master.Row.Blocks.First(b => b.Id == piece);
        return new DeskRules(
            piece,
            LocksOf(row, piece, own.Locks),
            block.Limits,
            row.IsOwn ? own.Offers : added.Offers,
            Offerable(kind.Look, look, row.IsOwn ? null : own.Offers),
            block.Instruction,
            block.Placeholder
        );
    }

    /// <param name="own">What the piece says in its own master.</param>
    private static ImmutableArray<DeskLock> LocksOf(OrderedRow row, string piece, Locks own) =>
        [
            .. Enum.GetValues<Aspect>()
                .Select(a =>
                {
                    var (inherited, from) = EffectiveLocks.Inherited(row, piece, a);
                    return new DeskLock(
                        a,
                        row.IsOwn ? own[a] : row.Placed.Rules.GetValueOrDefault(piece)?.Locks[a],
                        EffectiveLocks.ForPiece(row, piece, a),
                        inherited,
                        from
                    );
                }),
        ];

    private static ImmutableArray<DeskLook> Offerable(
        ImmutableArray<LookProperty> properties,
        IReadOnlyDictionary<string, string> look,
        ImmutableSortedDictionary<string, ImmutableArray<string>>? offered
    ) =>
        [
            .. properties
                .Where(p => offered is null || offered.ContainsKey(p.Name))
                .Select(p => new DeskLook(p.Name, p.Label, p.Value(look), offered is null ? p.Choices : offered[p.Name])),
        ];

    private static DeskRules Place(Piece piece, ImmutableArray<DeskLock> locks) =>
        new(
            null,
            locks,
            ImmutableSortedDictionary<string, Limit>.Empty,
            ImmutableSortedDictionary<string, ImmutableArray<string>>.Empty,
            [],
            (piece as Zone)?.Instruction,
            false
        );
}
