import type { Problem } from "../api/client";
import type { Edit, SentEdit } from "../api/types";
import { newId } from "./ids";
import { LiveValues } from "./LiveValues";
import { UndoStep } from "./UndoStep";
import { type PlacedEdit, Unsent } from "./unsent";

export type Move = "undo" | "redo";

/** Edits that go in one request. */
interface Batch {
  edits: PlacedEdit[];
  /** The place that the last of them sets; empty: none in particular. */
  target: string;
  /** Nothing is put into it any more: it was sent, and may be stored though the answer was lost, or it goes as one. */
  closed: boolean;
  /** Its edits hold together or not at all. */
  asOne: boolean;
  /** The revision that was on the screen when its first edit was made: what others set since is a conflict. */
  base: number;
  /** Edits of this queue that were stored since. */
  own: string[];
}

/** @property skip Steps that could not be taken back and are passed over. */
export type Job = Batch | { move: Move; id: string; skip: string[] };

/** The edits of a batch as the API takes them. */
export const asSent = (edits: PlacedEdit[]): SentEdit[] => edits.map(({ id, step, edit }) => ({ id, step, edit }));

/** What a batch is sent as. @param seen The revision that is on the screen. */
export const editsBody = ({ base, own, edits }: Batch, seen: number) => ({
  base,
  seen,
  own: own.length > 0 ? own : null,
  edits: asSent(edits),
});

/** What an undo or redo is sent as. */
export const moveBody = ({ id, skip }: { id: string; skip: string[] }) => ({ id, skip: skip.length > 0 ? skip : null });

/** "kept": all is stored; "sending": it takes longer than it should; "waiting": the server is out of reach and edits wait here. */
export type Keeping = "kept" | "sending" | "waiting";

/** Where the edits go and what becomes of them. */
interface EditTransport<Answer> {
  /** The revision that is known. */
  revision(): number;
  send(job: Job): Promise<Answer>;
  /** It is stored, at the revision given back. Called before the next is sent, which goes on from it. */
  take(answer: Answer): number;
  /** It is not stored and does not go again. The next waits for what is given back. */
  refused(problem: Problem, job: Job): unknown;
  signedOut(): void;
  /** Only where it changed. */
  keeping(keeping: Keeping): void;
  /** Everything is stored. */
  idle?(): void;
}

/** Whether the same may be answered later: the server is out of reach, ails, or has too much to do. */
export const maybeLater = ({ status }: Problem) => status === 0 || status >= 500 || status === 429;

const retryAfter = 1000;
/** Only what takes longer than this, in milliseconds, is worth saying. */
const slowAfter = 400;

/**
 * The road of edits from the screen's side: sent at once, one request in flight, what is made meanwhile goes together in
 * the next, of one place its last value. What the server has not acknowledged is kept in the browser and goes again, with
 * the same ids, until it has.
 */
export class EditQueue<Answer> {
  /** What its edits set, laid over the last answer. */
  readonly live = new LiveValues();
  private readonly waiting: Job[] = [];
  private readonly step = new UndoStep();
  private inFlight?: Job;
  private timer?: ReturnType<typeof setTimeout>;
  private ends: (() => void)[] = [];
  private opened = false;
  private left = false;
  private said: Keeping = "kept";
  private readonly kept: Unsent;

  constructor(
    document: string,
    person: string,
    private readonly road: EditTransport<Answer>,
  ) {
    this.kept = new Unsent(document, person);
  }

  /** From now on edits go: first those that a crash of the browser left. Those that had arrived after all are known by their ids. */
  open() {
    this.opened = true;
    this.left = false;
    const { edits, forget } = this.kept.find();
    if (edits.length > 0) {
      // Before what is newer.
      this.waiting.unshift({ edits, target: "", closed: true, asOne: false, ...this.made() });
    }
    void this.run();
    forget();
  }

  /** What stopped it is over, as whoever was signed out is signed in again: what waits goes now. */
  goNow() {
    if (this.said === "waiting" && !this.left) {
      this.again();
    }
  }

  /** The room is left: what waits still goes, but is not tried again; where the server is out of reach it waits for the next time. */
  leave() {
    this.left = true;
    clearTimeout(this.timer);
  }

  get busy() {
    return this.inFlight !== undefined || this.waiting.length > 0;
  }

