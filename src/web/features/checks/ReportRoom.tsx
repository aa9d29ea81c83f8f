import { useQuery } from "@tanstack/react-query";
import { Fragment } from "react";
import { Link, useParams } from "react-router";
import { queries } from "../../api/queries";
import type { Report } from "../../api/types";
import { kilobytesOf, numberOf } from "../../shared/format";
import { Pending } from "../../shared/Pending";
import { SeverityMark } from "../../shared/SeverityMark";
import { WideTable } from "../../shared/WideTable";
import classes from "./ReportRoom.module.css";
import { groups, ofAHundred } from "./words";

/** All that the checks say of one email: findings with their reasons, its weight, and what mail clients make of it. */
export default function ReportRoom() {
  const { id = "" } = useParams();
  const report = useQuery(queries.report(id));
  return report.data ? <ReportSheet id={id} report={report.data} /> : <Pending query={report} what="The findings" />;
}

function ReportSheet({ id, report }: { id: string; report: Report }) {
  const { findings } = report;
  return (
    <div className={classes.room}>
      <title>{`Findings of ${report.name} · Golden Rule`}</title>
      <header className={classes.head}>
        <h1>{report.name}</h1>
        <Link to={`/emails/${id}`}>Open it on the desk</Link>
      </header>
      <dl className={classes.figures}>
        <Figure name="Checks" value={`${report.checks} run, ${findings.length === 0 ? "nothing found" : `${findings.length} found`}`} />
        <Figure name="HTML" value={`${kilobytesOf(report.htmlBytes)} of 102`} />
        <Figure name="Style block" value={`${numberOf(report.headStyle)} of ${numberOf(8192)} characters`} />
        <Figure name="Pictures" value={kilobytesOf(report.pictureBytes)} />
        <Figure
          name="Reading"
          value={
            (report.reading.words ?? 0) > 0
              ? `grade ${report.grade.toFixed(1)}, ${report.reading.words} words in ${report.reading.sentences} sentences`
              : "no prose"
          }
        />
      </dl>
      <h2>Findings</h2>
      {findings.length === 0 ? (
        <p>No findings. Every check has passed.</p>
      ) : (
        <WideTable label="Findings" className={classes.table}>
          <thead>
            <tr>
              <th scope="col">Found</th>
              <th scope="col">Measured</th>
              <th scope="col">Where</th>
              <th scope="col">Why it matters</th>
            </tr>
          </thead>
          <tbody>
            {(Object.keys(groups) as (keyof typeof groups)[]).map((group) => {
              const here = findings.filter((f) => f.group === group);
              return here.length > 0 ? (
                <Fragment key={group}>
                  <tr>
                    <th scope="rowgroup" colSpan={4} className={classes.group}>
                      {groups[group]}
                    </th>
                  </tr>
                  {here.map((f) => (
                    <tr key={`${f.check}-${f.place.row}-${f.place.piece}-${f.place.field}-${f.message}`}>
                      <td>
                        <SeverityMark severity={f.severity} /> {f.message}
                      </td>
                      <td>
                        {f.evidence}
                        {f.readers && (
                          <>
                            {f.evidence && " · "}
                            <i>For readers: {f.readers.who}</i>
                          </>
                        )}
                      </td>
                      <td>
                        {f.place.row ? (
                          <Link to={`/emails/${id}#${[f.place.row, f.place.piece, f.place.field].filter(Boolean).join("/")}`}>
                            {f.placeName ?? (f.place.row === "details" ? "Subject and sender" : "Zone")}
                          </Link>
                        ) : (
                          "Whole email"
                        )}
                      </td>
                      <td className="soft">{f.why}</td>
                    </tr>
                  ))}
                </Fragment>
              ) : null;
            })}
          </tbody>
        </WideTable>
      )}
      <h2>What mail clients make of it</h2>
      <p className={classes.about}>
        Features that this email uses and some clients leave out, by how many of {report.clientMixKnown ? "our" : "all"} readers miss them.{" "}
        {!report.clientMixKnown && (
          <>
            No client mix is set, so that every client counts alike. <Link to="/checks/clients">Set it</Link>
          </>
        )}
      </p>
      <WideTable label="What mail clients make of it" className={classes.table}>
        <thead>
          <tr>
            <th scope="col">Feature</th>
            <th scope="col">Readers without it</th>
            <th scope="col">They see</th>
            <th scope="col">Clients</th>
          </tr>
        </thead>
        <tbody>
          {report.features
            .filter((f) => f.missedShare > 0)
            .map((f) => (
              <tr key={f.slug}>
                <td>
                  {f.title}
                  <span className={classes.where}>
                    {f.rows.length === 0 ? "head" : f.rows.length > 3 ? `${f.rows.length} rows` : f.rows.join(", ")}
                  </span>
                </td>
                <td>
                  {ofAHundred(f.missedShare)}
                  {f.partlyShare > 0 && <span className={classes.where}>and {ofAHundred(f.partlyShare)} in part</span>}
                </td>
                <td>{f.instead ?? "nothing in its place"}</td>
                <td className="soft">
                  {f.missed.slice(0, 3).join("; ")}
                  {f.missed.length > 3 && ` and ${f.missed.length - 3} more`}
                </td>
              </tr>
            ))}
        </tbody>
      </WideTable>
    </div>
  );
}

function Figure({ name, value }: { name: string; value: string }) {
  return (
    <div>
      <dt>{name}</dt>
      <dd>{value}</dd>
    </div>
  );
}
