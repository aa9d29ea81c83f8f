import { type KeyboardEvent, memo, useState } from "react";
import type { DeskRow, DeskZone, Severity } from "../../api/types";
import { newId } from "../../shared/ids";
import { SeverityMark } from "../../shared/SeverityMark";
import { moveBy, neighbour } from "./arranging";
import { blocksOf, type Desk, type DeskState, type DeskStore } from "./DeskStore";
import { RowDrawer } from "./RowDrawer";
import { RowSchematic } from "./RowSchematic";
import classes from "./RunningOrder.module.css";
import { useDeskContext } from "./useDesk";

/** The rows in order. The margin rule says what may be done: solid is sealed, a hairline is to fill in, dashed is a zone. */
export function RunningOrder({ state }: { state: DeskState }) {
  const { store, choice, choose } = useDeskContext();
  const [adding, setAdding] = useState<{ zone: DeskZone; index: number }>();
  const desk = state.desk as Desk;
  const ids = ["details", ...desk.order.flatMap((item) => (item.row ? [item.row] : (item.zone?.rows ?? [])))];

  const onKeyDown = (event: KeyboardEvent) => {
    const row = state.rows.get(choice.row);
    const step = event.key === "ArrowDown" ? 1 : event.key === "ArrowUp" ? -1 : 0;
    if (step !== 0 && event.altKey) {
      event.preventDefault();
      moveBy(store, desk, row, step);
    } else if (step !== 0) {
      event.preventDefault();
      const next = ids[Math.max(0, Math.min(ids.length - 1, ids.indexOf(choice.row) + step))] ?? "details";
      document.getElementById(`order-${next}`)?.focus();
    } else if (event.key === "Enter") {
      event.preventDefault();
      const first = row && blocksOf(row).find((b) => b.content.allowed && b.fields.length > 0);
      if (choice.row === "details" || first) {
        choose(choice.row, first?.id, first?.fields[0]?.name ?? "subject");
      }
    } else if (event.key.toLowerCase() === "d" && (event.ctrlKey || event.metaKey) && row) {
      event.preventDefault();
      row.duplicate.allowed ? store.edit({ kind: "duplicate-row", row: row.id, copy: newId() }) : store.say(row.duplicate.reason ?? "");
    } else if (event.key === "Delete" && row) {
      if (row.remove.allowed) {
        const next = neighbour(desk, row.id);
        store.edit({ kind: "remove-row", row: row.id });
        document.getElementById(`order-${next}`)?.focus();
      } else {
        store.say(row.remove.reason ?? "");
      }
    } else if (event.key === "/") {
      event.preventDefault();
      const zone = desk.order.find((item) => item.zone?.id === row?.zone)?.zone ?? desk.order.find((item) => item.zone)?.zone;
      if (zone?.add.allowed) {
        setAdding({ zone, index: row?.zone ? zone.rows.indexOf(row.id) + 1 : zone.rows.length });
      } else if (zone) {
        store.say(zone.add.reason ?? "");
      }
    }
  };

  const worst = new Map<string, { severity: Severity; count: number }>();
  for (const { place, severity } of desk.findings) {
    if (place.row) {
      // Findings come the worst first.
      const known = worst.get(place.row);
      worst.set(place.row, { severity: known?.severity ?? severity, count: (known?.count ?? 0) + 1 });
    }
  }
  const orderRow = (id: string, zone?: string) => {
    const row = state.rows.get(id);
    return (
      row && (
        <OrderRow
          key={id}
          row={row}
          zone={zone}
          severity={worst.get(id)?.severity}
          count={worst.get(id)?.count ?? 0}
          chosen={choice.row === id}
        />
      )
    );
  };

  return (
    <>
      <nav className={classes.order} aria-label="Running order" data-order onKeyDown={onKeyDown}>
        <p className={classes.title}>
          <span>Running order</span>
          <span>{state.rows.size} rows</span>
        </p>
        <button
          type="button"
          id="order-details"
          className={`plain ${classes.row} ${classes.details}`}
          aria-current={choice.row === "details"}
          tabIndex={choice.row === "details" ? 0 : -1}
          onClick={() => choose("details")}
          onFocus={() => choice.row === "details" || choose("details")}
        >
          <span className={classes.words}>
            <span className={classes.name}>Inbox line</span>
            <span className={classes.note}>{desk.details.subject || "no subject yet"}</span>
          </span>
        </button>
        {desk.order.map((item) =>
          item.zone ? (
            <section key={item.zone.id} className={classes.zone} aria-label={item.zone.name}>
              <p className={classes.zoneTitle}>
                <span>
                  {item.zone.name}, {item.zone.least} to {item.zone.most}
                </span>
                <span>{item.zone.rows.length}</span>
              </p>
              {item.zone.rows.map((id) => orderRow(id, item.zone?.id))}
              {item.zone.add.allowed ? (
                <button
                  type="button"
                  className={`plain ${classes.add}`}
                  onClick={() => item.zone && setAdding({ zone: item.zone, index: item.zone.rows.length })}
                  onDragOver={(e) => e.preventDefault()}
                  onDrop={(e) => item.zone && drop(store, e.dataTransfer.getData("text/row"), item.zone.id)}
                >
                  Add a row <kbd>/</kbd>
                </button>
              ) : (
                <p className={classes.full}>{item.zone.add.reason}</p>
              )}
            </section>
          ) : (
            orderRow(item.row ?? "")
          ),
        )}
      </nav>
      {/* Beside the order, not inside it: keys pressed in the drawer are not keys of the order. */}
      {adding && <RowDrawer email={desk.id} zone={adding.zone} index={adding.index} onClose={() => setAdding(undefined)} />}
    </>
  );
}

