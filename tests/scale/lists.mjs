// Looks at the libraries' lists as a person does, in Chromium: lists.mjs ADDRESS. Prints each figure beside its bar; fails where one is missed.
import { chromiumOptions } from "../browser/chromium.mjs";
import { chromium } from "../browser/node_modules/@playwright/test/index.mjs";
import { tell } from "./bars.mjs";

const [address] = process.argv.slice(2);
/** Emails that are scrolled through. */
const through = 10_000;

const browser = await chromium.launch(chromiumOptions);
// So tall that sixty are in view.
const context = await browser.newContext({ baseURL: address, viewport: { width: 1920, height: 3000 } });
await context.request.post("/api/session", { data: { email: "ruth@larkfell.example.org", password: "steam-and-cinders" } });
const page = await context.newPage();
await page.goto("/coverage");

const link = (name) => page.getByRole("navigation", { name: "Rooms" }).getByRole("link", { name, exact: true });
/** From the press on a room's name until every picture of its first page is there. The least of some: the first draws them. */
async function opened(name, press = () => link(name).click(), before = () => {}, least = 1) {
  let quickest = Number.POSITIVE_INFINITY;
  let shown = 0;
  for (let i = 0; i < 6; i++) {
    await link("Coverage").click();
    await page.getByRole("heading", { level: 1, name: "Coverage" }).waitFor();
    await before();
    const began = performance.now();
    await press();
    await page.waitForFunction(
      (some) => {
        const items = [...document.querySelectorAll("[role=listitem]")];
        const pictures = items.flatMap((item) => [...item.querySelectorAll("img")]);
        return items.length >= some && pictures.length >= items.length && pictures.every((img) => img.complete);
      },
      least,
      { timeout: 120_000 },
    );
    quickest = Math.min(quickest, performance.now() - began);
    shown = await page.getByRole("listitem").count();
  }
  tell(`${name}: all ${shown} in view are seen`, quickest, "ms", 500);
}
await opened("Rows");
await opened("Templates");
await opened("Emails");
await opened(
  "Start, from an earlier email",
  () => page.getByRole("button", { name: "From an earlier email" }).click(),
  async () => {
    await link("Emails").click();
    await page.getByRole("link", { name: "Start an email" }).click();
    await page.getByRole("button", { name: "From an earlier email" }).waitFor();
    // What the room before showed is gone.
    await page.getByRole("article").first().waitFor();
  },
  20,
);

await page.setViewportSize({ width: 1280, height: 800 });
const session = await context.newCDPSession(page);
await session.send("Performance.enable");
await session.send("HeapProfiler.enable");
const heap = async () => {
  await session.send("HeapProfiler.collectGarbage");
  const { metrics } = await session.send("Performance.getMetrics");
  const of = (name) => metrics.find((m) => m.name === name).value;
  return { megabytes: of("JSHeapUsedSize") / 1024 / 1024, nodes: of("Nodes") };
};
await page.goto("/emails");
const list = page.getByRole("region", { name: "All emails" });
await page.getByRole("listitem").first().waitFor();
await page.evaluate(() => {
  window.longest = 0;
  let last = performance.now();
  requestAnimationFrame(function next(now) {
    window.longest = Math.max(window.longest, now - last);
    last = now;
    requestAnimationFrame(next);
  });
});
const scroll = (until) =>
  list.evaluate(
    (scroller, wanted) =>
      new Promise((resolve) => {
        const step = () => {
          const items = scroller.querySelectorAll("[role=listitem]");
          const at = Number(items[items.length - 1].getAttribute("aria-posinset"));
          if (at >= wanted) resolve(at);
          else {
            // Faster, and more is asked for in a second than one person may.
            scroller.scrollBy(0, 400);
            requestAnimationFrame(step);
          }
        };
        step();
      }),
    until,
  );
await scroll(through / 10);
const [before, began] = [await heap(), performance.now()];
await page.evaluate(() => (window.longest = 0));
await scroll(through);
const took = (performance.now() - began) / 1000;
const longest = await page.evaluate(() => window.longest);
const after = await heap();
tell(`scrolling from ${through / 10} to ${through} in ${took.toFixed(0)} s: the longest frame`, longest, "ms", 1000);
// What is known of each email, which is less than a kilobyte.
tell("memory of the page: more than before", after.megabytes - before.megabytes, "MB", 20);
tell("elements of the page: more than before", after.nodes - before.nodes, "", 2000);
await browser.close();
