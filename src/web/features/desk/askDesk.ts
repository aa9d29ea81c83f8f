import { api, ask } from "../../api/client";
import type { DeskAnswer } from "../../api/types";

const ahead = new Map<string, Promise<DeskAnswer>>();

const request = (id: string) => ask(api.GET("/api/emails/{id}/desk", { params: { path: { id } } }));

/** Asks for a desk before its screen is there to do so. */
export function askAhead(id: string) {
  const answer = request(id);
  answer.catch(() => ahead.delete(id));
  ahead.set(id, answer);
}

/** The whole desk of an email; once, what was asked for ahead. */
export function askDesk(id: string): Promise<DeskAnswer> {
  const answer = ahead.get(id) ?? request(id);
  ahead.delete(id);
  return answer;
}