/** Puts a dragged row before another in a zone, or at the zone's end. */
function drop(store: DeskStore, dragged: string, zoneId: string, before?: string) {
  const { desk, rows } = store.snapshot();
  const zone = desk?.order.find((item) => item.zone?.id === zoneId)?.zone;
  if (zone && rows.get(dragged)?.move.allowed) {
    const others = zone.rows.filter((id) => id !== dragged);
    store.edit({ kind: "move-row", row: dragged, zone: zoneId, index: before ? others.indexOf(before) : others.length });
  }
}

interface OrderRowProps {
  row: DeskRow;
  zone?: string;
  severity?: Severity;
  count: number;
  chosen: boolean;
}

/** One row of the order. Drawn anew only when something of its own changed: there may be many, and typing is frequent. */
const OrderRow = memo(function OrderRow({ row, zone, severity, count, chosen }: OrderRowProps) {
  const { store, choose } = useDeskContext();
  const open = blocksOf(row).some((b) => b.fields.length > 0 && b.content.allowed);
  return (
    <button
      type="button"
      id={`order-${row.id}`}
      className={`plain ${classes.row}`}
      data-rule={open ? "open" : "sealed"}
      aria-current={chosen}
      tabIndex={chosen ? 0 : -1}
      draggable={row.move.allowed}
      onClick={() => choose(row.id)}
      onFocus={() => chosen || choose(row.id)}
      onDragStart={(e) => e.dataTransfer.setData("text/row", row.id)}
      onDragOver={zone ? (e) => e.preventDefault() : undefined}
      onDrop={
        zone
          ? (e) => e.dataTransfer.getData("text/row") !== row.id && drop(store, e.dataTransfer.getData("text/row"), zone, row.id)
          : undefined
      }
    >
      <RowSchematic row={row} />
      <span className={classes.words}>
        <span className={classes.name}>{row.name}</span>
        <span className={classes.note}>
          {row.rowKind.replace("-", " ")}
          {!open && " · sealed"}
          {severity && (
            <>
              {" · "}
              <SeverityMark severity={severity} />
              {count}
            </>
          )}
        </span>
      </span>
    </button>
  );
});
