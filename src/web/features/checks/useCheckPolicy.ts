import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { api, ask } from "../../api/client";
import { queries } from "../../api/queries";
import type { CheckPolicy } from "../../api/types";

const key = queries.checkPolicy.queryKey;
const nothing: Required<CheckPolicy> = { severities: {}, clients: {}, hosts: [], senders: {} };

/** The lead's word on the checks: each change is kept at once, and can be taken back. */
export function useCheckPolicy() {
  const cache = useQueryClient();
  const policy = useQuery(queries.checkPolicy);
  const [former, setFormer] = useState<CheckPolicy>();
  // Changes made quickly go one after the other, each over what the one before came to.
  const turn = useRef<Promise<unknown>>(Promise.resolve());
  const put = useMutation({
    mutationFn: (next: CheckPolicy) => {
      const sent = turn.current.then(() => {
        const revision = cache.getQueryData(key)?.revision ?? 0;
        return ask(api.PUT("/api/checks/policy", { headers: { "If-Match": `"${revision}"` }, body: next }));
      });
      turn.current = sent.catch(() => undefined);
      return sent;
    },
    onSuccess: (answer) => cache.setQueryData(key, answer),
    onError: () => cache.invalidateQueries({ queryKey: key }),
  });
  const answer = policy.data && { ...policy.data, policy: { ...nothing, ...policy.data.policy } };
  return {
    answer,
    fault: policy.error?.message ?? put.error?.message,
    notice: put.isPending ? "Saving…" : put.isSuccess ? "Saved" : undefined,
    undo:
      former && put.isSuccess
        ? () => {
            put.mutate(former);
            setFormer(undefined);
          }
        : undefined,
    set: (next: CheckPolicy) => {
      setFormer(answer?.policy);
      put.mutate(next);
    },
  };
}

export type Policy = ReturnType<typeof useCheckPolicy>;
