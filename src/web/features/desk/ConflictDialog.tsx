import { Button, Modal } from "@mantine/core";
import type { Edit, FieldValue } from "../../api/types";
import classes from "./ConflictDialog.module.css";
import type { Conflict } from "./DeskStore";

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
      return showValue(edit.value);
    case "set-look":
    case "set-detail":
      return edit.value;
    default:
      return "as the template has it";
  }
}

function showValue(value: FieldValue): string {
  switch (value.kind) {
    case "words":
      return value.text;
    case "prose":
      return (value.text.paragraphs ?? []).map((p) => (p.runs ?? []).map((r) => r.text).join("")).join("\n");
    case "link":
      return value.href;
    case "picture":
      return "another picture";
    case "flag":
      return value.on ? "yes" : "no";
    case "cells":
      return value.rows.map((r) => r.join(", ")).join("\n");
    case "links":
      return value.links.map((l) => l.name).join(", ");
    case "entries":
      return value.items.map((item) => Object.values(item).map(showValue).join(", ")).join("\n");
    case "moment":
      return [value.start, value.end].filter(Boolean).join(" to ");
    case "code":
      return value.html;
  }
}
