import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { watchDocument, watchReleases, watchReviews } from "../../api/live";
import { queries } from "../../api/queries";
import type { CommentThread, Review, ReviewAgainst } from "../../api/types";

/** How an email stands with those who approve it, how it differs from what was, and what was said about it; all live. */
export function useReview(id: string, wanted: ReviewAgainst | null) {
  const cache = useQueryClient();
  useEffect(() => {
    const again = () => {
      void cache.invalidateQueries({ queryKey: ["review", id] });
      void cache.invalidateQueries({ queryKey: ["comments", id] });
    };
    const stops = [watchDocument(id, again), watchReviews(id, again), watchReleases(again)];
    return () => {
      for (const stop of stops) stop();
    };
  }, [cache, id]);
  const review = useQuery(queries.review(id));
  // Both are asked for at once: only where there is no longer what was wanted does one wait for the other.
  const against = wanted && review.data?.against.includes(wanted) !== false ? wanted : undefined;
  const comparison = useQuery(queries.comparison(id, against));
  const differs = !!review.data && !!comparison.data && review.data.hash !== comparison.data.hash;
  const settled = !review.isFetching && !comparison.isFetching;
  useEffect(() => {
    // One was answered before something changed, the other after.
    if (differs && settled) {
      void cache.invalidateQueries({ queryKey: ["review", id] });
    }
  }, [cache, id, differs, settled]);
  return { review, comparison, comments: useQuery(queries.comments(id)) };
}

/** Something that changes how an email stands: what the server answers is how it stands then. */
export function useReviewAct<T>(id: string, act: (given: T) => Promise<Review>) {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: act,
    onSuccess: (answer) => cache.setQueryData(queries.review(id).queryKey, answer),
    onError: () => cache.invalidateQueries({ queryKey: ["review", id] }),
  });
}

/** The same for what is said about it. */
export function useCommentAct<T>(id: string, act: (given: T) => Promise<CommentThread[]>) {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: act,
    onSuccess: (answer) => cache.setQueryData(queries.comments(id).queryKey, answer),
    onError: () => cache.invalidateQueries({ queryKey: ["comments", id] }),
  });
}
