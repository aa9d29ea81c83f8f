import { expect, type Page } from "@playwright/test";
import { freePort, startServer, stopServer } from "./server";
import { kept, namesInOrder, proof, row, signIn, startEmail, test, undoAll } from "./support";

const start = (port: number) => startServer(port, process.env.GOLDEN_RULE_CONNECTION ?? "");

test("a server killed in the middle of typing loses nothing", async ({ browser }) => {
  const port = await freePort();
  let server = await start(port);
  const page = await signIn(browser, "imran", "/", `http://127.0.0.1:${port}`);
  await startEmail(page, "Special train", "The night mail");
  await row(page, /Hero/).click();

  const acknowledged = new Set<string>();
  page.on("response", async (response) => {
    if (response.url().endsWith("/edits") && response.ok()) {
      for (const { id } of response.request().postDataJSON().edits) acknowledged.add(id);
    }
  });
  const headline = page.getByRole("textbox", { name: "Headline" });
  const words = "The night mail leaves at eleven sharp";
  const typing = headline.pressSequentially(words, { delay: 80 });
  // One at least: a slow machine sends in few requests what is typed quickly.
  await expect.poll(() => acknowledged.size).toBeGreaterThan(0);
  await stopServer(server, "SIGKILL");
  await typing;
  await expect(page.getByText("Offline. What you type waits here.")).toBeVisible();
  // What could not be sent is shown, and survives the browser's end too.
  await expect(headline).toHaveValue(words);

  server = await start(port);
  await expect(proof(page, "Desktop").locator("h1")).toHaveText(words);
  await kept(page);
  const id = page.url().split("/").at(-1);
  const replay = await page.request.get(`/api/emails/${id}/replay`).then((r) => r.json());
  expect(replay.equal).toBe(true);
  expect(replay.revision).toBeGreaterThanOrEqual(acknowledged.size);
  await page.reload();
  await expect(proof(page, "Phone").locator("h1")).toHaveText(words);

  // Typed while the server is away, and the window closed: it is sent when the email is opened again.
  await stopServer(server, "SIGKILL");
  await row(page, /Hero/).click();
  await headline.fill("Written while nobody listened");
  await expect(page.getByText("Offline.")).toBeVisible();
  const context = page.context();
  await page.close();
  server = await start(port);
  const again = await context.newPage();
  await again.goto(`http://127.0.0.1:${port}/emails/${id}`);
  await expect(proof(again, "Desktop").locator("h1")).toHaveText("Written while nobody listened");
  await stopServer(server, "SIGKILL");
});

/** The server takes each edit; its answer never arrives. */
const loseAnswers = (page: Page) =>
  page.route("**/edits", async (route) => {
    await route.fetch();
    await route.abort();
  });

test("an edit that was stored though its answer was lost is no conflict with what is typed after it", async ({ browser }) => {
  const page = await signIn(browser, "imran");
  await startEmail(page, "Special train", "A lost answer");
  await row(page, /Hero/).click();
  const headline = page.getByRole("textbox", { name: "Headline" });
  await loseAnswers(page);
  await headline.fill("Stored, but");
  await expect(page.getByText("Offline.")).toBeVisible();
  await headline.fill("Stored, but not known to be");
  await page.unrouteAll({ behavior: "wait" });
  await expect(proof(page, "Desktop").locator("h1")).toHaveText("Stored, but not known to be");
  await expect(page.getByRole("dialog")).toHaveCount(0);
  await kept(page);

  const lead = await signIn(browser, "ruth", "/house-style");
  await lead.getByRole("button", { name: /^Moor/ }).click();
  await loseAnswers(lead);
  await lead.getByLabel("Moor", { exact: true }).fill("#405040");
  await expect(lead.getByText("Offline.")).toBeVisible();
  await lead.getByLabel("Moor", { exact: true }).fill("#405041");
  await lead.unrouteAll({ behavior: "wait" });
  await expect(lead.frameLocator("iframe[title=Specimen]").locator("[data-piece=type-7] p")).toHaveCSS("color", "rgb(64, 80, 65)");
  await expect(lead.getByRole("alert")).toHaveCount(0);
  await undoAll(lead);
  await expect(lead.getByText(/\+ 1 change$/)).toHaveCount(0);
});

