import type { Problem } from "../../api/client";
import type { DeskAnswer, DeskBlock, DeskRow, DeskZone, Edit, Finding } from "../../api/types";
import { asSent, EditQueue, type Job, type Keeping, type Move, maybeLater } from "../../shared/EditQueue";
import { Unsettled } from "../../shared/Unsettled";
import { askDesk, type DeskKind, sendEdits, sendMove } from "./askDesk";

/** The last answer, with what it left out because it did not change taken from the one before. */
export type Desk = Omit<DeskAnswer, "findings"> & { findings: Finding[] };

/** What everyone on the desk sees. Replaced, never changed, so that React can tell. */
export interface DeskState {
  desk?: Desk;
  rows: ReadonlyMap<string, DeskRow>;
  keeping: Keeping;
  /** One line about the last thing that was refused or failed. */
  notice?: string;
  /** Each place that two changed at once, until it is settled. */
  conflicts: readonly Conflict[];
  /** They wait, and are looked at later. */
  conflictsLater?: boolean;
  /** A step of one's own that could not be taken back: it can be passed over. */
  stuck?: { move: Move; reason: string };
  missing?: string;
}

/** The same place changed by two at once. */
export interface Conflict {
  target: string;
  message: string;
  theirs: Edit;
  yours: Edit;
}

/** Milliseconds after an edit in which the next is likely, and after which its answer would be here. */
const typingFor = 1000;
const answeredBy = 250;
/** Milliseconds after which what could not be had is asked for again. */
const askAgainAfter = 3000;

/** What lies on the desk, and the ways to change it. */
export class DeskStore {
  private state: DeskState = { rows: new Map(), keeping: "kept", conflicts: [] };
  private readonly listeners = new Set<() => void>();
  private readonly proofs = new Set<() => void>();
  private telling = false;
  private left = false;
  private readonly queue: EditQueue<DeskAnswer>;
  private readonly conflicts: Unsettled<Conflict>;
  /** The newest revision that was told of. */
  private told = 0;
  /** What is on the screen may not be the newest, and is asked for as soon as nothing of one's own is on its way. */
  private old = false;
  private asking = false;
  private typedAt = Number.NEGATIVE_INFINITY;
  private hearing?: ReturnType<typeof setTimeout>;

  constructor(
    readonly kind: DeskKind,
    readonly id: string,
    person: string,
  ) {
    this.conflicts = new Unsettled(id, person);
    this.queue = new EditQueue(id, person, {
      send: (job) => this.send(job),
      revision: () => this.state.desk?.revision ?? 0,
      take: (answer) => {
        this.take(answer, { notice: undefined, stuck: undefined });
        return answer.revision;
      },
      refused: (problem, job) => this.refused(problem, job),
      signedOut: () => this.say("You were signed out. Sign in again; what you typed waits here."),
      keeping: (keeping) => this.set({ keeping }),
      idle: () => (this.old ? void this.refresh() : this.hearLater()),
    });
  }

  subscribe = (listener: () => void) => added(this.listeners, listener);

  /** Told before the room is: the proofs are brought to what the desk holds and painted, and the room around them is drawn after that. */
  subscribeProof = (listener: () => void) => added(this.proofs, listener);

  snapshot = () => this.state;

  async open() {
    this.left = false;
    try {
      this.take(await askDesk(this.kind, this.id));
    } catch (problem) {
      this.set({ missing: (problem as Problem).message });
      return;
    }
    if (!this.left) {
      this.queue.open();
      const conflicts = this.conflicts.find();
      if (conflicts.length > 0) {
        this.set({ conflicts });
      }
    }
  }

  close() {
    this.left = true;
    this.queue.leave();
    clearTimeout(this.hearing);
  }

  /** Whoever was signed out is signed in again: what waits goes now, and what others did meanwhile is asked for. */
  goNow() {
    this.queue.goNow();
    void this.refresh();
  }

  /** What is being set on the desk. */
  get live() {
    return this.queue.live;
  }

