import { memo } from "react";
import type { DeskRow, Severity } from "../../api/types";
import { SeverityMark } from "../../shared/SeverityMark";
import { blocksOf } from "./DeskStore";
import { RowSchematic } from "./RowSchematic";
import classes from "./RunningOrder.module.css";
import { useDeskContext } from "./useDesk";

interface Props {
  row: DeskRow;
  zone?: string;
  severity?: Severity;
  count: number;
  chosen: boolean;
  droppable: boolean;
  onDropRow: (dragged: string) => void;
}

const shownOn = { everywhere: "", "phone-only": " · phones only", "desktop-only": " · desktops only" };

/** One row of the order. Drawn anew only when something of its own changed: there may be many, and typing is frequent. */
export const OrderRow = memo(
  function OrderRow({ row, severity, count, chosen, droppable, onDropRow }: Props) {
    const { choose } = useDeskContext();
    const open = blocksOf(row).some((b) => b.fields.length > 0 && b.content.allowed) || row.shape.allowed;
    return (
      <button
        type="button"
        id={`order-${row.id}`}
        className={`plain ${classes.row}`}
        data-rule={open ? "open" : "sealed"}
        aria-current={chosen}
        tabIndex={chosen ? 0 : -1}
        draggable={row.move.allowed}
        onClick={() => choose(row.id)}
        onFocus={() => chosen || choose(row.id)}
        onDragStart={(e) => e.dataTransfer.setData("text/row", row.id)}
        onDragOver={droppable ? (e) => e.preventDefault() : undefined}
        onDrop={droppable ? (e) => onDropRow(e.dataTransfer.getData("text/row")) : undefined}
      >
        <RowSchematic row={row} />
        <span className={classes.words}>
          <span className={classes.name}>{row.name}</span>
          <span className={classes.note}>
            {row.rowKind.replace("-", " ")}
            {shownOn[row.shown]}
            {!open && " · sealed"}
            {severity && (
              <>
                {" · "}
                <SeverityMark severity={severity} />
                {count}
              </>
            )}
          </span>
        </span>
      </button>
    );
  },
  (a, b) =>
    a.row === b.row &&
    a.zone === b.zone &&
    a.severity === b.severity &&
    a.count === b.count &&
    a.chosen === b.chosen &&
    a.droppable === b.droppable,
);
