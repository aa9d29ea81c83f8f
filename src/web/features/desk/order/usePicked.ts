import { useRef, useState } from "react";
import type { DeskRow } from "../../../api/types";
import { newId } from "../../../shared/ids";
import { type Desk, type DeskStore, placeOf, rowIds } from "../DeskStore";

/** Several rows picked at once: beside the one that is chosen, with Ctrl or Shift. */
export function usePicked(store: DeskStore, desk: Desk, chosen: string) {
  const [picked, setPicked] = useState<ReadonlySet<string>>(new Set());
  const order = rowIds(desk);
  // Rows that are not drawn anew call these with what is chosen now.
  const now = useRef({ order, chosen });
  now.current = { order, chosen };
  const rows = order.filter((id) => picked.has(id));
  const all = () => rows.flatMap((id) => store.snapshot().rows.get(id) ?? []);
  const allowed = (of: (row: DeskRow) => { allowed: boolean; reason?: string | null }) => {
    const refused = all()
      .map(of)
      .find((a) => !a.allowed);
    if (refused) store.say(refused.reason ?? "");
    return !refused;
  };
  return {
    rows,
    clear: () => setPicked(new Set()),
    toggle: (id: string) =>
      setPicked((former) => {
        const { current } = now;
        const next = new Set(former.size === 0 && current.order.includes(current.chosen) ? [current.chosen] : former);
        next.has(id) ? next.delete(id) : next.add(id);
        return next;
      }),
    /** Everything from the chosen row to that one. */
    reach: (id: string) => {
      const { current } = now;
      const [a, b] = [current.order.indexOf(current.chosen), current.order.indexOf(id)];
      if (a >= 0 && b >= 0) setPicked(new Set(current.order.slice(Math.min(a, b), Math.max(a, b) + 1)));
    },
    extend: (step: number) =>
      setPicked((former) => {
        const from = former.size === 0 ? [chosen] : order.filter((id) => former.has(id));
        const next = order[order.indexOf((step > 0 ? from.at(-1) : from[0]) ?? "") + step];
        return new Set(next ? [...from, next] : from);
      }),
    /** Each one place up or down, keeping their order; where the first of them cannot, none moves. */
    move: (step: number) => {
      if (!allowed((row) => row.move)) return;
      const list = step > 0 ? [...rows].reverse() : rows;
      const edits = list.flatMap((id) => {
        const { zone, index, count } = placeOf(desk, id);
        return index + step >= 0 && index + step < count
          ? [{ kind: "move-row" as const, row: id, zone: zone?.id ?? null, index: index + step }]
          : [];
      });
      if (edits.length === rows.length) store.edit(...edits);
      else store.say("They are at the edge of their place already.");
    },
    swap: () => {
      const [first, second] = rows;
      if (first && second && allowed((row) => row.move)) store.edit({ kind: "swap-rows", first, second });
    },
    duplicate: () =>
      allowed((row) => row.duplicate) && store.edit(...rows.map((row) => ({ kind: "duplicate-row" as const, row, copy: newId() }))),
    remove: () => {
      if (!allowed((row) => row.remove)) return;
      store.edit(...rows.map((row) => ({ kind: "remove-row" as const, row })));
      setPicked(new Set());
    },
    show: (shown: "everywhere" | "phone-only" | "desktop-only") =>
      allowed((row) => row.shownAllowance) &&
      store.edit(...all().map((row) => ({ kind: "set-shown" as const, row: row.id, piece: row.piece, shown }))),
  };
}

export type Picked = ReturnType<typeof usePicked>;
