import { Checkbox, NumberInput, Select } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { queries } from "../../../api/queries";
import type { Aspect, DeskRules, DeskZone, Lock, Zone } from "../../../api/types";
import { toggled, useLiveField, useTypedField } from "../../../shared/useLiveField";
import { useRowKinds } from "../../rows/useRowKinds";
import { LineInput } from "../copy/fields/LineInput";
import { NotStored } from "../copy/fields/NotStored";
import classes from "../copy/RowSheet.module.css";
import type { Desk } from "../DeskStore";
import { LockChoice } from "../rules/LockChoice";
import { useDeskContext } from "../useDesk";
import { moveZoneBy, neighbour } from "./arranging";

/** What a zone takes and how much of it. */
export function ZoneSheet({ zone, desk }: { zone: DeskZone; desk: Desk }) {
  const { store, choose, choice } = useDeskContext();
  const kinds = useRowKinds();
  const [terms, setTerms, refused] = useTypedField<Zone>(zone.terms as Zone, `${zone.id}/zone`, (next) => ({
    kind: "set-zone",
    zone: next,
  }));
  const set = (change: Partial<Zone>) => setTerms((now) => ({ ...now, ...change }));
  const number = (name: "least" | "most", label: string) => (
    <NumberInput
      label={label}
      min={name === "least" ? 0 : 1}
      max={60}
      allowDecimal={false}
      value={terms[name]}
      onChange={(next) => set({ [name]: Number(next) || 0 })}
    />
  );
  const accepts = (terms.accepts ?? []).map(kinds.current);
  const toggle = (kind: string) => setTerms((now) => ({ ...now, accepts: toggled((now.accepts ?? []).map(kinds.current), kind) }));
  const remove = () => {
    choose(neighbour(desk, zone.id));
    store.edit({ kind: "remove-zone", zone: zone.id });
  };
  return (
    <section aria-label={zone.name}>
      <h2 className={classes.title}>{zone.name}</h2>
      <p className={classes.acts}>
        <button type="button" className="plain underlined" onClick={() => moveZoneBy(store, desk, zone.id, -1)}>
          Move up
        </button>
        <button type="button" className="plain underlined" onClick={() => moveZoneBy(store, desk, zone.id, 1)}>
          Move down
        </button>
        <button type="button" className="plain underlined" onClick={remove}>
          Remove
        </button>
      </p>
      <p className={classes.instruction}>Authors put rows here. What stands in it now is what a new email begins with.</p>
      <LineInput
        id={`${zone.id}-name`}
        label="Name"
        value={terms.name ?? ""}
        asked={choice.row === zone.id && choice.field === "name" ? choice.asked : 0}
        onChange={(name) => set({ name })}
      />
      <NotStored reason={refused} />
      <div className={classes.figures}>
        {number("least", "Least rows")}
        {number("most", "Most rows")}
      </div>
      <fieldset className={classes.checks}>
        <legend>Row kinds allowed here</legend>
        {kinds.offered.map((kind) => (
          <Checkbox key={kind.value} label={kind.label} checked={accepts.includes(kind.value)} onChange={() => toggle(kind.value)} />
        ))}
      </fieldset>
      <NamedRows rows={terms.rows ?? []} onChange={(rows) => set({ rows })} />
      {accepts.length === 0 && (terms.rows ?? []).length === 0 && (
        <p className={classes.hint}>None chosen: rows of any kind are allowed.</p>
      )}
      <Checkbox
        className={classes.tick}
        label="Authors may build rows of their own here, and unlink saved ones"
        checked={terms.ownRows ?? false}
        onChange={(e) => set({ ownRows: e.currentTarget.checked })}
      />
      <div className={classes.block}>
        <LineInput
          id={`${zone.id}-instruction`}
          label="Instruction"
          value={terms.instruction ?? ""}
          onChange={(text) => set({ instruction: text || null })}
        />
      </div>
      {zone.rules?.locks.map((lock) => (
        <ZoneLock key={lock.aspect} zone={zone.id} lock={lock} />
      ))}
    </section>
  );
}

const lockLabels: Record<Aspect, string> = {
  arrangement: "Who adds and moves rows",
  content: "Who writes in its rows",
  look: "Who chooses how its rows look",
};

/** What a zone locks, all rows in it have; they can only be locked tighter. */
function ZoneLock({ zone, lock }: { zone: string; lock: DeskRules["locks"][number] }) {
  const [own, set] = useLiveField<Lock | null>(lock.own, `${zone}/lock/${lock.aspect}`, (next) => ({
    kind: "set-lock",
    row: zone,
    piece: null,
    aspect: lock.aspect,
    lock: next,
  }));
  return (
    <div className={classes.block}>
      <LockChoice label={lockLabels[lock.aspect]} lock={{ ...lock, own }} onChange={set} />
    </div>
  );
}

/** Saved rows that the zone takes whatever their kind. */
function NamedRows({ rows, onChange }: { rows: string[]; onChange: (rows: string[]) => void }) {
  const all = useQuery(queries.masters);
  const known = all.data?.filter((master) => master.row) ?? [];
  return (
    <div className={classes.serves}>
      {rows.map((id) => (
        <p key={id} className={classes.named}>
          {known.find((r) => r.id === id)?.name ?? "A saved row"}{" "}
          <button type="button" className="plain underlined" onClick={() => onChange(rows.filter((r) => r !== id))}>
            Remove
          </button>
        </p>
      ))}
      <Select
        label="Saved rows by name"
        placeholder="Find a saved row"
        searchable
        limit={50}
        nothingFoundMessage="No saved row of that name has a release."
        value={null}
        data={known.filter((r) => r.release > 0 && !rows.includes(r.id)).map((r) => ({ value: r.id, label: r.name }))}
        onChange={(id) => id && onChange([...rows, id])}
      />
    </div>
  );
}
