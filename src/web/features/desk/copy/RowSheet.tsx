import { useState } from "react";
import { Link } from "react-router";
import type { DeskRow } from "../../../api/types";
import { newId } from "../../../shared/ids";
import { lazily } from "../../../shared/lazily";
import { trimmed, useLiveField, useTypedField } from "../../../shared/useLiveField";
import { RowKindSelect } from "../../rows/RowKindSelect";
import { useIs } from "../../session/useSession";
import { askRow } from "../askDesk";
import { ColumnGroup } from "../blocks/ColumnGroup";
import { blocksOf, type Desk } from "../DeskStore";
import { moveBy, neighbour } from "../order/arranging";
import { useDeskContext } from "../useDesk";
import { BlockFields } from "./BlockFields";
import { LineInput } from "./fields/LineInput";
import { NotStored } from "./fields/NotStored";
import { LockedNote } from "./LockedNote";
import classes from "./RowSheet.module.css";

const SaveRowDialog = lazily(() => import("../../library/SaveRowDialog"));

/**
 * The fields of a row, top to bottom, each with its instruction, meter and findings; where it may be shaped, its pieces too.
 * Only words: nothing about arranging it.
 */
export function RowSheet({ row, desk, onlyWords }: { row: DeskRow; desk: Desk; onlyWords?: boolean }) {
  const { store } = useDeskContext();
  const blocks = blocksOf(row).filter((b) => b.fields.length > 0);
  const sealed = blocks.filter((b) => !b.content.allowed);

  return (
    <section aria-label={row.name}>
      <h2 className={classes.title}>{row.name}</h2>
      {desk.kind === "template" && row.master != null && <Placed row={row} />}
      {!onlyWords && <RowActs row={row} desk={desk} />}
      {desk.kind === "template" && row.master == null && !desk.asAuthor && <OwnRow row={row} />}
      {row.instruction && <p className={classes.instruction}>{row.instruction}</p>}
      {row.shape.allowed && !onlyWords ? (
        row.columns.map((column, index) => <ColumnGroup key={column.id} row={row} column={column} index={index} desk={desk} />)
      ) : (
        <>
          {blocks
            .filter((b) => b.content.allowed)
            .map((block) => (
              <fieldset key={block.id} className={classes.block}>
                <legend className="only-heard">{block.name}</legend>
                <BlockFields row={row} block={block} desk={desk} />
              </fieldset>
            ))}
          {blocks.length === 0 && <p className="soft">There is nothing to fill in here.</p>}
        </>
      )}
      {store.kind === "emails" && <LockedNote row={row} sealed={sealed} />}
      {store.kind !== "emails" && sealed.length > 0 && <LockedNote row={row} sealed={sealed} />}
    </section>
  );
}

/** A saved row where it stands in a template. */
function Placed({ row }: { row: DeskRow }) {
  return (
    <p className={classes.hint}>
      Saved row, release {row.release}
      {row.newest && row.release && row.newest > row.release ? `; release ${row.newest} is newer` : ""}. Its blocks are arranged in{" "}
      <Link to={`/rows/${row.master}`}>the row itself</Link>.
    </p>
  );
}

/** What a row of a template's own is called, and what it is for. */
function OwnRow({ row }: { row: DeskRow }) {
  const { choice } = useDeskContext();
  const [name, setName, refused] = useTypedField(
    row.name,
    `${row.id}//name`,
    (next) => ({ kind: "set-piece-name", row: row.id, piece: null, name: next.trim() || null }),
    trimmed,
  );
  const [rowKind, setRowKind] = useLiveField(row.rowKind, `${row.id}/row-kind`, (kind) => ({
    kind: "set-row-kind",
    rowKind: kind,
    row: row.id,
  }));
  return (
    <>
      <div className={classes.block}>
        <LineInput
          id={`${row.id}-name`}
          label="Name of the row"
          value={name}
          asked={choice.row === row.id && choice.field === "name" && !choice.piece ? choice.asked : 0}
          onChange={setName}
        />
        <NotStored reason={refused} />
      </div>
      <RowKindSelect className={classes.pick} value={rowKind} onChange={setRowKind} />
    </>
  );
}

function RowActs({ row, desk }: { row: DeskRow; desk: Desk }) {
  const { store, choose } = useDeskContext();
  const [saving, setSaving] = useState(false);
  const makes = useIs("lead", "designer");
  const maySave = makes && desk.kind !== "row" && !desk.asAuthor;
  const act = (name: string, allowance: { allowed: boolean; reason?: string | null }, run: () => void) => (
    <button
      type="button"
      className="plain underlined"
      // It takes the focus and says why not: what is disabled is passed over by the keyboard.
      aria-disabled={!allowance.allowed}
      title={allowance.allowed ? undefined : (allowance.reason ?? undefined)}
      onClick={allowance.allowed ? run : () => store.say(allowance.reason ?? "")}
    >
      {name}
    </button>
  );
  const remove = () => {
    choose(neighbour(desk, row.id));
    store.edit({ kind: "remove-row", row: row.id });
  };
  // What is detached is the row as it stands: the server lays it out, and takes it back in the same shape.
  const detach = async () => {
    try {
      // As it stands with all that was typed into it.
      await store.stored();
      store.edit({ kind: "detach-row", row: row.id, own: await askRow(store.kind, desk.id, row.id, true) });
    } catch (problem) {
      store.say((problem as Error).message);
    }
  };
  const moves = row.move.allowed || row.duplicate.allowed || row.remove.allowed;
  if (desk.kind === "row" || (!moves && !row.detach.allowed && !maySave)) {
    return null;
  }
  return (
    <>
      <p className={classes.acts}>
        {act("Move up", row.move, () => moveBy(store, desk, row, -1))}
        {act("Move down", row.move, () => moveBy(store, desk, row, 1))}
        {act("Duplicate", row.duplicate, () => store.edit({ kind: "duplicate-row", row: row.id, copy: newId() }))}
        {act("Remove", row.remove, remove)}
        {row.detach.allowed && act("Unlink from the library", row.detach, detach)}
        {maySave && act("Save to the library", { allowed: true }, () => setSaving(true))}
      </p>
      {saving && <SaveRowDialog row={row} desk={desk} onClose={() => setSaving(false)} />}
    </>
  );
}
