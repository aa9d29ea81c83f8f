import { expect, test } from "vitest";
import type { DeskAnswer, Finding } from "../../api/types";
import type { Desk } from "./DeskStore";
import { aFinding, aRow, deskOf } from "./testDesk";
import { nextToFill, toFill } from "./toFill";

const block = (id: string, ...fields: string[]) => ({ id, fields: fields.map((name) => ({ name })) });
const unfilled = (row: string, piece: string | null, field: string): Finding => ({
  ...aFinding(`${row}/${piece}/${field}`),
  toFill: true,
  place: { row, piece, field },
});
const rowsOf = (desk: DeskAnswer) => new Map(desk.rows.map((row) => [row.id, row]));

const desk = deskOf(
  1,
  aRow("hero", { columns: [{ blocks: [block("headline", "text"), block("button", "text", "link")] }] as never }),
  aRow("story", { columns: [{ blocks: [block("text", "text")] }] as never }),
);
// The server's order is by severity and check.
const findings = [
  unfilled("story", "text", "text"),
  unfilled("hero", "button", "link"),
  aFinding("a warning"),
  unfilled("hero", "headline", "text"),
  unfilled("details", null, "subject"),
];
const open = { ...desk, findings } as Desk;
const at = (row: string, piece?: string, field?: string) => nextToFill(open, rowsOf(desk), { row, piece, field, asked: 0 })?.message;

test("what is to fill is told in the order it is read", () => {
  expect(toFill(open, rowsOf(desk)).map((f) => f.message)).toEqual([
    "details/null/subject",
    "hero/headline/text",
    "hero/button/link",
    "story/text/text",
  ]);
});

test("the next one comes after what is chosen, and after the last the first", () => {
  expect(at("details")).toBe("details/null/subject");
  expect(at("details", undefined, "subject")).toBe("hero/headline/text");
  expect(at("hero", "button", "text")).toBe("hero/button/link");
  expect(at("hero", "button", "link")).toBe("story/text/text");
  expect(at("story", "text", "text")).toBe("details/null/subject");
  expect(nextToFill({ ...open, findings: [] }, rowsOf(desk), { row: "hero", asked: 0 })).toBeUndefined();
});
