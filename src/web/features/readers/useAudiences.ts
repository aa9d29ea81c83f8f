import { api, ask } from "../../api/client";
import { queries } from "../../api/queries";
import type { Audiences } from "../../api/types";
import { editsBody, moveBody } from "../../shared/EditQueue";
import { type DocumentSource, useEditedDocument } from "../../shared/useEditedDocument";

/** There is one: what the lead says about readers. */
const id = "00000000-0000-7000-8000-0000000000a1";

const source: DocumentSource<Audiences> = {
  key: queries.audiences.queryKey,
  get: () => ask(api.GET("/api/audiences")),
  send: (job, seen) => {
    if ("edits" in job) {
      return ask(api.POST("/api/audiences/edits", { body: editsBody(job, seen) }));
    }
    const body = moveBody(job);
    return ask(job.move === "undo" ? api.POST("/api/audiences/undo", { body }) : api.POST("/api/audiences/redo", { body }));
  },
};

export const useAudiences = (person: string) => useEditedDocument(id, person, source);
