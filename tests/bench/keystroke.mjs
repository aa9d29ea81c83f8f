// From a keystroke to both proofs changed, in the browser, on an email of 30 rows. Prints p50 and p95 in milliseconds.
import { editRequests, launch, percentiles } from "./browser.mjs";

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
await api(context, `/api/emails/${id}/edits`, { base: 0, edits });

const page = await context.newPage();
const opened = performance.now();
await page.goto(`${base}/emails/${id}`);
const order = page.getByRole("navigation", { name: "Running order" });
await order.getByRole("button", { name: /Hero/ }).waitFor();
await page.frameLocator('iframe[title="Phone proof"]').locator("h1").waitFor();
const usable = performance.now() - opened;
await order.getByRole("button", { name: /Story/ }).nth(8).click();
const field = page.getByRole("textbox", { name: "Headline" });
await field.focus();
await page.evaluate(() => {
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
      if (!state.start) return;
      state.seen.add(frame.title);
      if (state.seen.size === 2) {
        state.times.push(performance.now() - state.start);
        state.start = 0;
      }
    }).observe(frame.contentDocument.body, { subtree: true, childList: true });
  }
});
for (let i = 0; i < 200; i++) {
  await (i % 60 < 30 ? page.keyboard.type("steam "[i % 6]) : page.keyboard.press("Backspace"));
  await page.waitForTimeout(60);
}
const { count, ...times } = percentiles(await page.evaluate(() => window.strokes), 80);
console.log(JSON.stringify({ strokes: count, ...times, usable }));
if (process.argv[3]) console.error(JSON.stringify(await editRequests(page, 20)));
await browser.close();
