import { expect, type Page } from "@playwright/test";
import { kept, row, signIn, startEmail, test } from "./support";

const account = (page: Page, item: string) =>
  page
    .getByRole("button", { name: /Imran/ })
    .click()
    .then(() => page.getByRole("menuitem", { name: item, exact: true }).click());

const signedOut = (page: Page) => page.getByRole("dialog", { name: "You were signed out" });

test("a password is changed with the old one, and whoever is signed in elsewhere keeps what was typed", async ({ browser }) => {
  const elsewhere = await signIn(browser, "imran");
  await startEmail(elsewhere, "Special train", "Typed elsewhere");

  // What is typed in the other window is on its way when the password changes.
  let send = () => {};
  const sent = new Promise<void>((resolve) => {
    send = resolve;
  });
  await elsewhere.route("**/edits", async (route) => {
    await sent;
    await route.continue();
  });
  await row(elsewhere, /Hero/).click();
  await elsewhere.getByRole("textbox", { name: "Headline" }).fill("Written while signed out");

  const page = await signIn(browser, "imran");
  await account(page, "Your account");
  await page.getByRole("button", { name: "Change your password" }).click();
  const dialog = page.getByRole("dialog", { name: "Change your password" });
  const old = dialog.getByLabel(/^Current password/);
  const next = dialog.getByLabel(/^New password/);
  await expect(old).toBeFocused();
  await old.fill("not-the-password");
  await next.fill("short");
  await expect(dialog.getByRole("button", { name: "Change it" })).toBeDisabled();
  await next.fill("a-new-long-password");
  await next.press("Enter");
  await expect(dialog.getByText("The password that you have now is not right.")).toBeVisible();
  await old.fill("steam-and-cinders");
  await old.press("Enter");
  await expect(dialog.getByRole("status")).toHaveText("Your password is changed. You are signed out everywhere but here.");
  await dialog.getByRole("button", { name: "Close" }).last().click();
  await page.reload();
  await expect(page.getByRole("button", { name: /Imran/ })).toBeVisible();

  // The other window was signed out by it: what was typed there waits until somebody signs in again.
  send();
  await expect(signedOut(elsewhere)).toBeVisible();
  const signedIn = await elsewhere.request.post("/api/session", {
    data: { email: "imran@larkfell.example.org", password: "a-new-long-password" },
  });
  expect(signedIn.ok()).toBe(true);
  await expect(signedOut(elsewhere)).toHaveCount(0);
  await kept(elsewhere);
  await expect(elsewhere.getByRole("textbox", { name: "Headline" })).toHaveValue("Written while signed out");
});

async function signInOver(page: Page) {
  const dialog = signedOut(page);
  await dialog.getByLabel("Email address").fill("ruth@larkfell.example.org");
  await dialog.locator("input[type=password]").fill("steam-and-cinders");
  await dialog.getByRole("button", { name: "Sign in" }).click();
}

/** The status of signing in, past the page, in the browser that it is in. */
const signInStatus = async (page: Page, who: string) =>
  (await page.request.post("/api/session", { data: { email: `${who}@larkfell.example.org`, password: "steam-and-cinders" } })).status();

/** Signs in in another window of the browser; what session there is ends first. */
async function signInBeside(page: Page, who: string) {
  expect(await signInStatus(page, who)).toBe(409);
  expect(await signInStatus(page, who)).toBe(200);
}

test("whoever is signed out meanwhile signs in over the page, and nothing that was typed is lost", async ({ browser }) => {
  const page = await signIn(browser, "ruth");
  await startEmail(page, "Special train", "Kept over the night");
  await kept(page);
  await page.context().clearCookies();
  const refusals: (() => Promise<void>)[] = [];
  // What was refused without a session is told late: after the next sign-in.
  await page.route("**/edits", async (route) => {
    const answer = await route.fetch();
    const tell = () => route.fulfill({ response: answer });
    if (answer.status() === 401 && refusals.push(tell) > 1) return;
    await tell();
  });
  await page.getByRole("textbox", { name: "Subject" }).fill("Typed when nobody was signed in");
  const dialog = signedOut(page);
  await expect(dialog).toBeVisible();
  await expect.poll(() => refusals.length).toBe(2);
  await signInOver(page);
  await expect(dialog).toHaveCount(0);
  const shownAgain = await page.evaluateHandle(() => {
    const shown: Node[] = [];
    new MutationObserver(() => shown.push(...document.querySelectorAll("[role=dialog]"))).observe(document.body, {
      childList: true,
      subtree: true,
    });
    return shown;
  });
  await refusals[1]?.();
  await kept(page);
  expect(await shownAgain.evaluate((shown) => shown.length)).toBe(0);
  await page.reload();
  await expect(page.getByRole("textbox", { name: "Subject" })).toHaveValue("Typed when nobody was signed in");
});