  /** The revision that is on the screen; said by the room when it is drawn. */
  readonly shown = { revision: 0 };

  /** Edits that are a step of their own. */
  edit(...edits: Edit[]) {
    this.write("", ...edits);
  }

  /** Edits of one place. */
  write(target: string, ...edits: Edit[]) {
    if (this.state.desk?.asAuthor) {
      this.say("You are looking at it as an author. Go back to your own desk to change it.");
      return;
    }
    this.typedAt = performance.now();
    if (edits.length > 0) {
      this.queue.edit(edits, target);
    }
  }

  /** Takes one's last step back, or brings it again. */
  move(move: Move) {
    if (!this.state.desk?.asAuthor) {
      this.queue.move(move, this.skipped[move]);
    }
  }

  /** Passes over the step that could not be taken back, and goes on with the one before. */
  skip() {
    const { stuck } = this.state;
    this.set({ stuck: undefined });
    if (stuck) {
      this.move(stuck.move);
    }
  }

  private readonly skipped: Record<Move, string[]> = { undo: [], redo: [] };

  /** Ends when all that was made here is stored; false: it waits for the server. */
  stored() {
    return this.queue.settled();
  }

  /** Lays the desk out as a colleague would meet it, or as one's own again. */
  async look(asAuthor: boolean) {
    if (!(await this.stored())) {
      this.say("The server is out of reach. What you typed waits here; look again when it is stored.");
      return;
    }
    try {
      this.take(await askDesk(this.kind, this.id, asAuthor));
    } catch (problem) {
      this.say((problem as Problem).message);
    }
  }

  /** Someone edited: what came while an edit was on its way is asked for after it. */
  hear(revision: number) {
    if (!Number.isFinite(revision)) {
      void this.refresh();
      return;
    }
    this.told = Math.max(this.told, revision);
    this.hearLater();
  }

  // Whoever is typing gets it with the answer to the next key.
  private hearLater() {
    const behind = () => this.told > (this.state.desk?.revision ?? 0);
    if (behind()) {
      clearTimeout(this.hearing);
      const typing = performance.now() - this.typedAt < typingFor;
      this.hearing = setTimeout(() => behind() && this.refresh(), typing ? answeredBy : 0);
    }
  }

  /** Asks for what has changed: someone else edited, or something was released. Ends when it is here, or waits for one's own edits. */
  async refresh() {
    this.old = true;
    if (this.asking) {
      return;
    }
    this.asking = true;
    while (this.old && !this.queue.busy && !this.left) {
      this.old = false;
      const known = this.state.desk;
      try {
        const desk = await askDesk(
          this.kind,
          this.id,
          known?.asAuthor,
          known && { base: known.revision, styleVersion: known.proof.styleVersion },
        );
        if (this.queue.busy || this.state.desk !== known) {
          // It was asked for before what is there now.
          this.old = true;
        } else {
          this.take(desk);
        }
      } catch (problem) {
        this.old = true;
        if (maybeLater(problem as Problem)) {
          this.hearing = setTimeout(() => void this.refresh(), askAgainAfter);
        }
        break;
      }
    }
    this.asking = false;
  }

  dismiss() {
    this.set({ notice: undefined });
  }

  say(notice: string) {
    this.set({ notice });
  }

  /** Chooses for one place: yours, or with none given theirs. */
  settle(conflict: Conflict, edit?: Edit) {
    this.set({ conflicts: this.state.conflicts.filter((c) => c !== conflict) });
    this.conflicts.keep(this.state.conflicts);
    if (edit) {
      this.write(conflict.target, edit);
    }
  }

  /** Leaves both values of each where they are, to be chosen from later. */
  settleLater(later: boolean) {
    this.set({ conflictsLater: later });
  }

  private set(change: Partial<DeskState>, afterProofs = false) {
    this.state = { ...this.state, ...change };
    tell(this.proofs);
    if (!afterProofs) {
      tell(this.listeners);
    } else if (!this.telling) {
      this.telling = true;
      afterPaint(() => {
        this.telling = false;
        tell(this.listeners);
      });
    }
  }

