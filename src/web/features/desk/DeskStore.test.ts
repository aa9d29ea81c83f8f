import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { Problem } from "../../api/client";
import type { DeskAnswer, Edit, SentEdit } from "../../api/types";
import { askDesk, sendEdits, sendMove } from "./askDesk";
import { type Conflict, type Desk, DeskStore, placeOf, rowIds } from "./DeskStore";
import { aDesk, aFinding, anOrder, aProof, aRow, aZone, deskOf } from "./testDesk";

vi.mock("./askDesk", () => ({ askDesk: vi.fn(), sendEdits: vi.fn(), sendMove: vi.fn() }));

const asked = vi.mocked(askDesk);
const sent = vi.mocked(sendEdits);
const moved = vi.mocked(sendMove);

const sayOf = (field: string, value: string): Edit => ({ kind: "set-detail", field, value });
const say = (value: string) => sayOf("subject", value);
const kept = new Map<string, string>();
const edits = (call: number) => (sent.mock.calls[call]?.[3] ?? []).map(({ edit }: SentEdit) => edit);

async function opened(desk: DeskAnswer) {
  asked.mockResolvedValueOnce(desk);
  const store = new DeskStore("emails", "email", "imran");
  await store.open();
  await vi.advanceTimersByTimeAsync(0);
  return store;
}

