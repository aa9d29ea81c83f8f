import { expect, type Page } from "@playwright/test";
import { kept, row, signIn, startEmail, test } from "./support";

const account = (page: Page, item: string) =>
  page
    .getByRole("button", { name: /Imran/ })
    .click()
    .then(() => page.getByRole("menuitem", { name: item, exact: true }).click());

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
  await expect(elsewhere.getByText(/You are signed out/)).toBeVisible();
  const signedIn = await elsewhere.request.post("/api/session", {
    data: { email: "imran@larkfell.example.org", password: "a-new-long-password" },
  });
  expect(signedIn.ok()).toBe(true);
  await kept(elsewhere);
  await expect(elsewhere.getByRole("textbox", { name: "Headline" })).toHaveValue("Written while signed out");
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
