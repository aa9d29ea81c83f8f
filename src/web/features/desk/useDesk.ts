import { createContext, useContext, useEffect, useMemo, useSyncExternalStore } from "react";
import { type Present, watchDocument, watchReleases, watchReviews } from "../../api/live";
import { onSignedIn } from "../../api/session";
import type { DeskKind } from "./askDesk";
import { DeskStore } from "./DeskStore";
import type { Reading } from "./proofs/useViews";

/** Opens the desk of a document and keeps it live while the screen stands. */
export function useDeskStore(kind: DeskKind, id: string, person: string): DeskStore {
  const store = useMemo(() => new DeskStore(kind, id, person), [kind, id, person]);
  useEffect(() => {
    let stop = () => {};
    let closed = false;
    void store.open().then(() => {
      if (!closed) {
        // Before anyone writes, and before the connection may drop.
        setTimeout(
          () =>
            void Promise.allSettled([import("./copy/fields/ProseField"), import("./copy/fields/LineEditor"), import("./blocks/BlockSlip")]),
          400,
        );
        const stops = [
          watchDocument(id, (revision) => store.hear(revision)),
          watchReleases(() => void store.refresh()),
          watchReviews(id, () => void store.refresh()),
          onSignedIn(() => store.goNow()),
        ];
        stop = () => {
          for (const end of stops) end();
        };
      }
    });
    return () => {
      closed = true;
      stop();
      store.close();
    };
  }, [store, id]);
  return store;
}

export const useDeskState = (store: DeskStore) => useSyncExternalStore(store.subscribe, store.snapshot);

/** What is chosen on the desk, and who is asked to take the focus. */
export interface Choice {
  /** Id of a row or a zone, "details" or "about". */
  row: string;
  piece?: string;
  field?: string;
  /** Characters from the start of the field at which the caret goes. */
  caret?: number;
  /** Counts up each time the focus is to move. */
  asked: number;
}

/** Where a block is put in; an index of -1: at the column's end. */
export interface BlockPlace {
  row: string;
  column: string;
  index: number;
}

export interface DeskContext {
  store: DeskStore;
  choice: Choice;
  /** Chooses a row; with a piece or field the focus goes there. */
  choose: (row: string, piece?: string, field?: string, caret?: number) => void;
  /** Goes to the next field that is to fill. */
  fillNext: () => void;
  /** Where the next block goes in; the slip of block kinds is open. */
  adding?: BlockPlace;
  /** Opens the slip of block kinds with its mark at a place, or moves the mark; with none given it closes. */
  addBlock: (place?: BlockPlace) => void;
  /** Where what is dragged over a proof would go. */
  dropPlace?: BlockPlace;
  /** Says where the focus is, without moving it. */
  mark: (row: string, piece: string, field: string) => void;
  /** Who else has it open. */
  others: Present[];
  /** Whose eyes the proofs are looked at with. */
  reading: Reading;
}

export const DeskContext = createContext<DeskContext | null>(null);

export function useDeskContext(): DeskContext {
  const context = useContext(DeskContext);
  if (!context) {
    throw new Error("Only on the desk.");
  }
  return context;
}
