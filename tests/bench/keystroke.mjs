// From a keystroke to both proofs changed, in the browser, on an email of 30 rows. Prints p50 and p95 in milliseconds.
import { editRequests, inRounds, launch, median } from "./browser.mjs";

const base = process.argv[2];
const api = async (context, path, data) => {
  const answer = data ? await context.request.post(base + path, { data }) : await context.request.get(base + path);
  if (!answer.ok()) throw new Error(`${path}: ${await answer.text()}`);
  return answer.json();
};

const { browser, context } = await launch();
await api(context, "/api/session", { email: "imran@larkfell.example.org", password: "steam-and-cinders" });
const template = (await api(context, "/api/templates")).templates.find((t) => t.name === "Long gazette");
const id = crypto.randomUUID();
await api(context, "/api/emails", { id, template: template.id, name: "Thirty rows" });
const story = (await api(context, `/api/emails/${id}/offers?zone=stories`)).find((r) => r.name === "Story, picture left");
const desk = await api(context, `/api/emails/${id}/desk`);
const edits = Array.from({ length: 30 - desk.rows.length }, (_, i) => ({
  id: crypto.randomUUID(),
  step: crypto.randomUUID(),
  edit: { kind: "insert-row", zone: "stories", index: 0, row: { id: `story-${i}`, master: story.id, release: story.release } },
}));
const conditioned = await api(context, `/api/emails/${id}/edits`, { base: 0, edits });
// Twelve of its rows for readers of whom twelve things hold that have nothing to do with each other: 4,096 combinations.
const test = (field, is, ...values) => ({ kind: "test", field, is, values });
const conditions = [
  test("first-name", "is", "Ada"),
  test("last-name", "is", "Fell"),
  test("member", "is", "yes"),
  test("member-number", "is", "1"),
  test("member-until", "before", "2027-01-01"),
  test("journeys", "more", "5"),
  test("home", "is", "the valley"),
  ...["tearoom", "volunteering", "engines", "walks"].map((tag) => test("interests", "has", tag)),
  test("friend", "is", "yes"),
];
const lead = await browser.newContext();
await api(lead, "/api/session", { email: "ruth@larkfell.example.org", password: "steam-and-cinders" });
await api(lead, "/api/audiences/edits", {
  base: 0,
  edits: [
    {
      id: crypto.randomUUID(),
      step: crypto.randomUUID(),
      edit: { kind: "set-merge-field", field: { key: "friend", label: "Friend", type: "yes-no" }, at: null },
    },
  ],
});
await lead.close();
const rows = (await api(context, `/api/emails/${id}/desk`)).rows.filter((r) => r.id.startsWith("story-"));
await api(context, `/api/emails/${id}/edits`, {
  base: conditioned.revision,
  edits: conditions.map((condition, i) => ({
    id: crypto.randomUUID(),
    step: crypto.randomUUID(),
    edit: { kind: "set-condition", row: rows[i].id, piece: rows[i].piece, condition },
  })),
});

const page = await context.newPage();
// Usable: the running order is there and both proofs show the email. In the page's own time, from the navigation on.
await page.addInitScript(() => {
  if (window !== window.top) return;
  const look = () => {
    const proofs = [...document.querySelectorAll("iframe[title$=' proof']")];
    const there =
      document.querySelector("[data-order] [id^=order-]") &&
      proofs.length === 2 &&
      proofs.every((f) => f.contentDocument?.querySelector("h1"));
    if (there) window.usable = performance.now();
    else requestAnimationFrame(look);
  };
  requestAnimationFrame(look);
});
const order = page.getByRole("navigation", { name: "Running order" });
const openings = [];
for (let i = 0; i < 5; i++) {
  await page.goto(`${base}/emails/${id}`);
  await order.getByRole("option", { name: /Hero/ }).waitFor();
  await page.frameLocator('iframe[title="Phone proof"]').locator("h1").waitFor();
  openings.push(await page.evaluate(() => window.usable));
}
const first = openings[0];
const usable = median(openings);
await order.getByRole("option", { name: /Story/ }).nth(8).click();
const field = page.getByRole("textbox", { name: "Headline" });
await field.focus();
const chosen = (await order.locator("[aria-current=true]").getAttribute("id")).replace("order-", "");
await page.evaluate((row) => {
  const state = { start: 0, seen: new Set(), times: [] };
  window.strokes = state.times;
  window.addEventListener(
    "input",
    (e) => {
      state.start = e.timeStamp;
      state.seen.clear();
    },
    true,
  );
  for (const frame of document.querySelectorAll("iframe")) {
    new MutationObserver(() => {
      // What someone else changed meanwhile is no answer to this key.
      const field = document.activeElement;
      const heading = frame.contentDocument.querySelector(`[data-row="${row}"] [data-piece=headline]`);
      if (!state.start || heading?.textContent.trim() !== field.value.trim()) return;
      state.seen.add(frame.title);
      if (state.seen.size === 2) {
        state.times.push(performance.now() - state.start);
        state.start = 0;
      }
    }).observe(frame.contentDocument.body, { subtree: true, childList: true });
  }
}, chosen);
const type = async () => {
  await page.evaluate(() => window.strokes.splice(0));
  for (let i = 0; i < 60; i++) {
    await (i < 30 ? page.keyboard.type("steam "[i % 6]) : page.keyboard.press("Backspace"));
    await page.waitForTimeout(60);
  }
  return page.evaluate(() => window.strokes);
};
// The first keys of a server just started are its compiler's.
await type();
await type();
const alone = await inRounds(type);

// The same while someone else writes in another row of it, five times a second.
const other = await browser.newContext();
await api(other, "/api/session", { email: "bea@larkfell.example.org", password: "steam-and-cinders" });
let [writing, written, seen] = [true, 0, await api(other, `/api/emails/${id}/desk`)];
const writer = (async () => {
  for (; writing; written++) {
    seen = await api(other, `/api/emails/${id}/edits`, {
      base: seen.revision,
      styleVersion: seen.proof.styleVersion,
      edits: [
        {
          id: crypto.randomUUID(),
          step: crypto.randomUUID(),
          edit: {
            kind: "set-fill",
            row: "hero",
            piece: "headline",
            field: "text",
            value: { kind: "words", text: `Written beside ${written}` },
          },
        },
      ],
    });
    await page.waitForTimeout(200);
  }
})();
await type();
const beside = await inRounds(type);
writing = false;
await writer;
await page
  .frameLocator('iframe[title="Phone proof"]')
  .locator("h1", { hasText: `Written beside ${written - 1}` })
  .waitFor();
console.log(JSON.stringify({ alone, beside, usable, first }));
if (process.argv[3]) console.error(JSON.stringify(await editRequests(page, 120)));
await browser.close();
