import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { Problem } from "../../api/client";
import type { DeskAnswer, Edit, SentEdit } from "../../api/types";
import { askDesk, sendEdits, sendMove } from "./askDesk";
import { type Desk, DeskStore, placeOf, rowIds, targetOf } from "./DeskStore";
import { aDesk, aFinding, aRow, aZone, deskOf } from "./testDesk";

vi.mock("./askDesk", () => ({ askDesk: vi.fn(), sendEdits: vi.fn(), sendMove: vi.fn() }));

const asked = vi.mocked(askDesk);
const sent = vi.mocked(sendEdits);
const moved = vi.mocked(sendMove);

const say = (value: string): Edit => ({ kind: "set-detail", field: "subject", value });
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
  vi.stubGlobal("localStorage", { length: 0, key: () => null, getItem: () => null, setItem: () => undefined, removeItem: () => undefined });
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
      opening: null,
      order: [aZone("zone", "a", "b")] as DeskAnswer["order"],
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
  expect(desk?.opening).toBe(before.desk?.opening);
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

test("an answer that was asked for before one's own edit does not undo it", async () => {
  const store = await opened(deskOf(1, aRow("a")));
  let late: (desk: DeskAnswer) => void = () => undefined;
  asked.mockReturnValueOnce(new Promise((resolve) => (late = resolve)));
  const refreshing = store.refresh();
  sent.mockResolvedValueOnce(deskOf(3, aRow("a", { name: "Mine" })));
  store.edit(say("S"));
  await vi.advanceTimersByTimeAsync(5);
  late(aDesk(2, { whole: false, rows: [aRow("a", { name: "Older" })], order: [aZone("zone", "a")] as DeskAnswer["order"] }));
  await refreshing;
  expect(store.snapshot().rows.get("a")?.name).toBe("Mine");
  expect(store.snapshot().desk?.revision).toBe(3);
});

test("of two who changed the same place both values are kept until one is chosen", async () => {
  const store = await opened(deskOf(1, aRow("a")));
  sent.mockRejectedValueOnce(
    new Problem(409, "conflict", "Bea changed this at the same time.", { theirs: say("Hers"), yours: say("Mine") }),
  );
  asked.mockResolvedValueOnce(deskOf(2, aRow("a")));
  store.edit(say("Mine"));
  await vi.advanceTimersByTimeAsync(0);
  expect(store.snapshot().conflict).toEqual({ message: "Bea changed this at the same time.", theirs: say("Hers"), yours: say("Mine") });
  expect(store.snapshot().desk?.revision).toBe(2);

  sent.mockResolvedValueOnce(deskOf(3, aRow("a")));
  store.settle(say("Mine"));
  await vi.advanceTimersByTimeAsync(0);
  expect(store.snapshot().conflict).toBeUndefined();
  expect(edits(1)).toEqual([say("Mine")]);
  expect(sent.mock.calls[1]?.[2]).toMatchObject({ base: 2 });
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

test("an edit is pending until it is acknowledged", async () => {
  const store = await opened(deskOf(1, aRow("a")));
  let answer: (desk: DeskAnswer) => void = () => undefined;
  sent.mockReturnValueOnce(new Promise((resolve) => (answer = resolve)));
  store.edit(say("S"));
  await vi.advanceTimersByTimeAsync(0);
  expect(store.isPending("details/subject")).toBe(true);
  expect(store.isPending("details/preheader")).toBe(false);
  answer(deskOf(2, aRow("a")));
  await vi.advanceTimersByTimeAsync(0);
  expect(store.isPending("details/subject")).toBe(false);
});

/** As the server names them: two edits of one target at the same time are a conflict. */
test("edits name the places that they set", () => {
  const places: [Edit, string][] = [
    [{ kind: "set-fill", row: "r", piece: "p", field: "f", value: { kind: "words", text: "" } }, "r/p/f"],
    [{ kind: "clear-fill", row: "r", piece: "p", field: "f" }, "r/p/f"],
    [{ kind: "set-look", row: "r", piece: "p", property: "align", value: "left" }, "r/p/look/align"],
    [{ kind: "clear-look", row: "r", piece: "p", property: "align" }, "r/p/look/align"],
    [{ kind: "set-shown", row: "r", piece: "p", shown: "everywhere" }, "r/p/shown"],
    [{ kind: "set-limit", row: "r", piece: "p", field: "f", limit: null }, "r/p/f/limit"],
    [{ kind: "set-instruction", row: "r", piece: "p", text: null }, "r/p/instruction"],
    [{ kind: "set-detail", field: "subject", value: "" }, "details/subject"],
    [{ kind: "set-name", name: "N" }, "name"],
    [{ kind: "set-description", text: "" }, "about/description"],
    [{ kind: "remove-row", row: "r" }, ""],
    [{ kind: "move-row", row: "r", zone: null, index: 0 }, ""],
  ];
  expect(places.map(([edit]) => targetOf(edit))).toEqual(places.map(([, place]) => place));
});

test("where a row stands: in a zone, in the running order itself, or nowhere", () => {
  const desk = aDesk(1, { order: [{ row: "head" }, aZone("zone", "a", "b"), { row: "foot" }] as DeskAnswer["order"] });
  expect(rowIds(desk)).toEqual(["head", "a", "b", "foot"]);
  expect(placeOf(desk, "head")).toEqual({ index: 0, count: 3 });
  expect(placeOf(desk, "zone")).toEqual({ index: 1, count: 3 });
  expect(placeOf(desk, "b")).toMatchObject({ zone: { id: "zone" }, index: 1, count: 2 });
  expect(placeOf(desk, "gone")).toEqual({ index: -1, count: 0 });
});
