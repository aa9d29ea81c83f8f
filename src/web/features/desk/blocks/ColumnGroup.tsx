import { useDraggable, useDroppable } from "@dnd-kit/core";
import { Menu } from "@mantine/core";
import { usePrefetchQuery } from "@tanstack/react-query";
import { queries } from "../../../api/queries";
import type { DeskBlock, DeskColumn, DeskRow, RichText } from "../../../api/types";
import { newId } from "../../../shared/ids";
import { BlockFields } from "../copy/BlockFields";
import { blocksOf, type Desk } from "../DeskStore";
import type { Dragged, Target } from "../drag/dragged";
import { useDeskContext } from "../useDesk";
import classes from "./ColumnGroup.module.css";
import { type Held, useBlockClipboard } from "./useBlockClipboard";

/** One column of a row that may be shaped: its blocks in order, and room for more. */
export function ColumnGroup({ row, column, index, desk }: { row: DeskRow; column: DeskColumn; index: number; desk: Desk }) {
  const { addBlock } = useDeskContext();
  // There before they are asked for: whoever types fast loses no key.
  usePrefetchQuery(queries.blockKinds);
  const held = useBlockClipboard();
  const several = row.columns.length > 1;
  const at = (place: number) => ({ row: row.id, column: column.id, index: place });
  return (
    <section className={classes.column} aria-label={`Column ${index + 1}`}>
      {several && (
        <h3 className={classes.head}>
          <span>Column {index + 1}</span>
          <span>{column.width} px</span>
        </h3>
      )}
      {column.blocks.map((block, place) => (
        <Piece
          key={block.id}
          row={row}
          column={column}
          block={block}
          at={place}
          desk={desk}
          held={held}
          onAddBelow={() => addBlock(at(place + 1))}
        />
      ))}
      <DropPlace row={row} column={column} at={column.blocks.length}>
        {/* Counted by the server: what was added before may still be on its way. */}
        <button type="button" className={`plain ${classes.add}`} onClick={() => addBlock(at(atEnd))}>
          Add a block
        </button>
      </DropPlace>
    </section>
  );
}

interface PieceProps {
  row: DeskRow;
  column: DeskColumn;
  block: DeskBlock;
  at: number;
  desk: Desk;
  held: Held;
  onAddBelow: () => void;
}

const atEnd = -1;

const tooWide = (block: DeskBlock, column: DeskColumn) => block.leastWidth > column.width;