test("a setting that is chosen when the session has ended is shown, and stored with the next sign-in", async ({ browser }) => {
  const page = await signIn(browser, "ruth", "/account");
  const box = page.getByRole("checkbox").first();
  await expect(box).toBeVisible();
  const before = await box.isChecked();
  await page.context().clearCookies();
  await box.click();
  await expect(signedOut(page)).toBeVisible();
  await expect(box).toBeChecked({ checked: !before });
  const stored = page.waitForResponse((answer) => answer.request().method() === "PUT" && answer.ok());
  await signInOver(page);
  await expect(signedOut(page)).toHaveCount(0);
  await stored;
  await expect(box).toBeChecked({ checked: !before });
  await page.reload();
  await expect(box).toBeChecked({ checked: !before });
});

test("what one person typed is not sent in the name of another who signed in in a second window", async ({ browser }) => {
  const page = await signIn(browser, "ruth");
  await startEmail(page, "Special train", "Whose words");
  await kept(page);
  const second = await page.context().newPage();
  await signInBeside(second, "dana");
  await second.goto("/");
  await expect(second.getByRole("button", { name: /Dana/ })).toBeVisible();

  await page.getByRole("textbox", { name: "Subject" }).fill("Typed by Ruth");
  await expect(signedOut(page)).toBeVisible();
  const desk = `/api/emails/${new URL(page.url()).pathname.split("/").at(-1)}/desk`;
  const stored = await (await second.request.get(desk)).text();
  expect(stored).toContain("Whose words");
  expect(stored).not.toContain("Typed by Ruth");
  // She signs in over her page: what she typed goes, as hers, and the other's window says that it is no longer hers.
  await signInOver(page);
  await expect(signedOut(page)).toHaveCount(0);
  await kept(page);
  await second.getByRole("link", { name: "Rows", exact: true }).click();
  await expect(signedOut(second)).toBeVisible();
  // The page of whoever signs in again elsewhere goes on by itself.
  await page.context().clearCookies();
  await page.getByRole("textbox", { name: "Subject" }).fill("Typed by Ruth again");
  await expect(signedOut(page)).toBeVisible();
  expect(await signInStatus(second, "ruth")).toBe(200);
  await page.evaluate(() => window.dispatchEvent(new Event("focus")));
  await expect(signedOut(page)).toHaveCount(0);
  await kept(page);
  await page.reload();
  await expect(page.getByRole("textbox", { name: "Subject" })).toHaveValue("Typed by Ruth again");
});

test("a file is not added in the name of another either, and news are not heard as theirs", async ({ browser }) => {
  const page = await signIn(browser, "bea", "/pictures");
  await expect(page.getByRole("button", { name: /Viaduct, morning/ })).toBeVisible();
  const asked = new Set<string>();
  page.on("request", (request) => {
    const of = request.headers()["page-person"];
    if (of) asked.add(new URL(request.url()).pathname);
  });
  await signInBeside(page, "dana");
  await page.getByLabel("Picture files").setInputFiles({
    name: "Of Bea's.png",
    mimeType: "image/png",
    buffer: Buffer.from("iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==", "base64"),
  });
  await expect(signedOut(page)).toBeVisible();
  const held = await (await page.request.get("/api/pictures")).text();
  expect(held).toContain("Viaduct, morning");
  expect(held).not.toContain("Of Bea's");
  // The connection for news of her session is ended, and begun again only by her.
  await expect.poll(() => asked.has("/live/negotiate"), { timeout: 60_000 }).toBe(true);
});

test("signing out everywhere ends the other windows too", async ({ browser }) => {
  const [page, elsewhere] = [await signIn(browser, "bea"), await signIn(browser, "bea")];
  await page.getByRole("button", { name: /Bea/ }).click();
  await page.getByRole("menuitem", { name: "Sign out everywhere" }).click();
  await expect(page.getByRole("button", { name: "Sign in" })).toBeVisible();
  expect((await elsewhere.request.get("/api/templates")).status()).toBe(401);
  await elsewhere.reload();
  await expect(elsewhere.getByRole("button", { name: "Sign in" })).toBeVisible();
});
