import type { ChildProcess } from "node:child_process";
import { expect, type Page } from "@playwright/test";
import ICAL from "ical.js";
import { freePort, startServer, stopServer } from "./server";
import { demoEmails, signIn, test } from "./support";

// The same email is the same bytes wherever the server stands: one server as the tests have it, one east of the date line
// whose language has an i without a dot and a comma in its numbers.
let here: Page;
let there: Page;
let other: ChildProcess;

test.beforeAll(async ({ browser }) => {
  const port = await freePort();
  other = await startServer(port, process.env.GOLDEN_RULE_CONNECTION ?? "", {
    TZ: "Pacific/Chatham",
    LANG: "tr_TR.UTF-8",
    LC_ALL: "tr_TR.UTF-8",
  });
  here = await signIn(browser, "dana");
  there = await signIn(browser, "dana", "/", `http://127.0.0.1:${port}`);
});

test.afterAll(() => stopServer(other));

test("two servers in two time zones and languages give the same email, byte for byte", async () => {
  const house = (await (await here.request.get("/api/house-styles")).json())[0].id;
  const { templates } = await (await here.request.get("/api/templates")).json();
  const asked = [
    ...demoEmails.flatMap((id) =>
      ["html", "text", "message", "copy-deck", "draft/text", "draft/inbox"].map((what) => `/api/emails/${id}/${what}`),
    ),
    ...templates.map((t: { id: string }) => `/api/templates/${t.id}/file`),
    `/api/block-kinds/specimen?options=true&houseStyle=${house}`,
    `/api/house-styles/${house}/variables.tokens.json`,
    `/api/house-styles/${house}/variables.css`,
  ];
  const differing: string[] = [];
  for (const path of asked) {
    // Pictures are named with the server's own address, so both are asked by the same one.
    const [a, b] = await Promise.all([here, there].map((page) => page.request.get(path, { headers: { host: "localhost" } })));
    if (!a?.ok() || !b?.ok() || !(await a.body()).equals(await b.body())) differing.push(`${path}: ${a?.status()} and ${b?.status()}`);
  }
  expect(asked.length).toBeGreaterThan(20);
  expect(differing).toEqual([]);
});

// RFC 5545, read by ical.js, which is not what wrote it.
test("the calendar file of an event says the same moment, place and words to another reader", async () => {
  const made = { id: crypto.randomUUID(), name: "Evening", campaignType: "special-train", from: { starter: "event" } };
  expect((await here.request.post("/api/templates", { data: made })).ok()).toBe(true);
  expect((await here.request.post(`/api/templates/${made.id}/releases`, { data: { note: "First" } })).ok()).toBe(true);
  const id = crypto.randomUUID();
  expect((await there.request.post("/api/emails", { data: { id, template: made.id, name: "Viaduct evening" } })).ok()).toBe(true);
  const desk = await (await there.request.get(`/api/emails/${id}/desk`)).json();
  const [at] = desk.rows.flatMap((r: { id: string; columns: { blocks: { id: string; kind: string }[] }[] }) =>
    r.columns
      .flatMap((c) => c.blocks)
      .filter((b) => b.kind === "event")
      .map((b) => ({ row: r.id, piece: b.id })),
  );
  const fills = [
    ["title", { kind: "words", text: "Lamps, steam; and a \\ viaduct" }],
    ["where", { kind: "words", text: "Larkfell, platform 2; by the İstanbul clock" }],
    ["when", { kind: "moment", start: "2027-07-06T10:40", end: "2027-07-06T12:10", zone: "Europe/London" }],
  ];
  const edits = fills.map(([field, value]) => ({
    id: crypto.randomUUID(),
    step: crypto.randomUUID(),
    edit: { kind: "set-fill", ...at, field, value },
  }));
  const stored = await there.request.post(`/api/emails/${id}/edits`, { data: { base: desk.revision, edits } });
  expect(stored.ok(), await stored.text()).toBe(true);
  const pages = await Promise.all(
    [here, there].map(async (page) => (await page.request.get(`/api/emails/${id}/html`, { headers: { host: "localhost" } })).text()),
  );
  expect(pages[0]).toBe(pages[1]);
  const path = /\/pictures\/[0-9a-f]{64}\.ics/.exec(pages[0] ?? "")?.[0] ?? "";
  const calendar = new ICAL.Component(ICAL.parse(await (await here.request.get(path)).text()));
  const event = new ICAL.Event(calendar.getFirstSubcomponent("vevent"));
  expect([event.summary, event.location]).toEqual(["Lamps, steam; and a \\ viaduct", "Larkfell, platform 2; by the İstanbul clock"]);
  // 10:40 in London in July is 09:40 in UTC.
  expect([event.startDate.toJSDate().toISOString(), event.endDate.toJSDate().toISOString()]).toEqual([
    "2027-07-06T09:40:00.000Z",
    "2027-07-06T11:10:00.000Z",
  ]);
  expect(calendar.getFirstPropertyValue("version")).toBe("2.0");
});
