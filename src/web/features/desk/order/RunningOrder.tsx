import { type KeyboardEvent, useState } from "react";
import type { DeskZone, Severity } from "../../../api/types";
import { countOf } from "../../../shared/format";
import { newId } from "../../../shared/ids";
import { blocksOf, type Desk, type DeskState, type DeskStore, placeOf } from "../DeskStore";
import { useDeskContext } from "../useDesk";
import { moveBy, moveZoneBy, neighbour } from "./arranging";
import { OrderRow } from "./OrderRow";
import { PickedRows } from "./PickedRows";
import { RowDrawer } from "./RowDrawer";
import classes from "./RunningOrder.module.css";
import { carryRow, takesRow } from "./rowDrag";
import { usePicked } from "./usePicked";

/** Where a row is to be added: in a zone, or in the running order itself. */
interface Adding {
  zone?: DeskZone;
  index: number;
}

// What was added before may still be on its way: the server counts.
const atEnd = -1;

/** The rows in order. The margin rule says what may be done: solid is sealed, a hairline is to fill in, dashed is a zone. */
export function RunningOrder({ state }: { state: DeskState }) {
  const { store, choice, choose, others } = useDeskContext();
  const [adding, setAdding] = useState<Adding>();
  const desk = state.desk as Desk;
  const picked = usePicked(store, desk, choice.row);
  const several = picked.rows.length > 1;
  const heads = [
    ...(desk.about ? [{ id: "about", name: desk.kind === "row" ? "About this row" : "About this template", note: desk.name }] : []),
    ...(desk.kind === "row" ? [] : [{ id: "details", name: "Subject and sender", note: desk.details.subject || "no subject yet" }]),
  ];
  const ids = [
    ...heads.map((h) => h.id),
    ...desk.order.flatMap((item) => (item.row ? [item.row] : [...(item.zone?.terms ? [item.zone.id] : []), ...(item.zone?.rows ?? [])])),
  ];

  const add = () => {
    const { zone: here, index } = placeOf(desk, choice.row);
    const chosen = desk.order.find((item) => item.zone?.id === choice.row)?.zone;
    const zone = here ?? chosen ?? (desk.addToOrder.allowed ? undefined : (desk.order.find((item) => item.zone)?.zone ?? undefined));
    if (zone && !zone.add.allowed) {
      store.say(zone.add.reason ?? "");
    } else if (zone || desk.addToOrder.allowed) {
      setAdding({ zone, index: here ? index + 1 : zone || index < 0 ? atEnd : index + 1 });
    }
  };

  const onKeyDown = (event: KeyboardEvent) => {
    // Keys of a row or zone are pressed on it; on a button beside them they are the button's.
    const onItem = (event.target as HTMLElement).closest("[id^=order-]") !== null;
    if (!onItem && !["/", "ArrowDown", "ArrowUp"].includes(event.key)) {
      return;
    }
    const row = state.rows.get(choice.row);
    const zone = desk.order.find((item) => item.zone?.terms && item.zone.id === choice.row)?.zone;
    const step = event.key === "ArrowDown" ? 1 : event.key === "ArrowUp" ? -1 : 0;
    if (step !== 0 && event.shiftKey && !event.altKey) {
      event.preventDefault();
      picked.extend(step);
    } else if (event.key === "Escape" && several) {
      picked.clear();
    } else if (step !== 0 && event.altKey) {
      event.preventDefault();
      several ? picked.move(step) : zone ? moveZoneBy(store, desk, zone.id, step) : moveBy(store, desk, row, step);
    } else if (step !== 0) {
      event.preventDefault();
      picked.clear();
      const next = ids[Math.max(0, Math.min(ids.length - 1, ids.indexOf(choice.row) + step))] ?? ids[0];
      document.getElementById(`order-${next}`)?.focus();
    } else if (event.key === "Enter") {
      event.preventDefault();
      const first = row && blocksOf(row).find((b) => b.content.allowed && b.fields.length > 0);
      if (choice.row === "details" || first) {
        choose(choice.row, first?.id, first?.fields[0]?.name ?? "subject");
      } else {
        choose(choice.row, undefined, "name");
      }
    } else if (event.key.toLowerCase() === "d" && (event.ctrlKey || event.metaKey) && row) {
      event.preventDefault();
      several
        ? picked.duplicate()
        : row.duplicate.allowed
          ? store.edit({ kind: "duplicate-row", row: row.id, copy: newId() })
          : store.say(row.duplicate.reason ?? "");
    } else if (event.key === "Delete" && (row || zone)) {
      several ? picked.remove() : remove(row ? row.remove : undefined);
    } else if (event.key === "/") {
      event.preventDefault();
      add();
    }
  };

  const remove = (allowance?: { allowed: boolean; reason?: string | null }) => {
    if (allowance && !allowance.allowed) {
      store.say(allowance.reason ?? "");
      return;
    }
    const next = neighbour(desk, choice.row);
    store.edit(allowance ? { kind: "remove-row", row: choice.row } : { kind: "remove-zone", zone: choice.row });
    document.getElementById(`order-${next}`)?.focus();
  };

  const worst = new Map<string, { severity: Severity; count: number }>();
  const unfilled = new Map<string, number>();
  for (const { place, severity, toFill } of desk.findings) {
    if (place.row && toFill) {
      unfilled.set(place.row, (unfilled.get(place.row) ?? 0) + 1);
    } else if (place.row) {
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
          toFill={unfilled.get(id) ?? 0}
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
          onDropRow={(dragged) => drop(store, dragged, zone, id)}
          droppable={zone !== undefined || desk.addToOrder.allowed}
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
        {heads.map((head) => (
          <button
            key={head.id}
            type="button"
            id={`order-${head.id}`}
            className={`plain ${classes.row} ${classes.details}`}
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
        {desk.order.map((item) =>
          item.zone ? (
            <section key={item.zone.id} className={classes.zone} aria-label={item.zone.name}>
              <ZoneTitle
                zone={item.zone}
                chosen={choice.row === item.zone.id}
                onDropRow={(dragged) => drop(store, dragged, item.zone?.id)}
              />
              {item.zone.rows.map((id) => orderRow(id, item.zone?.id))}
              {item.zone.add.allowed ? (
                <button
                  type="button"
                  className={`plain ${classes.add}`}
                  onClick={() => item.zone && setAdding({ zone: item.zone, index: atEnd })}
                  {...takesRow((dragged) => item.zone && drop(store, dragged, item.zone.id))}
                >
                  Add a row <kbd>/</kbd>
                </button>
              ) : (
                <p className={classes.full} {...takesRow((dragged) => item.zone && drop(store, dragged, item.zone.id))}>
                  {item.zone.add.reason}
                </p>
              )}
            </section>
          ) : (
            orderRow(item.row ?? "")
          ),
        )}
        {desk.addToOrder.allowed && (
          <button
            type="button"
            className={`plain ${classes.add} ${classes.addToOrder}`}
            onClick={() => setAdding({ index: atEnd })}
            {...takesRow((dragged) => drop(store, dragged))}
          >
            Add a row or a zone <kbd>/</kbd>
          </button>
        )}
      </nav>
      {several && <PickedRows picked={picked} />}
      {/* Beside the order, not inside it: keys pressed in the drawer are not keys of the order. */}
      {adding && <RowDrawer desk={desk} zone={adding.zone} index={adding.index} onClose={() => setAdding(undefined)} />}
    </>
  );
}

/** What a zone is called and takes; where it is made, it is chosen like a row. */
function ZoneTitle({ zone, chosen, onDropRow }: { zone: DeskZone; chosen: boolean; onDropRow: (dragged: string) => void }) {
  const { choose } = useDeskContext();
  const words = (
    <>
      <span>
        {zone.name}, {zone.least === zone.most ? zone.most : `${zone.least} to ${zone.most}`}
      </span>
      <span>{zone.rows.length}</span>
    </>
  );
  return zone.terms ? (
    <button
      type="button"
      id={`order-${zone.id}`}
      className={`plain ${classes.zoneTitle} ${classes.zoneChoice}`}
      aria-current={chosen}
      tabIndex={chosen ? 0 : -1}
      draggable
      onDragStart={(e) => carryRow(e, zone.id)}
      {...takesRow(onDropRow)}
      onClick={() => choose(zone.id)}
      onFocus={() => chosen || choose(zone.id)}
    >
      {words}
    </button>
  ) : (
    <p className={classes.zoneTitle}>{words}</p>
  );
}

/** Puts a dragged row before another in a list, or at the list's end. Whether it may is the server's to say. */
function drop(store: DeskStore, dragged: string, zoneId?: string, before?: string) {
  const { desk, rows } = store.snapshot();
  const zone = desk?.order.find((item) => item.zone?.id === zoneId)?.zone;
  const row = rows.get(dragged);
  const isZone = desk?.order.some((item) => item.zone?.id === dragged);
  if (!desk || !dragged || dragged === before || (row && !row.move.allowed) || (!row && (!isZone || zone))) {
    return;
  }
  const others = (zone ? zone.rows : desk.order.map((item) => item.row ?? item.zone?.id ?? "")).filter((id) => id !== dragged);
  store.edit({ kind: "move-row", row: dragged, zone: zone?.id ?? null, index: before ? others.indexOf(before) : others.length });
}
