import { Button, Modal } from "@mantine/core";
import type { Edit } from "../../api/types";
import classes from "./ConflictDialog.module.css";
import type { Conflict } from "./DeskStore";
import { wordsOf } from "./wordsOf";

/** Two people changed one place: both values, and the choice. Nothing is lost by closing it. */
export function ConflictDialog({ conflict, onSettle }: { conflict: Conflict; onSettle: (edit?: Edit) => void }) {
  return (
    <Modal opened onClose={() => onSettle()} title="Changed by two at once" closeButtonProps={{ "aria-label": "Keep theirs" }}>
      <p>{conflict.message}</p>
      <dl className={classes.values}>
        <dt>Theirs, which stands now</dt>
        <dd>{show(conflict.theirs)}</dd>
        <dt>Yours</dt>
        <dd>{show(conflict.yours)}</dd>
      </dl>
      <div className={classes.choices}>
        <Button variant="default" onClick={() => onSettle()}>
          Keep theirs
        </Button>
        <Button onClick={() => onSettle(conflict.yours)}>Use yours</Button>
      </div>
    </Modal>
  );
}

function show(edit: Edit): string {
  switch (edit.kind) {
    case "set-fill":
      return wordsOf(edit.value);
    case "set-look":
    case "set-detail":
      return edit.value;
    default:
      return "as the template has it";
  }
}
