import { keepList, readListOrNone } from "./storedList";

/** What is still to be decided of a document, kept in the browser so that closing the window loses neither side. */
export class Unsettled<T> {
  private readonly key: string;

  constructor(document: string, person: string) {
    this.key = `unsettled ${person} ${document}`;
  }

  keep(all: readonly T[]) {
    keepList(this.key, all);
  }

  find(): T[] {
    return readListOrNone<T>(this.key);
  }
}
