import fc from "fast-check";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { Problem } from "../api/client";
import type { Edit, SentEdit } from "../api/types";
import { EditQueue, type Job, type Keeping } from "./EditQueue";

/** Without a browser: the road of edits as the screen holds it, over a server that fails as servers do. */

const store = new Map<string, string>();
globalThis.localStorage = {
  getItem: (key: string) => store.get(key) ?? null,
  setItem: (key: string, value: string) => store.set(key, value),
  removeItem: (key: string) => store.delete(key),
  key: (at: number) => [...store.keys()][at] ?? null,
  get length() {
    return store.size;
  },
} as unknown as Storage;

const say = (field: string, value: string): Edit => ({ kind: "set-detail", field, value });
const written = (edits: SentEdit[]) => edits.map(({ edit }) => (edit.kind === "set-detail" ? `${edit.field}=${edit.value}` : edit.kind));
const stored = () => [...store.values()].flatMap((kept) => JSON.parse(kept) as SentEdit[]);
/** Lets everything that waits for nothing but a promise run. */
const settle = async () => {
  for (let i = 0; i < 40; i++) await Promise.resolve();
};

interface Sent {
  job: Job;
  answer: (answer: string) => Promise<void>;
  fail: (status: number, type?: string) => Promise<void>;
}

function begin() {
  const sent: Sent[] = [];
  const heard: { taken: string[]; refused: string[]; keeping: Keeping[]; signedOut: number; idle: number } = {
    taken: [],
    refused: [],
    keeping: [],
    signedOut: 0,
    idle: 0,
  };
  const queue = new EditQueue<string>("email", "imran", {
    send: (job) =>
      new Promise((resolve, reject) => {
        sent.push({
          job,
          answer: (answer) => {
            resolve(answer);
            return settle();
          },
          fail: (status, type = "x") => {
            reject(new Problem(status, type, `${status}`));
            return settle();
          },
        });
      }),
    revision: () => heard.taken.length,
    take: (answer) => heard.taken.push(answer),
    refused: (problem, job) =>
      heard.refused.push("edits" in job ? `${problem.status} ${written(job.edits)}` : `${problem.status} ${job.move}`),
    signedOut: () => heard.signedOut++,
    keeping: (keeping) => heard.keeping.push(keeping),
    idle: () => heard.idle++,
  });
  const last = () => sent.at(-1) as Sent;
  const edits = () => {
    const { job } = last();
    return "edits" in job ? job.edits : [];
  };
  return { queue, sent, heard, last, edits };
}

beforeEach(() => {
  store.clear();
  vi.useFakeTimers({ toFake: ["setTimeout", "clearTimeout", "performance"] });
});
afterEach(() => vi.useRealTimers());

test("one request is on its way; what is typed meanwhile goes together, of one place its last value", async () => {
  const { queue, sent, heard, edits, last } = begin();
  queue.open();
  queue.edit([say("subject", "S")], "details/subject");
  queue.edit([say("subject", "St")], "details/subject");
  queue.edit([say("subject", "Ste")], "details/subject");
  queue.edit([say("preheader", "P")], "details/preheader");
  expect(sent.length).toBe(1);
  expect(written(edits())).toEqual(["subject=S"]);
  await last().answer("1");
  expect(sent.length).toBe(2);
  expect(written(edits())).toEqual(["subject=Ste", "preheader=P"]);
  await last().answer("2");
  expect(heard.taken).toEqual(["1", "2"]);
  expect(queue.busy).toBe(false);
  expect(heard.idle).toBe(2);
});

test("typing in one place is one undo step until it pauses, leaves the place or something else is done", () => {
  const { queue } = begin();
  const stepOf = (field: string, after = 0) => {
    vi.advanceTimersByTime(after);
    queue.edit([say(field, "x")], `details/${field}`);
    return queue.unsent.at(-1)?.step;
  };
  const first = stepOf("subject");
  expect(stepOf("subject", 800)).toBe(first);
  expect(stepOf("subject", 1100)).toBe(first);
  const paused = stepOf("subject", 1300);
  expect(paused).not.toBe(first);
  const elsewhere = stepOf("preheader", 10);
  expect(elsewhere).not.toBe(paused);
  expect(stepOf("subject", 10)).not.toBe(paused);
  queue.move("undo");
  expect(stepOf("subject", 10)).not.toBe(paused);
  // What arranges is a step each time.
  queue.edit([{ kind: "remove-row", row: "a" }], "");
  queue.edit([{ kind: "remove-row", row: "b" }], "");
  const steps = queue.unsent.slice(-2).map((e) => e.step);
  expect(new Set(steps).size).toBe(2);
});

