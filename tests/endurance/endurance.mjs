// Many authors at once over HTTP, with the server killed and PostgreSQL restarted under them. Arguments: seconds, address
// of the server, a command that kills and starts the server, one that restarts PostgreSQL, one that prints the stored
// edits of an email as lines "sequence id". Prints what was found, and ends with 1 where anything is wrong.
import { execFile } from "node:child_process";
import { promisify } from "node:util";

const [seconds, base, killServer, restartPostgres, storedEdits] = process.argv.slice(2);
const run = promisify(execFile);
const password = "steam-and-cinders";
const pause = (ms) => new Promise((resolve) => setTimeout(resolve, ms));
const id = () => crypto.randomUUID();
const faults = [];

/** Numbers in [0, 1): Park and Miller's minimal standard generator, Communications of the ACM 31 (1988). Each author has one, so what each chooses does not hang on who else is quick. */
const dice = (seed) => {
  let state = seed;
  return () => {
    state = (state * 48271) % 2147483647;
    return state / 2147483647;
  };
};
const seed = 20261128;
const seeds = dice(seed);
console.log(`endurance: seed ${seed}`);

/** One window of one person, who waits and sends again what was not answered. */
class Window {
  async signIn(who) {
    const answer = await fetch(`${base}/api/session`, {
      method: "POST",
      headers: { "content-type": "application/json" },
      body: JSON.stringify({ email: `${who}@larkfell.example.org`, password }),
    });
    if (!answer.ok) throw new Error(`${who} cannot sign in: ${answer.status}`);
    this.cookie = answer.headers.getSetCookie().map((c) => c.split(";")[0]).join("; ");
    return this;
  }

  async ask(path, body) {
    const answer = await fetch(base + path, {
      method: body ? "POST" : "GET",
      headers: { "content-type": "application/json", cookie: this.cookie },
      body: body && JSON.stringify(body),
      signal: AbortSignal.timeout(20_000),
    });
    return { status: answer.status, data: answer.status < 500 ? JSON.parse((await answer.text()) || "null") : undefined };
  }

  /** Until the server answers: out of reach, or a fault of its own, it is asked again with the very same. */
  async insist(path, body) {
    for (;;) {
      const answer = await this.ask(path, body).catch(() => ({ status: 0 }));
      if (answer.status > 0 && answer.status < 500) return answer;
      await pause(250);
    }
  }
}

/** An author at work on one email. */
class Author extends Window {
  acknowledged = [];
  refused = [];
  rows = new Map();
  random = dice(1 + Math.floor(seeds() * 2147483645));

  any(list) {
    return list[Math.floor(this.random() * list.length)];
  }

  take(desk) {
    if (desk.whole) this.rows.clear();
    for (const row of desk.rows) this.rows.set(row.id, row);
    this.desk = desk;
  }

  order() {
    return this.desk.order.flatMap((item) => (item.row ? [item.row] : item.zone.rows));
  }

  async open(email) {
    this.email = email;
    this.take((await this.insist(`/api/emails/${email}/desk`)).data);
    return this;
  }

  choose() {
    const rows = this.order().map((row) => this.rows.get(row)).filter(Boolean);
    const zones = this.desk.order.flatMap((item) => (item.zone ? [item.zone] : []));
    const open = rows.flatMap((row) =>
      row.columns.flatMap((c) => c.blocks).filter((b) => b.content.allowed).flatMap((b) => b.fields.filter((f) => f.value.kind === "words").map((f) => ({ row, b, f }))),
    );
    const movable = rows.filter((row) => row.zone && row.move.allowed);
    const roll = this.random();
    if (roll < 0.08 && movable.length > 0) {
      const row = this.any(movable);
      return { kind: "move-row", row: row.id, zone: row.zone, index: 0 };
    }
    if (roll < 0.12 && movable.some((row) => row.duplicate.allowed)) {
      return { kind: "duplicate-row", row: this.any(movable.filter((row) => row.duplicate.allowed)).id, copy: id() };
    }
    if (roll < 0.16 && movable.some((row) => row.remove.allowed && zones.find((z) => z.id === row.zone)?.rows.length > 3)) {
      return { kind: "remove-row", row: this.any(movable.filter((row) => row.remove.allowed)).id };
    }
    if (roll < 0.2) return { kind: "set-detail", field: "subject", value: `Subject ${this.random()}` };
    const { row, b, f } = this.any(open);
    return { kind: "set-fill", row: row.id, piece: b.id, field: f.name, value: { kind: "words", text: `Words ${this.random()}` } };
  }