beforeEach(() => {
  vi.useFakeTimers({ toFake: ["setTimeout", "clearTimeout", "performance"] });
  kept.clear();
  vi.stubGlobal("localStorage", {
    get length() {
      return kept.size;
    },
    key: (at: number) => [...kept.keys()][at] ?? null,
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, value: string) => kept.set(key, value),
    removeItem: (key: string) => kept.delete(key),
  });
  // Nobody looks, so that nothing waits for a frame.
  vi.stubGlobal("document", { hidden: true });
  vi.resetAllMocks();
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

test("of an answer that leaves out what did not change, the rest is what was there", async () => {
  const store = await opened({
    ...deskOf(1, aRow("a"), aRow("b"), aRow("c")),
    findings: { before: 0, after: 0, now: ["1", "2", "3", "4"].map(aFinding) },
  });
  const before = store.snapshot();
  sent.mockResolvedValueOnce(
    aDesk(2, {
      whole: false,
      proof: aProof(null),
      order: anOrder(aZone("zone", "a", "b")),
      rows: [aRow("a"), aRow("b", { name: "Other" })],
      findings: { before: 1, after: 1, now: [aFinding("new")] },
    }),
  );
  store.edit(say("S"));
  await vi.advanceTimersByTimeAsync(0);

  const { desk, rows } = store.snapshot();
  expect([...rows.keys()]).toEqual(["a", "b"]);
  // A row that came again as it was stays the same object: nothing that shows it is drawn anew.
  expect(rows.get("a")).toBe(before.rows.get("a"));
  expect(rows.get("b")?.name).toBe("Other");
  expect(desk?.proof.opening).toBe(before.desk?.proof.opening);
  expect(desk?.findings.map((f) => f.message)).toEqual(["1", "new", "4"]);
  expect(sent.mock.calls[0]?.[2]).toEqual({ base: 1, styleVersion: "1" });
});

test("while someone types the proofs are told before the room, else both at once", async () => {
  const store = await opened(deskOf(1, aRow("a")));
  const told: string[] = [];
  store.subscribeProof(() => told.push(`proof ${store.snapshot().desk?.revision}`));
  store.subscribe(() => told.push(`room ${store.snapshot().desk?.revision}`));
  sent.mockResolvedValueOnce(deskOf(2, aRow("a")));
  store.edit(say("S"));
  for (let i = 0; i < 10; i++) await Promise.resolve();
  expect(told).toEqual(["proof 2"]);
  await vi.advanceTimersByTimeAsync(1);
  expect(told).toEqual(["proof 2", "room 2"]);

  told.length = 0;
  await vi.advanceTimersByTimeAsync(2000);
  asked.mockResolvedValueOnce(deskOf(3, aRow("a")));
  await store.refresh();
  expect(told).toEqual(["proof 3", "room 3"]);
});

test("what others edit is asked for at once, but of someone typing with the answer to the next key", async () => {
  const store = await opened(deskOf(5, aRow("a")));
  asked.mockImplementation(async () => deskOf(store.snapshot().desk?.revision ?? 0, aRow("a")));
  store.hear(5);
  await vi.advanceTimersByTimeAsync(500);
  expect(asked).toHaveBeenCalledTimes(1);
  asked.mockResolvedValueOnce(deskOf(6, aRow("a")));
  store.hear(6);
  await vi.advanceTimersByTimeAsync(1);
  expect(asked).toHaveBeenCalledTimes(2);
  expect(asked).toHaveBeenLastCalledWith("emails", "email", false, { base: 5, styleVersion: "1" });
  expect(store.snapshot().desk?.revision).toBe(6);

  sent.mockResolvedValueOnce(deskOf(8, aRow("a")));
  store.edit(say("S"));
  store.hear(7);
  await vi.advanceTimersByTimeAsync(200);
  // The answer to the key brought it along.
  expect(store.snapshot().desk?.revision).toBe(8);
  await vi.advanceTimersByTimeAsync(1000);
  expect(asked).toHaveBeenCalledTimes(2);
});

test("what others edit while a key is on its way waits for the answer to the next key", async () => {
  const store = await opened(deskOf(5, aRow("a")));
  let stored: (desk: DeskAnswer) => void = () => undefined;
  sent.mockReturnValueOnce(new Promise((resolve) => (stored = resolve)));
  store.edit(say("S"));
  store.hear(7);
  stored(deskOf(6, aRow("a")));
  await vi.advanceTimersByTimeAsync(100);
  expect(asked).toHaveBeenCalledTimes(1);
  sent.mockResolvedValueOnce(deskOf(8, aRow("a")));
  store.edit(say("So"));
  await vi.advanceTimersByTimeAsync(1000);
  expect(asked).toHaveBeenCalledTimes(1);

  // There is no next key.
  sent.mockResolvedValueOnce(deskOf(9, aRow("a")));
  store.edit(say("Soon"));
  store.hear(10);
  asked.mockResolvedValueOnce(deskOf(10, aRow("a", { name: "Hers" })));
  await vi.advanceTimersByTimeAsync(1000);
  expect(store.snapshot().rows.get("a")?.name).toBe("Hers");
});

test("after the connection was lost it looks again, whatever it was told", async () => {
  const store = await opened(deskOf(5, aRow("a")));
  asked.mockResolvedValueOnce(deskOf(9, aRow("a"), aRow("b")));
  store.hear(Number.POSITIVE_INFINITY);
  await vi.advanceTimersByTimeAsync(0);
  expect(rowIds(store.snapshot().desk as Desk)).toEqual(["a", "b"]);
  // Out of reach: what is there stays, and nothing is said that would hide it.
  asked.mockRejectedValueOnce(new Problem(0, "unreachable", "x"));
  await store.refresh();
  expect(store.snapshot().desk?.revision).toBe(9);
  expect(store.snapshot().missing ?? store.snapshot().notice).toBeUndefined();
});

test("what is told while an answer is on its way is asked for after it", async () => {
  const store = await opened(deskOf(5, aRow("a")));
  let first: (desk: DeskAnswer) => void = () => undefined;
  asked.mockReturnValueOnce(new Promise((resolve) => (first = resolve)));
  // The watch stands: it looks again, and before it has an answer someone edits.
  store.hear(Number.POSITIVE_INFINITY);
  store.hear(6);
  await vi.advanceTimersByTimeAsync(1);
  asked.mockResolvedValueOnce(deskOf(6, aRow("a", { name: "Hers" })));
  first(deskOf(5, aRow("a")));
  await vi.advanceTimersByTimeAsync(1);
  expect(store.snapshot().rows.get("a")?.name).toBe("Hers");
});

test("what could not be had is asked for again", async () => {
  const store = await opened(deskOf(5, aRow("a")));
  asked.mockRejectedValueOnce(new Problem(503, "unavailable", "x"));
  store.hear(6);
  await vi.advanceTimersByTimeAsync(1);
  asked.mockResolvedValueOnce(deskOf(6, aRow("a", { name: "Hers" })));
  await vi.advanceTimersByTimeAsync(3000);
  expect(store.snapshot().rows.get("a")?.name).toBe("Hers");
});

test("a release that is told of while one's own edit is on its way is asked for after it", async () => {
  const store = await opened(deskOf(5, aRow("a")));
  let stored: (desk: DeskAnswer) => void = () => undefined;
  sent.mockReturnValueOnce(new Promise((resolve) => (stored = resolve)));
  store.edit(say("S"));
  void store.refresh();
  asked.mockResolvedValueOnce(deskOf(6, aRow("a", { name: "Released" })));
  stored(deskOf(6, aRow("a")));
  await vi.advanceTimersByTimeAsync(1);
  expect(store.snapshot().rows.get("a")?.name).toBe("Released");
});

test("an answer that was asked for before one's own edit does not undo it", async () => {
  const store = await opened(deskOf(1, aRow("a")));
  let late: (desk: DeskAnswer) => void = () => undefined;
  asked.mockReturnValueOnce(new Promise((resolve) => (late = resolve)));
  const refreshing = store.refresh();
  sent.mockResolvedValueOnce(deskOf(3, aRow("a", { name: "Mine" })));
  store.edit(say("S"));
  await vi.advanceTimersByTimeAsync(5);
  late(aDesk(2, { whole: false, rows: [aRow("a", { name: "Older" })], order: anOrder(aZone("zone", "a")) }));
  await refreshing;
  expect(store.snapshot().rows.get("a")?.name).toBe("Mine");
  expect(store.snapshot().desk?.revision).toBe(3);
});

test("which of two values is to hold is asked once what holds now is here, so that the choice is no conflict again", async () => {
  const store = await opened(deskOf(1, aRow("a")));
  const conflict = { target: "details/subject", theirs: say("Hers"), yours: say("Mine") };
  sent.mockRejectedValueOnce(new Problem(409, "conflict", "Bea changed this at the same time.", conflict));
  let late = (_: DeskAnswer) => {};
  asked.mockReturnValueOnce(new Promise((resolve) => (late = resolve)));
  store.write("details/subject", say("Mine"));
  await vi.advanceTimersByTimeAsync(5000);
  expect(store.snapshot().conflicts).toEqual([]);
  late(deskOf(2, aRow("a")));
  await vi.advanceTimersByTimeAsync(0);
  sent.mockResolvedValueOnce(deskOf(3, aRow("a")));
  store.settle(store.snapshot().conflicts[0] as Conflict, say("Mine"));
  await vi.advanceTimersByTimeAsync(0);
  expect(sent.mock.calls[1]?.[4]).toMatchObject({ base: 2 });
});

test("of each place that two changed both values are kept until one is chosen", async () => {
  const store = await opened(deskOf(1, aRow("a")));
  const conflict = (field: string) => ({ target: `details/${field}`, theirs: sayOf(field, "Hers"), yours: sayOf(field, "Mine") });
  for (const field of ["subject", "preheader"]) {
    sent.mockRejectedValueOnce(new Problem(409, "conflict", "Bea changed this at the same time.", conflict(field)));
    asked.mockResolvedValueOnce(deskOf(2, aRow("a")));
    store.write(`details/${field}`, sayOf(field, "Mine"));
    await vi.advanceTimersByTimeAsync(0);
  }
  expect(store.snapshot().conflicts).toEqual(
    ["subject", "preheader"].map((field) => ({ message: "Bea changed this at the same time.", ...conflict(field) })),
  );
  expect(store.snapshot().desk?.revision).toBe(2);

  // Put off, neither is lost, in this window or the next.
  store.settleLater(true);
  expect(store.snapshot().conflicts).toHaveLength(2);
  expect((await opened(deskOf(2, aRow("a")))).snapshot().conflicts).toHaveLength(2);

  const [first, second] = store.snapshot().conflicts;
  sent.mockResolvedValueOnce(deskOf(3, aRow("a")));
  store.settle(first as Conflict, say("Mine"));
  await vi.advanceTimersByTimeAsync(0);
  expect(edits(2)).toEqual([say("Mine")]);
  expect(sent.mock.calls[2]?.[2]).toMatchObject({ base: 2 });
  expect(store.snapshot().conflicts).toEqual([second]);
  store.settle(second as Conflict);
  expect(store.snapshot().conflicts).toEqual([]);
  expect(kept.size).toBe(0);
});

test("a step that cannot be taken back says why and can be passed over", async () => {
  const store = await opened(deskOf(4, aRow("a")));
  moved.mockRejectedValueOnce(new Problem(409, "conflict", "Bea has changed this since.", { step: "s1" }));
  asked.mockResolvedValueOnce(deskOf(4, aRow("a")));
  store.move("undo");
  await vi.advanceTimersByTimeAsync(0);
  expect(store.snapshot().stuck).toEqual({ move: "undo", reason: "Bea has changed this since." });

  moved.mockResolvedValueOnce(deskOf(5, aRow("a")));
  store.skip();
  await vi.advanceTimersByTimeAsync(0);
  expect(moved.mock.calls[1]?.[5]).toEqual(["s1"]);
  expect(store.snapshot().stuck).toBeUndefined();
});

test("what is refused is said, and the desk shows what holds", async () => {
  const store = await opened(deskOf(1, aRow("a")));
  sent.mockRejectedValueOnce(new Problem(403, "refused", "The designers hold this."));
  asked.mockResolvedValueOnce(deskOf(1, aRow("a")));
  store.edit(say("S"));
  await vi.advanceTimersByTimeAsync(0);
  expect(store.snapshot().notice).toBe("The designers hold this.");
  expect(asked).toHaveBeenCalledTimes(2);
  // The next that is stored takes the notice away.
  sent.mockResolvedValueOnce(deskOf(2, aRow("a")));
  store.edit(say("T"));
  await vi.advanceTimersByTimeAsync(0);
  expect(store.snapshot().notice).toBeUndefined();
});

test("undo goes the same road, from the revision that is on the desk", async () => {
  const store = await opened(deskOf(4, aRow("a")));
  moved.mockResolvedValueOnce(deskOf(5, aRow("a")));
  store.move("undo");
  await vi.advanceTimersByTimeAsync(0);
  expect(moved.mock.calls[0]?.slice(0, 4)).toEqual(["emails", "email", { base: 4, styleVersion: "1" }, "undo"]);
  expect(store.snapshot().desk?.revision).toBe(5);
});

test("whoever looks as an author changes nothing", async () => {
  const store = await opened(aDesk(1, { asAuthor: true }));
  store.edit(say("S"));
  await vi.advanceTimersByTimeAsync(10);
  expect(sent).not.toHaveBeenCalled();
  expect(store.snapshot().notice).toContain("as an author");
});

test("a document that is not there is said, and nothing is sent to it", async () => {
  asked.mockRejectedValueOnce(new Problem(404, "not-found", "There is no such email."));
  const store = new DeskStore("emails", "email", "imran");
  await store.open();
  store.edit(say("S"));
  await vi.advanceTimersByTimeAsync(10);
  expect(store.snapshot().missing).toBe("There is no such email.");
  expect(sent).not.toHaveBeenCalled();
});

test("what is set holds until an answer that knows of it, and what is refused with the reason", async () => {
  const store = await opened(deskOf(1, aRow("a")));
  let answer: (desk: DeskAnswer) => void = () => undefined;
  sent.mockReturnValueOnce(new Promise((resolve) => (answer = resolve)));
  store.live.set("details/subject", "S", true);
  store.write("details/subject", say("S"));
  await vi.advanceTimersByTimeAsync(0);
  expect(store.live.get("details/subject")).toMatchObject({ value: "S", state: "pending" });
  answer(deskOf(2, aRow("a")));
  await vi.advanceTimersByTimeAsync(0);
  expect(store.live.get("details/subject")).toEqual({ value: "S", state: "stored", revision: 2 });

  sent.mockRejectedValueOnce(new Problem(403, "refused", "No."));
  asked.mockResolvedValueOnce(deskOf(2, aRow("a")));
  store.live.set("details/subject", "T", true);
  store.write("details/subject", say("T"));
  await vi.advanceTimersByTimeAsync(0);
  expect(store.live.get("details/subject")).toMatchObject({ value: "T", state: "refused", reason: "No." });
});

test("what leaves the house waits for what was typed, and says when it cannot", async () => {
  const store = await opened(deskOf(1, aRow("a")));
  let answer: (desk: DeskAnswer) => void = () => undefined;
  sent.mockReturnValueOnce(new Promise((resolve) => (answer = resolve)));
  store.write("details/subject", say("S"));
  let stored: boolean | undefined;
  void store.stored().then((all) => (stored = all));
  await vi.advanceTimersByTimeAsync(100);
  expect(stored).toBeUndefined();
  answer(deskOf(2, aRow("a")));
  await vi.advanceTimersByTimeAsync(0);
  expect(stored).toBe(true);

  sent.mockRejectedValueOnce(new Problem(0, "unreachable", ""));
  store.write("details/subject", say("T"));
  await vi.advanceTimersByTimeAsync(0);
  expect(await store.stored()).toBe(false);
});

test("where a row stands: in a zone, in the running order itself, or nowhere", () => {
  const desk = aDesk(1, { order: anOrder({ row: "head" }, aZone("zone", "a", "b"), { row: "foot" }) });
  expect(rowIds(desk)).toEqual(["head", "a", "b", "foot"]);
  expect(placeOf(desk, "head")).toEqual({ index: 0, count: 3 });
  expect(placeOf(desk, "zone")).toEqual({ index: 1, count: 3 });
  expect(placeOf(desk, "b")).toMatchObject({ zone: { id: "zone" }, index: 1, count: 2 });
  expect(placeOf(desk, "gone")).toEqual({ index: -1, count: 0 });
});
