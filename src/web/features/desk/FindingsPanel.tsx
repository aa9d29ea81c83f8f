import { useQuery } from "@tanstack/react-query";
import { api, ask } from "../../api/client";
import type { Finding } from "../../api/types";
import { SeverityMark } from "../../shared/SeverityMark";
import type { Desk, DeskState } from "./DeskStore";
import classes from "./FindingsPanel.module.css";
import { useDeskContext } from "./useDesk";

/** Everything that is wrong, at once, each with its place and its remedy. */
export function FindingsPanel({ state }: { state: DeskState }) {
  const { store, choose } = useDeskContext();
  const checks = useQuery({ queryKey: ["checks"], staleTime: Number.POSITIVE_INFINITY, queryFn: () => ask(api.GET("/api/checks")) });
  const desk = state.desk as Desk;
  if (desk.findings.length === 0) {
    return <p className={classes.none}>Nothing found. Every check has passed.</p>;
  }
  const placeOf = (finding: Finding) => {
    const { row } = finding.place;
    return row === "details"
      ? "Subject and sender"
      : row
        ? (state.rows.get(row)?.name ?? desk.order.find((i) => i.zone?.id === row)?.zone?.name)
        : "Whole email";
  };
  return (
    <ul className={classes.list}>
      {desk.findings.map((finding) => (
        <li key={`${finding.check}-${finding.place.row}-${finding.place.piece}-${finding.place.field}-${finding.message}`}>
          <button
            type="button"
            className={`plain ${classes.finding}`}
            disabled={!finding.place.row}
            onClick={() => choose(finding.place.row ?? "details", finding.place.piece ?? undefined, finding.place.field ?? undefined)}
          >
            <span className={classes.place}>
              <SeverityMark severity={finding.severity} /> {placeOf(finding)}
            </span>
            <span>{finding.message}</span>
            {finding.evidence && <span className={classes.evidence}>{finding.evidence}</span>}
          </button>
          <details className={classes.why}>
            <summary>Why it matters</summary>
            {checks.data?.find((check) => check.name === finding.check)?.why}
          </details>
          {finding.remedy && (
            <button type="button" className="plain underlined" onClick={() => store.edit(...(finding.remedy?.edits ?? []))}>
              {finding.remedy.label}
            </button>
          )}
        </li>
      ))}
    </ul>
  );
}
