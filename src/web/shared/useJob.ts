import { useMutation, useQuery } from "@tanstack/react-query";
import { api, ask } from "../api/client";
import type { Job } from "../api/types";
import { newId } from "./ids";

const often = 400;

/** Asks for long work and follows it. */
export function useJob(start: (id: string) => Promise<Job>) {
  const asked = useMutation({ mutationFn: () => start(newId()) });
  const job = useQuery({
    queryKey: ["job", asked.data?.id],
    enabled: asked.data !== undefined,
    queryFn: () => ask(api.GET("/api/jobs/{id}", { params: { path: { id: asked.data?.id ?? "" } } })),
    refetchInterval: ({ state }) => (state.data && hasEnded(state.data) ? false : often),
  });
  return { start: asked.mutate, job: job.data ?? asked.data, fault: asked.error?.message ?? job.error?.message };
}

export const hasEnded = (job: Job) => job.state === "done" || job.state === "failed" || job.state === "stopped";
