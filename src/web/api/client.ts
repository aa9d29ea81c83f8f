import createClient from "openapi-fetch";
import { hearRelease } from "./pageRelease";
import type { paths } from "./schema";
import { tellSignedOut } from "./signedOut";

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
client.use({ onResponse: ({ response }) => hearRelease(response) });

type Answer<T> = { data?: T; error?: unknown; response: Response };

/** The data of an answer; anything else is thrown as a Problem. */
export async function ask<T>(request: Promise<Answer<T>>): Promise<T> {
  let answer: Answer<T>;
  try {
    answer = await request;
  } catch {
    throw unreachable();
  }
  if (answer.response.ok) {
    return answer.data as T;
  }
  throw problemOf(answer.response, answer.error);
}

/** The same for what nobody does over a session that is there: where one was, it has ended, and it is asked again without it. */
export async function askAlone<T>(request: () => Promise<Answer<T>>): Promise<T> {
  try {
    return await ask(request());
  } catch (problem) {
    if ((problem as Problem).type !== "session-before") {
      throw problem;
    }
    return ask(request());
  }
}

/** The text of an address that answers with text; anything else is thrown as a Problem. */
export async function askText(address: string): Promise<string> {
  let answer: Response;
  try {
    answer = await fetch(address);
  } catch {
    throw unreachable();
  }
  if (answer.ok) {
    return answer.text();
  }
  throw problemOf(answer, await answer.json().catch(() => undefined));
}

const unreachable = () => new Problem(0, "unreachable", "The server cannot be reached.");

function problemOf(response: Response, error: unknown): Problem {
  const { type = "", detail, title, ...more } = (error ?? {}) as Record<string, string>;
  // A sign-in that fails says so by the same status.
  if (response.status === 401 && !response.url.endsWith("/api/session")) {
    tellSignedOut();
  }
  const retryAfter = Number(response.headers.get("Retry-After"));
  return new Problem(
    response.status,
    type.replace("/problems/", ""),
    detail ?? title ?? "The request failed.",
    retryAfter > 0 ? { ...more, retryAfter } : more,
  );
}

export const api = client;
