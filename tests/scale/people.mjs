// Many people writing at once, each in an email of their own, looking into lists between: people.mjs ADDRESS PID EMAILS PEOPLE SECONDS.
// Prints how long answers take and what memory the server takes; fails where something is refused or lost, or memory is over its bar.
import { readFileSync } from "node:fs";
import { createRequire } from "node:module";

const autocannon = createRequire(new URL("../browser/package.json", import.meta.url))("autocannon");
const [address, pid, emails, people, seconds] = process.argv.slice(2).map((a, i) => (i === 0 ? a : Number(a)));
const names = ["ruth", "dana", "imran", "bea"];
/** For fifty; how more fare is told. */
const most = people > 50 ? Number.POSITIVE_INFINITY : emails > 20_000 ? 700 : 500;
/** A key pressed and sent about three times a second by each. */
const rate = people * 3;

const memory = () => Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, "utf8"))[1]) / 1024;
const headers = { "content-type": "application/json" };
const ask = async (path, body, cookie) => {
  const answer = await fetch(`${address}/api${path}`, {
    method: body ? "POST" : "GET",
    headers: { ...headers, cookie },
    body: body && JSON.stringify(body),
  });
  if (!answer.ok) throw new Error(`${path}: ${answer.status} ${await answer.text()}`);
  return { cookie: answer.headers.getSetCookie().map((c) => c.split(";")[0]).join("; "), body: await answer.json().catch(() => undefined) };
};

const cookies = await Promise.all(
  names.map(async (name) => (await ask("/session", { email: `${name}@larkfell.example.org`, password: "steam-and-cinders" })).cookie),
);
const { templates } = (await ask("/templates", undefined, cookies[0])).body;
const template = templates.find((t) => t.name === "Special train").id;
const writers = [];
for (let i = 0; i < people; i++) {
  const [email, cookie] = [crypto.randomUUID(), cookies[i % cookies.length]];
  await ask("/emails", { id: email, template, name: `Of writer ${i}` }, cookie);
  writers.push({ email, cookie, revision: 0, typed: 0, stored: 0 });
}

const edit = (me) => ({
  base: me.revision,
  edits: [
    {
      id: crypto.randomUUID(),
      // A dozen letters are a step.
      step: `00000000-0000-7000-8000-${String(Math.floor(me.typed++ / 12)).padStart(12, "0")}`,
      edit: { kind: "set-fill", row: "hero", piece: "headline", field: "text", value: { kind: "words", text: "Steam returns ".repeat(3).slice(0, 6 + (me.typed % 30)) } },
    },
  ],
});
const refused = new Map();
const heard = (me) => (status, body) => {
  if (status !== 200) refused.set(`${status} ${body.slice(0, 120)}`, (refused.get(`${status} ${body.slice(0, 120)}`) ?? 0) + 1);
  else if (me) {
    me.stored++;
    me.revision = JSON.parse(body).revision;
  }
};
let [next, taken] = [0, []];
const watch = setInterval(() => taken.push(memory()), 500);
const result = await autocannon({
  url: address,
  connections: people,
  duration: seconds,
  overallRate: rate,
  timeout: 30,
  setupClient: (client) => {
    const me = writers[next++ % people];
    const own = { ...headers, cookie: me.cookie };
    const write = { method: "POST", path: `/api/emails/${me.email}/edits`, headers: own, setupRequest: (r) => ({ ...r, body: JSON.stringify(edit(me)) }), onResponse: heard(me) };
    const read = (path) => ({ method: "GET", path: `/api/${path}`, headers: own, onResponse: heard() });
    client.setRequests([...Array(10).fill(write), read("emails?q=viaduct"), ...Array(10).fill(write), read(`emails/${me.email}/desk`)]);
  },
});
clearInterval(watch);

const third = Math.max(1, Math.floor(taken.length / 3));
const mean = (list) => list.reduce((a, b) => a + b, 0) / list.length;
const [early, late, top] = [mean(taken.slice(third, 2 * third)), mean(taken.slice(-third)), Math.max(...taken)];
let lost = 0;
for (const me of writers) {
  const { body } = await ask(`/emails/${me.email}/replay`, undefined, me.cookie);
  if (!body.equal || body.revision < me.stored) lost++;
}
const { p50, p97_5, p99 } = result.latency;
console.log(`${people} people writing for ${seconds} s: ${result.requests.total} requests, p50 ${p50} ms, p97.5 ${p97_5}, p99 ${p99}`);
console.log(`${top > most ? "✗" : " "} memory meanwhile: at most ${top.toFixed(0)} MB, ${people > 50 ? "no bar" : `bar ${most}`}; from the middle third to the last ${(late - early).toFixed(0)} MB more`);
for (const [what, times] of refused) console.log(`✗ ${times} × ${what}`);
if (lost > 0 || result.errors > 0) console.log(`✗ ${lost} emails are not what was acknowledged, ${result.errors} requests failed`);
process.exitCode = top > most || refused.size > 0 || lost > 0 || result.errors > 0 ? 1 : 0;
