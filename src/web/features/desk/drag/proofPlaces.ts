import type { DeskState } from "../DeskStore";
import { blocksOf } from "../DeskStore";
import type { BlockPlace } from "../useDesk";
import type { Dragged, Target } from "./dragged";

/** The frames that lie on the table, and how much they are made smaller. */
const frames = new Map<HTMLIFrameElement, number>();

/** Lets what is dragged be put down in a proof. Returns what ends it. */
export function takesInProof(frame: HTMLIFrameElement, scale: number): () => void {
  frames.set(frame, scale);
  return () => {
    frames.delete(frame);
  };
}

/** What lies in a proof at a point of the screen. */
function pieceAt(x: number, y: number): { row: string; piece?: string; below: boolean } | undefined {
  for (const [frame, scale] of frames) {
    const { left, top, right, bottom } = frame.getBoundingClientRect();
    if (x < left || x > right || y < top || y > bottom) {
      continue;
    }
    const at = { x: (x - left) / scale, y: (y - top) / scale };
    const element = frame.contentDocument?.elementFromPoint(at.x, at.y);
    const row = element?.closest("[data-row]")?.getAttribute("data-row");
    const piece = element?.closest("[data-piece]");
    const box = piece?.getBoundingClientRect();
    return row
      ? { row, piece: piece?.getAttribute("data-piece") ?? undefined, below: box !== undefined && at.y > box.top + box.height / 2 }
      : undefined;
  }
  return undefined;
}

/** Before or after the block at a point, or at the end of the row's last column. */
export function placeBeside(row: string, piece: string | undefined, below: boolean, { rows }: DeskState): BlockPlace | undefined {
  const found = rows.get(row);
  const column = found?.columns.find((c) => c.blocks.some((b) => b.id === piece)) ?? found?.columns.at(-1);
  if (!column) {
    return undefined;
  }
  const at = column.blocks.findIndex((b) => b.id === piece);
  return { row, column: column.id, index: at < 0 ? column.blocks.length : below ? at + 1 : at };
}

/** Where what is dragged would go in the proof under the pointer. */
export function inProof(x: number, y: number, dragged: Dragged, state: DeskState): Target | undefined {
  const found = pieceAt(x, y);
  const row = found && state.rows.get(found.row);
  if (!found || !row) {
    return undefined;
  }
  if (dragged.kind === "block" || dragged.kind === "new-block") {
    const place = placeBeside(found.row, found.piece, found.below, state);
    return place && { kind: "column", place, name: `in ${row.name}` };
  }
  const block = blocksOf(row).find((b) => b.id === found.piece);
  const field = block?.fields.find((f) => f.value.kind === "picture");
  if (dragged.kind !== "picture" || !block?.content.allowed || !field) {
    return undefined;
  }
  return { kind: "picture", row: row.id, piece: block.id, field: field.name, name: `in ${block.name}` };
}
