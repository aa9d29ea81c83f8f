import { useDndContext } from "@dnd-kit/core";
import type { KeyboardEvent } from "react";
import { newId } from "../../../shared/ids";
import { blocksOf, type Desk, type DeskState } from "../DeskStore";
import { useDeskContext } from "../useDesk";
import { moveBy, moveZoneBy, neighbour } from "./arranging";
import type { Picked } from "./usePicked";

/**
 * Keys of the running order. They are a row's or zone's where they are pressed on it; on a button beside them they are the
 * button's, and while something is carried they carry it.
 *
 * @param ids All that can be chosen, in order.
 */
export function useOrderKeys({ state, ids, picked, add }: { state: DeskState; ids: string[]; picked: Picked; add: () => void }) {
  const { store, choice, choose } = useDeskContext();
  const { active } = useDndContext();
  const desk = state.desk as Desk;
  const row = state.rows.get(choice.row);
  const zone = desk.order.items.find((item) => item.zone?.terms && item.zone.id === choice.row)?.zone;
  const several = picked.rows.length > 1;

  const go = (step: number) => {
    picked.clear();
    const next = ids[Math.max(0, Math.min(ids.length - 1, ids.indexOf(choice.row) + step))] ?? ids[0];
    document.getElementById(`order-${next}`)?.focus();
  };
  const move = (step: number) =>
    several ? picked.move(step) : zone ? moveZoneBy(store, desk, zone.id, step) : moveBy(store, desk, row, step);
  const enter = () => {
    const first = row && blocksOf(row).find((b) => b.content.allowed && b.fields.length > 0);
    if (choice.row === "details" || first) {
      choose(choice.row, first?.id, first?.fields[0]?.name ?? "subject");
    } else {
      choose(choice.row, undefined, "name");
    }
  };
  const duplicate = () => {
    if (several) picked.duplicate();
    else if (row?.duplicate.allowed) store.edit({ kind: "duplicate-row", row: row.id, copy: newId() });
    else if (row) store.say(row.duplicate.reason ?? "");
  };
  const remove = () => {
    if (several) {
      picked.remove();
      return;
    }
    if (row && !row.remove.allowed) {
      store.say(row.remove.reason ?? "");
      return;
    }
    const next = neighbour(desk, choice.row);
    if (row) store.edit({ kind: "remove-row", row: choice.row });
    else if (zone) store.edit({ kind: "remove-zone", zone: choice.row });
    document.getElementById(`order-${next}`)?.focus();
  };

  return (event: KeyboardEvent) => {
    const onItem = (event.target as HTMLElement).closest("[id^=order-]") !== null;
    if (active || (!onItem && !["/", "ArrowDown", "ArrowUp"].includes(event.key))) {
      return;
    }
    const step = event.key === "ArrowDown" ? 1 : event.key === "ArrowUp" ? -1 : 0;
    const act =
      step !== 0 && event.shiftKey && !event.altKey
        ? () => picked.extend(step)
        : step !== 0
          ? () => (event.altKey ? move(step) : go(step))
          : {
              Escape: several ? picked.clear : undefined,
              Enter: enter,
              Delete: row || zone ? remove : undefined,
              "/": add,
              d: (event.ctrlKey || event.metaKey) && row ? duplicate : undefined,
            }[event.key.length === 1 ? event.key.toLowerCase() : event.key];
    if (act) {
      event.preventDefault();
      act();
    }
  };
}
