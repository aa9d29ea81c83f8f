import type { BlockKind } from "../../../api/types";
import { newId } from "../../../shared/ids";
import { keepList, readList } from "../../../shared/storedList";
import type { DeskStore } from "../DeskStore";
import type { BlockPlace } from "../useDesk";

const most = 4;
const key = "block-kinds-used";

/** Names of the kinds that were put in last, the newest first. */
export function usedKinds(): string[] {
  try {
    return readList<string>(key);
  } catch {
    return [];
  }
}

/** Puts a new block of a kind in; gives back its id. */
export function insertBlock(store: DeskStore, place: BlockPlace, kind: BlockKind): string {
  const id = newId();
  store.edit({
    kind: "insert-block",
    row: place.row,
    column: place.column,
    index: place.index,
    block: { ...(store.kind === "emails" ? kind.block : kind.start), id },
  });
  keepList(key, [kind.name, ...usedKinds().filter((name) => name !== kind.name)].slice(0, most));
  return id;
}
