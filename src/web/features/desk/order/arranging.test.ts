import { expect, test, vi } from "vitest";
import type { Edit } from "../../../api/types";
import type { Desk, DeskStore } from "../DeskStore";
import { aDesk, anOrder, aRow, aZone } from "../testDesk";
import { moveBy, moveZoneBy, neighbour } from "./arranging";

const order = anOrder({ row: "head" }, aZone("first", "a", "b"), { row: "between" }, aZone("second", "c"), { row: "foot" });
const desk = aDesk(1, { order }) as unknown as Desk;

function moved(act: (store: DeskStore) => void): Edit | string | undefined {
  const [edit, say] = [vi.fn(), vi.fn()];
  act({ edit, say } as unknown as DeskStore);
  return edit.mock.calls[0]?.[0] ?? say.mock.calls[0]?.[0];
}

const to = (row: string, zone: string | null, index: number): Edit => ({ kind: "move-row", row, zone, index });

test("a row moves by one within its zone", () => {
  expect(moved((store) => moveBy(store, desk, aRow("a"), 1))).toEqual(to("a", "first", 1));
  expect(moved((store) => moveBy(store, desk, aRow("b"), -1))).toEqual(to("b", "first", 0));
});

test("over the edge of its zone it goes to the near end of the next", () => {
  expect(moved((store) => moveBy(store, desk, aRow("b"), 1))).toEqual(to("b", "second", 0));
  expect(moved((store) => moveBy(store, desk, aRow("c"), -1))).toEqual(to("c", "first", 2));
});

test("where there is nowhere to go nothing is done", () => {
  expect(moved((store) => moveBy(store, desk, aRow("a"), -1))).toBeUndefined();
  expect(moved((store) => moveBy(store, desk, aRow("c"), 1))).toBeUndefined();
  expect(moved((store) => moveBy(store, desk, undefined, 1))).toBeUndefined();
});

test("what may not move says why", () => {
  const held = aRow("a", { move: { allowed: false, reason: "The template holds it." } as never });
  expect(moved((store) => moveBy(store, desk, held, 1))).toBe("The template holds it.");
});

test("in a template rows and zones move in the running order itself", () => {
  expect(moved((store) => moveBy(store, desk, aRow("head"), 1))).toEqual(to("head", null, 1));
  expect(moved((store) => moveZoneBy(store, desk, "first", 1))).toEqual(to("first", null, 2));
  expect(moved((store) => moveZoneBy(store, aDesk(1, { order: anOrder(aZone("only")) }) as unknown as Desk, "only", 1))).toBeUndefined();
});

test("when the chosen row goes, the next one is chosen, else the one before, else what the document says of itself", () => {
  expect(neighbour(desk, "a")).toBe("b");
  expect(neighbour(desk, "b")).toBe("a");
  expect(neighbour(desk, "head")).toBe("first");
  expect(neighbour(desk, "foot")).toBe("second");
  expect(neighbour(aDesk(1, { order: anOrder(aZone("only", "a")) }) as unknown as Desk, "a")).toBe("details");
});
