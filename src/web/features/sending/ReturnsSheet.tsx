import { SegmentedControl } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { queries } from "../../api/queries";
import type { ReturnGroup } from "../../api/types";
import { countOf, numberOf } from "../../shared/format";
import { Pending } from "../../shared/Pending";
import { WideTable } from "../../shared/WideTable";
import classes from "./Sending.module.css";

type By = "row" | "template" | "campaign-type" | "month";
const ways: { value: By; label: string }[] = [
  { value: "month", label: "Month" },
  { value: "campaign-type", label: "Campaign type" },
  { value: "template", label: "Template" },
  { value: "row", label: "Saved row" },
];
const percent = new Intl.NumberFormat(undefined, { style: "percent", maximumFractionDigits: 1 });
const month = new Intl.DateTimeFormat(undefined, { month: "long", year: "numeric", timeZone: "UTC" });

/** What came back over the last year, by what emails have in common: as a plot, and in a table. */
export function ReturnsSheet() {
  const [by, setBy] = useState<By>("month");
  const groups = useQuery(queries.returnsBy(by));
  return (
    <section aria-label="What came back" className={classes.sheet}>
      <p className="soft">
        Of what was handed off in the last twelve months. Counts only: who did what is not kept. Clicks of mail scanners are not among them.
      </p>
      <SegmentedControl aria-label="By" value={by} onChange={(value) => setBy(value as By)} data={ways} />
      {!groups.data ? (
        <Pending query={groups} what="What came back" />
      ) : groups.data.length === 0 ? (
        <p>Nothing came back yet. Push a hand-off to a sending platform, or let a program with a token report events.</p>
      ) : (
        <>
          <Plot groups={groups.data} by={by} />
          <WideTable label="What came back" className={classes.table}>
            <thead>
              <tr>
                <th scope="col">{ways.find((w) => w.value === by)?.label}</th>
                {["Hand-offs", "Sent", "Opened", "Clicked", "Unsubscribed", "Bounced", "Clicks by scanners"].map((name) => (
                  <th key={name} scope="col" className={classes.figure}>
                    {name}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {groups.data.map((g) => (
                <tr key={g.key}>
                  <th scope="row">{nameOf(g, by)}</th>
                  {[
                    g.handOffs,
                    g.counts.sent,
                    g.counts.opened,
                    g.counts.clicked,
                    g.counts.unsubscribed,
                    g.counts.bounced,
                    g.counts.scanned,
                  ].map((value, i) => (
                    // biome-ignore lint/suspicious/noArrayIndexKey: the columns are always the same.
                    <td key={i} className={classes.figure}>
                      {by === "row" && [2, 4, 5].includes(i) ? "" : numberOf(value)}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </WideTable>
        </>
      )}
    </section>
  );
}

const nameOf = (g: ReturnGroup, by: By) => (by === "month" ? month.format(new Date(`${g.key}-01`)) : g.name || g.key);
const shareOf = (g: ReturnGroup) => (g.counts.sent > 0 ? g.counts.clicked / g.counts.sent : 0);

/** Clicks for each message that was sent. */
function Plot({ groups, by }: { groups: ReturnGroup[]; by: By }) {
  const shown = groups.slice(0, 14);
  const most = Math.max(0.0001, ...shown.map(shareOf));
  return (
    <figure className={classes.plot}>
      <figcaption>Clicks for each message that was sent</figcaption>
      <ul>
        {shown.map((g) => (
          <li key={g.key}>
            <span>{nameOf(g, by)}</span>
            <i style={{ width: `${(shareOf(g) / most) * 60}%` }} aria-hidden />
            <b title={`${countOf(g.counts.clicked, "click")} of ${numberOf(g.counts.sent)}`}>{percent.format(shareOf(g))}</b>
          </li>
        ))}
      </ul>
    </figure>
  );
}
