import { Button, SegmentedControl } from "@mantine/core";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link } from "react-router";
import { api, ask } from "../../api/client";
import type { AuditCount, AuditFinding, Severity } from "../../api/types";
import { countOf, dayOf, numberOf } from "../../shared/format";
import { JobProgress } from "../../shared/JobProgress";
import { rooms } from "../../shared/rooms";
import { SeverityMark, severities } from "../../shared/SeverityMark";
import { hasEnded, useJob } from "../../shared/useJob";
import { WideTable } from "../../shared/WideTable";
import classes from "./ChecksRoom.module.css";

type By = "check" | "template" | "campaignType";

const bys: Record<By, string> = { check: "By check", template: "By template", campaignType: "By campaign type" };

/** Every check over every email, template and saved row. */
export function AuditSheet() {
  const cache = useQueryClient();
  const [by, setBy] = useState<By>("check");
  const [only, setOnly] = useState<string>();
  const [severity, setSeverity] = useState<Severity>();
  const audit = useQuery({
    queryKey: ["audit", by, only, severity],
    placeholderData: (former) => former,
    queryFn: () => ask(api.GET("/api/audits/newest", { params: { query: { ...(only !== undefined && { [by]: only }), severity } } })),
    refetchOnMount: "always",
  });
  const { start, job, fault } = useJob((id) => ask(api.POST("/api/audits", { body: { id } })));
  const all = () => {
    setOnly(undefined);
    setSeverity(undefined);
  };
  const running = job && !hasEnded(job);
  const ended = job?.state === "done";
  useEffect(() => {
    if (ended) {
      void cache.invalidateQueries({ queryKey: ["audit"] });
    }
  }, [ended, cache]);
  const found = audit.data?.audit;
  const counts = found ? { check: found.byCheck, template: found.byTemplate, campaignType: found.byCampaignType }[by] : [];
  return (
    <section aria-label="Library audit">
      <div className={classes.acts}>
        <Button onClick={() => start()} disabled={running}>
          {found ? "Run the audit again" : "Run the audit"}
        </Button>
        {found && (
          <Button variant="default" component="a" href="/api/audits/newest.csv">
            Download as CSV
          </Button>
        )}
        {running && job && <JobProgress job={job} name="Running the audit" />}
        {(fault || job?.state === "failed") && <p role="alert">{fault ?? job?.step}</p>}
        {found && !running && (
          <p className="soft">
            {countOf(found.documents, "document")} checked {dayOf(found.at)}, {numberOf(found.clean)} without a finding.
          </p>
        )}
      </div>
      {!found && !running && !audit.isPending && (
        <p className={classes.about}>
          Runs every check over every email, template and saved row, and lists what it finds. No audit has been run yet.
        </p>
      )}
      {found && (
        <div className={classes.audit}>
          <div>
            <SegmentedControl
              aria-label="Counted"
              data={(Object.keys(bys) as By[]).map((b) => ({ value: b, label: bys[b] }))}
              value={by}
              onChange={(b) => {
                setBy(b as By);
                setOnly(undefined);
                setSeverity(undefined);
              }}
            />
            <p className="soft">Choose a name, or a number in it, to list only those.</p>
            <Counts
              counts={counts}
              only={only}
              severity={severity}
              onOnly={(key, of) => {
                const again = key === only && of === severity;
                setOnly(again ? undefined : key);
                setSeverity(again ? undefined : of);
              }}
            />
          </div>
          <Found
            findings={found.findings}
            count={found.count}
            name={[severity && severities[severity].many, counts.find((c) => c.key === only)?.label].filter(Boolean).join(", ")}
            onAll={only !== undefined || severity ? all : undefined}
          />
        </div>
      )}
    </section>
  );
}

interface CountsProps {
  counts: AuditCount[];
  only?: string;
  severity?: Severity;
  onOnly: (key: string, severity?: Severity) => void;
}

function Counts({ counts, only, severity, onOnly }: CountsProps) {
  const number = (entry: AuditCount, of: Severity) => (
    <td>
      {entry[of] > 0 && (
        <button
          type="button"
          className="plain underlined"
          aria-pressed={entry.key === only && severity === of}
          aria-label={`${countOf(entry[of], severities[of].one, severities[of].many)}, ${entry.label}`}
          onClick={() => onOnly(entry.key, of)}
        >
          {entry[of]}
        </button>
      )}
    </td>
  );
  return (
    <table className={classes.counts}>
      <thead>
        <tr>
          <th scope="col">
            <span className="only-heard">What</span>
          </th>
          <th scope="col">Blockers</th>
          <th scope="col">Warnings</th>
          <th scope="col">Advice</th>
          <th scope="col">Documents</th>
        </tr>
      </thead>
      <tbody>
        {counts.map((c) => (
          <tr key={c.key} data-on={c.key === only}>
            <th scope="row">
              <button
                type="button"
                className="plain underlined"
                aria-pressed={c.key === only && severity === undefined}
                onClick={() => onOnly(c.key)}
              >
                {c.label}
              </button>
            </th>
            {number(c, "stop")}
            {number(c, "warn")}
            {number(c, "advise")}
            <td>{c.documents}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

// To the block itself: its field stands there with the finding and its remedy.
const placeOf = (f: AuditFinding) => [f.row, f.piece, f.field].filter(Boolean).join("/");

function Found({ findings, count, name, onAll }: { findings: AuditFinding[]; count: number; name: string; onAll?: () => void }) {
  return (
    <div>
      <h2 className={classes.found}>
        {name || "All findings"}, {count}{" "}
        {onAll && (
          <button type="button" className="plain underlined" onClick={onAll}>
            Show all
          </button>
        )}
      </h2>
      <WideTable label="Found" className={classes.table}>
        <thead>
          <tr>
            <th scope="col">Finding</th>
            <th scope="col">Where</th>
          </tr>
        </thead>
        <tbody>
          {findings.map((f) => (
            <tr key={`${f.document}-${f.check}-${placeOf(f)}-${f.message}-${f.evidence}`}>
              <td>
                <SeverityMark severity={f.severity} /> {f.message} <span className="soft">{f.evidence}</span>
              </td>
              <td>
                <Link to={`/${rooms[f.kind]}/${f.document}${f.row ? `#${encodeURIComponent(placeOf(f))}` : ""}`}>{f.name}</Link>
              </td>
            </tr>
          ))}
        </tbody>
      </WideTable>
      {count > findings.length && <p className="soft">The {findings.length} worst are shown. The CSV has them all.</p>}
    </div>
  );
}
