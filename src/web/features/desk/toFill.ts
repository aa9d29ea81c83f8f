import type { DeskRow, Finding } from "../../api/types";
import { blocksOf, type Desk, rowIds } from "./DeskStore";
import type { Choice } from "./useDesk";

type Rows = ReadonlyMap<string, DeskRow>;

/** Something is wrong that keeps the email from going out; what is only not filled in yet is told apart. */
export const isBlocker = (finding: Finding) => finding.severity === "stop" && !finding.toFill;

export const countToFill = (desk: Desk) => desk.findings.filter((f) => f.toFill).length;

/** What is still to fill, in the order it is read. */
export function toFill(desk: Desk, rows: Rows, order = placesInOrder(desk, rows)): Finding[] {
  return desk.findings.filter((f) => f.toFill).sort((a, b) => order(a.place) - order(b.place));
}

/** The first that is to fill after what is chosen; from the top again after the last. */
export function nextToFill(desk: Desk, rows: Rows, choice: Choice): Finding | undefined {
  const order = placesInOrder(desk, rows);
  const all = toFill(desk, rows, order);
  const here = order(choice);
  return all.find((f) => order(f.place) > here) ?? all[0];
}

type At = { row?: string | null; piece?: string | null; field?: string | null };

// What the inbox shows comes first, then the rows with their blocks and fields. More than a thousand of either there are not.
function placesInOrder(desk: Desk, rows: Rows) {
  const ids = ["details", ...rowIds(desk)];
  const details = ["senderName", "senderAddress", "subject"];
  return ({ row, piece, field }: At) => {
    const found = rows.get(row ?? "");
    const blocks = found ? blocksOf(found) : [];
    const block = blocks.findIndex((b) => b.id === piece);
    const fields = blocks[block]?.fields.map((f) => f.name) ?? details;
    return (ids.indexOf(row ?? "") * 1000 + block + 1) * 1000 + fields.indexOf(field ?? "") + 1;
  };
}
