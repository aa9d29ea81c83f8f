import type { SentEdit } from "../api/types";
import { newId } from "./ids";
import { keepList, readList } from "./storedList";

/** An edit with the place it sets; empty: none in particular. */
export interface PlacedEdit extends SentEdit {
  target?: string;
}

/**
 * What the server has not acknowledged yet of one queue of edits, kept in the browser so that a crash loses nothing. Each
 * queue keeps its own: two windows of one person, or a room that was left and is entered again, do not write over each other.
 */
export class Unsent {
  private readonly place: string;
  private readonly own: string;

  constructor(document: string, person: string) {
    this.place = `unsent ${person} ${document}`;
    this.own = `${this.place} ${newId()}`;
  }

  keep(edits: PlacedEdit[]) {
    keepList(this.own, edits);
  }

  /**
   * What other queues kept, of a window that crashed for example. One that still lives sends its edits too: they are known
   * by their ids. Once this queue keeps them itself they are forgotten under the other's name.
   */
  find(): { edits: PlacedEdit[]; forget: () => void } {
    try {
      const keys = Array.from({ length: localStorage.length }, (_, i) => localStorage.key(i) ?? "")
        .filter((key) => key.startsWith(this.place) && key !== this.own)
        .sort();
      const kept = keys.flatMap((key) => readList<PlacedEdit>(key));
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
}
