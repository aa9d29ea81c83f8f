import { useDebouncedValue } from "@mantine/hooks";
import { keepPreviousData, useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link } from "react-router";
import { api, ask } from "../../api/client";
import { queries } from "../../api/queries";
import type { Job, ReachFinding } from "../../api/types";
import { countOf, numberOf, pluralOf } from "../../shared/format";
import { newId } from "../../shared/ids";
import { JobProgress } from "../../shared/JobProgress";
import { Pending } from "../../shared/Pending";
import { hasEnded } from "../../shared/useJob";
import { useIsEverywhere } from "../session/useSession";
import classes from "./ReleasePanel.module.css";
import { useRoom } from "./RoomContext";

/** Whom a release would reach, at once; and what it would break, as it is found. */
export function ReachList() {
  const { style } = useRoom();
  const makes = useIsEverywhere("lead", "designer");
  const reach = useInfiniteQuery({ ...queries.reach(style.id, style.release), enabled: style.release > 0 });
  const types = useQuery(queries.campaignTypes);
  const [listed, setListed] = useState(false);
  if (style.release === 0) {
    return <p className="soft">Nothing uses it yet, so nothing changes.</p>;
  }
  const first = reach.data?.pages[0];
  if (!first) {
    return <Pending query={reach} what="The emails it reaches" />;
  }
  const nameOf = (key: string) => types.data?.find((t) => t.key === key)?.name ?? key;
  return (
    <>
      <ul className={classes.reach}>
        <li>
          <b>{numberOf(first.follow)}</b> {pluralOf(first.follow, "email follows", "emails follow")} at once
        </li>
        <li>
          <b>{numberOf(first.frozen)}</b>{" "}
          {pluralOf(first.frozen, "is handed off and stays as it is", "are handed off and stay as they are")}
        </li>
        {makes && first.follow > 0 && <Breaks />}
      </ul>
      {first.follow + first.frozen > 0 && (
        <button type="button" className="plain underlined" aria-expanded={listed} onClick={() => setListed(!listed)}>
          Which emails
        </button>
      )}
      {listed && (
        <div className={classes.reached}>
          <p className="soft">{first.groups.map((g) => `${nameOf(g.campaignType)} ${numberOf(g.follow + g.frozen)}`).join(", ")}</p>
          {/* biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls is scrolled by keys too. */}
          <ul aria-label="Emails it reaches" tabIndex={0}>
            {reach.data?.pages
              .flatMap((p) => p.emails)
              .map((e) => (
                <li key={e.id}>
                  <Link to={`/emails/${e.id}`}>{e.name}</Link>
                  {!e.follows && <span className="soft"> handed off</span>}
                </li>
              ))}
          </ul>
          {reach.hasNextPage && (
            <button type="button" className="plain underlined" disabled={reach.isFetching} onClick={() => reach.fetchNextPage()}>
              Show more
            </button>
          )}
        </div>
      )}
      {first.unread > 0 && (
        <p role="status">{countOf(first.unread, "document is", "documents are")} still being read after the update; there may be more.</p>
      )}
    </>
  );
}

/** Every email is drawn and checked anew for it, so it is asked for once the values rest. */
function Breaks() {
  const { style } = useRoom();
  const [revision] = useDebouncedValue(style.revision, 800);
  const [pages, setPages] = useState(1);
  const asked = useQuery({
    queryKey: ["reach-check", style.id, revision, style.release],
    staleTime: Number.POSITIVE_INFINITY,
    placeholderData: keepPreviousData,
    queryFn: () => ask(api.POST("/api/house-styles/{id}/reach/checks", { params: { path: { id: style.id } }, body: { id: newId() } })),
  });
  const job = asked.isPlaceholderData ? undefined : asked.data?.id;
  const found = useQuery({
    queryKey: ["reach-findings", style.id, job, pages],
    enabled: job !== undefined,
    placeholderData: keepPreviousData,
    queryFn: () => askFindings(style.id, job ?? "", pages),
    refetchInterval: ({ state }) => (state.data && hasEnded(state.data.job) ? false : often),
  });
  // Nobody looks at it any more, so nobody needs it.
  useEffect(() => () => void (job && api.DELETE("/api/jobs/{id}", { params: { path: { id: job } } })), [job]);
  const fault = asked.error ?? found.error;
  if (fault) {
    return <li role="alert">What it would break could not be checked: {fault.message}</li>;
  }
  const data = found.data;
  if (!data) {
    return <li className="soft">Checking what it would break …</li>;
  }
  return (
    <li data-stopped={data.stopped > 0}>
      <b>{numberOf(data.stopped)}</b> {pluralOf(data.stopped, "would get a blocker", "would get blockers")}
      {data.job.state === "failed" && <p role="alert">{data.job.step}</p>}
      {!hasEnded(data.job) && <JobProgress job={data.job} name="Checking what it would break" />}
      {data.findings.length > 0 && (
        // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls is scrolled by keys too.
        <section className={classes.broken} aria-label="Emails that would get blockers" tabIndex={0}>
          {data.findings.map((e) => (
            <details key={e.id}>
              <summary>{e.name}</summary>
              {e.blockers.map((blocker) => (
                <p key={blocker}>{blocker}</p>
              ))}
            </details>
          ))}
        </section>
      )}
      {data.stopped > data.findings.length && (
        <button type="button" className="plain underlined" onClick={() => setPages(pages + 1)}>
          Show more
        </button>
      )}
    </li>
  );
}

const often = 500;

async function askFindings(id: string, job: string, pages: number): Promise<{ job: Job; stopped: number; findings: ReachFinding[] }> {
  const findings: ReachFinding[] = [];
  for (let after = 0, page = 1; ; page++) {
    const answer = await ask(api.GET("/api/house-styles/{id}/reach/checks/{job}", { params: { path: { id, job }, query: { after } } }));
    findings.push(...answer.findings);
    if (answer.next === null || page === pages) {
      return { job: answer.job, stopped: answer.stopped, findings };
    }
    after = answer.next;
  }
}
