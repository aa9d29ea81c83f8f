import type { KeyboardCoordinateGetter } from "@dnd-kit/core";

const steps: Record<string, [number, number]> = { ArrowDown: [0, 1], ArrowUp: [0, -1], ArrowRight: [1, 0], ArrowLeft: [-1, 0] };

/** By keyboard what is dragged goes from one place to the next in the arrow's direction. */
export const nextPlace: KeyboardCoordinateGetter = (event, { context: { active, collisionRect, droppableContainers, droppableRects } }) => {
  const step = steps[event.code];
  if (!step || !active || !collisionRect) {
    return undefined;
  }
  event.preventDefault();
  const [x, y] = [collisionRect.left + collisionRect.width / 2, collisionRect.top + collisionRect.height / 2];
  const takes = (kind: unknown) => {
    const dragged = active.data.current?.kind;
    return kind === (dragged === "row" || dragged === "zone" ? "order" : dragged === "picture" ? "picture" : "column");
  };
  let best: { far: number; x: number; y: number } | undefined;
  for (const place of droppableContainers.getEnabled()) {
    const rect = droppableRects.get(place.id);
    if (!rect || !takes(place.data.current?.kind)) {
      continue;
    }
    const [dx, dy] = [rect.left + rect.width / 2 - x, rect.top + rect.height / 2 - y];
    const [along, across] = step[0] !== 0 ? [dx * step[0], dy] : [dy * step[1], dx];
    if (along > 4) {
      const far = along + 2 * Math.abs(across);
      if (!best || far < best.far) {
        best = { far, x: collisionRect.left + dx, y: collisionRect.top + dy };
      }
    }
  }
  return best && { x: best.x, y: best.y };
};
