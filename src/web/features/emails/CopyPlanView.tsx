import { Button } from "@mantine/core";
import type { CopyPlan } from "../../api/types";
import { countOf } from "../../shared/format";
import { useDeskContext } from "../desk/useDesk";
import classes from "./CopyPlanView.module.css";

const fates = { changed: "changes", over: "too long", refused: "stays", same: "the same" } as const;

/** What words from elsewhere would do, place by place, before it is done. */
export function CopyPlanView({ plan, act, onDone }: { plan: CopyPlan; act: string; onDone: () => void }) {
  const { store } = useDeskContext();
  const told = plan.changes.filter((c) => c.fate !== "same");
  const same = plan.changes.length - told.length;
  const changes = told.filter((c) => c.fate !== "refused").length;
  return (
    <section aria-label="What would change" className={classes.plan}>
      <p role="status">
        {changes === 0 ? "Nothing would change." : `${countOf(changes, "place")} would change.`}
        {same > 0 && ` ${same} stay as they are.`}
        {told.length > changes && ` ${told.length - changes} cannot.`}
      </p>
      <ol className={classes.changes}>
        {told.map((change) => (
          <li key={change.key} data-fate={change.fate}>
            <p className={classes.where}>
              <b>{change.where}</b> <span className={classes.fate}>{fates[change.fate]}</span>
            </p>
            {change.now && <p className={classes.now}>{change.now}</p>}
            <p className={classes.next}>{change.new || "nothing"}</p>
            {change.why && <p className={classes.why}>{change.why}</p>}
          </li>
        ))}
      </ol>
      {plan.left.length > 0 && (
        <>
          <h3>Text without a place</h3>
          <ul className={classes.left}>
            {plan.left.map((text) => (
              <li key={text}>{text}</li>
            ))}
          </ul>
        </>
      )}
      <Button
        disabled={plan.edits.length === 0}
        onClick={() => {
          store.edit(...plan.edits);
          onDone();
        }}
      >
        {act}
      </Button>
    </section>
  );
}