  async work(until, enough) {
    while (Date.now() < until || !enough()) {
      const sent = { id: id(), step: id(), edit: this.choose() };
      const answer = await this.insist(`/api/emails/${this.email}/edits`, { base: this.desk.revision, styleVersion: this.desk.styleVersion, edits: [sent] });
      if (answer.status === 200) {
        this.acknowledged.push(sent.id);
        this.take(answer.data);
      } else {
        // A conflict, or a rule that holds since: nothing of it may be stored.
        this.refused.push(sent.id);
        await this.look();
      }
      await pause(20 + this.random() * 60);
    }
  }

  async look() {
    this.take((await this.insist(`/api/emails/${this.email}/desk?seen=${this.desk.revision}&styleVersion=${this.desk.styleVersion}`)).data);
  }
}

async function scene(name, emails, perEmail) {
  const people = ["imran", "bea", "dana", "ruth"];
  const authors = await Promise.all(
    emails.flatMap((email, e) => Array.from({ length: perEmail }, async (_, i) => (await new Author().signIn(people[(e + i) % people.length])).open(email))),
  );
  return { name, emails, authors };
}

async function judge({ name, emails, authors }) {
  let [stored, refused] = [0, 0];
  for (const email of emails) {
    const here = authors.filter((a) => a.email === email);
    const lines = (await run("bash", ["-c", storedEdits, email], { maxBuffer: 1 << 28 })).stdout.trim().split("\n").filter(Boolean).map((l) => l.split(" "));
    const ids = lines.map(([, edit]) => edit);
    const known = new Set(ids);
    if (known.size !== ids.length) faults.push(`${name}: an edit is stored twice.`);
    lines.forEach(([sequence], at) => Number(sequence) === at + 1 || faults.push(`${name}: sequence ${sequence} stands at ${at + 1}.`));
    const acknowledged = here.flatMap((a) => a.acknowledged);
    for (const edit of acknowledged) known.delete(edit) || faults.push(`${name}: acknowledged edit ${edit} is lost.`);
    if (known.size > 0) faults.push(`${name}: ${known.size} edits are stored that nobody was told of.`);
    stored += ids.length;
    refused += here.reduce((sum, a) => sum + a.refused.length, 0);
    const { data: replay } = await here[0].insist(`/api/emails/${email}/replay`);
    if (!replay.equal || replay.revision !== ids.length) faults.push(`${name}: the head of ${email} is not its replay (${replay.revision} of ${ids.length}).`);
    const { data: whole } = await here[0].insist(`/api/emails/${email}/desk`);
    for (const author of here) {
      // What everyone has put together piece by piece is what lies there.
      await author.look();
      const mine = author.order().map((row) => author.rows.get(row)?.html).join("\n");
      const theirs = whole.order.flatMap((item) => (item.row ? [item.row] : item.zone.rows)).map((row) => whole.rows.find((r) => r.id === row).html).join("\n");
      if (mine !== theirs || author.desk.details.subject !== whole.details.subject) faults.push(`${name}: someone sees a stale proof of ${email}.`);
    }
  }
  console.log(`${name}: ${authors.length} authors, ${stored} edits stored, ${refused} refused.`);
  if (stored < authors.length * 2) faults.push(`${name}: hardly anything was done.`);
}

const lead = await new Window().signIn("ruth");
const { data: templates } = await lead.insist("/api/templates");
const gazette = templates.templates.find((t) => t.name.includes("gazette"));
const emails = Array.from({ length: 51 }, id);
for (const [at, email] of emails.entries()) {
  const { status } = await lead.insist("/api/emails", { id: email, template: gazette.id, name: `Endurance ${at}` });
  if (status !== 200) throw new Error(`An email could not be started: ${status}`);
}
const scenes = [await scene("one email", emails.slice(0, 1), 20), await scene("fifty emails", emails.slice(1), 1)];
const end = Date.now() + Number(seconds) * 1000;
// On a slow machine it goes on until there is something to judge.
const atLatest = end + 600_000;
const enough = ({ authors }) => Date.now() > atLatest || authors.reduce((sum, a) => sum + a.acknowledged.length, 0) >= authors.length * 3;
const work = scenes.flatMap((s) => s.authors.map((a) => a.work(end, () => enough(s))));
const trouble = (async () => {
  await pause(Number(seconds) * 300);
  await run("bash", ["-c", killServer]);
  console.log("the server was killed and is up again");
  await pause(Number(seconds) * 200);
  await run("bash", ["-c", restartPostgres]);
  console.log("PostgreSQL was restarted");
})();
await Promise.all([...work, trouble]);
for (const s of scenes) await judge(s);
for (const fault of faults.slice(0, 20)) console.log(fault);
process.exit(faults.length === 0 ? 0 : 1);
