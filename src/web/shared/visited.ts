import { keepList, readList } from "./storedList";

/** A document that was opened on the desk, in this browser. */
export interface Visited {
  kind: "email" | "template" | "row";
  id: string;
  name: string;
}

const most = 8;
const key = (person: string) => `visited ${person}`;

/** Those opened last, the newest first. */
export function visitedBy(person: string): Visited[] {
  try {
    return readList<Visited>(key(person));
  } catch {
    return [];
  }
}

export const visit = (person: string, one: Visited) =>
  keepList(key(person), [one, ...visitedBy(person).filter((v) => v.id !== one.id)].slice(0, most));
