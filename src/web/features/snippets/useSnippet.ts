import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useMemo } from "react";
import { api, ask } from "../../api/client";
import type { Snippet } from "../../api/types";
import { editsBody, moveBody } from "../../shared/EditQueue";
import { type DocumentSource, useEditedDocument } from "../../shared/useEditedDocument";

/** A snippet and the ways to change it. What it says holds at once: it has no draft. */
export function useSnippet(id: string, person: string) {
  const cache = useQueryClient();
  const source = useMemo<DocumentSource<Snippet>>(() => {
    const params = { path: { id } };
    return {
      key: ["snippet", id],
      get: () => ask(api.GET("/api/snippets/{id}", { params })),
      send: (job, seen) => {
        if ("edits" in job) {
          return ask(api.POST("/api/snippets/{id}/edits", { params, body: editsBody(job, seen) }));
        }
        const body = moveBody(job);
        return ask(
          job.move === "undo"
            ? api.POST("/api/snippets/{id}/undo", { params, body })
            : api.POST("/api/snippets/{id}/redo", { params, body }),
        );
      },
    };
  }, [id]);
  const { query, ...rest } = useEditedDocument(id, person, source);
  const revision = query.data?.revision;
  // The list beside it says what it says now.
  // biome-ignore lint/correctness/useExhaustiveDependencies: with every change of it.
  useEffect(() => {
    void cache.invalidateQueries({ queryKey: ["snippets"] });
  }, [cache, revision]);
  return { snippet: query, ...rest };
}
