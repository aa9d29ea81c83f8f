import { useDraggable, useDroppable } from "@dnd-kit/core";
import { type MouseEvent, memo } from "react";
import type { DeskRow, Severity } from "../../../api/types";
import { countOf } from "../../../shared/format";
import { SeverityMark } from "../../../shared/SeverityMark";
import { useRowKinds } from "../../rows/useRowKinds";
import { blocksOf } from "../DeskStore";
import type { Dragged, Target } from "../drag/dragged";
import { useDeskContext } from "../useDesk";
import { useDropMark } from "./dropMark";
import { RowSchematic } from "./RowSchematic";
import classes from "./RunningOrder.module.css";

interface Props {
  row: DeskRow;
  zone?: string;
  severity?: Severity;
  count: number;
  /** Fields that are still to fill. */
  toFill: number;
  chosen: boolean;
  /** One of several. */
  picked: boolean;
  /** Names of those who are at it too. */
  here: string;
  onPick: (event: MouseEvent) => void;
  /** Whether others are put down before it. */
  droppable: boolean;
}

const shownOn = { everywhere: "", "phone-only": " · phones only", "desktop-only": " · desktops only" };

/** One row of the order, to choose and to carry elsewhere. */
export function OrderRow(props: Props) {
  const { row, zone, chosen, picked, droppable, onPick } = props;
  const { choose } = useDeskContext();
  const dragged: Dragged = { kind: "row", id: row.id, name: row.name };
  const before: Target = { kind: "order", zone, before: row.id, name: `before ${row.name}` };
  const drag = useDraggable({ id: `row-${row.id}`, data: dragged, disabled: !row.move.allowed });
  const drop = useDroppable({ id: `before-${row.id}`, data: before, disabled: !droppable });
  const mark = useDropMark(drop);
  return (
    <button
      type="button"
      role="option"
      id={`order-${row.id}`}
      ref={(node) => {
        drag.setNodeRef(node);
        drop.setNodeRef(node);
      }}
      className={`plain ${classes.row}`}
      data-rule={isOpen(row) ? "open" : "sealed"}
      aria-selected={chosen || picked}
      aria-current={chosen}
      tabIndex={chosen ? 0 : -1}
      data-picked={picked}
      data-drop={mark}
      data-carried={drag.isDragging}
      {...drag.listeners}
      // With a key held the click picks, and what is chosen stays.
      onMouseDown={(e) => {
        if (e.ctrlKey || e.metaKey || e.shiftKey) {
          e.preventDefault();
        } else {
          drag.listeners?.onMouseDown?.(e);
        }
      }}
      onClick={onPick}
      onFocus={() => chosen || choose(row.id)}
    >
      <RowWords {...props} />
    </button>
  );
}

/** Who sees it, where not everyone does. */
function conditionOf(row: DeskRow): string {
  const parts = blocksOf(row).filter((b) => b.condition).length;
  const some = parts > 0 ? `${countOf(parts, "block")} for some` : "";
  return row.condition ? `for ${row.condition.readers}${some && `, ${some}`}` : some;
}

const isOpen = (row: DeskRow) => blocksOf(row).some((b) => b.fields.length > 0 && b.content.allowed) || row.shape.allowed;

/** Drawn anew only when something of its own changed: there may be many, and typing is frequent. */
const RowWords = memo(
  function RowWords({ row, severity, count, toFill, picked, here }: Props) {
    const kinds = useRowKinds();
    return (
      <>
        <RowSchematic row={row} />
        <span className={classes.words}>
          <span className={classes.name}>
            {row.name}
            {here && <span className={classes.here}>{here} is here</span>}
          </span>
          <span className={classes.note}>
            {kinds.nameOf(row.rowKind)}
            {shownOn[row.shown]}
            {!isOpen(row) && " · locked"}
            {conditionOf(row) && <span className={classes.readers}>{conditionOf(row)}</span>}
            {picked && <span className="only-heard"> picked</span>}
            {toFill > 0 && ` · ${toFill} to fill`}
            {severity && (
              <>
                {" · "}
                <SeverityMark severity={severity} />
                {count}
              </>
            )}
          </span>
        </span>
      </>
    );
  },
  (a, b) =>
    a.row === b.row &&
    a.severity === b.severity &&
    a.count === b.count &&
    a.toFill === b.toFill &&
    a.picked === b.picked &&
    a.here === b.here,
);