function Piece({ row, column, block, at, desk, held, onAddBelow }: PieceProps) {
  const { store, choice } = useDeskContext();
  const below = column.blocks[at + 1];
  const dragged: Dragged = { kind: "block", row: row.id, block, name: block.name };
  const drag = useDraggable({ id: `block-${row.id}-${block.id}`, data: dragged, disabled: !block.arrange.allowed });
  const move = (to: DeskColumn, index: number) =>
    store.edit({ kind: "move-block", row: row.id, piece: block.id, toRow: row.id, column: to.id, index });
  const others = blocksOf(row).filter((b) => b.id !== block.id && b.arrange.allowed);
  return (
    <DropPlace row={row} column={column} at={at}>
      <fieldset className={classes.piece} data-chosen={choice.row === row.id && choice.piece === block.id}>
        <legend className="only-heard">{block.name}</legend>
        <div className={classes.bar} ref={drag.setNodeRef}>
          {block.arrange.allowed && (
            <button
              type="button"
              className={`plain ${classes.handle}`}
              ref={drag.setActivatorNodeRef}
              {...drag.listeners}
              {...drag.attributes}
              aria-label={`Drag ${block.name}`}
            >
              ⠿
            </button>
          )}
          <span className={classes.name}>{block.name}</span>
          <span className="soft">{block.name === block.kindLabel ? "" : block.kindLabel}</span>
          <Menu position="bottom-end" width={250}>
            <Menu.Target>
              <button type="button" className={`plain ${classes.more}`} aria-label={`Arrange ${block.name}`}>
                ⋯
              </button>
            </Menu.Target>
            <Menu.Dropdown>
              <Menu.Item disabled={!block.arrange.allowed || at === 0} onClick={() => move(column, at - 1)}>
                Move up
              </Menu.Item>
              <Menu.Item disabled={!block.arrange.allowed || at === column.blocks.length - 1} onClick={() => move(column, at + 1)}>
                Move down
              </Menu.Item>
              {row.columns.map((to, i) =>
                to.id === column.id ? null : (
                  <Menu.Item key={to.id} disabled={!block.arrange.allowed || tooWide(block, to)} onClick={() => move(to, to.blocks.length)}>
                    Move to column {i + 1}
                    {tooWide(block, to) && (
                      <span className={classes.why}>
                        too narrow: {to.width} of {block.leastWidth} px
                      </span>
                    )}
                  </Menu.Item>
                ),
              )}
              {others.length > 0 && (
                <Menu.Sub>
                  <Menu.Sub.Target>
                    <Menu.Sub.Item>Swap with</Menu.Sub.Item>
                  </Menu.Sub.Target>
                  <Menu.Sub.Dropdown>
                    {others.map((other) => (
                      <Menu.Item
                        key={other.id}
                        onClick={() =>
                          store.edit({ kind: "swap-blocks", row: row.id, first: block.id, otherRow: row.id, second: other.id })
                        }
                      >
                        {other.name}
                      </Menu.Item>
                    ))}
                  </Menu.Sub.Dropdown>
                </Menu.Sub>
              )}
              <Menu.Item
                disabled={!block.arrange.allowed}
                onClick={() => store.edit({ kind: "duplicate-block", row: row.id, piece: block.id, copy: newId() })}
              >
                Duplicate
              </Menu.Item>
              <Menu.Item
                disabled={!block.arrange.allowed}
                onClick={() => store.edit({ kind: "remove-block", row: row.id, piece: block.id })}
              >
                Remove
              </Menu.Item>
              <Menu.Item onClick={onAddBelow}>Add a block below</Menu.Item>
              {block.kind === "text" && below?.kind === "text" && (
                <Menu.Item
                  disabled={!block.content.allowed || !below.arrange.allowed}
                  onClick={() =>
                    store.edit({
                      kind: "join-texts",
                      row: row.id,
                      piece: block.id,
                      with: below.id,
                      field: "text",
                      text: joined(block, below),
                    })
                  }
                >
                  Join with the text below
                </Menu.Item>
              )}
              <Menu.Divider />
              <Menu.Item onClick={() => held.copy(block)}>Copy its look and content</Menu.Item>
              <Menu.Item disabled={!held.copied} onClick={() => held.giveLook(store, row, block)}>
                Give it the copied look
              </Menu.Item>
              <Menu.Item disabled={!held.copied} onClick={() => held.giveContent(store, row, block)}>
                Give it the copied content
              </Menu.Item>
            </Menu.Dropdown>
          </Menu>
        </div>
        {tooWide(block, column) && (
          <p className={classes.narrow}>
            Too wide here: it needs {block.leastWidth} px and has {column.width}. Move it to a wider column, or give this one more parts
            under Look.
          </p>
        )}
        {block.content.allowed && block.fields.length > 0 && <BlockFields row={row} block={block} desk={desk} headed />}
      </fieldset>
    </DropPlace>
  );
}

const paragraphs = (block: DeskBlock) => block.fields.flatMap((f) => (f.value.kind === "prose" ? (f.value.text.paragraphs ?? []) : []));

const joined = (first: DeskBlock, second: DeskBlock): RichText => ({
  paragraphs: [...paragraphs(first), ...paragraphs(second)],
});

/** A place that takes a dragged block; where it is too narrow, that is said before the drop. */
function DropPlace({ row, column, at, children }: { row: DeskRow; column: DeskColumn; at: number; children: React.ReactNode }) {
  const target: Target = {
    kind: "column",
    place: { row: row.id, column: column.id, index: at },
    name: `at place ${at + 1} of ${row.name}`,
  };
  const { setNodeRef, isOver, active } = useDroppable({ id: `place-${row.id}-${column.id}-${at}`, data: target });
  const carried = active?.data.current as Dragged | undefined;
  const least = carried?.kind === "block" ? carried.block.leastWidth : carried?.kind === "new-block" ? carried.entry.leastWidth : undefined;
  return (
    <div ref={setNodeRef} className={classes.place} data-over={isOver && least !== undefined} data-narrow={(least ?? 0) > column.width}>
      {children}
    </div>
  );
}
