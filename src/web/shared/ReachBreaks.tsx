import { useDebouncedValue } from "@mantine/hooks";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { type ReactNode, useEffect, useState } from "react";
import { api, ask } from "../api/client";
import type { Job, ReachFinding } from "../api/types";
import { numberOf, pluralOf } from "./format";
import { newId } from "./ids";
import { JobProgress } from "./JobProgress";
import classes from "./ReachBreaks.module.css";
import { hasEnded } from "./useJob";

interface Props {
  /** What is released: the first part of its address. */
  room: "house-styles" | "templates" | "rows";
  id: string;
  /** Changes with the draft: it is checked anew. */
  version: string;
  /** What more there is to see of an email that it would break. */
  more?: (email: string) => ReactNode;
}

const often = 500;

/** The emails that a release would break, and why, told as they are found. */
export function ReachBreaks({ room, id, version, more }: Props) {
  // A house style takes nothing its place; an update may.
  const [one, many] = room === "house-styles" ? ["would get a blocker", "would get blockers"] : ["would break", "would break"];
  const [checked] = useDebouncedValue(version, 800);
  const [pages, setPages] = useState(1);
  const asked = useQuery({
    queryKey: ["reach-check", room, id, checked],
    staleTime: Number.POSITIVE_INFINITY,
    placeholderData: keepPreviousData,
    queryFn: () => ask(api.POST(at(room, "reach/checks"), { params: { path: { id } }, body: { id: newId() } })),
  });
  const job = asked.isPlaceholderData ? undefined : asked.data?.id;
  const found = useQuery({
    queryKey: ["reach-findings", room, id, job, pages],
    enabled: job !== undefined,
    placeholderData: keepPreviousData,
    queryFn: () => askFindings(room, id, job ?? "", pages),
    refetchInterval: ({ state }) => (state.data && hasEnded(state.data.job) ? false : often),
  });
  // Nobody looks at it any more, so nobody needs it.
  useEffect(() => () => void (job && api.DELETE("/api/jobs/{id}", { params: { path: { id: job } } })), [job]);
  const fault = asked.error ?? found.error;
  if (fault) {
    return <p role="alert">What it would break could not be checked: {fault.message}</p>;
  }
  const data = found.data;
  if (!data) {
    return <p className="soft">Checking what it would break …</p>;
  }
  return (
    <div className={classes.breaks} data-stopped={data.stopped > 0}>
      <b>{numberOf(data.stopped)}</b> {pluralOf(data.stopped, one, many)}
      {data.job.state === "failed" && <p role="alert">{data.job.step}</p>}
      {!hasEnded(data.job) && <JobProgress job={data.job} name="Checking what it would break" />}
      {data.findings.length > 0 && (
        // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls is scrolled by keys too.
        <section className={classes.broken} aria-label={`Emails that ${many}`} tabIndex={0}>
          {data.findings.map((e) => (
            <details key={e.id}>
              <summary>{e.name}</summary>
              {e.blockers.map((blocker) => (
                <p key={blocker}>{blocker}</p>
              ))}
              {more?.(e.id)}
            </details>
          ))}
        </section>
      )}
      {data.stopped > data.findings.length && (
        <button type="button" className="plain underlined" onClick={() => setPages(pages + 1)}>
          Show more
        </button>
      )}
    </div>
  );
}

// The three speak alike: one of them stands for all in the types.
const at = <Path extends string>(room: Props["room"], path: Path) => `/api/${room}/{id}/${path}` as `/api/house-styles/{id}/${Path}`;

async function askFindings(
  room: Props["room"],
  id: string,
  job: string,
  pages: number,
): Promise<{ job: Job; stopped: number; findings: ReachFinding[] }> {
  const findings: ReachFinding[] = [];
  for (let after = 0, page = 1; ; page++) {
    const answer = await ask(api.GET(at(room, "reach/checks/{job}"), { params: { path: { id, job }, query: { after } } }));
    findings.push(...answer.findings);
    if (answer.next === null || page === pages) {
      return { job: answer.job, stopped: answer.stopped, findings };
    }
    after = answer.next;
  }
}
