import { expect } from "@playwright/test";
import { runSql } from "./server";
import { signIn, test } from "./support";

const emails = 1200;

test("of a long list only what is in sight is in the page, and what has the focus stays", async ({ browser }) => {
  // Copies of one email, each changed a minute before the one before.
  runSql(
    `insert into documents (id, kind, name, campaign_type, state, owner, private, retired, serves, words, references_known,
       origin, head, revision, created_by, created_at, changed_at)
     select gen_random_uuid(), 'Email', 'Copy ' || n, campaign_type, state, owner, false, false, serves, 'copy ' || n, true,
       origin, head, revision, created_by, created_at, now() - make_interval(years => 5, mins => n)
     from (select * from documents where kind = 'Email' order by name limit 1) d, generate_series(1, ${emails}) n`,
  );
  const page = await signIn(browser, "imran");
  await page.getByRole("link", { name: "Emails", exact: true }).click();
  const scroller = page.getByRole("region", { name: "All emails" });
  const items = scroller.getByRole("listitem");
  await expect(items.first()).toHaveAttribute("aria-posinset", "1");
  const first = items.first().getByRole("link");
  await first.focus();
  const last = page.getByRole("link", { name: new RegExp(`^Copy ${emails} `) });
  let most = 0;
  // What comes into sight is measured, which moves the end.
  await expect(async () => {
    await scroller.evaluate((e) => e.scrollBy(0, 4000));
    most = Math.max(most, await items.count());
    await expect(last).toBeInViewport({ timeout: 40 });
  }).toPass({ intervals: [20], timeout: 90_000 });
  // A list of a hundred is there whole.
  expect(most).toBeLessThanOrEqual(100);
  await expect(first).toBeFocused();
  await expect(items.first()).toHaveAttribute("aria-posinset", "1");
  await expect(last.locator("xpath=ancestor::*[@role='listitem']")).toHaveAttribute("aria-setsize", /^(-1|1\d\d\d)$/);
  // It is drawn where it is: its picture is there.
  await expect(last.locator("img")).toHaveJSProperty("complete", true);
  // By keyboard one comes back to what is next to the focus.
  await page.keyboard.press("Tab");
  await expect(page.getByRole("button", { name: /^More about/ }).first()).toBeFocused();

  // On a narrow screen the page itself is scrolled; no more is asked for than is looked at.
  await page.setViewportSize({ width: 390, height: 844 });
  let pages = 0;
  page.on("request", (request) => {
    pages += request.url().includes("/api/emails?") ? 1 : 0;
  });
  await page.reload();
  await expect(items.first()).toBeVisible();
  await page.waitForLoadState("networkidle");
  expect(pages).toBeLessThan(4);
  await expect(async () => {
    await page.mouse.wheel(0, 3000);
    expect(Number(await items.last().getAttribute("aria-posinset"))).toBeGreaterThan(300);
  }).toPass({ intervals: [20], timeout: 90_000 });
  expect(await items.count()).toBeLessThan(80);
});
