// From a move in the colour picker to specimen and contrast table both changed, in the browser. Prints p50 and p95 in milliseconds.
import { editRequests, inRounds, launch } from "./browser.mjs";

const base = process.argv[2];
const { browser, context } = await launch();
await context.request.post(`${base}/api/session`, { data: { email: "ruth@larkfell.example.org", password: "steam-and-cinders" } });
const page = await context.newPage();
await page.goto(`${base}/house-style`);
await page.frameLocator("iframe[title=Specimen]").locator("h1").waitFor();
await page.getByRole("button", { name: /Buffer red/ }).click();
const area = await page
  .getByRole("slider", { name: /saturation/ })
  .locator("xpath=..")
  .boundingBox();
await page.evaluate(() => {
  const state = { start: 0, seen: new Set(), times: [] };
  window.moves = state.times;
  window.addEventListener(
    "mousemove",
    (e) => {
      state.start = e.timeStamp;
      state.seen.clear();
    },
    true,
  );
  const watch = (name, node) =>
    new MutationObserver(() => {
      if (!state.start) return;
      state.seen.add(name);
      if (state.seen.size === 2) {
        state.times.push(performance.now() - state.start);
        state.start = 0;
      }
    }).observe(node, { subtree: true, childList: true, characterData: true, attributes: true });
  watch("specimen", document.querySelector("iframe[title=Specimen]").contentDocument.documentElement);
  watch("contrast", document.querySelector("aside table"));
});
const at = (i) => [area.x + area.width * (0.5 + 0.35 * Math.cos(i / 9)), area.y + area.height * (0.5 + 0.35 * Math.sin(i / 9))];
await page.mouse.move(...at(0));
await page.mouse.down();
let moved = 0;
const move = async () => {
  await page.evaluate(() => window.moves.splice(0));
  for (let i = 0; i < 60; i++) {
    await page.mouse.move(...at(++moved));
    await page.waitForTimeout(70);
  }
  return page.evaluate(() => window.moves);
};
// The first moves of a server just started are its compiler's.
await move();
await move();
const moves = await inRounds(move);
await page.mouse.up();
console.log(JSON.stringify(moves));
if (process.argv[3]) console.error(JSON.stringify(await editRequests(page, 120)));
await browser.close();
