import {
  type Announcements,
  type CollisionDetection,
  closestCenter,
  DndContext,
  type DragMoveEvent,
  DragOverlay,
  KeyboardSensor,
  MouseSensor,
  pointerWithin,
  TouchSensor,
  useSensor,
  useSensors,
} from "@dnd-kit/core";
import { type ReactNode, useEffect, useRef, useState } from "react";
import type { BlockKind, RowPlace } from "../../../api/types";
import { askRowPlaces } from "../askDesk";
import type { BlockPlace } from "../useDesk";
import { useDeskContext } from "../useDesk";
import classes from "./DeskDrag.module.css";
import { type Dragged, putDown, type Target, whyNot } from "./dragged";
import { nextPlace } from "./nextPlace";
import { inProof } from "./proofPlaces";

// Whoever drags by pointer means the place under it; by keyboard the nearest one.
const under: CollisionDetection = (args) => (args.pointerCoordinates ? pointerWithin(args) : closestCenter(args));

const instructions = {
  draggable: "Press Space to pick it up, the arrow keys to move it, Space to put it down, Escape to leave it where it was.",
};

interface Props {
  children: ReactNode;
  /** Puts a new block in. */
  onInsert: (place: BlockPlace, entry: BlockKind) => void;
  /** Where a block would go, while it is dragged over a proof. */
  onPlace: (place?: BlockPlace) => void;
}

/**
 * Carries rows, zones, blocks and pictures over the desk: by mouse, touch and keyboard, told to those who do not see it.
 * What does not fit where it is says why before it is put down.
 */
export function DeskDrag({ children, onInsert, onPlace }: Props) {
  const { store } = useDeskContext();
  const [dragged, setDragged] = useState<Dragged>();
  const [reason, setReason] = useState<string>();
  const places = useRef<readonly RowPlace[]>([]);
  const overProof = useRef<Target>(undefined);
  /** The place that took what was put down last. */
  const taken = useRef<Target>(undefined);
  const pointer = usePointer();
  const sensors = useSensors(
    useSensor(MouseSensor, { activationConstraint: { distance: 6 } }),
    useSensor(TouchSensor, { activationConstraint: { delay: 220, tolerance: 8 } }),
    useSensor(KeyboardSensor, {
      coordinateGetter: nextPlace,
      keyboardCodes: { start: ["Space"], cancel: ["Escape"], end: ["Space", "Enter"] },
    }),
  );
  const of = (data?: { current?: object }) => data?.current as Dragged | undefined;
  const targetOf = (over: { data: { current?: object } } | null) => overProof.current ?? (over?.data.current as Target | undefined);
  const refusal = (one: Dragged, target?: Target) => (target ? whyNot(one, target, store.snapshot(), places.current) : null);

  const told: Announcements = {
    onDragStart: ({ active }) => `${of(active.data)?.name} is picked up. ${instructions.draggable}`,
    onDragOver: ({ active, over }) => {
      const [one, target] = [of(active.data), targetOf(over)];
      const why = one && refusal(one, target);
      return one && target && why !== null ? `${one.name}, ${target.name}${why ? `. ${why}` : ""}` : undefined;
    },
    onDragEnd: ({ active }) => {
      const name = of(active.data)?.name;
      return taken.current ? `${name} is put down, ${taken.current.name}.` : `${name} stays where it was.`;
    },
    onDragCancel: ({ active }) => `${of(active.data)?.name} stays where it was.`,
  };

  const look = (one: Dragged | undefined, activator: Event) => {
    const found = one && activator instanceof MouseEvent ? inProof(...pointer.current, one, store.snapshot()) : undefined;
    overProof.current = found;
    return found;
  };
  const onMove = ({ activatorEvent, over, active }: DragMoveEvent) => {
    const one = of(active.data);
    const found = look(one, activatorEvent);
    onPlace(found?.kind === "column" ? found.place : undefined);
    setReason((one && refusal(one, targetOf(over))) ?? undefined);
  };
  const done = () => {
    setDragged(undefined);
    setReason(undefined);
    onPlace(undefined);
    overProof.current = undefined;
  };
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={under}
      accessibility={{ announcements: told, screenReaderInstructions: instructions }}
      onDragStart={({ active }) => {
        const one = of(active.data);
        setDragged(one);
        places.current = [];
        if (one?.kind === "row" || one?.kind === "zone") {
          askRowPlaces(store.kind, store.id, one.id).then(
            (answer) => {
              places.current = answer;
            },
            // It is decided when it is put down.
            () => undefined,
          );
        }
      }}
      onDragMove={onMove}
      onDragCancel={done}
      onDragEnd={({ active, over, activatorEvent }) => {
        const one = of(active.data);
        look(one, activatorEvent);
        const target = targetOf(over);
        const why = one && refusal(one, target);
        taken.current = one && why === undefined ? target : undefined;
        done();
        if (one && target && why !== null) {
          why ? store.say(why) : putDown(one, target, store, onInsert);
        }
      }}
    >
      <div className={classes.carried} data-dragging={dragged !== undefined}>
        {children}
      </div>
      <DragOverlay dropAnimation={null} className={classes.overlay} style={{ width: "max-content", height: "auto" }}>
        {dragged && (
          <p className={classes.label} data-refused={reason !== undefined}>
            <b>{dragged.name}</b>
            {reason && <span>{reason}</span>}
          </p>
        )}
      </DragOverlay>
    </DndContext>
  );
}

/** Where the mouse is, also when it is let go before the last of its way was drawn. */
function usePointer() {
  const at = useRef<[x: number, y: number]>([0, 0]);
  useEffect(() => {
    const note = ({ clientX, clientY }: MouseEvent) => {
      at.current = [clientX, clientY];
    };
    window.addEventListener("mousemove", note, true);
    return () => window.removeEventListener("mousemove", note, true);
  }, []);
  return at;
}
