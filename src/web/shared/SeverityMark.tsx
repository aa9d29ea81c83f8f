import type { Severity } from "../api/types";
import classes from "./SeverityMark.module.css";

/** Each severity by its shape and its words. */
export const severities: Record<Severity, { mark: string; one: string; many: string }> = {
  stop: { mark: "■", one: "blocker", many: "blockers" },
  warn: { mark: "▲", one: "warning", many: "warnings" },
  advise: { mark: "●", one: "advice", many: "advice" },
};

/** As a choice or a heading. */
export const severityNames: Record<Severity, string> = { stop: "Blocker", warn: "Warning", advise: "Advice" };

/** A severity by shape, colour and (for those who listen) word. */
export function SeverityMark({ severity }: { severity: Severity }) {
  return (
    <span className={classes[severity]}>
      <span aria-hidden>{severities[severity].mark}</span>
      <span className="only-heard">{severityNames[severity]}: </span>
    </span>
  );
}
