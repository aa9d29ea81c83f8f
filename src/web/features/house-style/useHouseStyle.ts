import { useMemo } from "react";
import { api, ask } from "../../api/client";
import type { HouseStyle } from "../../api/types";
import { editsBody, type Job, moveBody } from "../../shared/EditQueue";
import { type DocumentSource, type SendEdit, useEditedDocument } from "../../shared/useEditedDocument";

export type { Fault } from "../../shared/useEditedDocument";
export type EditStyle = SendEdit;

/** The draft of a house style, and the ways to change it. */
export function useHouseStyle(id: string, person: string) {
  const source = useMemo<DocumentSource<HouseStyle>>(
    () => ({
      key: ["house-style", id],
      get: () => ask(api.GET("/api/house-styles/{id}", { params: { path: { id } } })),
      send: (job, seen) => ask(send(id, job, seen)),
      lay: (answer, now, seen) => {
        if (answer.whole) {
          return answer;
        }
        return now && seen && now.revision === seen.revision ? laidOn(now, answer) : undefined;
      },
    }),
    [id],
  );
  const { query, ...rest } = useEditedDocument(id, person, source);
  return { style: query, ...rest };
}

function send(id: string, job: Job, seen: number) {
  const params = { path: { id } };
  if ("edits" in job) {
    return api.POST("/api/house-styles/{id}/edits", { params, body: editsBody(job, seen) });
  }
  const body = moveBody(job);
  return job.move === "undo"
    ? api.POST("/api/house-styles/{id}/undo", { params, body })
    : api.POST("/api/house-styles/{id}/redo", { params, body });
}

function laidOn(now: HouseStyle, answer: HouseStyle): HouseStyle {
  const variables = new Map(answer.variables.map((v) => [v.variable.key, v]));
  const styles = new Map(answer.styles.map((s) => [s.name, s]));
  return {
    ...answer,
    whole: true,
    variables: now.variables.map((v) => variables.get(v.variable.key) ?? v),
    styles: now.styles.map((s) => styles.get(s.name) ?? s),
    specimen: {
      opening: answer.specimen.opening ?? now.specimen.opening,
      rows: answer.specimen.rows.map((row, i) => row ?? now.specimen.rows[i] ?? ""),
    },
  };
}