test("out of reach, everything waits, is kept in the browser and goes again with the same ids", async () => {
  const { queue, sent, heard, edits, last } = begin();
  queue.open();
  queue.edit([say("subject", "Steam")], "details/subject");
  const [first] = edits();
  await last().fail(0);
  expect(heard.keeping).toEqual(["waiting"]);
  expect(stored()).toEqual([first]);
  queue.edit([say("preheader", "Cinders")], "details/preheader");
  // Typing tries at once; the first goes before what came after it.
  expect(sent.length).toBe(2);
  expect(edits()).toEqual([first]);
  expect(written(stored())).toEqual(["subject=Steam", "preheader=Cinders"]);
  await last().fail(503);
  vi.advanceTimersByTime(999);
  expect(sent.length).toBe(2);
  vi.advanceTimersByTime(1);
  expect(sent.length).toBe(3);
  expect(edits()).toEqual([first]);
  await last().answer("1");
  expect(written(edits())).toEqual(["preheader=Cinders"]);
  await last().answer("2");
  expect(stored()).toEqual([]);
  expect(heard.refused).toEqual([]);
  expect(heard.keeping.at(-1)).toBe("kept");
});

test("what takes long is said, what is quick is not", async () => {
  const { queue, heard, last } = begin();
  queue.open();
  queue.edit([say("subject", "S")], "details/subject");
  vi.advanceTimersByTime(399);
  await last().answer("1");
  expect(heard.keeping).toEqual([]);
  queue.edit([say("subject", "St")], "details/subject");
  vi.advanceTimersByTime(400);
  expect(heard.keeping).toEqual(["sending"]);
  await last().answer("2");
  expect(heard.keeping).toEqual(["sending", "kept"]);
});

test("signed out, what was typed waits for the next sign-in", async () => {
  const { queue, sent, heard, edits, last } = begin();
  queue.open();
  queue.edit([say("subject", "S")], "details/subject");
  const [first] = edits();
  await last().fail(401);
  expect(heard.signedOut).toBe(1);
  vi.advanceTimersByTime(4999);
  expect(sent.length).toBe(1);
  vi.advanceTimersByTime(1);
  expect(edits()).toEqual([first]);
  await last().answer("1");
  expect(heard.taken).toEqual(["1"]);
});

test("signed in again, what waits goes at once, and only once", async () => {
  const { queue, sent, heard, last } = begin();
  queue.open();
  queue.goNow();
  expect(sent.length).toBe(0);
  queue.edit([say("subject", "S")], "details/subject");
  queue.goNow();
  expect(sent.length).toBe(1);
  await last().fail(401);
  queue.goNow();
  expect(sent.length).toBe(2);
  vi.advanceTimersByTime(10_000);
  expect(sent.length).toBe(2);
  await last().answer("1");
  expect(heard.keeping.at(-1)).toBe("kept");
  queue.leave();
});

test("of several that were refused together only the one that must not is, and it is said once", async () => {
  const { queue, heard, edits, last } = begin();
  queue.edit([say("subject", "S")], "details/subject");
  queue.edit([say("sender", "Not mine")], "details/sender");
  queue.edit([say("preheader", "P")], "details/preheader");
  queue.open();
  expect(written(edits())).toEqual(["subject=S", "sender=Not mine", "preheader=P"]);
  await last().fail(403);
  expect(written(edits())).toEqual(["subject=S"]);
  await last().answer("1");
  expect(written(edits())).toEqual(["sender=Not mine"]);
  await last().fail(403);
  expect(heard.refused).toEqual(["403 sender=Not mine"]);
  expect(written(edits())).toEqual(["preheader=P"]);
  await last().answer("2");
  expect(heard.taken).toEqual(["1", "2"]);
  expect(stored()).toEqual([]);
});

