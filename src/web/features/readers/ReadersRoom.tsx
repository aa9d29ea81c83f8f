import { NavLink, useParams } from "react-router";
import { FieldsSheet } from "./FieldsSheet";
import classes from "./ReadersRoom.module.css";
import { SamplesSheet } from "./SamplesSheet";

const parts = [
  { to: "fields", name: "Fields" },
  { to: "samples", name: "Sample readers" },
] as const;

/** What is known of readers, and made-up ones to look at proofs by. */
export default function ReadersRoom() {
  const { part } = useParams();
  const shown = parts.find((p) => p.to === part)?.to ?? "fields";
  return (
    <div className={classes.room}>
      <title>Readers · Golden Rule</title>
      <header className={classes.head}>
        <h1>Readers</h1>
        <nav aria-label="Readers" className={classes.parts}>
          {parts.map((p) => (
            <NavLink key={p.to} to={`/readers/${p.to}`} className={p.to === shown ? classes.here : classes.part}>
              {p.name}
            </NavLink>
          ))}
        </nav>
      </header>
      {shown === "fields" ? <FieldsSheet /> : <SamplesSheet />}
    </div>
  );
}
