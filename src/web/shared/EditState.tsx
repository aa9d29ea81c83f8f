import type { Move } from "./EditQueue";
import classes from "./EditState.module.css";
import { clockTime } from "./format";
import type { Fault } from "./useEditedDocument";

interface MovesProps {
  /** When it was stored last. */
  keptAt: string;
  canUndo: boolean;
  canRedo: boolean;
  offline: boolean;
  move: (which: Move) => void;
}

/** Whether all is stored, and the way back and forth. */
export function EditMoves({ keptAt, canUndo, canRedo, offline, move }: MovesProps) {
  return (
    <span className={classes.moves}>
      <span role="status" className="soft">
        {offline ? "Offline, waiting" : `Saved ${clockTime(keptAt)}`}
      </span>
      <button type="button" className="plain" aria-label="Undo" disabled={!canUndo} onClick={() => move("undo")}>
        ↶
      </button>
      <button type="button" className="plain" aria-label="Redo" disabled={!canRedo} onClick={() => move("redo")}>
        ↷
      </button>
    </span>
  );
}

interface FaultProps {
  fault?: Fault;
  /** A step that could not be taken back or brought again. */
  stuck?: Move;
  move: (which: Move) => void;
}

/** What was refused, and where it was an undo the way past it. */
export function EditFault({ fault, stuck, move }: FaultProps) {
  return (
    fault && (
      <p role="alert" className={classes.fault}>
        ■ {fault.message}{" "}
        {stuck && (
          <button type="button" className="plain underlined" onClick={() => move(stuck)}>
            {stuck === "undo" ? "Skip it and undo what was before" : "Skip it and redo what comes next"}
          </button>
        )}
      </p>
    )
  );
}
