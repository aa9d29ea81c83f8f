import type { Severity } from "../api/types";
import classes from "./SeverityMark.module.css";

const shapes: Record<Severity, { mark: string; word: string }> = {
  stop: { mark: "■", word: "stop" },
  warn: { mark: "▲", word: "warn" },
  advise: { mark: "●", word: "advise" },
};

/** A severity by shape, colour and (for those who listen) word. */
export function SeverityMark({ severity }: { severity: Severity }) {
  return (
    <span className={classes[severity]}>
      <span aria-hidden>{shapes[severity].mark}</span>
      <span className="only-heard">{shapes[severity].word}: </span>
    </span>
  );
}
