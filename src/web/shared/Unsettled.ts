/** What is still to be decided of a document, kept in the browser so that closing the window loses neither side. */
export class Unsettled<T> {
  private readonly key: string;

  constructor(document: string, person: string) {
    this.key = `unsettled ${person} ${document}`;
  }

  keep(all: readonly T[]) {
    try {
      if (all.length === 0) {
        localStorage.removeItem(this.key);
      } else {
        localStorage.setItem(this.key, JSON.stringify(all));
      }
    } catch {
      // A full or forbidden store: it is still on the screen.
    }
  }

  find(): T[] {
    try {
      return JSON.parse(localStorage.getItem(this.key) ?? "[]") as T[];
    } catch {
      return [];
    }
  }
}
