import { execFileSync } from "node:child_process";
import { mkdtempSync, readFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { expect, test } from "@playwright/test";
import { expectNoViolations, openEmail, order, row, signIn } from "./support";

const web = join(import.meta.dirname, "../../src/web");

for (const scheme of ["light", "dark"] as const) {
  test(`every screen passes axe, ${scheme}`, async ({ browser, baseURL }) => {
    const stranger = await (await browser.newContext({ baseURL, colorScheme: scheme })).newPage();
    await stranger.goto("/");
    await expect(stranger.getByRole("button", { name: "Sign in" })).toBeVisible();
    await expectNoViolations(stranger);

    const page = await signIn(browser, "ruth");
    await page.emulateMedia({ colorScheme: scheme });
    // Thumbnails and proofs are emails, which are checked by themselves.
    const emails = ["iframe"];
    await expect(page.getByRole("article").first()).toBeVisible();
    await expectNoViolations(page, emails);
    await page.getByRole("article", { name: "Shop offer" }).getByRole("button").click();
    await expect(page.getByRole("dialog")).toBeVisible();
    await expectNoViolations(page, emails);
    await page.goto("/emails");
    await expect(page.getByRole("link", { name: /Winter steam gala/ })).toBeVisible();
    await expectNoViolations(page, emails);
    await page.goto("/house-style");
    await page.getByRole("button", { name: /Buffer red/ }).click();
    await expectNoViolations(page, emails);
    await page.getByRole("button", { name: "Name, group and place" }).click();
    await page.getByRole("button", { name: /Used in/ }).click();
    await page.getByRole("button", { name: "Narrow it for a template or row" }).click();
    await expectNoViolations(page, emails);
    await page.getByRole("button", { name: "Global styles" }).click();
    await page.getByRole("button", { name: /^Primary button/ }).click();
    await page.getByLabel("Why this value?").selectOption({ label: "Heading 1" });
    await page.getByRole("button", { name: /The release so far|All \d+ releases/ }).click();
    await expectNoViolations(page, emails);
    await page.getByRole("button", { name: "Bring in" }).click();
    await page.getByLabel("The website's CSS, or design tokens").fill(":root{--brand-new:#123456;--accent:#654321;--shadow:0 1px 2px}");
    await page.getByRole("button", { name: "Show what it would do" }).click();
    await expect(page.getByRole("button", { name: /over$/ })).toBeVisible();
    await expectNoViolations(page, emails);
    await page.goto("/pictures");
    await page.getByRole("button", { name: /Viaduct, morning/ }).click();
    await expect(page.getByRole("heading", { name: "Files" })).toBeVisible();
    await expectNoViolations(page, emails);

    await openEmail(page, "March: the viaduct reopens");
    await expectNoViolations(page, emails);
    for (const name of [/Hero/, /Viaduct/, /Footer/]) {
      await row(page, name).click();
      await expectNoViolations(page, emails);
    }
    await page.getByRole("tab", { name: "Look" }).click();
    await expectNoViolations(page, emails);
    await page.getByRole("tab", { name: /Findings/ }).click();
    await expectNoViolations(page, emails);
    await order(page).getByRole("button", { name: "Add a row" }).first().click();
    await expect(page.getByRole("dialog").getByRole("button", { name: /Story/ }).first()).toBeVisible();
    await expectNoViolations(page, emails);
  });
}

test("the first load brings at most 350 KB of script and none from elsewhere", async ({ page, baseURL }) => {
  let bytes = 0;
  page.on("response", async (response) => {
    expect(response.url().startsWith(baseURL ?? "")).toBe(true);
    if (response.url().endsWith(".js")) {
      bytes += Number((await response.allHeaders())["content-length"] ?? 0) || (await response.body()).length / 3;
    }
  });
  await page.goto("/", { waitUntil: "networkidle" });
  expect(bytes).toBeGreaterThan(10_000);
  expect(bytes).toBeLessThan(350 * 1024);
});

test("the front end's types are those of the committed API description", () => {
  const made = join(mkdtempSync(join(tmpdir(), "types-")), "schema.d.ts");
  execFileSync(join(web, "node_modules/.bin/openapi-typescript"), [join(web, "../../docs/openapi.json"), "-o", made]);
  expect(readFileSync(made, "utf8")).toBe(readFileSync(join(web, "api/schema.d.ts"), "utf8"));
});
