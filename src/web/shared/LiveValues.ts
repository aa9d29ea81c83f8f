/** "held": not sent, half a colour for example; "pending": on its way; "stored": the server has it; "refused": it has not. */
type State = "held" | "pending" | "stored" | "refused";

/** What was last set at one place here. */
export interface LiveValue {
  value: unknown;
  state: State;
  /** Of what is stored: the revision that has it. An older answer does not know of it. */
  revision: number;
  /** Of what was refused: why. */
  reason?: string;
}

/**
 * What is being set at each place of a document, laid over the server's last answer: shown at once, and until that answer
 * says it too. Every control of a place sees the same.
 */
export class LiveValues {
  private readonly values = new Map<string, LiveValue>();
  private readonly listeners = new Set<() => void>();

  subscribe = (listener: () => void) => {
    this.listeners.add(listener);
    return () => {
      this.listeners.delete(listener);
    };
  };

  /** Undefined: nothing is being set there, and the server's answer holds. */
  get(target: string): LiveValue | undefined {
    return this.values.get(target);
  }

  set(target: string, value: unknown, sent: boolean) {
    this.values.set(target, { value, state: sent ? "pending" : "held", revision: 0 });
    this.tell();
  }

  /** An answer came: what does not wait any more is stored. */
  settle(waits: (target: string) => boolean, revision: number) {
    this.change((target, live) => (live.state === "pending" && !waits(target) ? { ...live, state: "stored", revision } : live));
  }

  /** The server says something else by now. */
  drop(targets: readonly string[]) {
    this.change((target, live) => (targets.includes(target) ? undefined : live));
  }

  /** Ends what was seen to be over, unless something newer was set there since. */
  end(target: string, seen: LiveValue) {
    this.change((at, live) => (at === target && live === seen ? undefined : live));
  }

  /** It is not stored: what was typed stays where it was typed, with the reason beside it. */
  refuse(targets: readonly string[], reason: string) {
    this.change((target, live) => (targets.includes(target) ? { ...live, state: "refused", reason } : live));
  }

  /** Undo and redo show what is stored. */
  forgetRefused() {
    this.change((_, live) => (live.state === "refused" ? undefined : live));
  }

  /** The control is gone: what is not stored goes with it. */
  leave(target: string) {
    const state = this.values.get(target)?.state;
    if (state === "held" || state === "refused") {
      this.values.delete(target);
    }
  }

  private change(next: (target: string, live: LiveValue) => LiveValue | undefined) {
    let changed = false;
    for (const [target, live] of this.values) {
      const now = next(target, live);
      changed ||= now !== live;
      if (now) {
        this.values.set(target, now);
      } else {
        this.values.delete(target);
      }
    }
    if (changed) {
      this.tell();
    }
  }

  private tell() {
    for (const listener of this.listeners) {
      listener();
    }
  }
}
