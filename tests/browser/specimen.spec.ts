import { readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { expect, type Page } from "@playwright/test";
import { expectNoViolations, signIn, test } from "./support";

/** Every block kind and row shape, on a screen of some width. */
async function specimen(page: Page, width: number) {
  await page.setViewportSize({ width, height: 900 });
  await page.goto("/api/block-kinds/specimen");
  await page.evaluate(() => Promise.all(Array.from(document.images, (i) => i.decode().catch(() => undefined))));
}

/** Left edge, top, width and height of what a selector finds in a row. */
const boxes = (page: Page, row: string, selector: string) =>
  page.locator(`[data-row="${row}"] ${selector}`).evaluateAll((all) =>
    all.map((e) => {
      const { x, y, width, height } = e.getBoundingClientRect();
      return { x: Math.round(x), y: Math.round(y), width: Math.round(width), height: Math.round(height) };
    }),
  );

// Where every row, column, picture and button of every option stands, as it was measured and looked at once. What the
// machine's fonts decide (heights of text, widths of words) is left out. UPDATE_BOXES=1 measures anew; look at what changed.
const measured = join(import.meta.dirname, "specimen-boxes.json");

test("every option stands where it was measured, at every width", async ({ browser }) => {
  const page = await signIn(browser, "ruth");
  const now: Record<string, Record<string, string>> = {};
  for (const width of [320, 375, 480, 640, 1024]) {
    await page.setViewportSize({ width, height: 900 });
    await page.goto("/api/block-kinds/specimen?options=true");
    await page.evaluate(() => Promise.all(Array.from(document.images, (i) => i.decode().catch(() => undefined))));
    now[width] = await page.evaluate(() => {
      const across = (e: Element) => {
        const { x, width: wide } = e.getBoundingClientRect();
        return `${Math.round(x)}+${Math.round(wide)}`;
      };
      return Object.fromEntries(
        Array.from(document.querySelectorAll("[data-row]"), (row) => {
          const all = (selector: string) => Array.from(row.querySelectorAll(selector)).filter((e) => e.checkVisibility());
          const columns = all(".k");
          const tops = [...new Set(columns.map((c) => Math.round(c.getBoundingClientRect().top)))].sort((a, b) => a - b);
          return [
            row.getAttribute("data-row") ?? "",
            [
              row.checkVisibility() ? across(row) : "hidden",
              columns.map((c) => `${across(c)}@${tops.indexOf(Math.round(c.getBoundingClientRect().top))}`).join(" "),
              all("img").map(across).join(" "),
              all("a.bp,a.bs,a.bq")
                .map((b) => Math.round(b.getBoundingClientRect().height))
                .join(" "),
            ].join(" | "),
          ];
        }),
      );
    });
  }
  if (process.env.UPDATE_BOXES) {
    writeFileSync(measured, `${JSON.stringify(now, null, 1)}\n`);
  }
  expect(now).toEqual(JSON.parse(readFileSync(measured, "utf8")));
});

for (const width of [320, 375, 480, 640, 1024]) {
  test(`every block keeps to a screen of ${width}`, async ({ browser }) => {
    const page = await signIn(browser, "ruth");
    await specimen(page, width);
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBe(width);
    const content = Math.min(640, width);
    const narrow = width <= 480;

    // Nothing stands outside the content area, and nothing that can be pressed is small (WCAG 2.2, 2.5.8).
    const outside = await page.evaluate((most) => {
      const left = (window.innerWidth - most) / 2;
      return Array.from(document.querySelectorAll("[data-piece] *"))
        .filter(
          (e) => e.checkVisibility() && (e.getBoundingClientRect().left < left - 1 || e.getBoundingClientRect().right > left + most + 1),
        )
        .map((e) => `${e.closest("[data-row]")?.getAttribute("data-row")} ${e.tagName}`);
    }, content);
    expect(outside).toEqual([]);
    for (const button of await page
      .locator("[data-row=button] a, [data-row=button-pair] a, [data-row=question] a, [data-row=reply-pair] a")
      .all()) {
      expect((await button.boundingBox())?.height ?? 0).toBeGreaterThanOrEqual(44);
    }

    // Columns by their parts, to the pixel, or one above the other.
    const columns = await boxes(page, "five-to-seven", ".k");
    expect(columns.length).toBe(2);
    if (narrow) {
      expect(columns[0]?.x).toBe(columns[1]?.x);
      expect(columns[1]?.y).toBeGreaterThanOrEqual((columns[0]?.y ?? 0) + (columns[0]?.height ?? 0));
    } else {
      expect(columns[0]?.y).toBe(columns[1]?.y);
      const whole = (columns[0]?.width ?? 0) + (columns[1]?.width ?? 0);
      expect(Math.abs((columns[0]?.width ?? 0) - (whole * 5) / 12)).toBeLessThanOrEqual(1);
    }
    const quarters = await boxes(page, "quarters", ".k");
    expect(new Set(quarters.map((c) => (narrow ? c.x : c.y))).size).toBe(1);

    // The reversed row: as written on desktops, the last on top on phones. The kept one stays side by side.
    const [first, second] = await boxes(page, "reversed", "h2");
    const written = await page.locator('[data-row="reversed"] h2').allTextContents();
    const at = (words: string) => (written[0] === words ? first : second);
    if (narrow) {
      expect(at("Second written")?.y).toBeLessThan(at("First written")?.y ?? 0);
    } else {
      expect(at("First written")?.x).toBeLessThan(at("Second written")?.x ?? 0);
    }
    const kept = await boxes(page, "kept", "h2");
    expect(kept[0]?.y).toBe(kept[1]?.y);

    // For phones only, for desktops only.
    await expect(page.getByText("Only phones show this.")).toBeVisible({ visible: narrow });
    await expect(page.getByText("Only desktops show this.")).toBeVisible({ visible: !narrow });

    // Cards side by side are as wide as one another, and stack.
    const cards = await boxes(page, "cards-3", "img");
    expect(Math.max(...cards.map((c) => c.width)) - Math.min(...cards.map((c) => c.width))).toBeLessThanOrEqual(2);
    expect(new Set(cards.map((c) => (narrow ? c.x : c.y))).size).toBe(1);

    // A table that stacks says before each cell what it stands under.
    await expect(page.locator("[data-row=table-stack] th").first()).toBeVisible({ visible: !narrow });
    await expect(page.locator("[data-row=table-stack] td").first()).toHaveText(/The Lamplighter/);
    await expect(page.locator("[data-row=table-stack] .sl").first()).toBeVisible({ visible: narrow });
    // The background of the row across reaches the edges of the page.
    expect((await boxes(page, "across", "h2"))[0]?.x).toBeGreaterThanOrEqual((width - content) / 2);
    expect(await page.locator('[data-row="across"]').evaluate((e) => e.getBoundingClientRect().width)).toBe(width);
  });
}

test("every block passes axe in light and dark, and says what it shows with pictures off", async ({ browser }) => {
  const signed = await signIn(browser, "ruth");
  // Served by the application it runs no scripts at all, axe's neither: it is read as any mail client would.
  const html = await signed.request.get("/api/block-kinds/specimen").then((r) => r.text());
  for (const colorScheme of ["light", "dark"] as const) {
    const page = await (await browser.newContext({ colorScheme, viewport: { width: 640, height: 900 } })).newPage();
    await page.route("**/*", (route) => route.abort());
    await page.setContent(html);
    await expect(page.getByRole("img", { name: "A steam engine on a viaduct" }).first()).toBeVisible();
    // Text over a picture cannot be judged by a program, its fallback colour is by our own; hand-written HTML has its own colours.
    await expectNoViolations(page, ['[data-row="background"]', "[data-piece=html]"]);
  }
});
