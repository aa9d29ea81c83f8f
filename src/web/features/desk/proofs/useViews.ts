import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useEffect, useMemo, useState } from "react";
import { api, ask } from "../../../api/client";
import { queries } from "../../../api/queries";
import type { ProofView } from "../../../api/types";
import type { DeskKind } from "../askDesk";
import type { Desk } from "../DeskStore";

/** What a view is of. Only of a view that is asked for: else each key would make a question that nobody asks. */
const standOf = (desk: Desk) => [desk.revision, desk.proof.styleVersion];

/** The email as some clients would show it; undefined: none is asked for. */
export function useSimulated(kind: DeskKind, desk: Desk, view?: ProofView) {
  return useQuery({
    queryKey: ["view", kind, desk.id, view, view && standOf(desk)],
    enabled: view !== undefined,
    placeholderData: keepPreviousData,
    queryFn: () =>
      ask(
        api.GET(`/api/${kind}/{id}/draft/view` as "/api/emails/{id}/draft/view", {
          params: { path: { id: desk.id }, query: { view: view ?? "" } },
        }),
      ),
  }).data;
}

/** Whose eyes the email is looked at with, and on which day. */
export interface ReadAs {
  /** Empty: nobody's in particular; fields say their samples. */
  reader: string;
  /** A made-up reader who shows a finding: values by field. */
  made?: Record<string, string>;
  /** Empty: the day it goes out. */
  day: string;
}

/** The email as one reader gets it; undefined: nobody's is asked for. */
export function useReaderView(kind: DeskKind, desk: Desk, as?: ReadAs) {
  return useQuery({
    queryKey: ["reader-view", kind, desk.id, as, as && standOf(desk)],
    enabled: as !== undefined,
    placeholderData: keepPreviousData,
    queryFn: () =>
      ask(
        api.GET(`/api/${kind}/{id}/draft/reader` as "/api/emails/{id}/draft/reader", {
          params: {
            path: { id: desk.id },
            query: { reader: as?.reader || undefined, values: as?.made && JSON.stringify(as.made), day: as?.day || undefined },
          },
        }),
      ),
  });
}

/** The sample readers, and the way from one to the next; "R" goes on, Shift+R back. */
export function useReadAs() {
  const [as, setAs] = useState<ReadAs>();
  const readers = useQuery({ ...queries.sampleReaders, enabled: as !== undefined });
  const all = readers.data ?? [];
  const step = (by: 1 | -1) =>
    setAs((now) => {
      const at = all.findIndex((r) => r.id === now?.reader);
      const next = all[at < 0 ? (by > 0 ? 0 : all.length - 1) : (at + by + all.length) % all.length];
      return { day: now?.day ?? "", reader: next?.id ?? "" };
    });
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      const elsewhere = (event.target as HTMLElement).closest("input, textarea, select, [contenteditable=true], [role=dialog]");
      if (event.key.toLowerCase() === "r" && !event.ctrlKey && !event.metaKey && !event.altKey && !elsewhere) {
        event.preventDefault();
        step(event.shiftKey ? -1 : 1);
      }
    };
    window.addEventListener("keydown", listen);
    return () => window.removeEventListener("keydown", listen);
  });
  // Whoever turns it on begins with the first.
  const first = all[0]?.id;
  useEffect(() => {
    if (first) {
      setAs((now) => (now && !now.reader && !now.made ? { ...now, reader: first } : now));
    }
  }, [first]);
  const isLoaded = readers.data !== undefined;
  // biome-ignore lint/correctness/useExhaustiveDependencies: the step goes by the readers there are.
  return useMemo(() => ({ as, setAs, readers: all, step, loaded: isLoaded }), [as, readers.data, isLoaded]);
}

/** Whose eyes the proofs are looked at with. */
export type Reading = ReturnType<typeof useReadAs>;
