import { useDroppable } from "@dnd-kit/core";
import { useEffect, useRef, useState } from "react";
import type { DeskZone, Severity } from "../../../api/types";
import { countOf } from "../../../shared/format";
import { readNodes } from "../../../shared/nodes";
import { useNodeOffers } from "../../nodes/nodeOffers";
import { type Desk, type DeskState, placeOf } from "../DeskStore";
import type { Target } from "../drag/dragged";
import { useDeskContext } from "../useDesk";
import { useDropMark } from "./dropMark";
import { OrderRow } from "./OrderRow";
import { OrderZone } from "./OrderZone";
import { PickedRows } from "./PickedRows";
import { RowDrawer } from "./RowDrawer";
import classes from "./RunningOrder.module.css";
import { useOrderKeys } from "./useOrderKeys";
import { usePicked } from "./usePicked";

/** Where a row is to be added: in a zone, or in the running order itself. */
interface Adding {
  zone?: DeskZone;
  index: number;
}

// What was added before may still be on its way: the server counts.
const atEnd = -1;

const endOfOrder: Target = { kind: "order", name: "at the end" };

/** The rows in order. The margin rule says what may be done: solid is locked, a hairline is to fill in, dashed is a zone. */
export function RunningOrder({ state }: { state: DeskState }) {
  const { store, choice, choose, others, addBlock } = useDeskContext();
  const { shown } = useNodeOffers();
  const [adding, setAdding] = useState<Adding>();
  const desk = state.desk as Desk;
  const picked = usePicked(store, desk, choice.row);
  const end = useDroppable({ id: "end-of-order", data: endOfOrder, disabled: !desk.order.add.allowed });
  const endMark = useDropMark(end);
  const heads = [
    ...(desk.about ? [{ id: "about", name: desk.kind === "row" ? "About this row" : "About this template", note: desk.name }] : []),
    ...(desk.kind === "row"
      ? []
      : [{ id: "details", name: "Subject and sender", note: readNodes(desk.head.details.subject ?? "", shown) || "No subject yet" }]),
  ];
  const ids = [
    ...heads.map((h) => h.id),
    ...desk.order.items.flatMap((item) =>
      item.row ? [item.row] : [...(item.zone?.terms ? [item.zone.id] : []), ...(item.zone?.rows ?? [])],
    ),
  ];

  // A row alone is built; elsewhere rows are added.
  const builds = desk.kind === "row" ? [...state.rows.values()][0] : undefined;
  const addToRow = () => {
    const column = builds?.columns.at(-1);
    if (builds && column) {
      addBlock({ row: builds.id, column: column.id, index: atEnd });
    }
  };
  const addRow = () => {
    const { zone: here, index } = placeOf(desk, choice.row);
    const chosen = desk.order.items.find((item) => item.zone?.id === choice.row)?.zone;
    const zone = here ?? chosen ?? (desk.order.add.allowed ? undefined : (desk.order.items.find((item) => item.zone)?.zone ?? undefined));
    if (zone && !zone.add.allowed) {
      store.say(zone.add.reason ?? "");
    } else if (zone || desk.order.add.allowed) {
      setAdding({ zone, index: here ? index + 1 : zone || index < 0 ? atEnd : index + 1 });
    }
  };
  const onKeyDown = useOrderKeys({ state, ids, picked, add: builds ? addToRow : addRow });

  // Its keys work from the start, unless the focus was asked for elsewhere.
  const opened = useRef(choice);
  useEffect(() => {
    if (opened.current.asked === 0 && document.activeElement === document.body) {
      document.getElementById(`order-${opened.current.row}`)?.focus({ preventScroll: true });
    }
  }, []);

  const marks = marksOf(desk);
  const orderRow = (id: string, zone?: string) => {
    const row = state.rows.get(id);
    return (
      row && (
        <OrderRow
          key={id}
          row={row}
          zone={zone}
          severity={marks.get(id)?.severity}
          count={marks.get(id)?.count ?? 0}
          toFill={marks.get(id)?.toFill ?? 0}
          chosen={choice.row === id}
          picked={picked.rows.includes(id)}
          here={others
            .filter((o) => o.place.startsWith(id))
            .map((o) => o.name)
            .join(", ")}
          onPick={({ shiftKey, ctrlKey, metaKey }) => {
            if (shiftKey) {
              picked.reach(id);
            } else if (ctrlKey || metaKey) {
              picked.toggle(id);
            } else {
              picked.clear();
              choose(id);
            }
          }}
          droppable={zone !== undefined || desk.order.add.allowed}
        />
      )
    );
  };

  return (
    <>
      <nav className={classes.order} aria-label="Running order" data-order onKeyDown={onKeyDown}>
        <p className={classes.title}>
          <span>Running order</span>
          <span>{countOf(state.rows.size, "row")}</span>
        </p>
        {/* The zones and their buttons stand between what it lists. */}
        <div
          role="listbox"
          className="only-heard"
          aria-label="Rows in order"
          aria-multiselectable="true"
          aria-owns={ids.map((id) => `order-${id}`).join(" ")}
        />
        {heads.map((head) => (
          <button
            key={head.id}
            type="button"
            role="option"
            id={`order-${head.id}`}
            className={`plain ${classes.row} ${classes.details}`}
            aria-selected={choice.row === head.id}
            aria-current={choice.row === head.id}
            tabIndex={choice.row === head.id ? 0 : -1}
            onClick={() => choose(head.id)}
            onFocus={() => choice.row === head.id || choose(head.id)}
          >
            <span className={classes.words}>
              <span className={classes.name}>{head.name}</span>
              <span className={classes.note}>{head.note}</span>
            </span>
          </button>
        ))}
        {desk.order.items.map((item) =>
          item.zone ? (
            <OrderZone
              key={item.zone.id}
              zone={item.zone}
              chosen={choice.row === item.zone.id}
              onAdd={() => item.zone && setAdding({ zone: item.zone, index: atEnd })}
            >
              {item.zone.rows.map((id) => orderRow(id, item.zone?.id))}
            </OrderZone>
          ) : (
            orderRow(item.row ?? "")
          ),
        )}
        {desk.order.add.allowed && (
          <button
            type="button"
            ref={end.setNodeRef}
            className={`plain ${classes.add} ${classes.addToOrder}`}
            data-drop={endMark}
            onClick={() => setAdding({ index: atEnd })}
          >
            Add a row or a zone <kbd>/</kbd>
          </button>
        )}
        {builds?.shape.allowed && (
          <button type="button" className={`plain ${classes.add} ${classes.addToOrder}`} onClick={addToRow}>
            Add a block <kbd>/</kbd>
          </button>
        )}
      </nav>
      {picked.rows.length > 1 && <PickedRows picked={picked} />}
      {/* Beside the order, not inside it: keys pressed in the drawer are not keys of the order. */}
      {adding && <RowDrawer desk={desk} zone={adding.zone} index={adding.index} onClose={() => setAdding(undefined)} />}
    </>
  );
}

/** What is to fill in each row, and what else was found there: how many, and the worst. */
function marksOf({ findings }: Desk) {
  const marks = new Map<string, { severity?: Severity; count: number; toFill: number }>();
  for (const { place, severity, toFill } of findings) {
    if (place.row) {
      const known = marks.get(place.row) ?? { count: 0, toFill: 0 };
      // Findings come the worst first.
      marks.set(
        place.row,
        toFill ? { ...known, toFill: known.toFill + 1 } : { ...known, severity: known.severity ?? severity, count: known.count + 1 },
      );
    }
  }
  return marks;
}
