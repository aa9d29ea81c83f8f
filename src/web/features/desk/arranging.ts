import type { DeskRow } from "../../api/types";
import type { Desk, DeskStore } from "./DeskStore";

/** Moves a row one place up (-1) or down (1), over the edge of its zone into the next one. */
export function moveBy(store: DeskStore, desk: Desk, row: DeskRow | undefined, step: number) {
  if (!row) {
    return;
  }
  if (!row.move.allowed) {
    store.say(row.move.reason ?? "");
    return;
  }
  const zones = desk.order.flatMap((item) => (item.zone ? [item.zone] : []));
  const at = zones.findIndex((z) => z.id === row.zone);
  const zone = zones[at];
  if (!zone) {
    return;
  }
  const index = zone.rows.indexOf(row.id) + step;
  if (index >= 0 && index < zone.rows.length) {
    store.edit({ kind: "move-row", row: row.id, zone: zone.id, index });
    return;
  }
  const beside = zones[at + step];
  if (beside) {
    store.edit({ kind: "move-row", row: row.id, zone: beside.id, index: step > 0 ? 0 : beside.rows.length });
  }
}

/** The row that takes a removed one's place in the choice. */
export function neighbour(desk: Desk, row: string): string {
  const zone = desk.order.find((item) => item.zone?.rows.includes(row))?.zone;
  const at = zone?.rows.indexOf(row) ?? -1;
  return zone?.rows[at + 1] ?? zone?.rows[at - 1] ?? "details";
}