  /** Edits that are not acknowledged yet, in their order. */
  get unsent(): PlacedEdit[] {
    return (this.inFlight ? [this.inFlight, ...this.waiting] : this.waiting).flatMap((job) => ("edits" in job ? job.edits : []));
  }

  /** Whether an edit of this place is still on its way. */
  waits(target: string) {
    return this.unsent.some((edit) => edit.target === target);
  }

  /** Ends when nothing is on its way any more; false: it waits for the server. */
  async settled(): Promise<boolean> {
    while (this.busy) {
      if (this.said === "waiting" || !this.opened) {
        return false;
      }
      await new Promise<void>((resolve) => this.ends.push(resolve));
    }
    return true;
  }

  /**
   * @param target The place they set: what is typed there without a pause is one undo step. Empty: a step of their own.
   */
  edit(edits: Edit[], target: string) {
    const step = this.step.of(target);
    const sent = edits.map((edit) => ({ id: newId(), step, edit, target }));
    const last = this.waiting.at(-1);
    if (last && "edits" in last && !last.closed) {
      last.edits = [...last.edits.filter((e) => e.step !== step), ...sent];
      last.target = target;
    } else {
      this.waiting.push({ edits: sent, target, closed: false, asOne: false, ...this.made() });
    }
    void this.run();
  }

  /** Edits that hold together, in one request and one step. */
  editAsOne(edits: Edit[], target: string) {
    this.step.close();
    const step = newId();
    this.waiting.push({
      edits: edits.map((edit) => ({ id: newId(), step, edit, target })),
      target,
      closed: true,
      asOne: true,
      ...this.made(),
    });
    void this.run();
  }

  move(move: Move, skip: string[] = []) {
    this.step.close();
    this.live.forgetRefused();
    this.waiting.push({ move, id: newId(), skip });
    void this.run();
  }

  private made() {
    return { base: this.road.revision(), own: [] };
  }

  private say(keeping: Keeping) {
    if (this.said !== keeping) {
      this.said = keeping;
      this.road.keeping(keeping);
    }
  }

  private async run(): Promise<void> {
    this.kept.keep(this.unsent);
    if (this.inFlight || !this.opened) {
      return;
    }
    const job = this.waiting.shift();
    if (!job) {
      this.say("kept");
      this.road.idle?.();
      return;
    }
    this.inFlight = job;
    clearTimeout(this.timer);
    if ("edits" in job) {
      job.closed = true;
    }
    const slow = setTimeout(() => this.said === "kept" && this.say("sending"), slowAfter);
    try {
      const answer = await this.road.send(job);
      this.inFlight = undefined;
      const revision = this.road.take(answer);
      if ("edits" in job) {
        for (const later of this.waiting) {
          if ("edits" in later) later.own.push(...job.edits.map((edit) => edit.id));
        }
      }
      this.live.settle((target) => this.waits(target), revision);
    } catch (problem) {
      this.inFlight = undefined;
      if (await this.fail(job, problem as Problem)) {
        return;
      }
    } finally {
      clearTimeout(slow);
      for (const end of this.ends.splice(0)) end();
    }
    return this.run();
  }

  private again() {
    this.say("sending");
    void this.run();
  }

  /** Whether it waits to go again. */
  private async fail(job: Job, problem: Problem): Promise<boolean> {
    if (maybeLater(problem) || problem.status === 401) {
      const signedOut = problem.status === 401;
      const asked = typeof problem.more.retryAfter === "number" ? problem.more.retryAfter * 1000 : retryAfter;
      this.waiting.unshift(job);
      this.say(problem.status === 429 ? "sending" : "waiting");
      if (signedOut) {
        this.road.signedOut();
      }
      if (!this.left) {
        this.timer = setTimeout(() => this.again(), signedOut ? retryAfter * 5 : asked);
      }
      return true;
    }
    if ("edits" in job && job.edits.length > 1 && !job.asOne) {
      // One of several was refused and so all were: they go one by one, so that only that one is.
      this.waiting.unshift(...job.edits.map((edit) => ({ ...job, edits: [edit], own: [...job.own] })));
      return false;
    }
    if ("edits" in job) {
      const targets = job.edits.map((edit) => edit.target ?? "").filter((target) => target && !this.waits(target));
      // Of a conflict both values are asked about elsewhere.
      if (problem.type === "conflict") {
        this.live.drop(targets);
      } else {
        this.live.refuse(targets, problem.message);
      }
    }
    await this.road.refused(problem, job);
    return false;
  }
}
