import type { StyleChange } from "../../api/types";
import { countOf } from "../../shared/format";
import classes from "./ReleasePanel.module.css";

/** Values that differ between two states: before, after, and the styles that look different by it. */
export function ChangeList({ changes }: { changes: StyleChange[] }) {
  if (changes.length === 0) {
    return <p className="soft">No value differs.</p>;
  }
  return (
    <ul className={classes.changes}>
      {changes.map((change) => (
        <li key={`${change.kind}${change.variable ?? ""}${change.name}`}>
          <b>{change.name}</b> <span className="soft">{change.kind}</span>
          {(change.before || change.after) && (
            <p>
              <Value text={change.before} colour={change.beforeColour} /> → <Value text={change.after} colour={change.afterColour} />
            </p>
          )}
          {change.touches.length > 0 && (
            <details>
              <summary>{countOf(change.touches.length, "style property looks", "style properties look")} different</summary>
              {change.touches.join("; ")}
            </details>
          )}
        </li>
      ))}
    </ul>
  );
}

function Value({ text, colour }: { text: string | null; colour: string | null }) {
  return (
    <span>
      {colour && <span className={classes.chip} style={{ background: colour }} aria-hidden="true" />}
      {text ?? "nothing"}
    </span>
  );
}