test("edits that hold together are refused together", async () => {
  const { queue, sent, heard, last } = begin();
  queue.open();
  queue.editAsOne([say("subject", "S"), say("preheader", "P")], "copy");
  await last().fail(409, "conflict");
  expect(heard.refused).toEqual(["409 subject=S,preheader=P"]);
  expect(sent.length).toBe(1);
  expect(queue.busy).toBe(false);
});

test("undo keeps its turn between what was typed before and after it", async () => {
  const { queue, sent, edits, last } = begin();
  queue.open();
  queue.edit([say("subject", "S")], "details/subject");
  queue.edit([say("subject", "St")], "details/subject");
  queue.move("undo");
  queue.edit([say("subject", "X")], "details/subject");
  await last().answer("1");
  expect(written(edits())).toEqual(["subject=St"]);
  await last().answer("2");
  expect(last().job).toMatchObject({ move: "undo" });
  await last().fail(500);
  vi.advanceTimersByTime(1000);
  // The same undo again, not another.
  expect(last().job).toEqual(sent[2]?.job);
  await last().answer("3");
  expect(written(edits())).toEqual(["subject=X"]);
});

test("two windows of one person keep what waits apart, and a third takes up what either left", async () => {
  const [one, two] = [begin(), begin()];
  one.queue.open();
  two.queue.open();
  for (const [at, window] of [one, two].entries()) {
    window.queue.edit([say(`field${at}`, "x")], `details/field${at}`);
    await window.last().fail(0);
  }
  expect(written(stored())).toEqual(["field0=x", "field1=x"]);
  vi.advanceTimersByTime(1000);
  await one.last().answer("1");
  expect(written(stored())).toEqual(["field1=x"]);

  const three = begin();
  three.queue.open();
  expect(three.edits()).toEqual(two.edits());
  // It has them in its own name; the other, which lives after all, sends them too and has them acknowledged.
  expect(store.size).toBe(1);
  await two.last().answer("2");
  expect(written(stored())).toEqual(["field1=x"]);
  await three.last().answer("2");
  expect(stored()).toEqual([]);
});

test("what a crash of the browser left goes first the next time, with its own ids", async () => {
  const before = begin();
  before.queue.open();
  before.queue.edit([say("subject", "S")], "details/subject");
  before.queue.edit([say("preheader", "P")], "details/preheader");
  const left = stored();
  expect(written(left)).toEqual(["subject=S", "preheader=P"]);

  const after = begin();
  after.queue.open();
  expect(after.edits()).toEqual(left);
  after.queue.edit([say("subject", "T")], "details/subject");
  await after.last().answer("1");
  expect(written(after.edits())).toEqual(["subject=T"]);
  // Another person at the same browser has nothing to do with it.
  expect([...store.keys()].every((key) => key.includes("imran"))).toBe(true);
});

test("what a browser kept under the name it had before there was one for each queue goes too", async () => {
  const kept: SentEdit[] = [{ id: "1", step: "1", edit: say("subject", "Kept by the version before") }];
  store.set("unsent imran email", JSON.stringify(kept));
  const { queue, edits, last } = begin();
  queue.open();
  expect(edits()).toEqual(kept);
  await last().answer("1");
  expect(store.size).toBe(0);
});

test("the room left, what waits still goes once but is not tried again and again", async () => {
  const { queue, sent, edits, last } = begin();
  queue.open();
  queue.edit([say("subject", "S")], "details/subject");
  queue.edit([say("preheader", "P")], "details/preheader");
  queue.leave();
  await last().answer("1");
  expect(written(edits())).toEqual(["preheader=P"]);
  await last().fail(0);
  vi.advanceTimersByTime(60_000);
  expect(sent.length).toBe(2);
  expect(written(stored())).toEqual(["preheader=P"]);
  // Back in the room another queue goes on with it, and what it has not got is not lost meanwhile.
  const back = begin();
  back.queue.edit([say("subject", "T")], "details/subject");
  back.queue.open();
  expect(written(stored())).toEqual(["preheader=P", "subject=T"]);
  expect(written(back.edits())).toEqual(["preheader=P"]);
  await back.last().answer("2");
  expect(written(back.edits())).toEqual(["subject=T"]);
  await back.last().answer("3");
  expect(stored()).toEqual([]);
});

