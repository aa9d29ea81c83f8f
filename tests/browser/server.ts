import { type ChildProcess, execFileSync, spawn } from "node:child_process";
import { mkdirSync, openSync } from "node:fs";
import { createServer } from "node:net";
import { join } from "node:path";

/** ./test says where these are; the database has the demo in it and nobody on it, so that it can be copied. */
const {
  GOLDEN_RULE_DLL = "",
  GOLDEN_RULE_CONTENT = "",
  GOLDEN_RULE_PSQL = "",
  GOLDEN_RULE_PSQL_URL = "",
  GOLDEN_RULE_DEMO = "",
} = process.env;

/**
 * Ports that nobody else is given: below those that the system hands out by itself, a hundred for each worker. A port that the
 * system chose may be somebody's again before the server listens.
 */
let nextPort = 10_000 + 100 * Number(process.env.TEST_WORKER_INDEX ?? 0);
const canListen = (port: number) =>
  new Promise<boolean>((resolve) => {
    const server = createServer()
      .once("error", () => resolve(false))
      .listen(port, "127.0.0.1", () => server.close(() => resolve(true)));
  });
export async function freePort(): Promise<number> {
  while (!(await canListen(nextPort))) nextPort++;
  return nextPort++;
}

const sql = (statement: string, database = "postgres") =>
  execFileSync(GOLDEN_RULE_PSQL, ["-q", `${GOLDEN_RULE_PSQL_URL}/${database}`, "-c", "set client_min_messages = warning", "-c", statement]);

/** Runs SQL on the database of the running test file, past its server. */
export const runSql = (statement: string) => sql(statement, /Database=([^;]*)/.exec(process.env.GOLDEN_RULE_CONNECTION ?? "")?.[1]);

/** A database with the demo in it that nobody else is on: its connection string. */
export function freshDatabase(name: string): string {
  // A run that was broken off leaves its own behind.
  dropDatabase(name);
  sql(`create database ${name} template ${GOLDEN_RULE_DEMO}`);
  return (process.env.GOLDEN_RULE_CONNECTION_TO ?? "").replace(/Database=[^;]*/, `Database=${name}`);
}

/** A database with nothing in it: its connection string. */
export function emptyDatabase(name: string): string {
  dropDatabase(name);
  sql(`create database ${name}`);
  return (process.env.GOLDEN_RULE_CONNECTION_TO ?? "").replace(/Database=[^;]*/, `Database=${name}`);
}

export const dropDatabase = (name: string) => sql(`drop database if exists ${name} with (force)`);

/** What the servers of a run say: kept with its results. */
export const logs = join(import.meta.dirname, "test-results", "servers");

/** Dotnet with these arguments, in a process of its own that can be killed; what it says goes into a file of that name. */
export async function startProcess(args: string[], address: string, name: string, env?: NodeJS.ProcessEnv): Promise<ChildProcess> {
  mkdirSync(logs, { recursive: true });
  const path = join(logs, `${name}.log`);
  const log = openSync(path, "a");
  const server = spawn("dotnet", args, { env: { ...process.env, ...env }, stdio: ["ignore", log, log] });
  for (;;) {
    // What nobody caught ends it by a signal, without a code.
    const ended = server.exitCode ?? server.signalCode;
    if (ended !== null) throw new Error(`The server ended while starting, with ${ended}; see ${path}.`);
    const ready = await fetch(address, { signal: AbortSignal.timeout(10_000) }).catch(() => undefined);
    if (ready?.ok) return server;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
}

/**
 * A server in a process of its own over a database, once it answers. Several over one are what it is meant to bear. `place`: its time
 * zone and language.
 */
export const startServer = (port: number, connection: string, place: NodeJS.ProcessEnv = {}) =>
  startProcess(
    [GOLDEN_RULE_DLL, "--urls", `http://127.0.0.1:${port}`, "--contentRoot", GOLDEN_RULE_CONTENT],
    `http://127.0.0.1:${port}/health/ready`,
    `${port}`,
    // It lives for minutes: compiling a second time what is called thirty times never pays back.
    { ...place, ConnectionStrings__GoldenRule: connection, DOTNET_TC_CallCountThreshold: "300" },
  );

/** A server in the process that all test files share (`startServers.ts`), where nothing is compiled a second time. */
export async function openServer(port: number, connection: string, settings: Record<string, string> = {}) {
  const answer = await fetch(`${process.env.GOLDEN_RULE_SERVERS}/${port}`, {
    method: "PUT",
    headers: { "Content-Type": "application/json" },
    body: JSON.stringify({ ...settings, "ConnectionStrings:GoldenRule": connection, contentRoot: GOLDEN_RULE_CONTENT }),
  });
  if (!answer.ok) throw new Error(`The server did not start: ${await answer.text()}; see ${logs}/all.log.`);
}

export const closeServer = (port: number) => fetch(`${process.env.GOLDEN_RULE_SERVERS}/${port}`, { method: "DELETE" });

/** Ends when it is gone. */
export const stopServer = (server: ChildProcess, signal: NodeJS.Signals = "SIGTERM") =>
  new Promise<void>((resolve) => {
    if (server.exitCode !== null || server.signalCode !== null) {
      resolve();
      return;
    }
    server.once("exit", () => resolve());
    server.kill(signal);
  });
