import { type MouseEvent, memo } from "react";
import type { DeskRow, Severity } from "../../../api/types";
import { SeverityMark } from "../../../shared/SeverityMark";
import { kindLabel } from "../../rows/rowKinds";
import { blocksOf } from "../DeskStore";
import { useDeskContext } from "../useDesk";
import { RowSchematic } from "./RowSchematic";
import classes from "./RunningOrder.module.css";
import { carryRow, takesRow } from "./rowDrag";

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
  droppable: boolean;
  onDropRow: (dragged: string) => void;
}

const shownOn = { everywhere: "", "phone-only": " · phones only", "desktop-only": " · desktops only" };

/** One row of the order. Drawn anew only when something of its own changed: there may be many, and typing is frequent. */
export const OrderRow = memo(
  function OrderRow({ row, severity, count, toFill, chosen, picked, here, droppable, onPick, onDropRow }: Props) {
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
        data-picked={picked}
        // With a key held the click picks, and what is chosen stays.
        onMouseDown={(e) => (e.ctrlKey || e.metaKey || e.shiftKey) && e.preventDefault()}
        onClick={onPick}
        onFocus={() => chosen || choose(row.id)}
        onDragStart={(e) => carryRow(e, row.id)}
        {...(droppable && takesRow(onDropRow))}
      >
        <RowSchematic row={row} />
        <span className={classes.words}>
          <span className={classes.name}>
            {row.name}
            {here && <span className={classes.here}>{here} is here</span>}
          </span>
          <span className={classes.note}>
            {kindLabel(row.rowKind)}
            {shownOn[row.shown]}
            {!open && " · locked"}
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
      </button>
    );
  },
  (a, b) =>
    a.row === b.row &&
    a.zone === b.zone &&
    a.severity === b.severity &&
    a.count === b.count &&
    a.toFill === b.toFill &&
    a.chosen === b.chosen &&
    a.picked === b.picked &&
    a.here === b.here &&
    a.droppable === b.droppable,
);
