import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";
import { api, ask, type Problem } from "../../api/client";
import { watchDocument } from "../../api/live";
import type { Edit, HouseStyle, SentEdit } from "../../api/types";
import { newId } from "../../shared/ids";
import { UndoStep } from "../../shared/UndoStep";
import { keepUnsent, readUnsent } from "../../shared/unsent";

/** What was refused, and at which place: the target of the edit that was last sent. */
export interface Fault {
  target: string;
  message: string;
}

export type EditStyle = (edit: Edit, target: string) => void;

/** The draft of a house style, and the road for its edits: one request in flight, the last value of a place wins. */
export function useHouseStyle(id: string, person: string) {
  const queries = useQueryClient();
  const key = ["house-style", id];
  const style = useQuery({ queryKey: key, queryFn: () => ask(api.GET("/api/house-styles/{id}", { params: { path: { id } } })) });
  const [fault, setFault] = useState<Fault>();
  const [offline, setOffline] = useState(false);
  const waiting = useRef<SentEdit[]>([]);
  const flying = useRef<SentEdit[]>([]);
  // What was sent once may be stored though the answer was lost: it goes again as it was.
  const tried = useRef(new Set<string>());
  const last = useRef("");
  const busy = useRef(false);
  const [step] = useState(() => new UndoStep());

  // An answer that says only what changed is laid on what it changed; where that is gone, all is asked for anew.
  const keep = useCallback(
    (answer: HouseStyle, seen?: HouseStyle) => {
      const now = queries.getQueryData<HouseStyle>(["house-style", id]);
      if (!answer.whole && (!seen || now?.revision !== seen.revision)) {
        return queries.invalidateQueries({ queryKey: ["house-style", id] });
      }
      queries.setQueryData(["house-style", id], answer.whole || !now ? answer : laidOn(now, answer));
    },
    [queries, id],
  );

  const run = useCallback(async () => {
    if (busy.current || waiting.current.length === 0) {
      return;
    }
    busy.current = true;
    const edits = waiting.current;
    const target = last.current;
    flying.current = edits;
    for (const { id } of edits) {
      tried.current.add(id);
    }
    waiting.current = [];
    const seen = queries.getQueryData<HouseStyle>(["house-style", id]);
    let again = 0;
    try {
      keep(
        await ask(api.POST("/api/house-styles/{id}/edits", { params: { path: { id } }, body: { base: seen?.revision ?? 0, edits } })),
        seen,
      );
      setFault(undefined);
      setOffline(false);
    } catch (problem) {
      const { status, message } = problem as Problem;
      setOffline(status === 0);
      if (status === 0) {
        waiting.current = [...edits, ...waiting.current];
        again = 1000;
      } else {
        setFault({ target, message });
        // What someone else set meanwhile is shown before it is written over.
        void queries.invalidateQueries({ queryKey: ["house-style", id] });
      }
    }
    busy.current = false;
    flying.current = [];
    keepUnsent(id, person, waiting.current);
    if (again > 0) {
      setTimeout(run, again);
    } else {
      void run();
    }
  }, [queries, id, person, keep]);

  const send = useCallback(
    (edits: SentEdit[]) => {
      waiting.current = edits;
      keepUnsent(id, person, [...flying.current, ...edits]);
      void run();
    },
    [run, id, person],
  );

  // What a crash of the browser left unsent goes first; what had arrived after all is known by its id.
  useEffect(() => {
    const unsent = readUnsent(id, person);
    if (unsent.length > 0 && style.data && waiting.current.length + flying.current.length === 0) {
      send(unsent);
    }
  }, [id, person, style.data, send]);

  // What another person sets shows here too, as long as nothing of one's own is on its way.
  useEffect(
    () =>
      watchDocument(id, (revision) => {
        if (!busy.current && revision > (queries.getQueryData<HouseStyle>(["house-style", id])?.revision ?? 0)) {
          void queries.invalidateQueries({ queryKey: ["house-style", id] });
        }
      }),
    [id, queries],
  );

  const edit = useCallback<EditStyle>(
    (change, target) => {
      const id = step.of(target);
      last.current = target;
      // Of what waits, only the last value of a place needs to go.
      send([...waiting.current.filter((e) => e.step !== id || tried.current.has(e.id)), { id: newId(), step: id, edit: change }]);
    },
    [send, step],
  );

  /** Several edits as one step, taken back together. */
  const editAll = useCallback(
    (changes: Edit[], target: string) => {
      step.close();
      const id = newId();
      last.current = target;
      send([...waiting.current, ...changes.map((change) => ({ id: newId(), step: id, edit: change }))]);
    },
    [send, step],
  );

  const move = useCallback(
    async (which: "undo" | "redo") => {
      const params = { path: { id } };
      const body = { id: newId() };
      step.close();
      try {
        keep(
          await ask(
            which === "undo"
              ? api.POST("/api/house-styles/{id}/undo", { params, body })
              : api.POST("/api/house-styles/{id}/redo", { params, body }),
          ),
        );
        setFault(undefined);
      } catch (problem) {
        setFault({ target: "", message: (problem as Problem).message });
      }
    },
    [id, keep, step],
  );

  return { style, edit, editAll, move, fault, offline };
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