test("whatever fails, in whatever order: all that may be stored is, once, and in the order it was made", async () => {
  const step = fc.record({
    place: fc.constantFrom("a", "b", "forbidden"),
    pause: fc.constantFrom(0, 2000),
    fault: fc.constantFrom("none", "none", "unreached", "lost", "fault"),
    crash: fc.integer({ min: 0, max: 9 }),
  });
  await fc.assert(
    fc.asyncProperty(fc.array(step, { maxLength: 25 }), async (steps) => {
      store.clear();
      const arrived = new Map<string, Edit>();
      const faults = steps.map((s) => s.fault);
      // A server that stores each id once, whether or not its answer arrives.
      const send = async (job: Job) => {
        const fault = faults.shift() ?? "none";
        if (fault === "unreached") throw new Problem(0, "unreachable", "");
        if (fault === "fault") throw new Problem(500, "fault", "");
        if ("edits" in job) {
          if (job.edits.some(({ edit }) => edit.kind === "set-detail" && edit.field === "forbidden")) throw new Problem(403, "refused", "");
          for (const { id, edit } of job.edits) if (!arrived.has(id)) arrived.set(id, edit);
        }
        if (fault === "lost") throw new Problem(0, "unreachable", "");
        return "";
      };
      const nothing = () => undefined;
      const make = () =>
        new EditQueue<string>("email", "imran", {
          send,
          revision: () => 0,
          take: () => 1,
          refused: nothing,
          signedOut: nothing,
          keeping: nothing,
        });
      let queue = make();
      queue.open();
      const meant = new Map<string, string>();
      for (const [i, { place, pause, crash }] of steps.entries()) {
        vi.advanceTimersByTime(pause);
        queue.edit([say(place, `${i}`)], `details/${place}`);
        if (place !== "forbidden") meant.set(place, `${i}`);
        await settle();
        if (crash === 0) {
          // Nothing of the old window runs any more; the new one has what it kept.
          queue.leave();
          await settle();
          queue = make();
          queue.open();
          await settle();
        }
      }
      for (let i = 0; i < 60 && queue.busy; i++) {
        vi.advanceTimersByTime(1000);
        await settle();
      }
      expect(queue.busy).toBe(false);
      expect(stored()).toEqual([]);
      const values = [...arrived.values()].map((e) => (e.kind === "set-detail" ? e : undefined));
      for (const [place, value] of meant) {
        const said = values.filter((v) => v?.field === place).map((v) => Number(v?.value));
        expect(said.at(-1)).toBe(Number(value));
        expect(said).toEqual([...said].sort((x, y) => x - y));
      }
      expect(values.some((v) => v?.field === "forbidden")).toBe(false);
    }),
    { numRuns: 400 },
  );
});

test("what was refused stays where it was typed, with the reason, until it is typed anew or a step is taken back", async () => {
  const { queue, sent } = begin();
  queue.open();
  queue.live.set("shape", "2", true);
  queue.edit([say("shape", "2")], "shape");
  await sent[0]?.fail(422, "refused");
  expect(queue.live.get("shape")).toEqual({ value: "2", state: "refused", revision: 0, reason: "422" });
  queue.live.set("shape", "2:1", true);
  expect(queue.live.get("shape")?.reason).toBeUndefined();
  queue.edit([say("shape", "2:1")], "shape");
  await sent[1]?.fail(422, "refused");
  queue.move("undo");
  expect(queue.live.get("shape")).toBeUndefined();
});

test("of a conflict nothing stays in the place: both values are asked about", async () => {
  const { queue, sent } = begin();
  queue.open();
  queue.live.set("subject", "Mine", true);
  queue.edit([say("subject", "Mine")], "subject");
  await sent[0]?.fail(409, "conflict");
  expect(queue.live.get("subject")).toBeUndefined();
});

test("what was seen to be over ends, and not what was typed since it was seen", () => {
  const { live } = begin().queue;
  live.set("subject", "Steam", false);
  const seen = live.get("subject");
  live.set("subject", "Steam r", true);
  if (seen) live.end("subject", seen);
  expect(live.get("subject")?.value).toBe("Steam r");
  const now = live.get("subject");
  if (now) live.end("subject", now);
  expect(live.get("subject")).toBeUndefined();
});