test("a browser that ended before it heard what is stored goes on from there the next time", async ({ browser }) => {
  const page = await signIn(browser, "imran");
  await startEmail(page, "Special train", "A lost browser");
  const stops = (await namesInOrder(page)).filter((name) => /stop/i.test(name)).length;
  await page.getByRole("button", { name: "Add a row" }).first().click();
  await loseAnswers(page);
  await page.getByRole("dialog").getByRole("button", { name: /stop/i }).first().click();
  await expect(page.getByText("Offline.")).toBeVisible();
  await row(page, /Hero/).click();
  await page.getByRole("textbox", { name: "Headline" }).fill("Typed before the end");
  const address = page.url();
  const context = page.context();
  await page.close();

  // The row was stored and its answer lost; the headline was never sent. Both are there, once, and nothing is said to be wrong.
  const next = await context.newPage();
  await next.goto(address);
  await expect(proof(next, "Desktop").locator("h1")).toHaveText("Typed before the end");
  await kept(next);
  await expect(next.getByText("Offline.")).toHaveCount(0);
  await expect(next.getByText("is here already")).toHaveCount(0);
  expect((await namesInOrder(next)).filter((name) => /stop/i.test(name)).length).toBe(stops + 1);
});

test("what still waits goes though the desk is left, and a fault of the server is waited out", async ({ browser }) => {
  const page = await signIn(browser, "imran");
  await startEmail(page, "Special train", "Left at once");
  const id = page.url().split("/").at(-1);
  await row(page, /Hero/).click();
  // The first answer takes its time; what is typed meanwhile waits behind it.
  await page.route("**/edits", async (route) => {
    await new Promise((resolve) => setTimeout(resolve, 1500));
    await route.continue();
  });
  const headline = page.getByRole("textbox", { name: "Headline" });
  await headline.fill("First");
  await headline.fill("First and last");
  await page.getByRole("link", { name: /to the emails/ }).click();
  await expect(page.getByRole("heading", { name: "Emails" })).toBeVisible();
  await expect
    .poll(async () => JSON.stringify(await (await page.request.get(`/api/emails/${id}/desk`)).json()))
    .toContain("First and last");

  const lead = await signIn(browser, "ruth", "/house-style");
  await lead.getByRole("button", { name: /^Moor/ }).click();
  let faults = 2;
  await lead.route("**/edits", (route) => (faults-- > 0 ? route.fulfill({ status: 503, body: "" }) : route.continue()));
  await lead.getByLabel("Moor", { exact: true }).fill("#405042");
  await expect(lead.getByText("Offline.")).toBeVisible();
  await expect(lead.frameLocator("iframe[title=Specimen]").locator("[data-piece=type-7] p")).toHaveCSS("color", "rgb(64, 80, 66)");
  await expect(lead.getByText("Offline.")).toHaveCount(0);
  await undoAll(lead);
  await expect(lead.getByText(/\+ 1 change$/)).toHaveCount(0);
});

test("a page that was opened before an update says so, loses nothing, and is the new one once it is loaded again", async ({ browser }) => {
  const page = await signIn(browser, "imran");
  await startEmail(page, "Special train", "Before the update");
  const told = page.getByRole("log", { name: "Notices" }).getByText("Golden Rule was updated.");
  await expect(told).toHaveCount(0);
  // The server of the next release gives out a page of another name, until that is the page that is asked for.
  let isOlder = true;
  page.on("request", (request) => {
    isOlder &&= !(request.isNavigationRequest() && request.url() === page.url());
  });
  await page.route("**/api/**", async (route) => {
    if (!isOlder) return route.continue();
    const response = await route.fetch();
    expect(response.headers()["page-script"]).toMatch(/^\/assets\/index-[\w-]+\.js$/);
    await route.fulfill({ response, headers: { ...response.headers(), "page-script": "/assets/index-next.js" } });
  });
  const subject = page.getByRole("textbox", { name: "Subject" });
  await subject.fill("Typed meanwhile");
  await expect(told).toBeVisible();
  await expect(subject).toBeFocused();
  await kept(page);
  await page.getByRole("button", { name: "Load again" }).click();
  await expect(subject).toHaveValue("Typed meanwhile");
  await expect(told).toHaveCount(0);
  // What the page that is gone had asked for is answered to nobody.
  await page.unrouteAll({ behavior: "ignoreErrors" });
});
