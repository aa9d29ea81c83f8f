import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask } from "../../api/client";
import { queries } from "../../api/queries";
import type { CheckPolicy } from "../../api/types";
import { useSetting } from "../../shared/useSetting";

const key = queries.checkPolicy.queryKey;
const nothing: Required<CheckPolicy> = { severities: {}, clients: {}, hosts: [], senders: {} };
const whole = (policy: CheckPolicy | undefined): Required<CheckPolicy> => ({ ...nothing, ...policy });

/** The lead's word on the checks: each change is stored at once, and can be taken back. */
export function useCheckPolicy() {
  const cache = useQueryClient();
  const query = useQuery(queries.checkPolicy);
  const [former, setFormer] = useState<Required<CheckPolicy>>();
  const policy = useSetting(whole(query.data?.policy), async (next) => {
    const revision = cache.getQueryData(key)?.revision ?? 0;
    try {
      const answer = await ask(api.PUT("/api/checks/policy", { headers: { "If-Match": `"${revision}"` }, body: next }));
      cache.setQueryData(key, answer);
      return whole(answer.policy);
    } catch (error) {
      void cache.invalidateQueries({ queryKey: key });
      throw error;
    }
  });
  return {
    answer: query.data && { ...query.data, policy: policy.value },
    fault: query.error?.message ?? policy.fault,
    notice: policy.saving ? "Saving…" : policy.saved ? "Saved" : undefined,
    undo:
      former && policy.saved
        ? () => {
            policy.set(former);
            setFormer(undefined);
          }
        : undefined,
    set: (next: Required<CheckPolicy>) => {
      setFormer(policy.value);
      policy.set(next);
    },
  };
}

export type Policy = ReturnType<typeof useCheckPolicy>;
