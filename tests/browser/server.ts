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

/** What the servers of a run say, by port: kept with its results. */
const logs = join(import.meta.dirname, "test-results", "servers");

/** A server over a database, once it answers. Several over one are what it is meant to bear. `place`: its time zone and language. */
export async function startServer(port: number, connection: string, place: NodeJS.ProcessEnv = {}): Promise<ChildProcess> {
  mkdirSync(logs, { recursive: true });
  const log = openSync(join(logs, `${port}.log`), "a");
  const server = spawn("dotnet", [GOLDEN_RULE_DLL, "--urls", `http://127.0.0.1:${port}`, "--contentRoot", GOLDEN_RULE_CONTENT], {
    env: { ...process.env, ...place, ConnectionStrings__GoldenRule: connection },
    stdio: ["ignore", log, log],
  });
  for (;;) {
    // What nobody caught ends it by a signal, without a code.
    const ended = server.exitCode ?? server.signalCode;
    if (ended !== null) throw new Error(`The server ended while starting, with ${ended}; see ${logs}/${port}.log.`);
    const ready = await fetch(`http://127.0.0.1:${port}/health/ready`, { signal: AbortSignal.timeout(10_000) }).catch(() => undefined);
    if (ready?.ok) return server;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
}

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