  private take(desk: DeskAnswer, change: Partial<DeskState> = {}) {
    const former = this.state.desk;
    const rows = new Map(desk.whole ? [] : this.state.rows);
    for (const row of desk.rows) {
      const known = this.state.rows.get(row.id);
      rows.set(row.id, known && JSON.stringify(known) === JSON.stringify(row) ? known : row);
    }
    const order = new Set(rowIds(desk));
    for (const id of rows.keys()) {
      if (!order.has(id)) {
        rows.delete(id);
      }
    }
    this.set(
      {
        ...change,
        desk: {
          ...desk,
          proof: { ...desk.proof, opening: desk.proof.opening ?? former?.proof.opening ?? null },
          findings: findingsOf(desk, former?.findings ?? []),
        },
        rows,
      },
      performance.now() - this.typedAt < typingFor,
    );
  }

  private send(job: Job) {
    const desk = this.state.desk as Desk;
    const seen = { base: desk.revision, styleVersion: desk.proof.styleVersion };
    return "edits" in job
      ? sendEdits(this.kind, this.id, seen, asSent(job.edits), job)
      : sendMove(this.kind, this.id, seen, job.move, job.id, job.skip);
  }

  private async refused(problem: Problem, job: Job) {
    // What holds now is here before it is asked which of two values is to: the choice is made over it, and is no conflict again.
    const desk = await askDesk(this.kind, this.id).catch(() => undefined);
    if (desk) {
      this.take(desk);
    }
    if ("edits" in job && problem.type === "conflict" && problem.more.yours) {
      const { target, theirs, yours } = problem.more as { target: string; theirs: Edit; yours: Edit };
      const conflict = { target, message: problem.message, theirs, yours };
      // Of one place the newest: it holds what was typed last.
      this.set({ conflicts: [...this.state.conflicts.filter((c) => c.target !== target), conflict], conflictsLater: false });
      this.conflicts.keep(this.state.conflicts);
    } else if ("move" in job && typeof problem.more.step === "string") {
      this.skipped[job.move].push(problem.more.step);
      this.set({ stuck: { move: job.move, reason: problem.message } });
    } else {
      this.set({ notice: problem.message });
    }
  }
}

function added(listeners: Set<() => void>, listener: () => void) {
  listeners.add(listener);
  return () => {
    listeners.delete(listener);
  };
}

function tell(listeners: Set<() => void>) {
  for (const listener of listeners) {
    listener();
  }
}

// What nobody looks at is not painted.
function afterPaint(then: () => void) {
  if (document.hidden) {
    setTimeout(then);
  } else {
    requestAnimationFrame(() => setTimeout(then));
  }
}

function findingsOf({ findings: change }: DeskAnswer, former: Finding[]): Finding[] {
  return change ? [...former.slice(0, change.before), ...change.now, ...former.slice(former.length - change.after)] : former;
}

export const blocksOf = (row?: DeskRow): DeskBlock[] => row?.columns.flatMap((c) => c.blocks) ?? [];

/** Ids of the rows in the order they are read. */
export const rowIds = (desk: Pick<DeskAnswer, "order">): string[] =>
  desk.order.items.flatMap((item) => (item.row ? [item.row] : (item.zone?.rows ?? [])));

/** Where a row stands: the zone, or the running order itself, with its place there. */
export function placeOf(desk: Pick<DeskAnswer, "order">, row: string): { zone?: DeskZone; index: number; count: number } {
  for (const [index, item] of desk.order.items.entries()) {
    if (item.row === row || item.zone?.id === row) {
      return { index, count: desk.order.items.length };
    }
    const at = item.zone?.rows.indexOf(row) ?? -1;
    if (item.zone && at >= 0) {
      return { zone: item.zone, index: at, count: item.zone.rows.length };
    }
  }
  return { index: -1, count: 0 };
}
