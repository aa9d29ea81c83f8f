import type { Problem } from "../../api/client";
import type { DeskAnswer, DeskBlock, DeskRow, DeskZone, Edit, Finding } from "../../api/types";
import { EditQueue, type Job, type Keeping, type Move } from "../../shared/EditQueue";
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
  conflict?: Conflict;
  missing?: string;
}

/** The same place changed by two at once. */
export interface Conflict {
  message: string;
  theirs: Edit;
  yours: Edit;
}

/** Milliseconds after an edit in which the next is likely, and after which its answer would be here. */
const typingFor = 1000;
const answeredBy = 250;

/** What lies on the desk, and the ways to change it. */
export class DeskStore {
  private state: DeskState = { rows: new Map(), keeping: "kept" };
  private readonly listeners = new Set<() => void>();
  private readonly proofs = new Set<() => void>();
  private telling = false;
  private left = false;
  private readonly queue: EditQueue<DeskAnswer>;
  /** The newest revision that was told of. */
  private told = 0;
  private typedAt = Number.NEGATIVE_INFINITY;
  private hearing?: ReturnType<typeof setTimeout>;

  constructor(
    readonly kind: DeskKind,
    readonly id: string,
    person: string,
  ) {
    this.queue = new EditQueue(id, person, {
      send: (job) => this.send(job),
      take: (answer) => this.take(answer, { notice: undefined }),
      refused: (problem, job) => this.refused(problem, job),
      signedOut: () => this.say("You are signed out. Sign in again in another window; what you typed waits here."),
      keeping: (keeping) => this.set({ keeping }),
      idle: () => this.told > (this.state.desk?.revision ?? 0) && void this.refresh(),
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
    }
  }

  close() {
    this.left = true;
    this.queue.leave();
    clearTimeout(this.hearing);
  }

  /** Whether an edit of this target is still on its way. */
  isPending(target: string) {
    return this.queue.unsent.some((e) => targetOf(e.edit) === target);
  }

  edit(...edits: Edit[]) {
    if (this.state.desk?.asAuthor) {
      this.say("You are looking at it as an author. Go back to your own desk to change it.");
      return;
    }
    this.typedAt = performance.now();
    if (edits.length > 0) {
      this.queue.edit(edits, edits.length === 1 && edits[0] ? targetOf(edits[0]) : "");
    }
  }

  move(move: Move) {
    this.queue.move(move);
  }

  /** Lays the desk out as a colleague would meet it, or as one's own again. */
  async look(asAuthor: boolean) {
    if (!this.queue.busy) {
      try {
        this.take(await askDesk(this.kind, this.id, asAuthor));
      } catch (problem) {
        this.say((problem as Problem).message);
      }
    }
  }

  /** Someone edited: what came while an edit was on its way is asked for after it. */
  hear(revision: number) {
    if (!Number.isFinite(revision)) {
      void this.refresh();
      return;
    }
    this.told = Math.max(this.told, revision);
    // Whoever is typing gets it with the answer to the next key.
    const typing = performance.now() - this.typedAt < typingFor;
    clearTimeout(this.hearing);
    this.hearing = setTimeout(() => this.told > (this.state.desk?.revision ?? 0) && this.refresh(), typing ? answeredBy : 0);
  }

  /** Asks for what has changed: someone else edited, or something was released. */
  async refresh() {
    if (this.queue.busy) {
      return;
    }
    try {
      const known = this.state.desk;
      const desk = await askDesk(this.kind, this.id, known?.asAuthor, known && { base: known.revision, styleVersion: known.styleVersion });
      if (!this.queue.busy && (desk.whole || this.state.desk === known)) {
        this.take(desk);
      }
    } catch {
      // The next edit or message asks again.
    }
  }

  dismiss() {
    this.set({ notice: undefined });
  }

  say(notice: string) {
    this.set({ notice });
  }

  settle(edit?: Edit) {
    this.set({ conflict: undefined });
    if (edit) {
      this.edit(edit);
    }
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
        desk: { ...desk, opening: desk.opening ?? former?.opening ?? null, findings: findingsOf(desk, former?.findings ?? []) },
        rows,
      },
      performance.now() - this.typedAt < typingFor,
    );
  }

  private send(job: Job) {
    const desk = this.state.desk as Desk;
    const seen = { base: desk.revision, styleVersion: desk.styleVersion };
    return "edits" in job ? sendEdits(this.kind, this.id, seen, job.edits) : sendMove(this.kind, this.id, seen, job.move, job.id);
  }

  private async refused(problem: Problem, job: Job) {
    if ("edits" in job && problem.type === "conflict" && problem.more.yours) {
      this.set({ conflict: { message: problem.message, theirs: problem.more.theirs as Edit, yours: problem.more.yours as Edit } });
    } else {
      this.set({ notice: problem.message });
    }
    const desk = await askDesk(this.kind, this.id).catch(() => undefined);
    if (desk) {
      this.take(desk);
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

/** The place an edit sets, as the server names it; empty for edits that arrange. */
export function targetOf(edit: Edit): string {
  switch (edit.kind) {
    case "set-fill":
    case "clear-fill":
      return `${edit.row}/${edit.piece}/${edit.field}`;
    case "set-look":
    case "clear-look":
      return `${edit.row}/${edit.piece}/look/${edit.property}`;
    case "set-shown":
      return `${edit.row}/${edit.piece}/shown`;
    case "set-limit":
      return `${edit.row ?? ""}/${edit.piece}/${edit.field}/limit`;
    case "set-offer":
      return `${edit.row ?? ""}/${edit.piece}/offer/${edit.property}`;
    case "set-instruction":
      return `${edit.row ?? ""}/${edit.piece ?? ""}/instruction`;
    case "set-piece-name":
      return `${edit.row ?? ""}/${edit.piece ?? ""}/name`;
    case "set-zone":
      return `${edit.zone.id}/zone`;
    case "set-detail":
      return `details/${edit.field}`;
    case "set-description":
      return "about/description";
    case "set-tags":
      return "about/tags";
    case "set-varies":
      return "about/varies";
    case "set-name":
      return "name";
    default:
      return "";
  }
}

export const blocksOf = (row: DeskRow): DeskBlock[] => row.columns.flatMap((c) => c.blocks);

/** Ids of the rows in the order they are read. */
export const rowIds = (desk: Pick<DeskAnswer, "order">): string[] =>
  desk.order.flatMap((item) => (item.row ? [item.row] : (item.zone?.rows ?? [])));

/** Where a row stands: the zone, or the running order itself, with its place there. */
export function placeOf(desk: Pick<DeskAnswer, "order">, row: string): { zone?: DeskZone; index: number; count: number } {
  for (const [index, item] of desk.order.entries()) {
    if (item.row === row || item.zone?.id === row) {
      return { index, count: desk.order.length };
    }
    const at = item.zone?.rows.indexOf(row) ?? -1;
    if (item.zone && at >= 0) {
      return { zone: item.zone, index: at, count: item.zone.rows.length };
    }
  }
  return { index: -1, count: 0 };
}
