import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { watchReleases, watchWaits } from "../../api/live";
import { queries } from "../../api/queries";
import type { Wait } from "../../api/types";

/** Everyone is told at once: they do not all ask at once. */
const spread = 4_000;

/** What has come to wait for whoever is signed in since they came, of what they want to be told of: the last of it. */
export function useWaits() {
  const cache = useQueryClient();
  const { data } = useQuery({ ...queries.home, refetchOnMount: true });
  const known = useRef<Set<string>>(undefined);
  const [fresh, setFresh] = useState<Wait>();
  useEffect(() => {
    let asking: ReturnType<typeof setTimeout> | undefined;
    const look = () => {
      asking ??= setTimeout(() => {
        asking = undefined;
        void cache.invalidateQueries({ queryKey: ["home"] });
      }, Math.random() * spread);
    };
    const stops = [watchWaits(look), watchReleases(look)];
    return () => {
      clearTimeout(asking);
      for (const stop of stops) stop();
    };
  }, [cache]);
  useEffect(() => {
    if (!data) {
      return;
    }
    const told = data.waits.filter((w) => w.tell);
    // What waited before they came stands on Home; only what comes now is said.
    const came = known.current && told.find((w) => !known.current?.has(w.key));
    known.current = new Set(data.waits.map((w) => w.key));
    if (came) {
      setFresh(came);
    }
    setFresh((shown) => (shown && !known.current?.has(shown.key) ? undefined : shown));
  }, [data]);
  return { fresh, dismiss: () => setFresh(undefined) };
}
