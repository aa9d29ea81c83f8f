// A simulated sending platform on loopback: contacts in lists, templates, sends, events, unsubscribing, and a clock that runs as fast
// as it is told. It keeps everything in memory and sends nothing anywhere.
import { createHash, createHmac, timingSafeEqual } from "node:crypto";
import express from "express";
import Mustache from "mustache";
import { Clock } from "./clock.mjs";
import { demoContacts } from "./contacts.mjs";
import { Faults } from "./faults.mjs";
import { eventsOf } from "./readers.mjs";

const mostContacts = 5_000;

// As the Mustache specification has it ("interpolation"); the package escapes more by itself.
const escape = (text) => `${text}`.replaceAll("&", "&amp;").replaceAll('"', "&quot;").replaceAll("<", "&lt;").replaceAll(">", "&gt;");

/** @param token what whoever asks has to show; @param contacts of its lists, see demoContacts. */
export async function startPlatform({ port = 0, token, contacts = demoContacts() }) {
  const clock = new Clock();
  const faults = new Faults();
  const lists = [...new Set(contacts.flatMap((c) => c.lists))].map((name, i) => ({ id: `list-${i + 1}`, name }));
  const people = new Map(contacts.map((c, i) => [`contact-${i + 1}`, { id: `contact-${i + 1}`, unsubscribedAt: null, preferences: {}, ...c }]));
  const templates = new Map();
  const pictures = new Map();
  const sends = new Map(); // by idempotency key
  const messages = [];
  const events = []; // what will be told, with the moment that it happens
  const unsubscribed = [];
  let base = "";
  const signed = (what) => createHmac("sha256", token).update(what).digest("base64url").slice(0, 22);
  const isSigned = (what, by) => by.length === 22 && timingSafeEqual(Buffer.from(signed(what)), Buffer.from(by));

  const app = express();
  app.disable("x-powered-by");
  const api = express.Router();
  api.use((request, answer, next) => {
    if (request.get("authorization") !== `Bearer ${token}`) {
      answer.status(401).json({ error: "The token is missing or not right." });
    } else {
      faults.meet(request, answer, next);
    }
  });
  api.use(express.json({ limit: "20mb" }));

  api.get("/account", (_, answer) => answer.json({ name: "The simulated platform", contacts: people.size }));
  api.get("/lists", (_, answer) =>
    answer.json({ lists: lists.map((l) => ({ ...l, contacts: [...people.values()].filter((p) => p.lists.includes(l.name)).length })) }),
  );
  api.get("/lists/:id/contacts", (request, answer) => {
    const list = lists.find((l) => l.id === request.params.id);
    if (!list) {
      return void answer.status(404).json({ error: "There is no such list." });
    }
    const all = [...people.values()].filter((p) => p.lists.includes(list.name));
    const from = Number(request.query.after ?? 0);
    const page = all.slice(from, from + Math.min(Number(request.query.limit ?? 1_000), 1_000));
    answer.json({
      contacts: page.map(({ id, address, attributes, tags, unsubscribedAt }) => ({ id, address, attributes, tags, unsubscribed: unsubscribedAt !== null })),
      next: from + page.length < all.length ? `${from + page.length}` : null,
    });
  });
  api.put("/contacts", (request, answer) => {
    const given = request.body?.contacts;
    if (!Array.isArray(given) || given.length > mostContacts) {
      return void answer.status(422).json({ error: `"contacts" is a list of at most ${mostContacts}.` });
    }
    answer.json({
      contacts: given.map(({ address, attributes }) => {
        let known = [...people.values()].find((p) => p.address.toLowerCase() === address.toLowerCase());
        if (!known) {
          known = { id: `contact-${people.size + 1}`, address, lists: [], tags: [], attributes: {}, unsubscribedAt: null, preferences: {} };
          people.set(known.id, known);
        }
        Object.assign(known.attributes, attributes);
        return { id: known.id, address, unsubscribed: known.unsubscribedAt !== null };
      }),
    });
  });
  api.get("/unsubscribed", (request, answer) => {
    const from = Number(request.query.after ?? 0);
    answer.json({ addresses: unsubscribed.slice(from, from + 1_000), next: `${Math.min(unsubscribed.length, from + 1_000)}` });
  });
  api.put("/pictures/:name", express.raw({ type: () => true, limit: "20mb" }), (request, answer) => {
    pictures.set(request.params.name, request.body);
    answer.json({ address: `${base}/pictures/${encodeURIComponent(request.params.name)}` });
  });
  api.put("/templates/:reference", (request, answer) => {
    const { name, subject, html, text, sender, language } = request.body ?? {};
    if ([name, subject, html, text].some((part) => typeof part !== "string")) {
      return void answer.status(422).json({ error: "A template has a name, a subject, HTML and text." });
    }
    const known = templates.get(request.params.reference);
    const content = createHash("sha256").update(JSON.stringify([name, subject, html, text, sender])).digest("hex");
    const template =
      known?.content === content
        ? known
        : { id: known?.id ?? `${8_841 + templates.size}`, revision: (known?.revision ?? 0) + 1, content, name, subject, html, text, sender, language };
    templates.set(request.params.reference, { ...template, withdrawn: false });
    answer.json({ id: template.id, revision: template.revision });
  });
  api.get("/templates/:reference", (request, answer) => {
    const known = templates.get(request.params.reference);
    known ? answer.json({ id: known.id, revision: known.revision, withdrawn: known.withdrawn }) : answer.status(404).json({ error: "There is no such template." });
  });
  api.delete("/templates/:reference", (request, answer) => {
    const known = templates.get(request.params.reference);
    if (known) {
      known.withdrawn = true;
    }
    answer.status(204).end();
  });
  api.post("/sends", (request, answer) => {
    const key = request.get("idempotency-key");
    const { template: reference, contacts: to } = request.body ?? {};
    if (!key || !Array.isArray(to) || to.length > mostContacts) {
      return void answer.status(422).json({ error: "A send has a key of its own and a list of contacts." });
    }
    const known = sends.get(key);
    if (known) {
      return void answer.json(known);
    }
    const template = templates.get(reference);
    if (!template || template.withdrawn) {
      return void answer.status(404).json({ error: "There is no such template, or it was withdrawn." });
    }
    const skipped = [];
    const send = { id: `send-${sends.size + 1}`, accepted: 0, skipped };
    for (const id of to) {
      const person = people.get(id);
      if (!person || person.unsubscribedAt) {
        skipped.push({ contact: id, reason: person ? "unsubscribed" : "unknown" });
        continue;
      }
      deliver(template, reference, person, key);
      send.accepted++;
    }
    sends.set(key, send);
    answer.status(201).json(send);
  });
  api.get("/events", (request, answer) => {
    const due = events.filter((e) => e.template === request.query.template && Date.parse(e.at) <= clock.now());
    due.sort((a, b) => a.due - b.due);
    const from = Number(request.query.after ?? 0);
    const page = due.slice(from, from + 500);
    answer.json({ events: page.map(({ due: _, ...event }) => event), next: `${from + page.length}`, more: from + page.length < due.length });
  });

  // Whom it could not reach, so that lists are tidied: no part of what readers did.
  api.get("/bounces", (request, answer) => {
    const due = events.filter((e) => e.kind === "bounced" && e.template === request.query.template && e.due <= clock.now());
    const from = Number(request.query.after ?? 0);
    const page = due.slice(from, from + 500);
    answer.json({ bounces: page.map((e) => ({ address: messages.find((m) => m.id === e.message).to, reason: "550 No such mailbox" })), next: `${from + page.length}` });
  });

  // What readers of a message do later is decided when it is sent, and told once its moment has come.
  function deliver(template, reference, person, send) {
    const message = `message-${messages.length + 1}`;
    const way = `${base}/unsubscribe/${person.id}/${signed(person.id)}`;
    const view = { ...person.attributes, email: person.address, unsubscribe: way };
    const made = {
      id: message,
      send,
      template: reference,
      to: person.address,
      at: new Date(clock.now()).toISOString(),
      subject: Mustache.render(template.subject, view, {}, { escape: String }),
      html: Mustache.render(template.html, view, {}, { escape }),
      headers: { "List-Unsubscribe": `<${way}>`, "List-Unsubscribe-Post": "List-Unsubscribe=One-Click" },
    };
    messages.push(made);
    for (const event of eventsOf({ message, template: reference, person: person.id, html: template.html, at: clock.now() })) {
      // Events are told in the order in which they happen, and none is put before one that was told.
      events.push({ ...event, due: Date.parse(event.at) });
      if (event.kind === "unsubscribed") {
        clock.at(Date.parse(event.at), () => leave(person));
      }
    }
  }
  function leave(person) {
    if (!person.unsubscribedAt) {
      person.unsubscribedAt = new Date(clock.now()).toISOString();
      unsubscribed.push(person.address);
    }
  }

  // One press, by the headers of a message (RFC 8058, 3.1); a page for whoever follows the link.
  const forReaders = express.Router();
  const known = (request, answer, next) => {
    const { contact, by } = request.params;
    request.person = people.get(contact);
    request.person && isSigned(contact, by) ? next() : answer.status(404).send("There is no such address.");
  };
  const page = (title, words) => `<!doctype html><html lang="en"><meta charset="utf-8"><title>${title}</title><main><h1>${title}</h1>${words}</main>`;
  forReaders.get("/unsubscribe/:contact/:by", known, (_, answer) =>
    answer.send(page("Unsubscribe", '<form method="post"><button name="List-Unsubscribe" value="One-Click">Unsubscribe</button></form>')),
  );
  forReaders.post("/unsubscribe/:contact/:by", known, express.urlencoded({ extended: false }), (request, answer) => {
    if (request.body?.["List-Unsubscribe"] !== "One-Click") {
      return void answer.status(400).send("The body says List-Unsubscribe=One-Click.");
    }
    leave(request.person);
    answer.send(page("Unsubscribed", "<p>No more of these emails.</p>"));
  });
  forReaders.get("/preferences/:contact/:by", known, (request, answer) => answer.json(request.person.preferences));
  forReaders.post("/preferences/:contact/:by", known, express.json(), (request, answer) => {
    Object.assign(request.person.preferences, request.body);
    answer.json(request.person.preferences);
  });
  forReaders.get("/pictures/:name", (request, answer) =>
    pictures.has(request.params.name) ? answer.type(request.params.name).send(pictures.get(request.params.name)) : answer.status(404).end(),
  );

  // For whoever runs the simulation: no part of a platform.
  const control = express.Router();
  control.use(express.json());
  control.get("/clock", (_, answer) => answer.json({ now: new Date(clock.now()).toISOString(), speed: clock.speed }));
  control.put("/clock", (request, answer) => {
    clock.set(request.body);
    answer.json({ now: new Date(clock.now()).toISOString(), speed: clock.speed });
  });
  control.put("/faults", (request, answer) => {
    faults.plan(request.body);
    answer.status(204).end();
  });
  control.get("/messages", (request, answer) =>
    answer.json(messages.filter((m) => !request.query.template || m.template === request.query.template).map(({ html, ...m }) => (request.query.html ? { ...m, html } : m))),
  );

  app.use("/v1", api);
  app.use("/control", control);
  app.use(forReaders);
  app.use((_, answer) => answer.status(404).json({ error: "There is nothing here." }));
  app.use((fault, _request, answer, _next) => answer.status(fault.status ?? 500).json({ error: fault.expose ? fault.message : "It failed." }));
  const server = await new Promise((done, failed) => {
    const started = app.listen(port, "127.0.0.1", (fault) => (fault ? failed(fault) : done(started)));
  });
  base = `http://127.0.0.1:${server.address().port}`;
  return {
    address: `${base}/v1`,
    port: server.address().port,
    clock,
    faults,
    messages,
    stop: () => {
      clock.stop();
      server.closeAllConnections();
      return new Promise((done) => server.close(done));
    },
  };
}
