import { readdirSync, readFileSync } from "node:fs";
import { createServer } from "node:http";
import { join } from "node:path";
import { expect } from "@playwright/test";
import { kept, signIn, startEmail, test } from "./support";

type Value = { kind: string; items?: Record<string, Value>[]; [more: string]: unknown };

const hostile = `"><img src=x onerror="window.ran=1"><script>window.ran=1</script></td></tr></table><![endif]--><svg onload="window.ran=1">\u202e${"w".repeat(600)}👩‍🚒`;
const link = "javascript:window.ran=1";

/** The same field with hostile words and links in it. */
function filled(value: Value): Value {
  switch (value.kind) {
    case "words":
      return { kind: "words", text: hostile };
    case "prose":
      return {
        kind: "prose",
        text: { paragraphs: [{ runs: [{ text: hostile, href: link }] }, { list: "bullet", runs: [{ text: hostile }] }] },
      };
    case "link":
      return { kind: "link", href: link };
    case "links":
      return { kind: "links", links: [{ name: hostile, href: link }] };
    case "cells":
      return { kind: "cells", rows: [[hostile, hostile], [hostile]] };
    case "code":
      return {
        kind: "code",
        html: `${hostile}<a href="${link}">go</a><form action="/api/session"><input></form><style>*{display:none}</style>`,
      };
    case "entries":
      return {
        ...value,
        items: (value.items ?? []).map((item) => Object.fromEntries(Object.entries(item).map(([name, one]) => [name, filled(one)]))),
      };
    default:
      return value;
  }
}

test("hostile content in every field of every block runs nowhere and breaks nothing", async ({ browser }) => {
  const designer = await signIn(browser, "dana");
  const kinds = (await designer.request.get("/api/block-kinds").then((r) => r.json())) as {
    name: string;
    start: { content: Record<string, Value> };
  }[];
  const id = crypto.randomUUID();
  const made = await designer.request.post("/api/rows", {
    data: { id, name: `Hostile ${hostile}`.slice(0, 100), rowKind: "main", campaignTypes: ["shop-offer"] },
  });
  expect(made.ok()).toBe(true);
  const desk = await designer.request.get(`/api/rows/${id}/desk`).then((r) => r.json());
  const [row] = desk.rows;
  const edits = kinds.map(({ name, start }) => ({
    id: crypto.randomUUID(),
    step: crypto.randomUUID(),
    edit: {
      kind: "insert-block",
      row: row.id,
      column: row.columns[0].id,
      index: -1,
      block: { ...start, id: name, content: Object.fromEntries(Object.entries(start.content).map(([f, v]) => [f, filled(v)])) },
    },
  }));
  const answer = await designer.request.post(`/api/rows/${id}/edits`, { data: { base: desk.revision, edits } });
  expect(answer.ok(), await answer.text()).toBe(true);

  // In the application: on the desk, in its proofs, and as a thumbnail in the room of rows.
  const ran = () => designer.evaluate(() => (window as { ran?: number }).ran);
  await designer.goto(`/rows/${id}`);
  const proof = designer.frameLocator('iframe[title="Desktop proof"]');
  await expect(proof.locator("[data-piece=legal-footer]")).toBeVisible();
  await expect(proof.locator("script, svg, form, input")).toHaveCount(0);
  await proof.locator("[data-piece=button] a").click({ position: { x: 5, y: 5 } });
  await designer.getByRole("button", { name: "Inbox", exact: true }).click();
  await designer.getByRole("button", { name: "Plain text" }).click();
  await expect(designer.getByText("window.ran=1").first()).toBeVisible();
  expect(await ran()).toBeUndefined();
  await designer.goto("/rows");
  await expect(designer.getByText(/^Hostile/).first()).toBeVisible();
  expect(await ran()).toBeUndefined();

  // Exported and opened with scripts on: nothing runs, the page keeps its width, every block stands in its place.
  const html = await designer.request.get(`/api/rows/${id}/html?draft=true`).then((r) => r.text());
  for (const width of [640, 320]) {
    const reader = await (await browser.newContext({ viewport: { width, height: 800 } })).newPage();
    await reader.setContent(html);
    await reader.locator("a").evaluateAll((all) => {
      for (const a of all) (a as HTMLElement).click();
    });
    expect(await reader.evaluate(() => (window as { ran?: number }).ran)).toBeUndefined();
    expect(await reader.evaluate(() => document.querySelector("[role=article]")?.children.length)).toBe(1);
    expect(await reader.evaluate(() => document.documentElement.scrollWidth)).toBe(width);
    expect(await reader.locator("script, svg, form, input, iframe").count()).toBe(0);
  }
});

