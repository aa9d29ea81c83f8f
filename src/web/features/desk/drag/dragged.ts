import type { BlockKind, DeskBlock, DeskColumn, DeskRow, PictureEntry, RowPlace } from "../../../api/types";
import { choosePicture } from "../copy/fields/choosePicture";
import { blocksOf, type DeskState, type DeskStore, placeOf } from "../DeskStore";
import type { BlockPlace } from "../useDesk";

/** What is carried over the desk. */
export type Dragged =
  | { kind: "row"; id: string; name: string }
  | { kind: "zone"; id: string; name: string }
  | { kind: "block"; row: string; block: DeskBlock; name: string }
  | { kind: "new-block"; entry: BlockKind; name: string }
  | { kind: "picture"; picture: PictureEntry; name: string };

/** Where it may be put down. */
export type Target =
  /** Before a row or zone, or with none given at the end of a zone or of the running order. */
  | { kind: "order"; zone?: string; before?: string; name: string }
  | { kind: "column"; place: BlockPlace; name: string }
  | { kind: "picture"; row: string; piece: string; field: string; name: string };

/** Why it cannot be put down there; undefined: it can. Null: they have nothing to do with each other. */
export function whyNot(dragged: Dragged, target: Target, state: DeskState, places: readonly RowPlace[]): string | undefined | null {
  switch (dragged.kind) {
    case "row":
    case "zone": {
      if (target.kind !== "order" || (dragged.kind === "zone" && target.zone)) {
        return null;
      }
      const place = places.find((p) => (p.zone ?? undefined) === target.zone);
      return place && !place.allowance.allowed ? (place.allowance.reason ?? "It does not go there.") : undefined;
    }
    case "block":
    case "new-block":
      return target.kind === "column" ? whyNotBlock(dragged, target.place, state) : null;
    case "picture":
      return target.kind === "picture" ? undefined : null;
  }
}

function whyNotBlock(dragged: Dragged & { kind: "block" | "new-block" }, place: BlockPlace, { rows }: DeskState): string | undefined {
  const row = rows.get(place.row);
  const column = row?.columns.find((c) => c.id === place.column);
  if (!row || !column || !row.shape.allowed) {
    return row?.shape.reason ?? "This row is not built here.";
  }
  return whyTooWide(dragged.kind === "block" ? dragged.block.leastWidth : dragged.entry.leastWidth, row, column);
}

/** Why a block that needs a width does not go into a column; undefined: it does. */
export function whyTooWide(leastWidth: number, row: DeskRow, column: DeskColumn): string | undefined {
  if (leastWidth <= column.width) {
    return undefined;
  }
  const at = row.columns.findIndex((c) => c.width >= leastWidth);
  return `It needs ${leastWidth} px; this column has ${column.width}. ${
    at >= 0 ? `It fits in column ${at + 1}.` : "It fits in a row of one column."
  }`;
}

/** Puts it down. Whether it may is the server's to say. */
export function putDown(dragged: Dragged, target: Target, store: DeskStore, insert: (place: BlockPlace, entry: BlockKind) => void) {
  if ((dragged.kind === "row" || dragged.kind === "zone") && target.kind === "order") {
    moveInOrder(store, dragged.id, target);
  } else if (dragged.kind === "block" && target.kind === "column") {
    const { row, column, index } = target.place;
    const blocks =
      store
        .snapshot()
        .rows.get(row)
        ?.columns.find((c) => c.id === column)?.blocks ?? [];
    const from = blocks.findIndex((b) => b.id === dragged.block.id);
    // Its place is counted once it is taken out of where it was.
    const to = index < 0 ? blocks.length - (from >= 0 ? 1 : 0) : from >= 0 && from < index ? index - 1 : index;
    if (from !== to) {
      store.edit({ kind: "move-block", row: dragged.row, piece: dragged.block.id, toRow: row, column, index: to });
    }
  } else if (dragged.kind === "new-block" && target.kind === "column") {
    insert(target.place, dragged.entry);
  } else if (dragged.kind === "picture" && target.kind === "picture") {
    const { row, piece, field } = target;
    const block = blocksOf(store.snapshot().rows.get(row)).find((b) => b.id === piece);
    if (block) {
      store.write(`${row}/${piece}/${field}`, ...choosePicture(row, block, field, dragged.picture));
    }
  }
}

function moveInOrder(store: DeskStore, dragged: string, { zone: zoneId, before }: Target & { kind: "order" }) {
  const { desk } = store.snapshot();
  if (!desk || dragged === before) {
    return;
  }
  const zone = desk.order.items.find((item) => item.zone?.id === zoneId)?.zone;
  const others = (zone ? zone.rows : desk.order.items.map((item) => item.row ?? item.zone?.id ?? "")).filter((id) => id !== dragged);
  const index = before ? others.indexOf(before) : others.length;
  const now = placeOf(desk, dragged);
  if (now.zone?.id !== zone?.id || now.index !== index) {
    store.edit({ kind: "move-row", row: dragged, zone: zone?.id ?? null, index });
  }
}
