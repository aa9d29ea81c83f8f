import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";

interface Change {
  /** What it did, for the line that says so. */
  said: string;
  make: () => Promise<unknown>;
  /** What takes it back; left out: nothing does. */
  undo?: () => Promise<unknown>;
}

/** Changes of teams, campaign types and people: each is said in a line with what takes it back, and all that shows them looks again. */
export function usePlanChange() {
  const cache = useQueryClient();
  const [last, setLast] = useState<Change>();
  const change = useMutation({
    mutationFn: (next: Change) => next.make(),
    onMutate: () => setLast(undefined),
    onSuccess: (_, next) => setLast(next),
    onSettled: () =>
      Promise.all(
        ["teams", "campaign-types", "row-kinds", "accounts", "coverage", "session"].map((key) =>
          cache.invalidateQueries({ queryKey: [key] }),
        ),
      ),
  });
  return {
    change: change.mutate,
    busy: change.isPending,
    fault: change.error?.message,
    said: last?.said,
    undo: last?.undo && (() => change.mutate({ said: "Undone.", make: last.undo as () => Promise<unknown> })),
  };
}

export type PlanChange = ReturnType<typeof usePlanChange>;
