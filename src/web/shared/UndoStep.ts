import { newId } from "./ids";

const pauseCloses = 1200;

/** Says to which undo step an edit belongs: typing in one place is one step until it pauses. */
export class UndoStep {
  private id = newId();
  private target = "";
  private at = 0;

  /** The step of an edit made now. Edits without a target, which arrange rows, are each a step of their own. */
  of(target: string): string {
    const now = performance.now();
    if (!target || target !== this.target || now - this.at > pauseCloses) {
      this.id = newId();
    }
    this.target = target;
    this.at = now;
    return this.id;
  }

  /** The next edit begins another step, wherever it is made. */
  close() {
    this.target = "";
  }
}
