import { Button, Modal } from "@mantine/core";
import type { Edit } from "../../api/types";
import classes from "./ConflictDialog.module.css";
import type { Conflict } from "./DeskStore";
import { wordsOfEdit } from "./wordsOf";

interface Props {
  conflict: Conflict;
  /** How many there are with this one. */
  count: number;
  onSettle: (conflict: Conflict, edit?: Edit) => void;
  /** Closed without a choice: both values wait. */
  onLater: () => void;
}

/** Two people changed one place: both values, and the choice. Nothing is lost by closing it. */
export function ConflictDialog({ conflict, count, onSettle, onLater }: Props) {
  return (
    <Modal
      opened
      onClose={onLater}
      title={count > 1 ? `Changed by two at once, 1 of ${count}` : "Changed by two at once"}
      closeButtonProps={{ "aria-label": "Choose later" }}
    >
      <p>{conflict.message}</p>
      <dl className={classes.values}>
        <dt>Theirs, which stands now</dt>
        <dd>{wordsOfEdit(conflict.theirs)}</dd>
        <dt>Yours</dt>
        <dd>{wordsOfEdit(conflict.yours)}</dd>
      </dl>
      <div className={classes.choices}>
        <Button variant="default" onClick={() => onSettle(conflict)}>
          Keep theirs
        </Button>
        <Button onClick={() => onSettle(conflict, conflict.yours)}>Use yours</Button>
      </div>
    </Modal>
  );
}
