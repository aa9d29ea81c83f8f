import { Button, Menu } from "@mantine/core";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link } from "react-router";
import { api, ask } from "../../api/client";
import { queries } from "../../api/queries";
import type { Coverage, CoverageCell } from "../../api/types";
import { countOf } from "../../shared/format";
import { Pending } from "../../shared/Pending";
import { useRowKinds } from "../rows/useRowKinds";
import { useIs } from "../session/useSession";
import classes from "./CoverageSheet.module.css";

const states = {
  served: "served",
  "draft-only": "draft only",
  missing: "missing",
  "not-needed": "not needed",
  unplanned: "not planned",
} as const;

/** Campaign types across, row kinds down: what the library has and lacks, and who sends what. */
export function CoverageSheet() {
  const coverage = useQuery(queries.coverage);
  const plans = useIs("lead", "designer");
  return coverage.data ? <Grid coverage={coverage.data} plans={plans} /> : <Pending query={coverage} what="The coverage" />;
}

function Grid({ coverage, plans }: { coverage: Coverage; plans: boolean }) {
  const { campaignTypes, counts, teams } = coverage;
  const kinds = useRowKinds();
  const typeName = (key: string) => campaignTypes.find((t) => t.key === key)?.name ?? key;
  return (
    <div className={classes.room}>
      <header className={classes.head}>
        <h2>Coverage</h2>
        <p className={classes.counts}>
          {Object.entries(states).map(([state, label]) => (
            <span key={state} data-state={state}>
              <b>{counts[state] ?? 0}</b> {label}
            </span>
          ))}
        </p>
        <Button variant="default" onClick={() => window.print()} className={classes.print}>
          Print
        </Button>
      </header>
      <div className={classes.scroll}>
        <table className={classes.grid}>
          <caption className="only-heard">Which saved rows serve which campaign type, by row kind</caption>
          <thead>
            <tr>
              <th scope="col">
                <span className="only-heard">Row kind</span>
              </th>
              {campaignTypes.map((type) => (
                <th key={type.key} scope="col">
                  {type.name}
                  <span className={classes.team}>
                    {type.teams.join(", ") || "no team"}, {countOf(type.templates, "template")}
                  </span>
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {kinds.offered.map((kind) => (
              <tr key={kind.value}>
                <th scope="row">{kind.label}</th>
                {campaignTypes.map((type) => {
                  const cell = coverage.cells.find((c) => c.campaignType === type.key && c.rowKind === kind.value);
                  return cell ? (
                    <Cell key={type.key} cell={cell} name={`${kind.label}, ${type.name}`} plans={plans} />
                  ) : (
                    <td key={type.key} />
                  );
                })}
              </tr>
            ))}
          </tbody>
        </table>
        <table className={classes.teams}>
          <caption>What each team sends</caption>
          <thead>
            <tr>
              <th scope="col">Team</th>
              <th scope="col">Campaign types</th>
              <th scope="col">Templates</th>
              <th scope="col">Emails</th>
              <th scope="col">Missing</th>
            </tr>
          </thead>
          <tbody>
            {teams.map((team) => (
              <tr key={team.id}>
                <th scope="row">{team.team}</th>
                <td>{team.campaignTypes.map(typeName).join(", ")}</td>
                <td>{team.templates}</td>
                <td>{team.emails ?? "–"}</td>
                <td>{team.missing}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </div>
  );
}

function Cell({ cell, name, plans }: { cell: CoverageCell; name: string; plans: boolean }) {
  const cache = useQueryClient();
  const need = useMutation({
    mutationFn: (needed: boolean | null) =>
      ask(api.PUT("/api/coverage/needs", { body: { campaignType: cell.campaignType, rowKind: cell.rowKind, needed } })),
    onSuccess: (answer) => cache.setQueryData(["coverage"], answer),
  });
  const own = cell.rows.filter((r) => !r.shared);
  const shared = cell.rows.filter((r) => r.shared);
  const gap = cell.state === "missing" || cell.state === "draft-only";
  const make = `/rows?new=yes&kind=${cell.rowKind}&type=${cell.campaignType}`;
  return (
    <td data-state={cell.state} aria-label={`${name}: ${states[cell.state]}`}>
      <div className={classes.cell}>
        {[...own, ...shared].map((row) => (
          <span key={row.id} className={classes.serving} data-shared={row.shared} data-draft={!row.released}>
            {plans ? <Link to={`/rows/${row.id}`}>{row.name}</Link> : row.name}
            {row.shared && <span className={classes.mark}> shared</span>}
            {!row.released && <span className={classes.mark}> draft</span>}
          </span>
        ))}
        {cell.state === "missing" && <span className={classes.missing}>■ missing</span>}
        {cell.state === "not-needed" && <span className="soft">not needed</span>}
        {cell.state === "unplanned" && <span className={classes.open}>–</span>}
        {need.error && <span role="alert">{need.error.message}</span>}
        {plans && (
          <span className={classes.plan}>
            {gap && cell.rows.length === 0 && (
              <Link to={make}>
                Create the row<span className="only-heard"> {name}</span>
              </Link>
            )}
            <Menu position="bottom-start">
              <Menu.Target>
                <button type="button" className="plain" aria-label={`Plan ${name}`}>
                  ⋯
                </button>
              </Menu.Target>
              <Menu.Dropdown>
                <Menu.Item disabled={cell.needed === true} onClick={() => need.mutate(true)}>
                  Mark as needed
                </Menu.Item>
                <Menu.Item disabled={cell.needed === false} onClick={() => need.mutate(false)}>
                  Mark as not needed
                </Menu.Item>
                <Menu.Item disabled={cell.needed == null} onClick={() => need.mutate(null)}>
                  Clear the mark
                </Menu.Item>
                <Menu.Divider />
                <Menu.Item component={Link} to={make}>
                  Create a row
                </Menu.Item>
              </Menu.Dropdown>
            </Menu>
          </span>
        )}
      </div>
    </td>
  );
}
