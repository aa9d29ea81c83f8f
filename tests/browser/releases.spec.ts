import { expect, type Page } from "@playwright/test";
import { expectNoViolations, signIn, test } from "./support";

const masterOf = async (page: Page, name: string) =>
  (await (await page.request.get("/api/masters")).json()).find((m: { name: string }) => m.name === name).id as string;

/** The desk of a row or template, at what it says of itself. */
async function openAbout(page: Page, path: string) {
  await page.goto(path);
  await page.locator("#order-about").click();
  await expect(page.getByRole("textbox", { name: "What it is for" })).toBeVisible();
}

async function describe(page: Page, text: string) {
  await page.getByRole("textbox", { name: "What it is for" }).fill(text);
  await expect(page.locator("[data-keeping=kept]")).toBeVisible();
  await expect(page.getByText(/ahead of release/)).toBeVisible();
}

test("a release is planned, its draft changed, told, released by hand, and gone back from", async ({ browser }) => {
  const page = await signIn(browser, "dana");
  await openAbout(page, `/rows/${await masterOf(page, "Two facts")}`);
  await describe(page, "Two facts beside one another");
  await page.getByRole("button", { name: "Release", exact: true }).click();
  const dialog = page.getByRole("dialog");
  await dialog.getByLabel("What changed").fill("For the spring");
  await dialog.getByText("At a moment").click();
  // Without a day there is no moment, and nothing typed is lost.
  await dialog.getByRole("button", { name: "Plan the release" }).click();
  await expect(dialog.getByText(/Say a day and a time/)).toBeVisible();
  const tomorrow = new Date(Date.now() + 86_400_000).toISOString().slice(0, 10);
  await dialog.getByLabel("On", { exact: true }).fill(tomorrow);
  await dialog.getByLabel("At", { exact: true }).fill("09:30");
  await expectNoViolations(page, ["iframe"]);
  await dialog.getByRole("button", { name: "Plan the release" }).click();
  await expect(dialog).toBeHidden();
  await expect(page.getByText(/^Release planned for .*09:30 by Dana Whitlow/)).toBeVisible();

  await page.getByRole("textbox", { name: "What it is for" }).fill("Changed since");
  await expect(page.getByText(/changed after its release was planned/)).toBeVisible();
  await page.getByRole("button", { name: "Withdraw the planned release" }).click();
  await expect(page.getByText(/its release was planned/)).toBeHidden();
  await page.getByRole("button", { name: "Release", exact: true }).click();
  await dialog.getByLabel("What changed").fill("At once");
  await dialog.getByRole("button", { name: "Release", exact: true }).click();
  await expect(page.getByText("release 2", { exact: true })).toBeVisible();

  await page.getByRole("button", { name: "Go back to release 1" }).click();
  await expect(dialog.getByText("The draft stays as it is")).toBeVisible();
  await expect(dialog.getByRole("figure")).toHaveCount(2);
  await dialog.getByRole("button", { name: "Release", exact: true }).click();
  await expect(page.getByText("draft, ahead of release 3")).toBeVisible();
  await expect(page.getByRole("textbox", { name: "What it is for" })).toHaveValue("Changed since");
});

test("emails on an older release are brought up to date together, what they would lose seen first", async ({ browser }) => {
  const [page, author] = [await signIn(browser, "dana"), await signIn(browser, "imran")];
  const template = await masterOf(page, "Members’ gazette");
  for (const name of ["First gazette", "Second gazette"]) {
    const made = await author.request.post("/api/emails", { data: { id: crypto.randomUUID(), template, name } });
    expect(made.ok(), await made.text()).toBe(true);
  }
  await openAbout(page, `/templates/${template}`);
  await describe(page, "The gazette of spring");
  const { revision } = await (await page.request.get(`/api/templates/${template}/desk`)).json();
  // The author is told in whichever room they are.
  await author.goto("/emails");
  await expect(
    author
      .getByRole("article", { name: "First gazette" })
      .or(author.getByRole("link", { name: "First gazette" }))
      .first(),
  ).toBeVisible();
  await page.request.post(`/api/templates/${template}/releases`, {
    data: { note: "For spring" },
    headers: { "If-Match": `"${revision}"` },
  });
  await expect(author.getByRole("log", { name: "Notices" })).toContainText("A newer release of what it is made from waits");
  await expect(author.getByRole("link", { name: /Golden Rule, .*wait for you, home/ })).toBeVisible();
  await author.getByRole("button", { name: "Close the notice" }).click();

  await page.reload();
  await page.locator("#order-about").click();
  await page.getByRole("button", { name: "Bring emails up to date" }).click();
  const dialog = page.getByRole("dialog");
  await expect(dialog.getByRole("checkbox", { name: "First gazette" })).toBeChecked();
  await expectNoViolations(page, ["iframe"]);
  await dialog.getByRole("checkbox", { name: "First gazette" }).uncheck();
  await dialog.getByRole("button", { name: /^Take the update in/ }).click();
  await expect(dialog.getByText(/up to date now/)).toBeVisible();
  await expect(dialog.getByRole("listitem").filter({ hasText: "Second gazette" })).toContainText("Up to date");

  // The other one waits on its author's Home, which says so until it is taken.
  await author.goto("/home");
  await expect(author.getByRole("link", { name: "See and take it First gazette" })).toBeVisible();
  await expect(author.getByRole("link", { name: "See and take it Second gazette" })).toBeHidden();
});

