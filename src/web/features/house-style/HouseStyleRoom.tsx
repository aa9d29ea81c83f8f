import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, Navigate, useParams } from "react-router";
import { api, ask } from "../../api/client";
import { clockTime } from "../../shared/when";
import { ContrastTable } from "./ContrastTable";
import classes from "./HouseStyleRoom.module.css";
import { ReleasePanel } from "./ReleasePanel";
import { SpecimenSheet } from "./SpecimenSheet";
import { StyleList } from "./StyleList";
import { useHouseStyle } from "./useHouseStyle";
import { VariableList } from "./VariableList";

/** Variables and global styles, the specimen sheet, and what can be read on what. */
export default function HouseStyleRoom() {
  const { id } = useParams();
  const all = useQuery({ queryKey: ["house-styles"], queryFn: () => ask(api.GET("/api/house-styles")) });
  if (!id) {
    const first = all.data?.[0];
    return first ? <Navigate to={`/house-style/${first.id}`} replace /> : null;
  }
  return <Room key={id} id={id} all={all.data ?? []} />;
}

function Room({ id, all }: { id: string; all: { id: string; name: string; parent: string | null }[] }) {
  const { style, edit, move, fault } = useHouseStyle(id);
  const [tab, setTab] = useState<"variables" | "styles">("variables");
  const data = style.data;
  if (!data) {
    return style.error ? <p role="alert">{style.error.message}</p> : null;
  }
  return (
    <div className={classes.room}>
      <div className={classes.values}>
        <header className={classes.head}>
          <h1>{data.name}</h1>
          <span className="soft">
            release {data.release}
            {data.changes > 0 && <b> + {data.changes === 1 ? "1 change" : `${data.changes} changes`}</b>}
          </span>
        </header>
        <p className={classes.line}>
          {all.map((other) =>
            other.id === id ? (
              <strong key={other.id}>{other.name}</strong>
            ) : (
              <Link key={other.id} to={`/house-style/${other.id}`}>
                {other.name}
              </Link>
            ),
          )}
          <span className={classes.moves}>
            <button type="button" className="plain" aria-label="Undo" disabled={!data.canUndo} onClick={() => move("undo")}>
              ↶
            </button>
            <button type="button" className="plain" aria-label="Redo" disabled={!data.canRedo} onClick={() => move("redo")}>
              ↷
            </button>
          </span>
        </p>
        <p className={classes.tabs}>
          {(["variables", "styles"] as const).map((name) => (
            <button key={name} type="button" className={`plain ${classes.tab}`} aria-pressed={tab === name} onClick={() => setTab(name)}>
              {name === "variables" ? "Brand variables" : "Global styles"}
            </button>
          ))}
        </p>
        {fault && (
          <p role="alert" className={classes.fault}>
            ■ {fault}
          </p>
        )}
        {!data.mayEdit && <p className={classes.note}>Leads change the house style. You see what it holds.</p>}
        {tab === "variables" ? <VariableList style={data} edit={edit} /> : <StyleList style={data} edit={edit} />}
      </div>
      <SpecimenSheet html={data.specimen} kept={clockTime(data.keptAt)} />
      <aside className={classes.side} aria-label="Legibility and release">
        <ContrastTable style={data} />
        {data.mayEdit && <ReleasePanel style={data} />}
      </aside>
    </div>
  );
}
