import { type QueryKey, useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { watchDocument } from "../api/live";
import { onSignedIn } from "../api/session";
import type { Edit } from "../api/types";
import { EditQueue, type Job, type Move } from "./EditQueue";
import type { Editing } from "./useLiveField";

/** What was refused, and at which place: the target of the edit that was last sent. */
export interface Fault {
  target: string;
  message: string;
}

export type SendEdit = (edit: Edit, target: string) => void;

interface Edited {
  revision: number;
}

/** Where a document comes from and where its edits go. What it holds does not change from one drawing to the next. */
export interface DocumentSource<Answer extends Edited> {
  key: QueryKey;
  get: () => Promise<Answer>;
  /** @param seen The revision that is on the screen. */
  send: (job: Job, seen: number) => Promise<Answer>;
  /** Lays an answer that says only what changed on what it changed; undefined: what it changed is gone. */
  lay?: (answer: Answer, now: Answer | undefined, seen: Answer | undefined) => Answer | undefined;
}

/** An answer, and what its asker had. */
interface Laid<Answer> {
  answer: Answer;
  seen?: Answer;
}

/** A document that is edited as a whole, and the ways to change it. */
export function useEditedDocument<Answer extends Edited>(id: string, person: string, source: DocumentSource<Answer>) {
  const cache = useQueryClient();
  const query = useQuery({
    queryKey: source.key,
    queryFn: async () => {
      const answer = await source.get();
      const newest = cache.getQueryData<Answer>(source.key);
      // An edit that was answered meanwhile is newer than what was asked before it.
      return newest && newest.revision > answer.revision ? newest : answer;
    },
  });
  const [fault, setFault] = useState<Fault>();
  const [offline, setOffline] = useState(false);
  /** A step that could not be taken back, or brought again: the next time it is passed over. */
  const [stuck, setStuck] = useState<Move>();
  const skipped = useRef<Record<Move, string[]>>({ undo: [], redo: [] });
  /** The newest revision that was told of; without end after a time in which nothing could be told. */
  const told = useRef(0);
  const now = useCallback(() => cache.getQueryData<Answer>(source.key), [cache, source]);
  const again = useCallback(() => cache.invalidateQueries({ queryKey: source.key }), [cache, source]);
  /** Asks for what was told of and is not here yet. */
  const lookAgain = useCallback(() => {
    if (told.current > (now()?.revision ?? 0)) {
      told.current = 0;
      void again();
    }
  }, [now, again]);

  const queue = useMemo(
    () =>
      new EditQueue<Laid<Answer>>(id, person, {
        revision: () => now()?.revision ?? 0,
        send: async (job) => {
          const seen = now();
          return { seen, answer: await source.send(job, seen?.revision ?? 0) };
        },
        take: ({ answer, seen }) => {
          setFault(undefined);
          const whole = source.lay ? source.lay(answer, now(), seen) : answer;
          if (whole) {
            cache.setQueryData(source.key, whole);
          } else {
            void again();
          }
          return answer.revision;
        },
        refused: (problem, job) => {
          if ("move" in job && typeof problem.more.step === "string") {
            skipped.current[job.move].push(problem.more.step);
            setStuck(job.move);
          }
          setFault({ target: "edits" in job ? job.target : "", message: problem.message });
          // What someone else set meanwhile is shown before it is written over.
          return again();
        },
        signedOut: () => setFault({ target: "", message: "You were signed out. Sign in again; what you set waits here." }),
        keeping: (keeping) => setOffline(keeping === "waiting"),
        idle: lookAgain,
      }),
    [cache, id, person, source, now, again, lookAgain],
  );
  const loaded = query.data !== undefined;
  useEffect(() => {
    if (loaded) {
      queue.open();
    }
    return () => queue.leave();
  }, [queue, loaded]);
  useEffect(() => onSignedIn(() => queue.goNow()), [queue]);

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

  const edit = useCallback<SendEdit>((change, target) => queue.edit([change], target), [queue]);
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
  editing.shown.revision = query.data?.revision ?? 0;

  return { query, edit, editAll, move, fault, offline, stuck, editing };
}
