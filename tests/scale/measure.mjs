// Measures a server over a large library at its API: measure.mjs ADDRESS PID EMAILS. Prints each figure beside its bar; fails where one is missed.
import { readFileSync } from "node:fs";
import { tell } from "./bars.mjs";

const [address, pid, emails] = process.argv.slice(2);
const signIn = await fetch(`${address}/api/session`, {
  method: "POST",
  headers: { "content-type": "application/json" },
  body: JSON.stringify({ email: "ruth@larkfell.example.org", password: "steam-and-cinders" }),
});
const cookie = signIn.headers.getSetCookie().map((c) => c.split(";")[0]).join("; ");
const read = async (path) => {
  const answer = await fetch(`${address}/api${path}`, { headers: { cookie } });
  const text = await answer.text();
  if (!answer.ok) throw new Error(`${path}: ${answer.status} ${text}`);
  return text;
};
const get = async (path) => ({ body: JSON.parse(await read(path)) });
const post = async (path, body) => {
  const answer = await fetch(`${address}/api${path}`, {
    method: "POST",
    headers: { cookie, "content-type": "application/json" },
    body: JSON.stringify(body),
  });
  if (!answer.ok) throw new Error(`${path}: ${answer.status} ${await answer.text()}`);
  return answer.json();
};
const memory = () => Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, "utf8"))[1]) / 1024;
/** The time within which 95 of 100 answers came, in milliseconds; the first few warm the server. */
const p95 = async (path, bar, what, times = 40) => {
  const took = [];
  for (let i = -3; i < times; i++) {
    const began = performance.now();
    await read(typeof path === "string" ? path : path());
    if (i >= 0) took.push(performance.now() - began);
  }
  took.sort((a, b) => a - b);
  tell(what, took[Math.floor(took.length * 0.95)], "ms", bar);
};

console.log(`A library of ${Number(emails).toLocaleString("en-GB")} emails`);
tell("memory before", memory(), "MB", 700);
for (const [what, query] of [
  ["all", ""],
  ["one campaign type", "campaignType=shop-offer"],
  ["one state", "state=in-review"],
  ["only my own", "mine=true"],
  ["archived", "archived=true"],
  ["only my own, of a type and a state", "mine=true&campaignType=members-gazette&state=draft"],
  ["by a word that many say", "q=viaduct"],
  ["by three words", "q=viaduct%20ghost%20cider"],
  ["by a word that nobody says", "q=ptarmigan"],
  ["by words within a type", "q=viaduct%20ghost&campaignType=shop-offer"],
]) {
  await p95(`/emails?${query}`, 50, `emails: ${what}`);
}
// A page far in, by its key.
let next = "";
for (let page = 0; page < 20; page++) next = (await get(`/emails?${next && `after=${next}`}`)).body.next ?? next;
await p95(`/emails?after=${next}`, 50, "emails: the twentieth page");
await p95("/templates", 50, "templates");
await p95("/rows", 50, "rows");
await p95("/pictures", 50, "pictures");
for (const q of ["viaduct", "the lamp", "story cutting", "ptarmigan"]) {
  await p95(`/search?q=${encodeURIComponent(q)}`, 50, `go to: ${q}`);
}

const style = (await get("/house-styles")).body.find((s) => s.name === "Larkfell").id;
const rows = (await get("/rows")).body.rows;
const templates = (await get("/templates")).body.templates;
const pictures = (await get("/pictures")).body.pictures;
await p95(`/templates/${templates[0].id}/uses`, 200, "where a template is used", 15);
await p95(`/rows/${rows[0].id}/uses`, 200, "where a row is used", 15);
await p95(`/pictures/${pictures[0].id}/uses`, 200, "where a picture is used", 15);
await p95(`/house-styles/${style}/variables/accent/uses`, 200, "where a variable is used", 15);
await p95(`/house-styles/${style}/reach`, emails > 20000 ? 500 : 200, "reach of the house style: counts and first page", 15);

const old = (await get(`/emails?q=${encodeURIComponent("Standing notice, worked on")}`)).body.emails[0].id;
const edits = (await get(`/emails/${old}/desk`)).body.revision;
await p95(`/emails/${old}/history`, 100, `the last page of ${edits.toLocaleString("en-GB")} edits`, 15);
await p95(`/emails/${old}/history?before=${Math.floor(edits / 2)}`, 100, "a page from their middle", 15);
let moment = 0;
await p95(() => `/emails/${old}/history/${(moment = (moment + 12347) % edits)}/html`, 300, "the email at any moment of them", 15);
let began = performance.now();
if (!(await get(`/emails/${old}/replay`)).body.equal) throw new Error("the edits do not lead to what is stored");
console.log(`  every edit replayed from the beginning gives what is stored: ${((performance.now() - began) / 1000).toFixed(1)} s`);

const job = crypto.randomUUID();
const idle = memory();
let most = idle;
began = performance.now();
await post(`/house-styles/${style}/reach/checks`, { id: job });
for (let state = "waiting"; state !== "done"; ) {
  const now = (await get(`/jobs/${job}`)).body;
  if (state === "waiting" && now.state === "running") began = performance.now();
  ({ state } = now);
  if (state === "failed" || state === "stopped") throw new Error(now.step);
  most = Math.max(most, memory());
  if (now.done >= 10000 || state === "done") {
    const share = 10000 / Math.max(now.done, 1);
    tell("checking anew what a release would break, per 10,000", ((performance.now() - began) / 1000) * share, "s", 20);
    if (state !== "done") await fetch(`${address}/api/jobs/${job}`, { method: "DELETE", headers: { cookie } });
    break;
  }
  await new Promise((resolve) => setTimeout(resolve, 200));
}
tell("memory meanwhile, above idle", most - idle, "MB", 300);
tell("memory after", memory(), "MB", 700);
