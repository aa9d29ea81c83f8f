import { execFileSync } from "node:child_process";
import { mkdtempSync, readFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { gzipSync } from "node:zlib";
import { expect, type Response } from "@playwright/test";
import { expectNoViolationsInBoth, newPage, openEmail, order, row, signIn, test } from "./support";

// Each by itself, so that both workers share them: they are among the longest.
test.describe.configure({ mode: "parallel" });

const web = join(import.meta.dirname, "../../src/web");

test("every screen passes axe, light and dark", async ({ browser }) => {
  const stranger = await newPage(browser);
  await stranger.goto("/");
  await expect(stranger.getByRole("button", { name: "Sign in" })).toBeVisible();
  await expectNoViolationsInBoth(stranger);

  const page = await signIn(browser, "ruth");
  // Thumbnails and proofs are emails, which are checked by themselves.
  const emails = ["iframe"];
  await expect(page.getByRole("region", { name: "Going out" })).toBeVisible();
  await expect(page.getByText(/things? waits? for you/)).toBeVisible();
  await expectNoViolationsInBoth(page, emails);
  await page.getByRole("link", { name: "Look and decide Winter steam gala" }).click();
  await expect(page.getByRole("heading", { name: "What changed" })).toBeVisible();
  await expectNoViolationsInBoth(page, emails);
  await page.goto("/templates");
  await expect(page.getByRole("article").first()).toBeVisible();
  await expectNoViolationsInBoth(page, emails);
  await page.getByRole("article", { name: "Shop offer" }).getByRole("button", { name: "Start an email" }).click();
  await expect(page.getByRole("dialog")).toBeVisible();
  await expectNoViolationsInBoth(page, emails);
  await page.goto("/emails");
  await expect(page.getByRole("link", { name: /Winter steam gala/ })).toBeVisible();
  await expectNoViolationsInBoth(page, emails);
  await page.goto("/house-style");
  await page.getByRole("button", { name: /Buffer red/ }).click();
  await expectNoViolationsInBoth(page, emails);
  await page.getByRole("button", { name: "Name, group and position" }).click();
  await page.getByRole("button", { name: /Used in/ }).click();
  await page.getByRole("button", { name: "Override for a template or row" }).click();
  await expectNoViolationsInBoth(page, emails);
  await page.getByRole("button", { name: "Global styles" }).click();
  await page.getByRole("button", { name: /^Primary button/ }).click();
  await page.getByLabel("Why this value?").selectOption({ label: "Heading 1" });
  await page.getByRole("button", { name: "Release history" }).click();
  await expectNoViolationsInBoth(page, emails);
  await page.getByRole("button", { name: "Import" }).click();
  await page.getByLabel("The website's CSS, or design tokens").fill(":root{--brand-new:#123456;--accent:#654321;--shadow:0 1px 2px}");
  await page.getByRole("button", { name: "Preview" }).click();
  await expect(page.getByRole("button", { name: /^Import \d/ })).toBeVisible();
  await expectNoViolationsInBoth(page, emails);
  await page.goto("/pictures");
  await page.getByRole("button", { name: /Viaduct, morning/ }).click();
  await expect(page.getByRole("heading", { name: "Files" })).toBeVisible();
  await expectNoViolationsInBoth(page, emails);

  await openEmail(page, "March: the viaduct reopens");
  await expectNoViolationsInBoth(page, emails);
  for (const name of [/Hero/, /Viaduct/, /Footer/]) {
    await row(page, name).click();
    await expectNoViolationsInBoth(page, emails);
  }
  await page.getByRole("tab", { name: "Look" }).click();
  await expectNoViolationsInBoth(page, emails);
  await page.getByRole("tab", { name: /Findings/ }).click();
  await expectNoViolationsInBoth(page, emails);
  await order(page).getByRole("button", { name: "Add a row" }).first().click();
  await expect(page.getByRole("dialog").getByRole("button", { name: /Story/ }).first()).toBeVisible();
  await expectNoViolationsInBoth(page, emails);
});

test("every screen of composing passes axe, light and dark", async ({ browser }) => {
  const page = await signIn(browser, "imran");
  const emails = ["iframe"];
  await page.goto("/start?from=email");
  await expect(page.getByRole("article").first()).toBeVisible();
  await expectNoViolationsInBoth(page, emails);
  await page.getByRole("button", { name: "Next issue" }).first().click();
  await expect(page.getByRole("dialog")).toBeVisible();
  await expectNoViolationsInBoth(page, emails);
  await page.goto("/checks/link-tags");
  await expect(page.getByRole("region", { name: "Shop offer" })).toBeVisible();
  await expectNoViolationsInBoth(page, emails);

  await openEmail(page, "The Lamplighter");
  await page.getByRole("button", { name: "Whole email" }).click();
  await expect(page.locator("aside").getByRole("heading", { name: "Hero" })).toBeVisible();
  await expectNoViolationsInBoth(page, emails);
  await row(page, /Hero/).click();
  await page.keyboard.press("Shift+ArrowDown");
  await expect(page.getByText("2 rows picked")).toBeVisible();
  await expectNoViolationsInBoth(page, emails);
  for (const [item, there] of [
    [/Paste a document/, "Document"],
    [/Find and replace/, "Replace with"],
  ] as const) {
    await page.getByRole("button", { name: "Text tools" }).click();
    await page.getByRole("menuitem", { name: item }).click();
    await expect(page.getByRole("textbox", { name: there })).toBeVisible();
    if (there === "Document") {
      await page.getByRole("textbox", { name: there }).fill("A heading\n\nWords below it.\n\nAnother\n\nMore.");
      await page.getByRole("button", { name: "Preview" }).click();
      await expect(page.getByRole("button", { name: "Put it in" })).toBeVisible();
    }
    await expectNoViolationsInBoth(page, emails);
    await page.getByRole("button", { name: "Close" }).last().click();
    await expect(page.getByRole("dialog")).toHaveCount(0);
  }
  for (const item of ["Copy deck", "History"]) {
    if (item === "Copy deck") {
      await page.getByRole("button", { name: "Text tools" }).click();
    }
    await page.getByRole(item === "History" ? "button" : "menuitem", { name: item }).click();
    await expect(page.getByRole("dialog")).toBeVisible();
    await expectNoViolationsInBoth(page, emails);
    await page.getByRole("button", { name: "Close" }).last().click();
    await expect(page.getByRole("dialog")).toHaveCount(0);
  }
});

test("every screen of the library passes axe, light and dark", async ({ browser }) => {
  const page = await signIn(browser, "ruth");
  const emails = ["iframe"];
  for (const part of ["severities", "clients", "hosts"]) {
    await page.goto(`/checks/${part}`);
    await expect(page.getByRole("status").first()).toBeAttached();
    await expect(page.getByRole("region").first()).toBeVisible();
    await expectNoViolationsInBoth(page);
  }
  await page.goto("/coverage");
  await expect(page.getByRole("heading", { name: "Coverage" })).toBeVisible();
  await expectNoViolationsInBoth(page, emails);
  await page.goto("/rows?new=yes&kind=legal&type=shop-offer");
  await expect(page.getByRole("dialog", { name: "New row" })).toBeVisible();
  await expectNoViolationsInBoth(page, emails);
  await page.goto("/rows");
  await page.getByRole("link", { name: "Offer", exact: true }).click();
  await expect(order(page)).toBeVisible();
  await row(page, /About this row/).click();
  await expectNoViolationsInBoth(page, emails);
  await row(page, "Offer main").click();
  for (const tab of ["Copy", "Look", "Rules"]) {
    await page.getByRole("tab", { name: tab }).click();
    await expectNoViolationsInBoth(page, emails);
  }
  await page.getByRole("tab", { name: "Copy" }).click();
  await page.getByRole("button", { name: "Add a block" }).first().click();
  await expect(page.getByRole("option", { name: /^Voucher/ })).toBeVisible();
  await expectNoViolationsInBoth(page, emails);
  await page.keyboard.press("Escape");
  await page.goto("/templates");
  await page.getByRole("button", { name: "New template" }).click();
  await expect(page.getByRole("dialog").getByText("Newsletter", { exact: true })).toBeVisible();
  await expectNoViolationsInBoth(page, emails);
  await page.goto("/templates");
  await page.getByRole("article", { name: "Shop offer" }).getByRole("link", { name: "Open" }).click();
  await order(page)
    .getByRole("option", { name: /, \d+ to \d+/ })
    .first()
    .click();
  await expectNoViolationsInBoth(page, emails);
  await page.getByRole("button", { name: "Add a row or a zone" }).click();
  await expect(page.getByRole("dialog").getByRole("button", { name: /Add a zone/ })).toBeVisible();
  await expectNoViolationsInBoth(page, emails);
});

test("the first load brings at most 350 KB of script and none from elsewhere", async ({ page, baseURL }) => {
  const answers: Response[] = [];
  page.on("response", (response) => answers.push(response));
  await page.goto("/", { waitUntil: "networkidle" });
  expect(answers.filter((answer) => !answer.url().startsWith(baseURL ?? "")).map((answer) => answer.url())).toEqual([]);
  const scripts = answers.filter((answer) => answer.url().endsWith(".js"));
  for (const script of scripts) expect(await script.headerValue("content-encoding"), script.url()).toMatch(/^(br|gzip)$/);
  const bytes = (await Promise.all(scripts.map(async (script) => gzipSync(await script.body()).length))).reduce((all, one) => all + one, 0);
  expect(bytes).toBeGreaterThan(10_000);
  expect(bytes).toBeLessThan(350 * 1024);
});

test("the front end's types are those of the committed API description", () => {
  const made = join(mkdtempSync(join(tmpdir(), "types-")), "schema.d.ts");
  execFileSync(join(web, "node_modules/.bin/openapi-typescript"), [join(web, "../../docs/openapi.json"), "-o", made]);
  expect(readFileSync(made, "utf8")).toBe(readFileSync(join(web, "api/schema.d.ts"), "utf8"));
});
