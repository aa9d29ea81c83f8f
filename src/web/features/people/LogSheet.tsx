import { Button, NativeSelect, NumberInput } from "@mantine/core";
import { useInfiniteQuery, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask } from "../../api/client";
import { queries } from "../../api/queries";
import type { LogItem } from "../../api/types";
import { ChangeLine } from "../../shared/ChangeLine";
import { DayField } from "../../shared/DayField";
import { dateAndTimeOf } from "../../shared/format";
import { Pending } from "../../shared/Pending";
import { WideTable } from "../../shared/WideTable";
import classes from "./PeopleRoom.module.css";

/** What was done and refused, by whom and when: newest first. Nobody can change it. */
export function LogSheet() {
  const [kind, setKind] = useState("");
  const [person, setPerson] = useState("");
  const [from, setFrom] = useState("");
  const [until, setUntil] = useState("");
  const people = useQuery(queries.accounts);
  // Days are whole days where whoever looks is.
  const narrowed = {
    kind: kind || undefined,
    person: person || undefined,
    from: from ? new Date(`${from}T00:00`).toISOString() : undefined,
    until: until ? new Date(new Date(`${until}T00:00`).getTime() + 86_400_000).toISOString() : undefined,
  };
  const log = useInfiniteQuery(queries.log(narrowed));
  const entries = log.data?.pages.flatMap((p) => p.entries) ?? [];
  const kept = log.data?.pages[0]?.keptDays;
  const file = new URLSearchParams(Object.entries(narrowed).filter((e): e is [string, string] => e[1] !== undefined));
  return (
    <div className={classes.log}>
      <div className={classes.filters}>
        <NativeSelect
          label="What"
          size="xs"
          value={kind}
          onChange={(e) => setKind(e.currentTarget.value)}
          data={[{ value: "", label: "Everything" }, ...(log.data?.pages[0]?.kinds.map((k) => ({ value: k.kind, label: k.label })) ?? [])]}
        />
        <NativeSelect
          label="Who or whom"
          size="xs"
          value={person}
          onChange={(e) => setPerson(e.currentTarget.value)}
          data={[{ value: "", label: "Everyone" }, ...(people.data?.map((p) => ({ value: p.id, label: p.name })) ?? [])]}
        />
        <DayField label="From" size="xs" value={from} onChange={setFrom} />
        <DayField label="Until" size="xs" value={until} onChange={setUntil} />
        <Button component="a" variant="default" size="xs" href={`/api/log/file?${file}`} download>
          Export as CSV
        </Button>
        {kept !== undefined && <Keeping days={kept} />}
      </div>
      <div className={classes.scroll}>
        <Pending query={log} what="The log" />
        {log.data && entries.length === 0 && <p className={classes.about}>Nothing is like that. Clear the filters to see all.</p>}
        {entries.length > 0 && (
          <WideTable label="Log" className={classes.table}>
            <thead>
              <tr>
                <th scope="col">When</th>
                <th scope="col">Who</th>
                <th scope="col">What</th>
                <th scope="col">Before and after</th>
              </tr>
            </thead>
            <tbody>
              {entries.map((entry) => (
                <tr key={entry.sequence}>
                  <td>{dateAndTimeOf(entry.at)}</td>
                  <td>{entry.who || <span className="soft">nobody signed in</span>}</td>
                  <td>
                    {entry.what}{" "}
                    {[entry.subject, entry.whom]
                      .filter(Boolean)
                      .map((of) => `“${of}”`)
                      .join(", ")}
                  </td>
                  <td className={classes.change}>{changeOf(entry)}</td>
                </tr>
              ))}
            </tbody>
          </WideTable>
        )}
        {log.hasNextPage && (
          <p>
            <Button variant="default" loading={log.isFetchingNextPage} onClick={() => log.fetchNextPage()}>
              Show older entries
            </Button>
          </p>
        )}
      </div>
    </div>
  );
}

/** What is different between before and after, by the names that the API has. */
function changeOf({ before, after }: LogItem): string {
  const [was, is] = [(before ?? {}) as Record<string, unknown>, (after ?? {}) as Record<string, unknown>];
  return [...new Set([...Object.keys(was), ...Object.keys(is)])]
    .filter((key) => JSON.stringify(was[key]) !== JSON.stringify(is[key]))
    .map((key) => `${key}: ${before ? `${said(was[key])} → ` : ""}${said(is[key])}`)
    .join("; ");
}

function said(value: unknown): string {
  if (value === undefined || value === null) {
    return "nothing";
  }
  if (Array.isArray(value)) {
    return value.length === 0 ? "none" : value.map(said).join(", ");
  }
  const words = typeof value === "object" ? JSON.stringify(value) : String(value);
  // A hash or a key is told from others by its beginning; the CSV has it whole.
  return /^[0-9a-f]{40,}$/.test(words) ? `${words.slice(0, 12)}…` : words;
}

function Keeping({ days }: { days: number }) {
  const cache = useQueryClient();
  const [typed, setTyped] = useState<number | string>(days);
  const keep = useMutation({
    mutationFn: () => ask(api.PUT("/api/log/keeping", { body: { days: Number(typed) } })),
    onSuccess: () => cache.invalidateQueries({ queryKey: ["log"] }),
  });
  return (
    <form
      style={{ display: "flex", gap: 8, alignItems: "flex-end" }}
      onSubmit={(event) => {
        event.preventDefault();
        keep.mutate();
      }}
    >
      <NumberInput label="Kept for days" size="xs" w={110} min={30} max={3650} value={typed} onChange={setTyped} />
      {Number(typed) !== days && (
        <Button type="submit" variant="default" size="xs">
          Keep it so long
        </Button>
      )}
      <ChangeLine fault={keep.error?.message} />
    </form>
  );
}
