import { useQuery } from "@tanstack/react-query";
import { queries } from "../../api/queries";
import type { Finding } from "../../api/types";
import { SeverityMark } from "../../shared/SeverityMark";
import type { Desk, DeskState } from "./DeskStore";
import classes from "./FindingsPanel.module.css";
import { toFill } from "./toFill";
import { useDeskContext } from "./useDesk";

/** Everything that is wrong, at once, each with its place and its remedy. */
export function FindingsPanel({ state }: { state: DeskState }) {
  const { store, choose, reading } = useDeskContext();
  const checks = useQuery(queries.checks);
  const desk = state.desk as Desk;
  if (desk.findings.length === 0) {
    return <p className={classes.none}>No findings. Every check has passed.</p>;
  }
  const unfilled = toFill(desk, state.rows);
  const found = desk.findings.filter((f) => !f.toFill);
  const placeOf = (finding: Finding) => {
    const { row } = finding.place;
    return row === "details"
      ? "Subject and sender"
      : row
        ? (state.rows.get(row)?.name ?? desk.order.items.find((i) => i.zone?.id === row)?.zone?.name)
        : "Whole email";
  };
  const go = ({ place }: Finding) => choose(place.row ?? "details", place.piece ?? undefined, place.field ?? undefined);
  const item = (finding: Finding) => (
    <li key={`${finding.check}-${finding.place.row}-${finding.place.piece}-${finding.place.field}-${finding.message}`}>
      <button type="button" className={`plain ${classes.finding}`} disabled={!finding.place.row} onClick={() => go(finding)}>
        <span className={classes.place}>
          {!finding.toFill && <SeverityMark severity={finding.severity} />} {placeOf(finding)}
        </span>
        <span>{finding.message}</span>
        {finding.evidence && <span className={classes.evidence}>{finding.evidence}</span>}
        {finding.readers && <span className={classes.readers}>For readers: {finding.readers.who}</span>}
      </button>
      {finding.readers && (
        <button
          type="button"
          className="plain underlined"
          onClick={() => reading.setAs({ reader: "", day: "", made: finding.readers?.example ?? {} })}
        >
          Show as one of them
        </button>
      )}
      {!finding.toFill && (
        <details className={classes.why}>
          <summary>Why it matters</summary>
          {checks.data?.find((check) => check.name === finding.check)?.why}
        </details>
      )}
      {finding.remedy && (
        <button type="button" className="plain underlined" onClick={() => store.edit(...(finding.remedy?.edits ?? []))}>
          {finding.remedy.label}
        </button>
      )}
    </li>
  );
  return (
    <>
      {unfilled.length > 0 && (
        <section aria-label="To fill">
          <h3 className={classes.title}>To fill, {unfilled.length}</h3>
          <ul className={classes.list}>{unfilled.map(item)}</ul>
        </section>
      )}
      {found.length > 0 && (
        <section aria-label="Findings">
          {unfilled.length > 0 && <h3 className={classes.title}>Findings, {found.length}</h3>}
          <ul className={classes.list}>{found.map(item)}</ul>
        </section>
      )}
    </>
  );
}
