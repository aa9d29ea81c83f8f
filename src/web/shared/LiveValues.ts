/** "held": not sent, half a colour for example; "pending": on its way; "stored": the server has it. */
type State = "held" | "pending" | "stored";

/** What was last set at one place here. */
export interface LiveValue {
  value: unknown;
  state: State;
  /** Of what is stored: the revision that has it. An older answer does not know of it. */
  revision: number;
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

  /** It was refused, or the server says something else by now. */
  drop(targets: readonly string[]) {
    this.change((target, live) => (targets.includes(target) ? undefined : live));
  }

  /** The control is gone: what was not sent goes with it. */
  leave(target: string) {
    if (this.values.get(target)?.state === "held") {
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
