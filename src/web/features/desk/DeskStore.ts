import type { Problem } from "../../api/client";
import type { DeskAnswer, DeskBlock, DeskRow, DeskZone, Edit, Finding, SentEdit } from "../../api/types";
import { newId } from "../../shared/ids";
import { UndoStep } from "../../shared/UndoStep";
import { keepUnsent, readUnsent } from "../../shared/unsent";
import { askDesk, type DeskKind, sendEdits, sendMove } from "./askDesk";

/** The last answer, with what it left out because it did not change taken from the one before. */
export type Desk = Omit<DeskAnswer, "findings"> & { findings: Finding[] };

/** What everyone on the desk sees. Replaced, never changed, so that React can tell. */
export interface DeskState {
  desk?: Desk;
  rows: ReadonlyMap<string, DeskRow>;
  /** "kept": all is stored; "sending"; "waiting": the server is out of reach and edits wait here. */
  keeping: "kept" | "sending" | "waiting";
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

type Move = "undo" | "redo";
// What was sent once may be stored though the answer was lost: it goes again as it was, and nothing is put into it.
type Job = { edits: SentEdit[]; tried?: boolean } | { move: Move; id: string };

const retryAfter = 1000;
/** Milliseconds after an edit in which the next is likely, and after which its answer would be here. */
const typingFor = 1000;
const answeredBy = 250;
/** Only what takes longer than this, in milliseconds, is worth saying. */
const slowAfter = 400;

/**
 * The road of an edit from the screen's side: sent at once, one request in flight, what is typed meanwhile goes
 * together in the next. Edits that wait are kept in the browser until the server has acknowledged them.
 */
export class DeskStore {
  private state: DeskState = { rows: new Map(), keeping: "kept" };
  private readonly listeners = new Set<() => void>();
  private readonly proofs = new Set<() => void>();
  private telling = false;
  private readonly queue: Job[] = [];
  private inFlight?: Job;
  private readonly step = new UndoStep();
  private timer?: ReturnType<typeof setTimeout>;
  private stopped = false;
  /** The newest revision that was told of. */
  private told = 0;
  private typedAt = Number.NEGATIVE_INFINITY;
  private hearing?: ReturnType<typeof setTimeout>;

  constructor(
    readonly kind: DeskKind,
    readonly id: string,
    private readonly person: string,
  ) {}

  subscribe = (listener: () => void) => added(this.listeners, listener);

  /** Told before the room is: the proofs are brought to what the desk holds and painted, and the room around them is drawn after that. */
  subscribeProof = (listener: () => void) => added(this.proofs, listener);

  snapshot = () => this.state;

  async open() {
    this.stopped = false;
    try {
      this.take(await askDesk(this.kind, this.id));
    } catch (problem) {
      this.set({ missing: (problem as Problem).message });
      return;
    }
    const left = readUnsent(this.id, this.person);
    if (left.length > 0) {
      this.queue.push({ edits: left });
      this.run();
    }
  }

  close() {
    this.stopped = true;
    clearTimeout(this.timer);
    clearTimeout(this.hearing);
  }

  /** Whether an edit of this target is still on its way. */
  isPending(target: string) {
    return this.jobs().some((job) => "edits" in job && job.edits.some((e) => targetOf(e.edit) === target));
  }

  edit(...edits: Edit[]) {
    if (this.state.desk?.asAuthor) {
      this.say("You are looking at it as an author. Go back to your own desk to change it.");
      return;
    }
    this.typedAt = performance.now();
    const target = edits.length === 1 && edits[0] ? targetOf(edits[0]) : "";
    const step = this.step.of(target);
    const sent = edits.map((edit) => ({ id: newId(), step, edit }));
    const last = this.queue.at(-1);
    if (last && "edits" in last && !last.tried) {
      // Typed while another request was in flight: only the last value of a place needs to go.
      const first = sent[0];
      const replaced = target ? last.edits.filter((e) => targetOf(e.edit) !== target) : last.edits;
      last.edits = first ? [...replaced, ...sent] : replaced;
    } else {
      this.queue.push({ edits: sent });
    }
    this.run();
  }

  move(move: Move) {
    this.step.close();
    this.queue.push({ move, id: newId() });
    this.run();
  }

  /** Lays the desk out as a colleague would meet it, or as one's own again. */
  async look(asAuthor: boolean) {
    if (!this.inFlight && this.queue.length === 0) {
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
    if (this.inFlight || this.queue.length > 0) {
      return;
    }
    try {
      const known = this.state.desk;
      const desk = await askDesk(this.kind, this.id, known?.asAuthor, known && { base: known.revision, styleVersion: known.styleVersion });
      if (!this.inFlight && this.queue.length === 0 && (desk.whole || this.state.desk === known)) {
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

  private jobs() {
    return this.inFlight ? [this.inFlight, ...this.queue] : this.queue;
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

  private async run(): Promise<void> {
    keepUnsent(
      this.id,
      this.person,
      this.jobs().flatMap((job) => ("edits" in job ? job.edits : [])),
    );
    const desk = this.state.desk;
    if (this.inFlight || this.stopped || !desk) {
      return;
    }
    const job = this.queue.shift();
    if (!job) {
      if (this.state.keeping !== "kept") {
        this.set({ keeping: "kept" });
      }
      if (this.told > desk.revision) {
        void this.refresh();
      }
      return;
    }
    this.inFlight = job;
    const slow = setTimeout(() => this.state.keeping === "kept" && this.set({ keeping: "sending" }), slowAfter);
    try {
      const answer = await this.send(job, desk);
      this.inFlight = undefined;
      this.take(answer, { keeping: this.queue.length > 0 ? this.state.keeping : "kept", notice: undefined });
    } catch (problem) {
      this.inFlight = undefined;
      await this.fail(job, problem as Problem);
      if (this.state.keeping === "waiting") {
        return;
      }
    } finally {
      clearTimeout(slow);
    }
    return this.run();
  }

  private send(job: Job, desk: Desk) {
    const seen = { base: desk.revision, styleVersion: desk.styleVersion };
    if ("edits" in job) {
      job.tried = true;
      return sendEdits(this.kind, this.id, seen, job.edits);
    }
    return sendMove(this.kind, this.id, seen, job.move, job.id);
  }

  // Nothing is lost: the same edits, with the same ids, go again when the server answers.
  private wait(job: Job, milliseconds: number) {
    this.queue.unshift(job);
    this.set({ keeping: "waiting" });
    this.timer = setTimeout(() => {
      this.set({ keeping: "sending" });
      void this.run();
    }, milliseconds);
  }

  private async fail(job: Job, problem: Problem) {
    if (problem.status === 0 || problem.status >= 500) {
      this.wait(job, retryAfter);
      return;
    }
    if (problem.status === 401) {
      this.wait(job, retryAfter * 5);
      this.set({ notice: "You are signed out. Sign in again in another window; what you typed waits here." });
      return;
    }
    if ("edits" in job && job.edits.length > 1) {
      // One of several was refused and so all were: send them one by one, so that only that one is.
      this.queue.unshift(...job.edits.map((edit) => ({ edits: [edit] })));
      return;
    }
    if (problem.type === "conflict" && problem.more.yours) {
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
