import { Tooltip } from "@mantine/core";
import { Link } from "react-router";
import { Mark } from "../../shared/Mark";
import { SeverityMark } from "../../shared/SeverityMark";
import { clockTime } from "../../shared/when";
import classes from "./DeskHeader.module.css";
import type { DeskState } from "./DeskStore";
import { HandOut } from "./HandOut";
import { useDeskContext } from "./useDesk";

const words = { stop: "stop", warn: "warn", advise: "advise" } as const;
const states = { draft: "draft", "in-review": "in review", approved: "approved", "handed-off": "handed off, frozen" };

/** The email's own line across the top. */
export function DeskHeader({ state }: { state: DeskState }) {
  const { store, choose } = useDeskContext();
  const desk = state.desk;
  if (!desk) {
    return null;
  }
  const { template } = desk;
  return (
    <header className={classes.line}>
      <Link to="/emails" aria-label="Golden Rule, to the emails" className={classes.mark}>
        <Mark />
      </Link>
      <p className={classes.path}>
        <Link to={`/templates?type=${template.campaignType}`}>{template.campaignTypeName}</Link>
        <span aria-hidden>/</span>
        <strong>{desk.name}</strong>
        <span className={classes.from}>
          {states[desk.state]}, from {template.name} {template.release}
          {template.newest > template.release && <b> · release {template.newest} waits</b>}
        </span>
      </p>
      <span className={classes.kept} role="status" data-keeping={state.keeping}>
        {state.keeping === "waiting"
          ? "Out of reach. What you type waits here."
          : state.keeping === "sending"
            ? "keeping…"
            : `kept ${clockTime(desk.keptAt)}`}
      </span>
      <span className={classes.moves}>
        <Tooltip label="Undo, Ctrl Z">
          <button type="button" className="plain" aria-label="Undo" disabled={!desk.canUndo} onClick={() => store.move("undo")}>
            ↶
          </button>
        </Tooltip>
        <Tooltip label="Redo, Ctrl Shift Z">
          <button type="button" className="plain" aria-label="Redo" disabled={!desk.canRedo} onClick={() => store.move("redo")}>
            ↷
          </button>
        </Tooltip>
      </span>
      <button type="button" className={`plain ${classes.findings}`} onClick={() => choose("findings")} aria-label="Show the findings">
        {desk.findings.length === 0 && <span>Nothing found</span>}
        {(["stop", "warn", "advise"] as const).map((severity) => {
          const count = desk.findings.filter((f) => f.severity === severity).length;
          return count > 0 ? (
            <span key={severity} className={classes[severity]}>
              <SeverityMark severity={severity} /> {count} {words[severity]}
            </span>
          ) : null;
        })}
      </button>
      <HandOut desk={desk} />
    </header>
  );
}
