import type { SentEdit } from "../api/types";
import { newId } from "./ids";

const windowId = newId();
const place = (document: string, person: string) => `unsent ${person} ${document} `;
const own = (document: string, person: string) => place(document, person) + windowId;

/** Keeps what the server has not acknowledged yet, so that a crash of the browser loses nothing. Each window keeps its own. */
export function keepUnsent(document: string, person: string, edits: SentEdit[]) {
  try {
    if (edits.length === 0) {
      localStorage.removeItem(own(document, person));
    } else {
      localStorage.setItem(own(document, person), JSON.stringify(edits));
    }
  } catch {
    // A full or forbidden store: the edits still wait in memory.
  }
}

/**
 * What other windows kept, one that crashed among them. One that still lives sends its edits too: they are known by their
 * ids. Once this window keeps them itself they are `forgotten` under the other's name.
 */
export function findUnsent(document: string, person: string): { edits: SentEdit[]; forget: () => void } {
  try {
    const keys = Array.from({ length: localStorage.length }, (_, i) => localStorage.key(i) ?? "")
      .filter((key) => key.startsWith(place(document, person)) && key !== own(document, person))
      .sort();
    const kept = keys.flatMap((key): SentEdit[] => JSON.parse(localStorage.getItem(key) ?? "[]"));
    return {
      edits: kept.filter((edit, at) => kept.findIndex((other) => other.id === edit.id) === at),
      forget: () => {
        for (const key of keys) {
          localStorage.removeItem(key);
        }
      },
    };
  } catch {
    return { edits: [], forget: () => undefined };
  }
}
