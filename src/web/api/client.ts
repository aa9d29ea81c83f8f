import createClient from "openapi-fetch";
import type { paths } from "./schema";

/** An error as the server tells it (RFC 9457), or status 0 where the server could not be reached. */
export class Problem extends Error {
  constructor(
    readonly status: number,
    readonly type: string,
    message: string,
    readonly more: Record<string, unknown> = {},
  ) {
    super(message);
  }
}

const client = createClient<paths>({ baseUrl: "" });

type Answer<T> = { data?: T; error?: unknown; response: Response };

/** The data of an answer; anything else is thrown as a Problem. */
export async function ask<T>(request: Promise<Answer<T>>): Promise<T> {
  let answer: Answer<T>;
  try {
    answer = await request;
  } catch {
    throw new Problem(0, "unreachable", "The server cannot be reached.");
  }
  if (answer.response.ok) {
    return answer.data as T;
  }
  const { type = "", detail, title, ...more } = (answer.error ?? {}) as Record<string, string>;
  throw new Problem(answer.response.status, type.replace("/problems/", ""), detail ?? title ?? "The request failed.", more);
}

export const api = client;
