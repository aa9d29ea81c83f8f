import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useRef, useState } from "react";
import { api, ask, type Problem } from "../../api/client";
import type { Edit, HouseStyle, SentEdit } from "../../api/types";
import { newId } from "../../shared/ids";
import { UndoStep } from "../../shared/UndoStep";

/** The draft of a house style, and the road for its edits: one request in flight, the last value of a place wins. */
export function useHouseStyle(id: string) {
  const queries = useQueryClient();
  const key = ["house-style", id];
  const style = useQuery({ queryKey: key, queryFn: () => ask(api.GET("/api/house-styles/{id}", { params: { path: { id } } })) });
  const [fault, setFault] = useState<string>();
  const waiting = useRef<SentEdit[]>([]);
  const busy = useRef(false);
  const [step] = useState(() => new UndoStep());

  const keep = useCallback((answer: HouseStyle) => queries.setQueryData(["house-style", id], answer), [queries, id]);

  const run = useCallback(async () => {
    if (busy.current || waiting.current.length === 0) {
      return;
    }
    busy.current = true;
    const edits = waiting.current;
    waiting.current = [];
    const seen = queries.getQueryData<HouseStyle>(["house-style", id]);
    try {
      keep(await ask(api.POST("/api/house-styles/{id}/edits", { params: { path: { id } }, body: { base: seen?.revision ?? 0, edits } })));
      setFault(undefined);
    } catch (problem) {
      setFault((problem as Problem).message);
      if ((problem as Problem).status === 0) {
        waiting.current = [...edits, ...waiting.current];
        setTimeout(run, 1000);
      }
    }
    busy.current = false;
    void run();
  }, [queries, id, keep]);

  const edit = useCallback(
    (change: Edit, target: string) => {
      const id = step.of(target);
      // Of what waits, only the last value of a place needs to go.
      waiting.current = [...waiting.current.filter((e) => e.step !== id), { id: newId(), step: id, edit: change }];
      void run();
    },
    [run, step],
  );

  const move = useCallback(
    async (which: "undo" | "redo") => {
      const params = { path: { id } };
      const body = { id: newId() };
      try {
        keep(
          await ask(
            which === "undo"
              ? api.POST("/api/house-styles/{id}/undo", { params, body })
              : api.POST("/api/house-styles/{id}/redo", { params, body }),
          ),
        );
      } catch (problem) {
        setFault((problem as Problem).message);
      }
    },
    [id, keep],
  );

  return { style, edit, move, fault };
}
