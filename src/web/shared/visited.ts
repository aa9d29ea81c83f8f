import { keepFirst, readListOrNone } from "./storedList";

/** A document that was opened on the desk, in this browser. */
export interface Visited {
  kind: "email" | "template" | "row";
  id: string;
  name: string;
}

const most = 8;
const key = (person: string) => `visited ${person}`;

/** Those opened last, the newest first. */
export const visitedBy = (person: string) => readListOrNone<Visited>(key(person));

export const visit = (person: string, one: Visited) => keepFirst(key(person), one, (other) => other.id === one.id, most);
