import { useQuery } from "@tanstack/react-query";
import { api, ask } from "../../api/client";
import type { DeskZone, RowKind, Zone } from "../../api/types";
import { rowKinds } from "../rows/rowKinds";
import { moveZoneBy, neighbour } from "./arranging";
import type { Desk } from "./DeskStore";
import fieldClasses from "./fields/fields.module.css";
import { LineInput } from "./fields/LineInput";
import { useKeptValue } from "./fields/useKeptValue";
import { LockChoice } from "./LockChoice";
import classes from "./RowSheet.module.css";
import { useDeskContext } from "./useDesk";

/** What a zone takes and how much of it. */
export function ZoneSheet({ zone, desk }: { zone: DeskZone; desk: Desk }) {
  const { store, choose, choice } = useDeskContext();
  const [terms, setTerms] = useKeptValue<Zone>(zone.terms as Zone, `${zone.id}/zone`, (next) =>
    store.edit({ kind: "set-zone", zone: next }),
  );
  const set = (change: Partial<Zone>) => setTerms({ ...terms, ...change });
  const number = (name: "least" | "most", label: string) => (
    <label className={classes.figure}>
      {label}
      <input
        type="number"
        min={name === "least" ? 0 : 1}
        max={60}
        value={terms[name]}
        onChange={(e) => set({ [name]: e.currentTarget.valueAsNumber || 0 })}
      />
    </label>
  );
  const accepts = terms.accepts ?? [];
  const toggle = (kind: RowKind) => set({ accepts: accepts.includes(kind) ? accepts.filter((k) => k !== kind) : [...accepts, kind] });
  const remove = () => {
    choose(neighbour(desk, zone.id));
    store.edit({ kind: "remove-zone", zone: zone.id });
  };
  const lock = zone.rules?.locks[0];
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
      <div className={classes.figures}>
        {number("least", "Least rows")}
        {number("most", "Most rows")}
      </div>
      <fieldset className={classes.checks}>
        <legend>Takes rows of kind</legend>
        {rowKinds.map((kind) => (
          <label key={kind.value}>
            <input type="checkbox" checked={accepts.includes(kind.value)} onChange={() => toggle(kind.value)} />
            {kind.label}
          </label>
        ))}
      </fieldset>
      <NamedRows rows={terms.rows ?? []} onChange={(rows) => set({ rows })} />
      {accepts.length === 0 && (terms.rows ?? []).length === 0 && <p className={classes.hint}>None chosen: it takes rows of any kind.</p>}
      <label className={fieldClasses.flag}>
        <input type="checkbox" checked={terms.ownRows ?? false} onChange={(e) => set({ ownRows: e.currentTarget.checked })} />
        Authors may build rows of their own here, and detach saved ones
      </label>
      <div className={classes.block}>
        <LineInput
          id={`${zone.id}-instruction`}
          label="Instruction"
          value={terms.instruction ?? ""}
          onChange={(text) => set({ instruction: text || null })}
        />
      </div>
      {lock && (
        <div className={classes.block}>
          <LockChoice
            label="Who adds and moves rows"
            lock={lock}
            onChange={(next) => store.edit({ kind: "set-lock", row: zone.id, piece: null, aspect: "arrangement", lock: next })}
          />
        </div>
      )}
    </section>
  );
}

/** Saved rows that the zone takes whatever their kind. */
function NamedRows({ rows, onChange }: { rows: string[]; onChange: (rows: string[]) => void }) {
  const all = useQuery({
    queryKey: ["rows", "released"],
    queryFn: () => ask(api.GET("/api/rows", { params: { query: { state: "released" } } })),
  });
  const known = all.data?.rows ?? [];
  return (
    <div className={classes.serves}>
      {rows.map((id) => (
        <p key={id} className={classes.named}>
          {known.find((r) => r.id === id)?.name ?? "A saved row"}{" "}
          <button type="button" className="plain underlined" onClick={() => onChange(rows.filter((r) => r !== id))}>
            Take out
          </button>
        </p>
      ))}
      <label className={classes.pick}>
        Or by name
        <select value="" onChange={(e) => e.currentTarget.value && onChange([...rows, e.currentTarget.value])}>
          <option value="">choose a saved row</option>
          {known
            .filter((r) => !rows.includes(r.id))
            .map((r) => (
              <option key={r.id} value={r.id}>
                {r.name}
              </option>
            ))}
        </select>
      </label>
    </div>
  );
}
