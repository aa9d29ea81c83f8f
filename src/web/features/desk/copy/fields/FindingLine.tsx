import type { Finding } from "../../../../api/types";
import { SeverityMark } from "../../../../shared/SeverityMark";
import { useDeskContext } from "../../useDesk";
import classes from "./fields.module.css";

/** A finding beside its cause, with its remedy where there is one. */
export function FindingLine({ finding }: { finding: Finding }) {
  const { store } = useDeskContext();
  return (
    <p className={classes.finding} data-severity={finding.toFill ? "to-fill" : finding.severity}>
      {finding.toFill ? "To fill: " : <SeverityMark severity={finding.severity} />} {finding.message}
      {finding.evidence && <span className={classes.evidence}> {finding.evidence}.</span>}
      {finding.remedy && (
        <>
          {" "}
          <button type="button" className="plain underlined" onClick={() => store.edit(...(finding.remedy?.edits ?? []))}>
            {finding.remedy.label}
          </button>
        </>
      )}
    </p>
  );
}