test("a row is retired with what takes its place, and who uses it is offered that", async ({ browser }) => {
  const [page, author] = [await signIn(browser, "ruth"), await signIn(browser, "imran")];
  const template = await masterOf(page, "Members’ gazette");
  const id = crypto.randomUUID();
  await author.request.post("/api/emails", { data: { id, template, name: "Uses the old one" } });
  const story = (await (await author.request.get(`/api/emails/${id}/offers?zone=stories`)).json()).find(
    (r: { name: string }) => r.name === "Story, picture left",
  );
  const placed = await author.request.post(`/api/emails/${id}/edits`, {
    data: {
      base: 0,
      edits: [
        {
          id: crypto.randomUUID(),
          step: crypto.randomUUID(),
          edit: { kind: "insert-row", zone: "stories", index: 0, row: { id: "old-story", master: story.id, release: story.release } },
        },
      ],
    },
  });
  expect(placed.ok(), await placed.text()).toBe(true);
  await openAbout(page, `/rows/${story.id}`);
  await page.getByRole("button", { name: /^Status:/ }).click();
  await page.getByRole("menuitem", { name: /^Retire/ }).click();
  const dialog = page.getByRole("dialog");
  await expect(dialog.getByRole("link", { name: "Uses the old one" })).toBeVisible();
  await dialog.getByRole("combobox", { name: "What takes its place" }).click();
  await page.getByRole("option", { name: "Story, picture right" }).click();
  await expectNoViolations(page, ["iframe"]);
  await dialog.getByRole("button", { name: "Retire" }).click();
  await expect(page.getByText("Story, picture right takes its place where it is used.")).toBeVisible();

  await author.goto(`/emails/${id}`);
  await author.getByRole("tab", { name: /^Findings/ }).click();
  await expect(
    author
      .getByText("“Story, picture left” is retired")
      .or(author.getByText(/Story, picture left" is retired/))
      .first(),
  ).toBeVisible();
  await author
    .getByRole("button", { name: /Put "Story, picture right" in below it/ })
    .first()
    .click();
  await expect(
    author
      .getByRole("navigation", { name: "Running order" })
      .getByRole("option", { name: /Story, picture right/ })
      .first(),
  ).toBeVisible();
});

test("every value says who says it, each layer a link to where that is", async ({ browser }) => {
  const page = await signIn(browser, "ruth", "/emails");
  await page
    .getByRole("link", { name: /Spring on the shop shelf/ })
    .first()
    .click();
  await page.getByRole("tab", { name: "Why?" }).click();
  const why = page.getByRole("region", { name: /, why$/ });
  await expect(why.getByText("New on the shelf this spring")).toBeVisible();
  const order = page.getByRole("navigation", { name: "Running order" });
  await order.getByRole("option", { name: /^Hero/ }).click();
  const button = why.locator("section").filter({ has: page.getByRole("heading", { level: 3, name: "Button" }) });
  await expect(button.getByRole("listitem").filter({ hasText: "Choose your seat" })).toContainText("Picture and promise, release 1");
  await expect(button.getByRole("listitem").filter({ hasText: "Visit the shop" })).toContainText("Shop offer");
  await expect(why.getByText(/at most \d+ characters/).first()).toBeVisible();
  await expectNoViolations(page, ["iframe"]);
  // A word that comes from a brand variable leads to the house style.
  await order.getByRole("option", { name: /^Footer/ }).click();
  await why.getByRole("link", { name: "Larkfell" }).first().click();
  await expect(page).toHaveURL(/\/house-style\//);
});

test("what one is told of is chosen by kind", async ({ browser }) => {
  const page = await signIn(browser, "imran", "/account");
  const mention = page.getByRole("checkbox", { name: "Somebody mentions me in a comment, by mail" });
  await expect(mention).toBeChecked();
  await expect(page.getByText("browser that a writer")).toBeHidden();
  await mention.uncheck();
  await expect
    .poll(async () => (await (await page.request.get("/api/notices")).json()).settings.find((s: { kind: string }) => s.kind === "mention"))
    .toEqual({ kind: "mention", inApplication: true, byMail: false });
  await page.reload();
  await expect(mention).not.toBeChecked();
  await expectNoViolations(page);
});
