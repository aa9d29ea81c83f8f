import { keepPreviousData, useInfiniteQuery, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { api, ask } from "../../api/client";
import { watchReleases } from "../../api/live";
import type { PictureEntry } from "../../api/types";

/** What is looked for in the library. */
export interface Sought {
  words: string;
  tag?: string;
  replaced?: boolean;
}

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

/** Pictures of the library, the newest first, page by page. */
export function usePictures({ words, tag, replaced = false }: Sought) {
  return useInfiniteQuery({
    queryKey: ["pictures", "list", words, tag, replaced],
    initialPageParam: undefined as string | undefined,
    placeholderData: keepPreviousData,
    queryFn: ({ pageParam }) =>
      ask(api.GET("/api/pictures", { params: { query: { q: words || undefined, tag, replaced, after: pageParam } } })),
    getNextPageParam: (last) => last.next ?? undefined,
  });
}

export const useTags = () => useQuery({ queryKey: ["pictures", "tags"], queryFn: () => ask(api.GET("/api/pictures/tags")) });

/** Asks again for what is shown of pictures; and whenever anything in the library changed. */
export function useRefreshPictures() {
  const queries = useQueryClient();
  return () => queries.invalidateQueries({ queryKey: ["pictures"] });
}

export function useWatchedPictures() {
  const queries = useQueryClient();
  useEffect(() => watchReleases(() => void queries.invalidateQueries({ queryKey: ["pictures"] })), [queries]);
}

const askPicture = (id: string) => ask(api.GET("/api/pictures/{id}", { params: { path: { id } } }));
