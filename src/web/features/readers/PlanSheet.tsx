import { type ReactNode, useState } from "react";
import type { Audiences } from "../../api/types";
import { EditFault, EditMoves } from "../../shared/EditState";
import { Pending } from "../../shared/Pending";
import type { SendEdit } from "../../shared/useEditedDocument";
import { EditingContext } from "../../shared/useLiveField";
import { useSession } from "../session/useSession";
import classes from "./ReadersRoom.module.css";
import { useAudiences } from "./useAudiences";

export interface PlanEntry {
  key: string;
  name: string;
  /** What sort of thing it is, in a word. */
  type?: string;
  note: ReactNode;
  retired?: boolean;
}

interface Props {
  /** "Fields". */
  what: string;
  about: string;
  /** What to do where there is none. */
  none: string;
  entriesOf: (data: Audiences) => PlanEntry[];
  /** What says more of the one that is chosen. */
  form: (key: string, data: Audiences, edit: SendEdit) => ReactNode;
  /** Makes a new one and chooses it. */
  add: (taken: (key: string) => boolean, edit: SendEdit, choose: (key: string) => void, data: Audiences) => ReactNode;
}

/** One part of what the lead says about readers: a list, and the one that is chosen beside it. */
export function PlanSheet({ what, about, none, entriesOf, form, add }: Props) {
  const { query, edit, move, fault, offline, stuck, editing } = useAudiences(useSession().data?.id ?? "");
  const [chosen, choose] = useState<string>();
  const [retired, setRetired] = useState(false);
  const data = query.data;
  if (!data) {
    return <Pending query={query} what={`The ${what.toLowerCase()}`} />;
  }
  const all = entriesOf(data);
  const shown = all.filter((e) => retired || !e.retired);
  const entry = all.find((e) => e.key === chosen) ?? shown[0];
  return (
    <EditingContext value={editing}>
      <div className={classes.columns}>
        <section className={classes.list} aria-label={what}>
          <p className={classes.about}>{about}</p>
          <ul>
            {shown.map((one) => (
              <li key={one.key}>
                <button
                  type="button"
                  className={`plain ${classes.entry}`}
                  aria-current={entry?.key === one.key}
                  onClick={() => choose(one.key)}
                >
                  <b>{one.name}</b>
                  <span className={classes.type}>{one.type}</span>
                  <span className={classes.note}>
                    {one.retired && "retired, "}
                    {one.note}
                  </span>
                </button>
              </li>
            ))}
          </ul>
          {shown.length === 0 && <p className={classes.about}>{none}</p>}
          {all.some((e) => e.retired) && (
            <button type="button" className={`plain underlined ${classes.retired}`} onClick={() => setRetired(!retired)}>
              {retired ? "Hide retired ones" : "Show retired ones"}
            </button>
          )}
          {data.change.allowed && add((key) => all.some((e) => e.key === key), edit, choose, data)}
        </section>
        <section className={classes.middle} aria-label={entry?.name ?? what}>
          <div className={classes.moves}>
            <EditMoves {...data} offline={offline} move={move} />
          </div>
          <EditFault fault={fault} stuck={stuck} move={move} />
          {!data.change.allowed && <p className={classes.about}>{data.change.reason}</p>}
          {entry && form(entry.key, data, edit)}
        </section>
      </div>
    </EditingContext>
  );
}
