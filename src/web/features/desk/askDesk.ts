import { api, ask } from "../../api/client";
import type { DeskAnswer, RowPlace, SentEdit } from "../../api/types";

/** The rooms whose documents lie on the desk, as the API's addresses name them. */
export type DeskKind = "emails" | "templates" | "rows";

const ahead = new Map<string, Promise<DeskAnswer>>();

// The three speak alike: one of them stands for all in the types.
const at = <Path extends string>(kind: DeskKind, path: Path) => `/api/${kind}/{id}/${path}` as `/api/emails/{id}/${Path}`;

const request = (kind: DeskKind, id: string, asAuthor: boolean, seen?: Seen) =>
  ask(
    api.GET(at(kind, "desk"), {
      params: { path: { id }, query: { asAuthor: asAuthor || undefined, seen: seen?.base, styleVersion: seen?.styleVersion } },
    }),
  );

/** Asks for a desk before its screen is there to do so. */
export function askAhead(kind: DeskKind, id: string) {
  const answer = request(kind, id, false);
  answer.catch(() => ahead.delete(id));
  ahead.set(id, answer);
}

/** The desk of a document: the whole of it, or what has changed since it was seen; once, what was asked for ahead. */
export function askDesk(kind: DeskKind, id: string, asAuthor = false, seen?: Seen): Promise<DeskAnswer> {
  const answer = (asAuthor || seen ? undefined : ahead.get(id)) ?? request(kind, id, asAuthor, asAuthor ? undefined : seen);
  ahead.delete(id);
  return answer;
}

interface Seen {
  base: number;
  styleVersion: string;
}

/** @param made What was on the screen when the edits were made, and what this window stored since. */
export const sendEdits = (kind: DeskKind, id: string, seen: Seen, edits: SentEdit[], made: { base: number; own: string[] }) =>
  ask(
    api.POST(at(kind, "edits"), {
      params: { path: { id } },
      body: { edits, styleVersion: seen.styleVersion, seen: seen.base, base: made.base, own: made.own.length > 0 ? made.own : null },
    }),
  );

export const sendMove = (kind: DeskKind, id: string, seen: Seen, move: "undo" | "redo", moveId: string, skip: string[]) =>
  ask(api.POST(at(kind, move), { params: { path: { id } }, body: { ...seen, id: moveId, skip: skip.length > 0 ? skip : null } }));

/** What a zone takes, or with none what a template's running order does. */
export const askOffers = (kind: DeskKind, id: string, zone?: string) =>
  ask(api.GET(at(kind, "offers"), { params: { path: { id }, query: { zone } } }));

/** Where a row or zone may be moved to: the running order and each zone, with the reason where it may not. */
export const askRowPlaces = (kind: DeskKind, id: string, row: string): Promise<RowPlace[]> =>
  ask(api.GET(at(kind, "order/{row}/places"), { params: { path: { id, row } } }));

/** A row as it stands, with all that is filled in. */
export const askRow = (kind: DeskKind, id: string, row: string, detached = false) =>
  ask(api.GET(at(kind, "order/{row}"), { params: { path: { id, row }, query: { detached } } }));
