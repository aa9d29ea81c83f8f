import type { DeskRow } from "../../api/types";
import { newId } from "../../shared/ids";
import { moveBy, neighbour } from "./arranging";
import { blocksOf, type Desk } from "./DeskStore";
import { FieldEditor } from "./fields/FieldEditor";
import classes from "./RowSheet.module.css";
import { SealedNote } from "./SealedNote";
import { useDeskContext } from "./useDesk";

/** The fields of a row, top to bottom, each with its instruction, meter and findings. */
export function RowSheet({ row, desk }: { row: DeskRow; desk: Desk }) {
  const { store, choose } = useDeskContext();
  const blocks = blocksOf(row).filter((b) => b.fields.length > 0);
  const open = blocks.filter((b) => b.content.allowed);
  const sealed = blocks.filter((b) => !b.content.allowed);
  const findings = desk.findings.filter((f) => f.place.row === row.id);

  const remove = () => {
    choose(neighbour(desk, row.id));
    store.edit({ kind: "remove-row", row: row.id });
  };

  return (
    <section aria-label={row.name}>
      <h2 className={classes.title}>{row.name}</h2>
      {(row.move.allowed || row.duplicate.allowed || row.remove.allowed) && (
        <p className={classes.acts}>
          <button type="button" className="plain underlined" disabled={!row.move.allowed} onClick={() => moveBy(store, desk, row, -1)}>
            Move up
          </button>
          <button type="button" className="plain underlined" disabled={!row.move.allowed} onClick={() => moveBy(store, desk, row, 1)}>
            Move down
          </button>
          <button
            type="button"
            className="plain underlined"
            disabled={!row.duplicate.allowed}
            title={row.duplicate.reason ?? undefined}
            onClick={() => store.edit({ kind: "duplicate-row", row: row.id, copy: newId() })}
          >
            Duplicate
          </button>
          <button
            type="button"
            className="plain underlined"
            disabled={!row.remove.allowed}
            title={row.remove.reason ?? undefined}
            onClick={remove}
          >
            Remove
          </button>
        </p>
      )}
      {row.instruction && <p className={classes.instruction}>{row.instruction}</p>}
      {open.map((block) => (
        <fieldset key={block.id} className={classes.block}>
          <legend className="only-heard">{block.name}</legend>
          {block.instruction && <p className={classes.hint}>{block.instruction}</p>}
          {block.fields.map((field) => (
            <FieldEditor
              key={field.name}
              row={row.id}
              block={block}
              field={field}
              findings={findings.filter(
                (f) => f.place.piece === block.id && (f.place.field === field.name || (!f.place.field && field === block.fields[0])),
              )}
            />
          ))}
        </fieldset>
      ))}
      {blocks.length === 0 && <p className="soft">There is nothing to fill in here.</p>}
      <SealedNote row={row} sealed={sealed} />
    </section>
  );
}
