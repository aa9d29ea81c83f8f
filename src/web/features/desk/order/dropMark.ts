import { useDndContext, type useDroppable } from "@dnd-kit/core";
import type { Dragged } from "../drag/dragged";

/** Whether a row or zone would be put down here: marked where it is over the place. */
export function useDropMark({ isOver }: Pick<ReturnType<typeof useDroppable>, "isOver">): boolean {
  const { active } = useDndContext();
  const carried = active?.data.current as Dragged | undefined;
  return isOver && (carried?.kind === "row" || carried?.kind === "zone");
}
