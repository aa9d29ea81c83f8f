import type { DeskRow } from "../../../api/types";
import { type Desk, type DeskStore, placeOf } from "../DeskStore";

/** Moves a row one place up (-1) or down (1), in an email over the edge of its zone into the next one. */
export function moveBy(store: DeskStore, desk: Desk, row: DeskRow | undefined, step: number) {
  if (!row) {
    return;
  }
  if (!row.move.allowed) {
    store.say(row.move.reason ?? "");
    return;
  }
  const { zone, index, count } = placeOf(desk, row.id);
  const to = index + step;
  if (to >= 0 && to < count) {
    store.edit({ kind: "move-row", row: row.id, zone: zone?.id ?? null, index: to });
    return;
  }
  const zones = desk.order.items.flatMap((item) => (item.zone ? [item.zone] : []));
  const beside = zone && zones[zones.indexOf(zone) + step];
  if (beside) {
    store.edit({ kind: "move-row", row: row.id, zone: beside.id, index: step > 0 ? 0 : beside.rows.length });
  }
}

/** Moves a zone of a template one place up (-1) or down (1). */
export function moveZoneBy(store: DeskStore, desk: Desk, zone: string, step: number) {
  const { index, count } = placeOf(desk, zone);
  if (index + step >= 0 && index + step < count) {
    store.edit({ kind: "move-row", row: zone, zone: null, index: index + step });
  }
}

/** What takes a removed row's place in the choice. */
export function neighbour(desk: Desk, row: string): string {
  const { zone, index } = placeOf(desk, row);
  const beside = zone ? zone.rows : desk.order.items.map((item) => item.row ?? item.zone?.id ?? "");
  return beside[index + 1] ?? beside[index - 1] ?? (desk.about ? "about" : "details");
}
