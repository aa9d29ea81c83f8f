// What handing off an email of 30 rows costs at the API, and how many of its pages for browsers are given out in a second.
// Prints milliseconds, requests a second, and what the server's memory was before and after.
import { readFileSync } from "node:fs";
import { createRequire } from "node:module";

const require = createRequire(new URL("../browser/package.json", import.meta.url));
const autocannon = require("autocannon");

const [base, server] = process.argv.slice(2);
const cookies = {};
async function api(who, path, data, method = data ? "POST" : "GET") {
  if (!cookies[who]) {
    const session = await fetch(`${base}/api/session`, {
      method: "POST",
      headers: { "content-type": "application/json" },
      body: JSON.stringify({ email: `${who}@larkfell.example.org`, password: "steam-and-cinders" }),
    });
    cookies[who] = session.headers
      .getSetCookie()
      .map((c) => c.split(";")[0])
      .join("; ");
  }
  const answer = await fetch(base + path, {
    method,
    headers: { "content-type": "application/json", cookie: cookies[who] },
    body: data && JSON.stringify(data),
  });
  if (!answer.ok) throw new Error(`${path}: ${answer.status} ${await answer.text()}`);
  return answer.json();
}

const id = (await api("ruth", `/api/emails?q=${encodeURIComponent("Thirty stories")}`)).emails[0].id;
const rounds = 6;
const times = [];
let page = "";
for (let i = 0; i < rounds; i++) {
  const list = await api("ruth", `/api/emails/${id}/hand-offs`);
  if (!list.handOff.allowed) {
    console.error(list.handOff.reason);
    process.exit(1);
  }
  const start = performance.now();
  const made = await api("ruth", `/api/emails/${id}/hand-offs`, { id: crypto.randomUUID(), hash: list.hash });
  times.push(performance.now() - start);
  page = new URL(made.page).pathname;
  if (i < rounds - 1) {
    await api("ruth", `/api/emails/${id}/correction`, {});
    await approve(id);
  }
}

async function approve(email) {
  const asked = await api("imran", `/api/emails/${email}/review/rounds`, { id: crypto.randomUUID() });
  if (asked.state === "in-review") {
    await api("ruth", `/api/emails/${email}/review/decisions`, { verdict: "approve", hash: asked.hash });
  }
}

const memory = () => Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${server}/status`, "utf8"))[1]) / 1024;
const load = (duration) => autocannon({ url: base + page, connections: 20, pipelining: 4, duration });
// Until the heap has the size that this load needs.
await load(8);
const before = memory();
const { requests, non2xx, errors } = await load(10);
const median = times.slice(1).sort((a, b) => a - b)[Math.floor((rounds - 1) / 2)];
console.log(JSON.stringify({ handOff: median, first: times[0], pages: requests.average, wrong: non2xx + errors, before, after: memory() }));
