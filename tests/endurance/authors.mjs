// Authors as their browsers speak to the server, over HTTP. Arguments of whoever runs them: seconds, address of the server.

const [, base] = process.argv.slice(2);
const password = "steam-and-cinders";
export const pause = (ms) => new Promise((resolve) => setTimeout(resolve, ms));
export const id = () => crypto.randomUUID();

/** Numbers in [0, 1): Park and Miller's minimal standard generator, Communications of the ACM 31 (1988). Each author has one, so what each chooses does not hang on who else is quick. */
export const dice = (seed) => {
  let state = seed;
  return () => {
    state = (state * 48271) % 2147483647;
    return state / 2147483647;
  };
};
export const seed = 20261128;
const seeds = dice(seed);

/** One window of one person, who waits and sends again what was not answered. */
export class Window {
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
export class Author extends Window {
  acknowledged = [];
  /** Milliseconds that each of them took. */
  times = [];
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
    return this.desk.order.items.flatMap((item) => (item.row ? [item.row] : item.zone.rows));
  }

  async open(email) {
    this.email = email;
    this.take((await this.insist(`/api/emails/${email}/desk`)).data);
    return this;
  }

  choose() {
    const rows = this.order().map((row) => this.rows.get(row)).filter(Boolean);
    const zones = this.desk.order.items.flatMap((item) => (item.zone ? [item.zone] : []));
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

  /** @param rest Milliseconds between one edit and the next, at least. */
  async work(until, enough, rest = 20) {
    while (Date.now() < until || !enough()) {
      const sent = { id: id(), step: id(), edit: this.choose() };
      const began = performance.now();
      const answer = await this.insist(`/api/emails/${this.email}/edits`, { base: this.desk.revision, styleVersion: this.desk.proof.styleVersion, edits: [sent] });
      if (answer.status === 200) {
        this.acknowledged.push(sent.id);
        this.times.push(performance.now() - began);
        this.take(answer.data);
      } else {
        // A conflict, or a rule that holds since: nothing of it may be stored.
        this.refused.push(sent.id);
        await this.look();
      }
      await pause(rest + this.random() * rest * 3);
    }
  }

  async look() {
    this.take((await this.insist(`/api/emails/${this.email}/desk?seen=${this.desk.revision}&styleVersion=${this.desk.proof.styleVersion}`)).data);
  }
}

/** As many emails of the demo's gazette. */
export async function startEmails(count, name) {
  const lead = await new Window().signIn("ruth");
  const { data: templates } = await lead.insist("/api/templates");
  const gazette = templates.templates.find((t) => t.name.includes("gazette"));
  const emails = Array.from({ length: count }, id);
  for (const [at, email] of emails.entries()) {
    const { status } = await lead.insist("/api/emails", { id: email, template: gazette.id, name: `${name} ${at}` });
    if (status !== 200) throw new Error(`An email could not be started: ${status}`);
  }
  return emails;
}
