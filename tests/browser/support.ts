import { readdirSync, readFileSync } from "node:fs";
import { createRequire } from "node:module";
import { join } from "node:path";
import {
  type APIRequestContext,
  type Browser,
  type BrowserContext,
  expect,
  type Locator,
  type Page,
  test as playwright,
} from "@playwright/test";
import type Axe from "axe-core";
import { startMailbox } from "../../standins/mailbox/mailbox.mjs";
import { closeServer, dropDatabase, freePort, freshDatabase, openServer } from "./server";

const axe = readFileSync(createRequire(import.meta.url).resolve("axe-core/axe.min.js"), "utf8");

/** The demo's own emails: what tests leave half made is not asked to be right. */
const demo = join(import.meta.dirname, "../../demo/larkfell/emails");
export const demoEmail = (file: string): string => JSON.parse(readFileSync(join(demo, `${file}.json`), "utf8")).id;
export const demoEmails: string[] = readdirSync(demo).map((file) => demoEmail(file.replace(".json", "")));

/**
 * A server and a database with the demo for each file, and what a test opened is closed: a desk that nobody looks at any
 * more still listens, and costs the next test its time.
 */
export const test = playwright.extend<{ closing: undefined }, { own: { url: string } }>({
  own: [
    // biome-ignore lint/correctness/noEmptyPattern: the runner reads from the pattern what is needed.
    async ({}, use, { workerIndex }) => {
      const [name, port] = [`browser_${workerIndex}`, await freePort()];
      const connection = freshDatabase(name);
      const mailbox = await startMailbox({ password: name });
      process.env.GOLDEN_RULE_MAILBOX = `http://127.0.0.1:${mailbox.httpPort}`;
      await openServer(port, connection, {
        "Mail:Host": "127.0.0.1",
        "Mail:Port": `${mailbox.smtpPort}`,
        "Mail:User": "golden-rule",
        "Mail:Password": name,
        "Mail:From": "Golden Rule <golden-rule@larkfell.example.org>",
        "Mail:CheckCertificate": "false",
        Mailroom: process.env.GOLDEN_RULE_MAILBOX,
      });
      process.env.GOLDEN_RULE_URL = `http://127.0.0.1:${port}`;
      process.env.GOLDEN_RULE_CONNECTION = connection;
      await use({ url: process.env.GOLDEN_RULE_URL });
      await closeServer(port);
      await mailbox.stop();
      dropDatabase(name);
    },
    { scope: "worker", auto: true },
  ],
  baseURL: ({ own }, use) => use(own.url),
  closing: [
    async ({ browser }, use) => {
      const before = new Set(browser.contexts());
      await use(undefined);
      // A request that a test holds back may be on its way still: what becomes of it is no fault of the next test.
      const close = async (context: BrowserContext) => {
        await Promise.all([context, ...context.pages()].map((one) => one.unrouteAll({ behavior: "ignoreErrors" })));
        await context.close();
      };
      await Promise.all(browser.contexts().map((context) => (before.has(context) ? undefined : close(context))));
    },
    { auto: true },
  ],
});

export type Who = "ruth" | "dana" | "imran" | "bea" | "jonas" | "hanna" | "theo" | "wren";

/**
 * A page of one's own. Its browser saves data, so that no room is fetched before somebody goes to it: a page that is there for seconds
 * would spend more of the processor on that than on all else.
 */
export async function newPage(browser: Browser, baseURL = process.env.GOLDEN_RULE_URL): Promise<Page> {
  const context = await browser.newContext({ baseURL });
  await context.addInitScript(() => {
    const { connection } = navigator as { connection?: object };
    if (connection) Object.defineProperty(connection, "saveData", { value: true });
  });
  return context.newPage();
}

/** The same, signed in; how one signs in by the page is what rooms.spec.ts is about. @param at Where it opens. */
export async function signIn(browser: Browser, who: Who, at = "/", baseURL?: string): Promise<Page> {
  const page = await newPage(browser, baseURL);
  page.on("pageerror", (error) => {
    throw error;
  });
  const session = await page.request.post("/api/session", {
    data: { email: `${who}@larkfell.example.org`, password: "steam-and-cinders" },
  });
  expect(session.ok()).toBe(true);
  await page.goto(at);
  await expect(page.getByRole("banner").getByRole("link", { name: /^Golden Rule/ })).toBeVisible();
  return page;
}

/** Starts an email from a template; the desk is open when it returns. */
export async function startEmail(page: Page, template: string, name: string) {
  await page.getByRole("link", { name: "Templates", exact: true }).click();
  await page.getByRole("article", { name: template }).getByRole("button", { name: "Start an email" }).click();
  await page.getByLabel("Name").fill(name);
  await page.getByRole("button", { name: "Start", exact: true }).click();
  await expect(order(page)).toBeVisible();
}

/** From the list of emails, where it has to be gone to first. */
export async function openEmail(page: Page, name: string) {
  if (new URL(page.url()).pathname !== "/emails") await page.goto("/emails");
  await page.getByRole("link", { name }).click();
  await expect(order(page)).toBeVisible();
}

/** Takes an email of the demo back from review, where it is: it can be changed again. */
export const takeBack = (page: Page, file: string) => page.request.delete(`/api/emails/${demoEmail(file)}/review/rounds/open`);

export const order = (page: Page) => page.getByRole("navigation", { name: "Running order" });
export const row = (page: Page, name: string | RegExp) => order(page).getByRole("option", { name });
export const proof = (page: Page, which: "Desktop" | "Phone") => page.frameLocator(`iframe[title="${which} proof"]`);
export const kept = (page: Page) => expect(page.locator("[data-keeping=kept]")).toBeVisible();

