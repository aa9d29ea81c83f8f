import { useQueryClient } from "@tanstack/react-query";
import { useRef } from "react";
import type { Problem } from "../api/client";
import { queries } from "../api/queries";
import type { CampaignType, StoredSetting } from "../api/types";
import { useSetting } from "./useSetting";

/**
 * A setting of a campaign type, stored as a whole. Of two who change it at once the second is told, and keeps what they set; their next
 * change is over what the other made of it.
 *
 * @param stored What the server says, and its version.
 * @param versionOf The version in a campaign type as it is now.
 */
export function useTypeSetting<T>(
  type: CampaignType,
  stored: { value: T; version: string },
  versionOf: (type: CampaignType) => string,
  put: (value: T, headers: { "If-Match": string }) => Promise<StoredSetting>,
) {
  const cache = useQueryClient();
  // What was stored here goes on from itself, and not from what it was first made from.
  const own = useRef({ seen: new Set<string>(), version: "" });
  const goesOnFrom = (former: string[], version: string) => {
    own.current = { seen: new Set([...own.current.seen, ...former]), version };
  };
  const setting = useSetting(
    stored,
    async (next) => {
      const over = own.current.seen.has(next.version) ? own.current.version : next.version;
      try {
        const { version } = await put(next.value, { "If-Match": `"${over}"` });
        goesOnFrom([next.version, over], version);
        await cache.invalidateQueries({ queryKey: queries.campaignTypes.queryKey });
        return { value: next.value, version };
      } catch (problem) {
        if ((problem as Problem).type === "changed-since") {
          const now = await cache.fetchQuery({ ...queries.campaignTypes, staleTime: 0 });
          goesOnFrom([next.version, over], versionOf(now.find((t) => t.key === type.key) ?? type));
        }
        throw problem;
      }
    },
    "stays",
  );
  const made =
    (next: T | ((latest: T) => T)) =>
    (latest: { value: T; version: string }): { value: T; version: string } => ({
      ...latest,
      value: typeof next === "function" ? (next as (latest: T) => T)(latest.value) : next,
    });
  return {
    value: setting.value.value,
    /** Keeps it here: it is being typed, or cannot be stored yet. */
    write: (next: T | ((latest: T) => T)) => setting.write(made(next)),
    set: (next: T | ((latest: T) => T)) => setting.set(made(next)),
    send: setting.send,
    fault: setting.fault,
  };
}
