// Twenty authors typing, first alone and then beside one person who sends every hostile input ten times. Arguments:
// seconds of each, address of the server. Prints how long an edit takes at the API in both; ends with 1 where the 95th
// percentile is more than twice what it is alone, or where anything is lost. It measures: no part of ./test.
import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { Author, seed, startEmails, Window } from "./authors.mjs";

const [seconds, base] = process.argv.slice(2);
const times = (text, count) => text.repeat(count);
const svg = join(import.meta.dirname, "../hostile/svg");

class Attacker extends Window {
  async upload(path, name, bytes) {
    const form = new FormData();
    form.append("file", new Blob([bytes]), name);
    return fetch(base + path, { method: "POST", headers: { cookie: this.cookie, origin: base }, body: form }).then(
      (answer) => answer.status,
      () => 0,
    );
  }

  async every(email, style) {
    const edit = (value) => ({ base: 0, edits: [{ id: crypto.randomUUID(), step: crypto.randomUUID(), edit: value }] });
    const statuses = new Map();
    const note = (status) => statuses.set(status, (statuses.get(status) ?? 0) + 1);
    const ask = async (path, body) => note((await this.ask(path, body).catch(() => ({ status: 0 }))).status);
    await ask(`/api/emails?q=${encodeURIComponent(Array.from({ length: 60 }, (_, i) => `word${i}`).join(" "))}`);
    await ask("/api/emails/paste", { html: times("<div>", 40_000), text: null });
    await ask("/api/emails/paste", { html: times("<b><i>", 30_000), text: null });
    await ask(`/api/emails/${email}/edits`, edit({ kind: "set-fill", row: "hero", piece: "text", field: "text", value: { kind: "code", html: times("<div>", 18_000) } }));
    await ask(`/api/emails/${email}/edits`, { base: 0, edits: Array.from({ length: 2_000 }, () => edit({ kind: "set-name", name: "x" }).edits[0]) });
    const css = `:root{${Array.from({ length: 2_000 }, (_, i) => `--v${i + 1}:var(--v${i})`).join(";")};--v0:#123456}`;
    await ask(`/api/house-styles/${style}/import`, { text: css });
    const tokens = Object.fromEntries(Array.from({ length: 800 }, (_, i) => [`t${i}`, { $type: "color", $value: `{t${i + 1}}` }]));
    await ask(`/api/house-styles/${style}/import`, { text: JSON.stringify(tokens) });
    await ask("/api/openapi.json");
    for (const name of readdirSync(svg)) {
      note(await this.upload("/api/pictures", name, readFileSync(join(svg, name))));
    }
    return statuses;
  }
}

async function typing(emails, beside) {
  const authors = await Promise.all(emails.map(async (email, at) => (await new Author().signIn(["imran", "bea"][at % 2])).open(email)));
  const end = Date.now() + Number(seconds) * 1000;
  let busy = beside !== undefined;
  const attack = beside?.().finally(() => (busy = false));
  // As people type: an edit a second or so.
  await Promise.all(authors.map((a) => a.work(end, () => !busy, 400)));
  await attack;
  const all = authors.flatMap((a) => a.times).sort((a, b) => a - b);
  for (const author of authors) {
    const { data } = await author.insist(`/api/emails/${author.email}/replay`);
    if (!data.equal || data.revision < author.acknowledged.length) throw new Error(`${author.email}: ${author.acknowledged.length} edits were acknowledged, ${data.revision} are stored.`);
  }
  return { count: all.length, p50: all[Math.floor(all.length / 2)], p95: all[Math.floor(all.length * 0.95)] };
}

console.log(`attack: seed ${seed}`);
const emails = await startEmails(41, "Attack");
const said = (name, { count, p50, p95 }) => console.log(`${name}: ${count} edits, p50 ${p50.toFixed(0)} ms, p95 ${p95.toFixed(0)} ms`);
// Once for the compiler's sake, then measured.
await typing(emails.slice(0, 20));
const alone = await typing(emails.slice(0, 20));
said("alone", alone);
const attacker = await new Attacker().signIn("dana");
const { data: styles } = await attacker.insist("/api/house-styles");
const statuses = new Map();
const beside = await typing(emails.slice(20, 40), async () => {
  for (let i = 0; i < 10; i++) {
    for (const [status, count] of await attacker.every(emails[40], styles[0].id)) statuses.set(status, (statuses.get(status) ?? 0) + count);
  }
});
said("beside the attack", beside);
console.log(`what the attacker was answered: ${[...statuses].sort().map(([status, count]) => `${status} ${count} times`).join(", ")}`);
const ratio = beside.p95 / alone.p95;
console.log(`p95 is ${ratio.toFixed(1)} times what it is alone`);
process.exit(ratio <= 2 && !statuses.has(500) ? 0 : 1);
