import { expect } from "@playwright/test";
import { type Fault, type Someone, startLiar, startProvider } from "./openid";
import { closeServer, freePort, openServer } from "./server";
import { expectNoViolations, newPage, test } from "./support";

type Provider = Awaited<ReturnType<typeof startProvider>>;

/** A second server over this file's database, whose people sign in by the provider. */
async function withServer(provider: Provider, port: number, more: Record<string, string>, use: (address: string) => Promise<void>) {
  await openServer(port, process.env.GOLDEN_RULE_CONNECTION ?? "", {
    "OpenIdConnect:Authority": provider.issuer,
    "OpenIdConnect:ClientId": provider.client_id,
    "OpenIdConnect:ClientSecret": provider.client_secret,
    "OpenIdConnect:Name": "Larkfell accounts",
    ...more,
  });
  try {
    await use(`http://127.0.0.1:${port}`);
  } finally {
    await closeServer(port);
    provider.stop();
  }
}

test("people sign in with their company's provider, get the roles it says, and lose those it says no more", async ({ browser }) => {
  const port = await freePort();
  let someone: Someone = {
    sub: "pat-1",
    name: "Pat Reed",
    email: "pat@larkfell.example.org",
    email_verified: true,
    groups: ["events-authors", "whatever else"],
  };
  const provider = await startProvider(`http://127.0.0.1:${port}/signin-openid`, () => someone);
  const roles = {
    "OpenIdConnect:MakePeople": "true",
    "OpenIdConnect:Roles:events-authors": "Author in Events",
    "OpenIdConnect:Roles:reviewers": "Reviewer",
  };
  await withServer(provider, port, roles, async (address) => {
    const page = await newPage(browser, address);
    await page.goto("/");
    await expectNoViolations(page);
    await page.getByRole("link", { name: "Sign in with Larkfell accounts" }).click();
    await expect(page.getByRole("button", { name: "Pat Reed, author" })).toBeVisible();
    await page.goto("/account");
    await expect(page.getByText("Pat Reed: author in Events")).toBeVisible();

    someone = { ...someone, groups: ["reviewers"] };
    const again = await newPage(browser, address);
    await again.goto("/");
    await again.getByRole("link", { name: "Sign in with Larkfell accounts" }).click();
    await expect(again.getByRole("button", { name: "Pat Reed, reviewer" })).toBeVisible();
    // What holds now holds in the window that was open too.
    await page.reload();
    await expect(page.getByText("Pat Reed: reviewer everywhere")).toBeVisible();

    // Whose session ended signs in again in a window beside the page, which goes on by itself.
    await page.context().clearCookies();
    await page.getByRole("link", { name: "Emails", exact: true }).click();
    const dialog = page.getByRole("dialog", { name: "You were signed out" });
    await expect(dialog).toBeVisible();
    const opened = page.context().waitForEvent("page");
    await dialog.getByRole("link", { name: "Sign in with Larkfell accounts in a new window" }).click();
    await expect((await opened).getByRole("button", { name: "Pat Reed, reviewer" })).toBeVisible();
    await page.evaluate(() => window.dispatchEvent(new Event("focus")));
    await expect(dialog).toHaveCount(0);

    // An address that the provider has not verified is nobody's.
    someone = { ...someone, sub: "eve-1", name: "Eve", email: "ruth@larkfell.example.org", email_verified: false };
    const eve = await newPage(browser, address);
    await eve.goto("/");
    await eve.getByRole("link", { name: "Sign in with Larkfell accounts" }).click();
    await expect(eve.getByRole("alert")).toContainText("Signing in with Larkfell accounts failed");
    expect((await eve.request.get("/api/templates")).status()).toBe(401);

    // The last lead stays one, whatever the provider says.
    someone = { ...someone, sub: "ruth-1", name: "Ruth Calder", email_verified: true, groups: [] };
    const ruth = await newPage(browser, address);
    await ruth.goto("/");
    await ruth.getByRole("link", { name: "Sign in with Larkfell accounts" }).click();
    await expect(ruth.getByRole("button", { name: "Ruth Calder, lead" })).toBeVisible();
  });
});

test("a token that is not for this sign-in, not from the provider, or over opens nothing", async ({ browser }) => {
  const port = await freePort();
  let fault: Fault = "none";
  const liar = await startLiar(() => fault);
  await withServer(liar, port, {}, async (address) => {
    for (fault of ["nonce", "issuer", "audience", "expired", "signature"] as const) {
      const page = await newPage(browser, address);
      await page.goto("/");
      await page.getByRole("link", { name: "Sign in with Larkfell accounts" }).click();
      await expect(page.getByRole("alert"), fault).toContainText("failed");
      expect((await page.request.get("/api/templates")).status(), fault).toBe(401);
    }
    // An answer to a sign-in that nobody began here.
    const stranger = await newPage(browser, address);
    await stranger.goto("/signin-openid?code=code-0&state=made-up");
    await expect(stranger.getByRole("alert")).toContainText("failed");
    fault = "none";
    const page = await newPage(browser, address);
    await page.goto("/");
    await page.getByRole("link", { name: "Sign in with Larkfell accounts" }).click();
    await expect(page.getByRole("button", { name: "Ruth Calder, lead" })).toBeVisible();
  });
});
