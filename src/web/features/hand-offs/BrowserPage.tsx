import { NativeSelect } from "@mantine/core";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask } from "../../api/client";
import { queries } from "../../api/queries";
import type { HandOff } from "../../api/types";
import { DayField } from "../../shared/DayField";
import { dayOf } from "../../shared/format";
import { useSetting } from "../../shared/useSetting";
import classes from "./HandOffRoom.module.css";

/** The page that "view in browser" leads to: whether it is there, until when, and as one reader sees it. */
export function BrowserPage({ handOff }: { handOff: HandOff }) {
  const { record } = handOff;
  const cache = useQueryClient();
  const readers = useQuery(queries.sampleReaders);
  const path = { params: { path: { id: record.id } } };
  const until = useSetting(handOff.pageUntil ?? "", async (day) => {
    const answer = await ask(api.PUT("/api/hand-offs/{id}/page", { ...path, body: { until: day || null } }));
    cache.setQueryData(queries.handOff(record.id).queryKey, answer);
    return answer.pageUntil ?? "";
  });
  const [reader, setReader] = useState("");
  const own = useMutation({
    mutationFn: (sample: string) => ask(api.POST("/api/hand-offs/{id}/reader-address", { ...path, body: { sample } })),
  });
  // On this server, whatever it is called by readers.
  const here = (address: string) => {
    const { pathname, search } = new URL(address, location.origin);
    return pathname + search;
  };
  if (record.to) {
    return (
      <section aria-label="Page for browsers">
        <h2>Page for browsers</h2>
        <p className="soft">It is for {record.to.name} alone: the address in their message opens it, and no other.</p>
      </section>
    );
  }
  return (
    <section aria-label="Page for browsers">
      <h2>Page for browsers</h2>
      <p>
        {handOff.pageIsOpen ? (
          <>
            <a href={here(handOff.page)} target="_blank" rel="noreferrer" className="underlined">
              Open the page
            </a>{" "}
            <span className="soft">{handOff.pageUntil ? `there until ${dayOf(handOff.pageUntil)}` : "there until it is withdrawn"}</span>
          </>
        ) : (
          "Closed: whoever opens it reads that it is not there any more."
        )}
      </p>
      {handOff.setPage.allowed && (
        <DayField label="Last day that it is there" value={until.value} placeholder="until it is withdrawn" onChange={until.set} />
      )}
      {until.fault && <p role="alert">■ {until.fault}</p>}
      {record.fields.length > 0 && handOff.pageIsOpen && (readers.data?.length ?? 0) > 0 && (
        <div className={classes.asReader}>
          <NativeSelect
            size="xs"
            label="With one reader's own values"
            value={reader}
            onChange={(e) => {
              setReader(e.currentTarget.value);
              if (e.currentTarget.value) {
                own.mutate(e.currentTarget.value);
              }
            }}
            data={[{ value: "", label: "Choose a sample reader" }, ...(readers.data ?? []).map((r) => ({ value: r.id, label: r.name }))]}
          />
          {reader && own.data && (
            <a href={here(own.data.address)} target="_blank" rel="noreferrer" className="underlined">
              Open it as {readers.data?.find((r) => r.id === reader)?.name}
            </a>
          )}
          {own.error && <p role="alert">■ {own.error.message}</p>}
        </div>
      )}
    </section>
  );
}
