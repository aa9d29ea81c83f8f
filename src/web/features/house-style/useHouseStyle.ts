import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { api, ask } from "../../api/client";
import { watchDocument } from "../../api/live";
import type { Edit, HouseStyle } from "../../api/types";
import { asSent, EditQueue, type Job, type Move } from "../../shared/EditQueue";
import type { Editing } from "../../shared/useLiveField";

/** What was refused, and at which place: the target of the edit that was last sent. */
export interface Fault {
  target: string;
  message: string;
}

export type EditStyle = (edit: Edit, target: string) => void;

/** The draft of a house style, and the ways to change it. */
export function useHouseStyle(id: string, person: string) {
  const cache = useQueryClient();
  const key = ["house-style", id];
  const style = useQuery({ queryKey: key, queryFn: () => ask(api.GET("/api/house-styles/{id}", { params: { path: { id } } })) });
  const [fault, setFault] = useState<Fault>();
  const [offline, setOffline] = useState(false);
  /** A step that could not be taken back, or brought again: the next time it is passed over. */
  const [stuck, setStuck] = useState<Move>();
  const skipped = useRef<Record<Move, string[]>>({ undo: [], redo: [] });
  const revision = useCallback(() => cache.getQueryData<HouseStyle>(["house-style", id])?.revision ?? 0, [cache, id]);
  /** The newest revision that was told of; without end after a time in which nothing could be told. */
  const told = useRef(0);
  /** Asks for what was told of and is not here yet. */
  const lookAgain = useCallback(() => {
    if (told.current > revision()) {
      told.current = 0;
      void cache.invalidateQueries({ queryKey: ["house-style", id] });
    }
  }, [cache, id, revision]);
  // An answer that says only what changed is laid on what it changed; where that is gone, all is asked for anew.
  const keep = useCallback(
    (answer: HouseStyle, seen?: HouseStyle) => {
      const now = cache.getQueryData<HouseStyle>(["house-style", id]);
      if (!answer.whole && (!seen || now?.revision !== seen.revision)) {
        return cache.invalidateQueries({ queryKey: ["house-style", id] });
      }
      cache.setQueryData(["house-style", id], answer.whole || !now ? answer : laidOn(now, answer));
    },
    [cache, id],
  );

  const queue = useMemo(
    () =>
      new EditQueue<Laid>(id, person, {
        revision,
        send: async (job) => {
          const seen = cache.getQueryData<HouseStyle>(["house-style", id]);
          return { seen, answer: await ask(send(id, job, seen?.revision ?? 0)) };
        },
        take: ({ answer, seen }) => {
          setFault(undefined);
          void keep(answer, seen);
          return answer.revision;
        },
        refused: (problem, job) => {
          if ("move" in job && typeof problem.more.step === "string") {
            skipped.current[job.move].push(problem.more.step);
            setStuck(job.move);
          }
          setFault({ target: "edits" in job ? job.target : "", message: problem.message });
          // What someone else set meanwhile is shown before it is written over.
          return cache.invalidateQueries({ queryKey: ["house-style", id] });
        },
        signedOut: () => setFault({ target: "", message: "You are signed out. Sign in again in another window; what you set waits here." }),
        keeping: (keeping) => setOffline(keeping === "waiting"),
        idle: lookAgain,
      }),
    [cache, id, person, keep, revision, lookAgain],
  );
  const loaded = style.data !== undefined;
  useEffect(() => {
    if (loaded) {
      queue.open();
    }
    return () => queue.leave();
  }, [queue, loaded]);

  // What another person sets shows here too, as long as nothing of one's own is on its way.
  useEffect(
    () =>
      watchDocument(id, (revision) => {
        told.current = Math.max(told.current, revision);
        if (!queue.busy) {
          lookAgain();
        }
      }),
    [id, queue, lookAgain],
  );

  const edit = useCallback<EditStyle>((change, target) => queue.edit([change], target), [queue]);
  /** Several edits as one step, taken back together. */
  const editAll = useCallback((changes: Edit[], target: string) => queue.editAsOne(changes, target), [queue]);
  const move = useCallback(
    (which: Move) => {
      setStuck(undefined);
      queue.move(which, skipped.current[which]);
    },
    [queue],
  );
  const editing = useMemo<Editing>(
    () => ({ live: queue.live, write: (target, ...edits) => queue.edit(edits, target), shown: { revision: 0 } }),
    [queue],
  );
  editing.shown.revision = style.data?.revision ?? 0;

  return { style, edit, editAll, move, fault, offline, stuck, editing };
}

/** An answer, and what its asker had. */
interface Laid {
  answer: HouseStyle;
  seen?: HouseStyle;
}

function send(id: string, job: Job, base: number) {
  const params = { path: { id } };
  if ("edits" in job) {
    return api.POST("/api/house-styles/{id}/edits", {
      params,
      body: { base: job.base, seen: base, own: job.own.length > 0 ? job.own : null, edits: asSent(job.edits) },
    });
  }
  const body = { id: job.id, skip: job.skip.length > 0 ? job.skip : null };
  return job.move === "undo"
    ? api.POST("/api/house-styles/{id}/undo", { params, body })
    : api.POST("/api/house-styles/{id}/redo", { params, body });
}

function laidOn(now: HouseStyle, answer: HouseStyle): HouseStyle {
  const variables = new Map(answer.variables.map((v) => [v.variable.key, v]));
  const styles = new Map(answer.styles.map((s) => [s.name, s]));
  return {
    ...answer,
    whole: true,
    variables: now.variables.map((v) => variables.get(v.variable.key) ?? v),
    styles: now.styles.map((s) => styles.get(s.name) ?? s),
    specimen: {
      opening: answer.specimen.opening ?? now.specimen.opening,
      rows: answer.specimen.rows.map((row, i) => row ?? now.specimen.rows[i] ?? ""),
    },
  };
}
