import createClient from "openapi-fetch";
import { hearRelease } from "./pageRelease";
import type { paths } from "./schema";
import { hearSession, pageHeaders, signInsSoFar } from "./session";

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

/** A request as all go: of the one whom the page is of, and what its answer says about the release and the session is heard. */
async function send(request: Request): Promise<Response> {
  for (const [name, value] of Object.entries(pageHeaders())) request.headers.set(name, value);
  const from = signInsSoFar();
  const response = await fetch(request);
  hearRelease(response);
  hearSession(response, from);
  return response;
}

// Not a middleware of the client: it waits for one before it sends, and the screen would be drawn first.
const client = createClient<paths>({ baseUrl: "", fetch: send });

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
    answer = await send(new Request(address));
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
  const retryAfter = Number(response.headers.get("Retry-After"));
  return new Problem(
    response.status,
    type.replace("/problems/", ""),
    detail ?? title ?? "The request failed.",
    retryAfter > 0 ? { ...more, retryAfter } : more,
  );
}

export const api = client;
