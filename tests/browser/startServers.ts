import { join } from "node:path";
import { freePort, startProcess } from "./server";

const dll = join(import.meta.dirname, "../servers/bin/Release/net10.0/GoldenRule.Servers.dll");

/** The process in which the servers of all test files run; what is given back ends it. */
export default async function startServers() {
  const address = `http://127.0.0.1:${await freePort()}`;
  const servers = await startProcess([dll, "--urls", address], address, "all");
  process.env.GOLDEN_RULE_SERVERS = address;
  return () => {
    servers.kill("SIGKILL");
  };
}
