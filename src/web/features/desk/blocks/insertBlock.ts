import type { BlockKind } from "../../../api/types";
import { newId } from "../../../shared/ids";
import { keepFirst, readListOrNone } from "../../../shared/storedList";
import type { DeskStore } from "../DeskStore";
import type { BlockPlace } from "../useDesk";

const most = 4;
const key = "block-kinds-used";

/** Names of the kinds that were put in last, the newest first. */
export const usedKinds = () => readListOrNone<string>(key);

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
  keepFirst(key, kind.name, (name) => name === kind.name, most);
  return id;
}