/** The names in the running order, top to bottom. */
export const namesInOrder = (page: Page) => order(page).locator("button[id^=order-] > span > span:first-child").allTextContents();

/**
 * No violation of WCAG 2.2 A and AA that axe-core can find; `rules`: only of these. What frames hold is an email, and judged by itself.
 * Axe is put into the page once, where its runner would do so each time, and open a page of its own for each answer.
 */
export async function expectNoViolations(page: Page, exclude: string[] = [], rules?: string[]) {
  if (!(await page.evaluate(() => "axe" in window))) {
    await page.evaluate(axe);
  }
  const violations = await page.evaluate(
    async ([out, runOnly]) => {
      // What is on its way from one colour to another is judged where it arrives.
      for (const moving of document.getAnimations()) if (moving instanceof CSSTransition) moving.finish();
      const found = await (window as unknown as { axe: typeof Axe }).axe.run({ exclude: out }, { runOnly, iframes: false });
      return found.violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.target.join(" ")).join(" | ")}`);
    },
    [
      exclude.map((selector) => [selector]),
      rules
        ? { type: "rule" as const, values: rules }
        : { type: "tag" as const, values: ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa"] },
    ] as const,
  );
  expect(violations).toEqual([]);
}

/** The same in the light and in the dark scheme, which differ in nothing but colours. */
export async function expectNoViolationsInBoth(page: Page, exclude: string[] = []) {
  const scheme = page.locator("html");
  await expect(scheme).toHaveAttribute("data-mantine-color-scheme", "light");
  await expectNoViolations(page, exclude);
  await page.emulateMedia({ colorScheme: "dark" });
  await expect(scheme).toHaveAttribute("data-mantine-color-scheme", "dark");
  await expectNoViolations(page, exclude, ["color-contrast", "link-in-text-block"]);
  await page.emulateMedia({ colorScheme: "light" });
}

/** Takes back, step by step, all that one did. Whether two fills are one step or two is a matter of the time between them. */
export async function undoAll(page: Page) {
  const undo = page.getByRole("button", { name: "Undo" });
  await expect(undo).toBeEnabled();
  for (let more = true; more; ) {
    const answered = page.waitForResponse("**/undo");
    await undo.click();
    more = (await (await answered).json()).canUndo;
  }
  await expect(undo).toBeDisabled();
}

/** Puts a block in at the place that the button opens, by typing its kind. */
export async function putBlock(page: Page, opener: Locator, kind: string) {
  await opener.click();
  const slip = page.getByRole("dialog", { name: /^Add a block/ });
  await slip.getByLabel("Find a block").fill(kind);
  await slip
    .getByRole("option", { name: new RegExp(`^${kind}(?! pair)`) })
    .first()
    .click();
  await slip.getByRole("button", { name: "Close" }).click();
  await expect(slip).toHaveCount(0);
}

/** Carries something by the mouse onto something else, as a hand does: over the way between. */
export async function carry(page: Page, from: Locator, to: Locator) {
  await from.hover();
  await page.mouse.down();
  const [a, b] = [await from.boundingBox(), await to.boundingBox()];
  if (!a || !b) throw new Error("Both have to be there.");
  const [x, y] = [a.x + a.width / 2, a.y + a.height / 2];
  await moveHeld(page, [x, y], [x, y + 12], [b.x + b.width / 2, b.y + b.height / 2]);
  // A place of the running order says that it would take what is held, a moment after it is reached.
  if (await to.evaluate((place) => place.closest("[data-order]") !== null)) await expect(to).toHaveAttribute("data-drop", "true");
  await page.mouse.up();
}

/**
 * Moves the mouse with its button held, in a few steps from point to point. Told to Chromium itself: Playwright asks every frame at
 * each step whether a drag of the browser's own began, and now and then waits for ever for one that is being drawn anew.
 */
export async function moveHeld(page: Page, ...points: [number, number][]) {
  const chromium = await page.context().newCDPSession(page);
  for (const [i, [x, y]] of points.entries()) {
    const [fromX, fromY] = points[i - 1] ?? [x, y];
    for (let step = 1; step <= 8; step++) {
      await chromium.send("Input.dispatchMouseEvent", {
        type: "mouseMoved",
        x: fromX + ((x - fromX) * step) / 8,
        y: fromY + ((y - fromY) * step) / 8,
        button: "left",
        buttons: 1,
      });
    }
  }
  await chromium.detach();
}

/** Sends edits as the desk does, whatever the revision. */
export async function sendEdits(request: APIRequestContext, path: string, edits: object[]) {
  const answer = await request.post(path, {
    data: { base: 1 << 20, edits: edits.map((one) => ({ id: crypto.randomUUID(), step: crypto.randomUUID(), edit: one })) },
  });
  expect(answer.ok(), await answer.text()).toBe(true);
}

/** A snippet or field as it stands within words. */
export const node = (kind: string, key: string) => `\ufdd0${kind}:${key}\ufdd1`;

/** The files of a ZIP, by name. */
export async function unzip(zip: Buffer): Promise<Map<string, Buffer>> {
  const { fromBuffer } = await import("yauzl");
  const entries = new Map<string, Buffer>();
  await new Promise<void>((resolve, reject) => {
    fromBuffer(zip, { lazyEntries: true }, (fault, archive) => {
      if (fault) return reject(fault);
      archive.on("entry", (entry) =>
        archive.openReadStream(entry, (broken, stream) => {
          if (broken) return reject(broken);
          const parts: Buffer[] = [];
          stream.on("data", (part: Buffer) => parts.push(part));
          stream.on("end", () => {
            entries.set(entry.fileName, Buffer.concat(parts));
            archive.readEntry();
          });
        }),
      );
      archive.on("end", () => resolve());
      archive.readEntry();
    });
  });
  return entries;
}
