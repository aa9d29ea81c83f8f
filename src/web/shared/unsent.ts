import type { SentEdit } from "../api/types";

const key = (document: string, person: string) => `unsent ${person} ${document}`;

/** Keeps what the server has not acknowledged yet, so that a crash of the browser loses nothing. */
export function keepUnsent(document: string, person: string, edits: SentEdit[]) {
  try {
    if (edits.length === 0) {
      localStorage.removeItem(key(document, person));
    } else {
      localStorage.setItem(key(document, person), JSON.stringify(edits));
    }
  } catch {
    // A full or forbidden store: the edits still wait in memory.
  }
}

export function readUnsent(document: string, person: string): SentEdit[] {
  try {
    return JSON.parse(localStorage.getItem(key(document, person)) ?? "[]");
  } catch {
    return [];
  }
}