/** What would run if it came through as it is. */
const runs = [
  `<img src=x onerror="top.ran=1;window.ran=1">`,
  `<script>top.ran=1;window.ran=1</script>`,
  `<svg onload="top.ran=1;window.ran=1"></svg>`,
  `<a href="javas&#9;cript:window.ran=1" id=x>go</a>`,
  `<details open ontoggle="top.ran=1;window.ran=1">x</details>`,
  `<iframe srcdoc="<script>top.ran=1</script>"></iframe>`,
];

/** Places where what a sanitiser reads is not what a browser reads: foreign content, raw text, comments, misnesting (shapes from memory). */
const around: ((inner: string) => string)[] = [
  (x) => x,
  (x) => `<math><mtext><table><mglyph><style><!--</style>${x}-->`,
  (x) => `<math><annotation-xml encoding="text/html"><style></style>${x}</annotation-xml></math>`,
  (x) => `<svg><style><img title="</style>${x.replaceAll('"', "'")}"></style></svg>`,
  (x) => `<svg><desc><p>${x}</desc></svg>`,
  (x) => `<noscript><p title="</noscript>${x.replaceAll('"', "'")}">`,
  (x) => `<template><p>${x}</template>`,
  (x) => `<!--><p>${x}-->`,
  (x) => `<!--[if mso]>${x}<![endif]--><!--[if !mso]><!-->${x}<!--<![endif]-->`,
  (x) => `<title>${x}</title><textarea>${x}</textarea>`,
  (x) => `<style>a{content:"</style>${x.replaceAll('"', "'")}"}</style>`,
  (x) => `<table><tr><td>${x}</table><form><select><option>${x}</select></form>`,
  (x) => `<p style="background:url(javascript:window.ran=1);width:expression(window.ran=1)" title="--!>${x.replaceAll('"', "'")}">`,
];
const mutations = around.flatMap((wrap) => runs.map(wrap));

for (const kind of ["hand-written HTML", "pasted copy"]) {
  test(`of ${kind} nothing runs, wherever it is read, with scripts on`, async ({ browser }) => {
    expect(mutations.length).toBeGreaterThanOrEqual(60);
    const designer = await signIn(browser, "dana");
    const id = crypto.randomUUID();
    expect((await designer.request.post("/api/rows", { data: { id, name: "Mutations", rowKind: "main" } })).ok()).toBe(true);
    const desk = await designer.request.get(`/api/rows/${id}/desk`).then((r) => r.json());
    const [row] = desk.rows;
    const paste = (html: string) => designer.request.post("/api/emails/paste", { data: { html } }).then((answer) => answer.json());
    const blocks = await Promise.all(
      mutations.map(async (html) =>
        kind === "pasted copy"
          ? { kind: "text", content: { text: { kind: "prose", text: await paste(html) } } }
          : { kind: "html", content: { html: { kind: "code", html } } },
      ),
    );
    const edits = blocks.map((block, at) => ({
      id: crypto.randomUUID(),
      step: crypto.randomUUID(),
      edit: { kind: "insert-block", row: row.id, column: row.columns[0].id, index: -1, block: { id: `b${at}`, ...block } },
    }));
    const answer = await designer.request.post(`/api/rows/${id}/edits`, { data: { base: desk.revision, edits } });
    expect(answer.ok(), await answer.text()).toBe(true);

    // In the application, the proofs' frames too.
    await designer.goto(`/rows/${id}`);
    await expect(designer.frameLocator('iframe[title="Phone proof"]').locator("[data-piece]").first()).toBeVisible();
    for (const frame of designer.frames()) {
      expect(await frame.evaluate(() => (window as { ran?: number }).ran)).toBeUndefined();
    }

    // Written out, and opened as a page of its own that may do what pages may.
    const html = await designer.request.get(`/api/rows/${id}/html?draft=true`).then((r) => r.text());
    const context = await browser.newContext({ bypassCSP: true });
    const reader = await context.newPage();
    await reader.setContent(html);
    for (const a of await reader.locator("a").all()) {
      await a.evaluate((link) => (link as HTMLElement).click());
    }
    for (const frame of reader.frames()) {
      expect(await frame.evaluate(() => (window as { ran?: number }).ran)).toBeUndefined();
    }
    expect(await reader.locator("script, iframe, object, embed, form, svg, math, template, noscript, style:not(head style)").count()).toBe(
      0,
    );
    const handlers = await reader
      .locator("[role=article] *")
      .evaluateAll((all) =>
        all.flatMap((e) => [...e.attributes].filter((a) => a.name.startsWith("on") || /^\s*javascript:/i.test(a.value)).map((a) => a.name)),
      );
    expect(handlers).toEqual([]);

    // The probe works: as it was written it runs.
    const bare = await context.newPage();
    await bare.setContent(mutations.join(""));
    await expect.poll(() => bare.evaluate(() => (window as { ran?: number }).ran)).toBe(1);
  });
}

