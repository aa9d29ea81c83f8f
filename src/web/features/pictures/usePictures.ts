import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { api, ask } from "../../api/client";
import { watchReleases } from "../../api/live";
import type { PictureEntry } from "../../api/types";

/** A picture by its id, or the one that took its place; with "itself" not the other. */
export function usePicture(id: string, itself = false): PictureEntry | undefined {
  const picture = useQuery({
    queryKey: ["pictures", "one", id, itself],
    enabled: /^[0-9a-f]{64}$/.test(id),
    queryFn: async () => {
      let found = await askPicture(id);
      while (found.replacedBy && !itself) {
        found = await askPicture(found.replacedBy);
      }
      return found;
    },
  });
  return picture.data;
}

/** Asks again for what is shown of pictures; and whenever anything in the library changed. */
export function useRefreshPictures() {
  const cache = useQueryClient();
  return () => cache.invalidateQueries({ queryKey: ["pictures"] });
}

export function useWatchedPictures() {
  const cache = useQueryClient();
  useEffect(() => watchReleases(() => void cache.invalidateQueries({ queryKey: ["pictures"] })), [cache]);
}

const askPicture = (id: string) => ask(api.GET("/api/pictures/{id}", { params: { path: { id } } }));
