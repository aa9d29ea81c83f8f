import { useMemo, useState, useSyncExternalStore } from "react";
import type { DeskBlock, DeskRow, Edit } from "../../../api/types";
import type { DeskStore } from "../DeskStore";

// One clipboard for the whole page: a look may be carried from one document to another.
let copied: DeskBlock | undefined;
const listeners = new Set<() => void>();
const subscribe = (listener: () => void) => {
  listeners.add(listener);
  return () => listeners.delete(listener);
};
const tell = () => {
  for (const listener of listeners) {
    listener();
  }
};

export type Held = ReturnType<typeof useBlockClipboard>;

/** The block whose look and content are to be given to others. */
export function useBlockClipboard() {
  const source = useSyncExternalStore(subscribe, () => copied);
  const [acts] = useState(() => ({
    copy(block: DeskBlock) {
      copied = block;
      tell();
    },
    giveLook: (store: DeskStore, row: DeskRow, block: DeskBlock) => give(store, lookEdits(row, block)),
    giveContent: (store: DeskStore, row: DeskRow, block: DeskBlock) => give(store, contentEdits(row, block)),
  }));
  return useMemo(() => ({ copied: source, ...acts }), [source, acts]);
}

function give(store: DeskStore, edits: Edit[]) {
  if (edits.length > 0) {
    store.edit(...edits);
  } else {
    store.say(`${copied?.name ?? "What was copied"} and this block have nothing of that kind in common.`);
  }
}

// Only what both have and this piece is offered.
const lookEdits = (row: DeskRow, block: DeskBlock): Edit[] =>
  block.look.flatMap((look) => {
    const value = copied?.look.find((l) => l.name === look.name)?.value;
    return value && value !== look.value && look.choices.includes(value)
      ? [{ kind: "set-look" as const, row: row.id, piece: block.id, property: look.name, value }]
      : [];
  });

const contentEdits = (row: DeskRow, block: DeskBlock): Edit[] =>
  block.fields.flatMap((field) => {
    const value = copied?.fields.find((f) => f.name === field.name && f.value.kind === field.value.kind)?.value;
    return value ? [{ kind: "set-fill" as const, row: row.id, piece: block.id, field: field.name, value }] : [];
  });
