import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { queries } from "../../api/queries";
import { numberOf, pluralOf } from "../../shared/format";
import classes from "./HomeRoom.module.css";

type Points = { from: string; value: number }[];

/** How the library is, for leads: a figure each, and how it went month by month. */
export function Health() {
  const health = useQuery(queries.libraryHealth);
  if (!health.data) {
    return null;
  }
  const { gaps, updatesWaiting, unlinkedRows, wentOut, daysToApproval } = health.data;
  return (
    <section aria-label="How the library is" className={classes.health}>
      <Figure value={wentOut.at(-1)?.value ?? 0} name="went out this month" points={wentOut} />
      <Figure value={daysToApproval.at(-1)?.value} name="days from start to approval, median" points={daysToApproval} />
      <div>
        <p>
          <b>{numberOf(gaps)}</b> <Link to="/plan/coverage">row kinds are missing</Link>
        </p>
        <p>
          <b>{numberOf(updatesWaiting)}</b> {pluralOf(updatesWaiting, "email", "emails")} on an older release
        </p>
        <p>
          <b>{numberOf(unlinkedRows)}</b>{" "}
          <Link to="/checks/audit">{pluralOf(unlinkedRows, "unlinked row", "unlinked rows")} in emails</Link>
        </p>
      </div>
    </section>
  );
}

function Figure({ value, name, points }: { value?: number; name: string; points: Points }) {
  const most = Math.max(1, ...points.map((p) => p.value));
  const [width, height] = [150, 34];
  const at = (p: Points[number], i: number) =>
    `${points.length > 1 ? (i * (width - 8)) / (points.length - 1) + 4 : width / 2},${height - 4 - (p.value / most) * (height - 8)}`;
  const last = points.at(-1);
  return (
    <div>
      <p>
        <b>{value === undefined ? "–" : numberOf(value)}</b> {name}
      </p>
      {points.length > 1 && last && (
        <svg
          width={width}
          height={height}
          role="img"
          aria-label={`${name}, month by month: ${points.map((p) => `${monthOf(p.from)} ${numberOf(p.value)}`).join(", ")}`}
        >
          <polyline points={points.map(at).join(" ")} fill="none" stroke="var(--ink)" strokeWidth={1.5} />
          <circle cx={at(last, points.length - 1).split(",")[0]} cy={at(last, points.length - 1).split(",")[1]} r={3} fill="var(--gold)" />
        </svg>
      )}
    </div>
  );
}

const monthOf = (day: string) => new Intl.DateTimeFormat(undefined, { month: "long" }).format(new Date(day));
