import type { DeskBlock, DeskRow } from "../../../api/types";
import type { Desk } from "../DeskStore";
import { FieldEditor } from "./fields/FieldEditor";
import classes from "./RowSheet.module.css";

/** The fields of one piece with its instruction and findings. Headed: its name stands above them already. */
export function BlockFields({ row, block, desk, headed }: { row: DeskRow; block: DeskBlock; desk: Desk; headed?: boolean }) {
  const findings = desk.findings.filter((f) => f.place.row === row.id && f.place.piece === block.id);
  const named = new Set(block.fields.map((f) => f.name));
  return (
    <>
      {block.instruction && <p className={classes.hint}>{block.instruction}</p>}
      {block.fields.map((field, index) => (
        <FieldEditor
          key={field.name}
          row={row.id}
          block={block}
          field={field}
          headed={headed}
          // What is about no field stands at the first.
          findings={findings.filter((f) => f.place.field === field.name || (index === 0 && !named.has(f.place.field ?? "")))}
        />
      ))}
    </>
  );
}