interface Hostile {
  name: string;
  method: string;
  path: string;
  status: number;
  body?: unknown;
  edit?: unknown;
  raw?: string;
}

const requests: Hostile[] = JSON.parse(readFileSync(join(import.meta.dirname, "../hostile/requests.json"), "utf8"));

/** "⟦what×3⟧": three times over, "#" the number of each and "#+" of the next. */
const repeated = (text: string) =>
  text.replace(/⟦([^×]*)×(\d+)⟧/g, (_, what: string, times: string) =>
    Array.from({ length: Number(times) }, (_, i) => what.replaceAll("#+", `${i + 1}`).replaceAll("#", `${i}`)).join(""),
  );

test("what was made to hold the server is sent by a page, and whoever writes beside it goes on writing", async ({ browser }) => {
  const page = await signIn(browser, "imran");
  await startEmail(page, "Timetable notice", "Beside what is hostile");
  const email = new URL(page.url()).pathname.split("/")[2] ?? "";
  const lead = await signIn(browser, "ruth");
  const house = ((await lead.request.get("/api/house-styles").then((r) => r.json())) as { id: string }[])[0]?.id ?? "";
  const subject = page.getByRole("textbox", { name: "Subject" });
  for (const [i, one] of requests.entries()) {
    const id = crypto.randomUUID();
    const body = one.raw ?? JSON.stringify(one.edit ? { base: 0, edits: [{ id, step: id, edit: one.edit }] } : one.body);
    const path = repeated(one.path).replace("{email}", email).replace("{house}", house);
    const sent = lead.evaluate(
      async ([method, path, body]) => {
        const answer = await fetch(path, {
          method,
          body: method === "GET" ? undefined : body,
          headers: { "content-type": "application/json" },
        });
        return [answer.status, await answer.text()] as const;
      },
      [one.method, path, repeated(body ?? "")] as const,
    );
    await subject.fill(`Written while ${i}`);
    const [status, said] = await sent;
    expect(status, `${one.name}: ${said.slice(0, 200)}`).toBe(one.status);
  }
  await kept(page);
  await page.reload();
  await expect(subject).toHaveValue(`Written while ${requests.length - 1}`);
});

test("drawings that were made to reach out are sent and looked at by a page, and reach nothing", async ({ browser }) => {
  let heard = 0;
  const listener = createServer((_, answer) => {
    heard++;
    answer.end("<svg xmlns='http://www.w3.org/2000/svg'><rect id='r' width='9' height='9'/></svg>");
  });
  await new Promise<void>((ready) => listener.listen(0, "127.0.0.1", ready));
  const address = `http://127.0.0.1:${(listener.address() as { port: number }).port}`;
  const page = await signIn(browser, "imran");
  const folder = join(import.meta.dirname, "../hostile/svg");
  const files = readdirSync(folder);
  expect(files.length).toBeGreaterThan(30);
  let taken = 0;
  for (const name of files) {
    const svg = readFileSync(join(folder, name), "utf8").replaceAll("{listener}", address);
    const [status, shown] = await page.evaluate(
      async ([name, svg]) => {
        const form = new FormData();
        form.append("file", new File([svg], name, { type: "image/svg+xml" }));
        const answer = await fetch("/api/pictures", { method: "POST", body: form });
        const made = await answer.json();
        if (!answer.ok) return [answer.status, made.detail] as const;
        // What is kept of it is shown as whoever looks at the library sees it.
        const image = new Image();
        image.src = made.address;
        await image.decode();
        return [answer.status, image.naturalWidth] as const;
      },
      [name, svg] as const,
    );
    expect([200, 201, 422], `${name}: ${shown}`).toContain(status);
    taken += status === 422 ? 0 : 1;
  }
  expect(taken).toBeGreaterThan(5);
  listener.close();
  expect(heard).toBe(0);
});
