import { useDraggable, useDroppable } from "@dnd-kit/core";
import type { ReactNode } from "react";
import type { DeskZone } from "../../../api/types";
import type { Dragged, Target } from "../drag/dragged";
import { useDeskContext } from "../useDesk";
import { useDropMark } from "./dropMark";
import classes from "./RunningOrder.module.css";

interface Props {
  zone: DeskZone;
  chosen: boolean;
  onAdd: () => void;
  /** Its rows. */
  children: ReactNode;
}

/** A zone with its rows; where it is made, it is chosen and carried like a row. */
export function OrderZone({ zone, chosen, onAdd, children }: Props) {
  const atEnd: Target = { kind: "order", zone: zone.id, name: `at the end of ${zone.name}` };
  const end = useDroppable({ id: `end-${zone.id}`, data: atEnd });
  const mark = useDropMark(end);
  return (
    <section className={classes.zone} aria-label={zone.name}>
      <ZoneTitle zone={zone} chosen={chosen} />
      {children}
      {zone.add.allowed ? (
        <button type="button" ref={end.setNodeRef} className={`plain ${classes.add}`} data-drop={mark} onClick={onAdd}>
          Add a row <kbd>/</kbd>
        </button>
      ) : (
        <p ref={end.setNodeRef} className={classes.full} data-drop={mark}>
          {zone.add.reason}
        </p>
      )}
    </section>
  );
}

/** What it is called and takes. */
function ZoneTitle({ zone, chosen }: { zone: DeskZone; chosen: boolean }) {
  const { choose } = useDeskContext();
  const dragged: Dragged = { kind: "zone", id: zone.id, name: zone.name };
  const before: Target = { kind: "order", before: zone.id, name: `before ${zone.name}` };
  const drag = useDraggable({ id: `zone-${zone.id}`, data: dragged, disabled: !zone.terms });
  const drop = useDroppable({ id: `before-${zone.id}`, data: before, disabled: !zone.terms });
  const mark = useDropMark(drop);
  const words = (
    <>
      <span>
        {zone.name}, {zone.least === zone.most ? zone.most : `${zone.least} to ${zone.most}`}
      </span>
      <span>{zone.rows.length}</span>
    </>
  );
  return zone.terms ? (
    <button
      type="button"
      role="option"
      id={`order-${zone.id}`}
      ref={(node) => {
        drag.setNodeRef(node);
        drop.setNodeRef(node);
      }}
      className={`plain ${classes.zoneTitle} ${classes.zoneChoice}`}
      aria-selected={chosen}
      tabIndex={chosen ? 0 : -1}
      data-drop={mark}
      {...drag.listeners}
      onClick={() => choose(zone.id)}
      onFocus={() => chosen || choose(zone.id)}
    >
      {words}
    </button>
  ) : (
    <p className={classes.zoneTitle}>{words}</p>
  );
}
