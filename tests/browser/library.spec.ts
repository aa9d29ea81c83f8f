import { readFileSync } from "node:fs";
import { join } from "node:path";
import { expect, type Page } from "@playwright/test";
import Ajv2020 from "ajv/dist/2020.js";
import { kept, namesInOrder, order, proof, putBlock, row, signIn, startEmail, test } from "./support";

const sheet = (page: Page) => page.getByRole("complementary", { name: "Copy sheet" });
const tab = (page: Page, name: string) =>
  sheet(page)
    .getByRole("tab", { name: new RegExp(`^${name}`) })
    .click();

/** Adds a row of its own to the end of a template's running order and gives it blocks. */
async function build(page: Page, layout: string, blocks: string[]) {
  const layoutButton = page.getByRole("dialog").getByRole("button", { name: layout, exact: true });
  await expect(async () => {
    // A row that was added last may arrive between press and release, and move the button away.
    if (!(await layoutButton.isVisible())) {
      await page.getByRole("button", { name: "Add a row or a zone" }).click();
    }
    await expect(layoutButton).toBeVisible({ timeout: 2000 });
  }).toPass();
  await layoutButton.click();
  for (const block of blocks) {
    await addBlock(page, block);
  }
}

const addBlock = (page: Page, label: string) => putBlock(page, sheet(page).getByRole("button", { name: "Add a block" }).last(), label);

test("the lead builds a gazette from nothing, and an author fills it in", async ({ browser }) => {
  const lead = await signIn(browser, "ruth");
  await lead.getByRole("link", { name: "Templates", exact: true }).click();
  await lead.getByRole("button", { name: "New template" }).click();
  const dialog = lead.getByRole("dialog");
  await dialog.getByLabel("Name").fill("Gazette, built by hand");
  await dialog.getByLabel("Campaign type").click();
  await expect(async () => {
    // The list closes where the types arrive while it opens.
    if (!(await lead.getByRole("option", { name: "Members’ gazette" }).isVisible())) {
      await dialog.getByLabel("Campaign type").click();
    }
    await lead.getByRole("option", { name: "Members’ gazette" }).click({ timeout: 2000 });
  }).toPass();
  // Chosen again it stays.
  await dialog.getByLabel("Campaign type").click();
  await lead.getByRole("option", { name: "Members’ gazette" }).click();
  await expect(dialog.getByLabel("Campaign type")).toHaveValue("Members’ gazette");
  await dialog.getByRole("button", { name: "Create" }).click();
  await expect(order(lead)).toBeVisible();

  // Header: a saved row. Hero: a row of its own.
  await lead.getByRole("button", { name: "Add a row or a zone" }).click();
  await lead
    .getByRole("dialog")
    .getByRole("button", { name: /^Masthead/ })
    .click();
  await build(lead, "One column", ["Picture", "Heading", "Text", "Button"]);
  await sheet(lead).getByLabel("Name of the row").fill("Hero");
  await sheet(lead).getByLabel("Row kind").selectOption("hero");
  await sheet(lead).getByLabel("Headline").fill("One promise to the reader");
  await expect(proof(lead, "Desktop").getByRole("heading", { name: "One promise to the reader" })).toBeVisible();

  // A contents list that fills itself.
  await build(lead, "One column", ["Contents list"]);
  await kept(lead);

  // A zone of two to six stories.
  await lead.getByRole("button", { name: "Add a row or a zone" }).click();
  await lead
    .getByRole("dialog")
    .getByRole("button", { name: /Add a zone here/ })
    .click();
  await sheet(lead).getByLabel("Name", { exact: true }).fill("Stories");
  await sheet(lead).getByLabel("Least rows").fill("2");
  await expect(order(lead).getByRole("region", { name: "Stories" })).toBeVisible();
  for (const story of [/Story, picture left/, /Story, picture right/]) {
    await order(lead).getByRole("region", { name: "Stories" }).getByRole("button", { name: "Add a row" }).click();
    await lead.getByRole("dialog").getByRole("button", { name: story }).click();
    await expect(row(lead, story)).toBeVisible();
  }
  await kept(lead);

  // An offer, an advert with instructions, a footer for designers.
  await build(lead, "One column", ["Offer"]);
  await build(lead, "Halves", ["Heading", "Text"]);
  await tab(lead, "Rules");
  await sheet(lead).getByRole("checkbox", { name: /^Text/ }).check();
  await sheet(lead)
    .getByRole("checkbox", { name: /^The row/ })
    .uncheck();
  await sheet(lead).getByLabel("Instruction").fill("The sponsor's words, as they sent them.");
  await sheet(lead).getByRole("group", { name: "Text", exact: true }).getByLabel("words at most").fill("20");
  await tab(lead, "Copy");
  await lead.getByRole("button", { name: "Add a row or a zone" }).click();
  await lead
    .getByRole("dialog")
    .getByRole("button", { name: /^Footer/ })
    .click();
  await tab(lead, "Rules");
  await sheet(lead).getByLabel("Words, pictures").selectOption("reserved");
  await expect(sheet(lead).getByRole("checkbox", { name: "Designers", exact: true })).toBeChecked();
  await kept(lead);

  // The rules in plain words, and what an author meets.
  await row(lead, /About this template/).click();
  await tab(lead, "Copy");
  const summary = sheet(lead).getByRole("list", { name: "Its rules in plain words" });
  await expect(summary).toContainText("Stories: 2 to 6 main rows.");
  await expect(summary).toContainText("Footer: designers only.");
  await lead.getByRole("button", { name: "See it as an author" }).click();
  await expect(row(lead, /Footer/)).toContainText("locked");
  await row(lead, /Footer/).click();
  await expect(sheet(lead)).toContainText("Reserved for designers");
  await lead.getByRole("button", { name: "Back to my desk" }).click();
  await lead.getByRole("button", { name: "Release", exact: true }).click();
  await lead.getByLabel("What changed").fill("Built from nothing");
  await lead.getByRole("dialog").getByRole("button", { name: "Release" }).click();
  await expect(lead.getByText("release 1", { exact: true })).toBeVisible();

  const author = await signIn(browser, "imran");
  await startEmail(author, "Gazette, built by hand", "May, by the new gazette");
  expect(await namesInOrder(author)).toEqual([
    "Subject and sender",
    "Masthead",
    "Hero",
    "New row",
    "Story, picture left",
    "Story, picture right",
    "New row",
    "New row",
    "Footer",
  ]);
  await row(author, /Hero/).click();
  await sheet(author).getByLabel("Heading", { exact: true }).fill("The valley in May");
  await expect(proof(author, "Phone").getByRole("heading", { name: "The valley in May" })).toBeVisible();
  await expect(sheet(author).getByRole("button", { name: "Add a block" })).toHaveCount(0);
  await expect(sheet(author).getByRole("tab", { name: "Rules" })).toHaveCount(0);
  await row(author, /New row/)
    .last()
    .click();
  await expect(sheet(author)).toContainText("The sponsor's words, as they sent them.");
  await expect(order(author).getByRole("button", { name: "Add a row or a zone" })).toHaveCount(0);
});

test("a designer makes a row, lays it out, limits it and releases it", async ({ browser }) => {
  const page = await signIn(browser, "dana", "/coverage");
  await page.getByRole("button", { name: "Plan Legal, Members’ gazette" }).click();
  await page.getByRole("menuitem", { name: "Mark as needed" }).click();
  await expect(page.getByRole("cell", { name: "Legal, Members’ gazette: missing" })).toBeVisible();
  await page.getByRole("link", { name: "Create the row Legal, Members’ gazette" }).click();

  // From the gap straight to making the row.
  const dialog = page.getByRole("dialog", { name: "New row" });
  await expect(dialog.getByLabel("Row kind")).toHaveValue("Legal");
  await dialog.getByLabel("Name").fill("Conditions");
  await dialog.getByRole("button", { name: "Create" }).click();
  await page.locator("#order-about").waitFor();
  await addBlock(page, "Article card");
  await tab(page, "Look");
  await sheet(page).getByRole("group", { name: "Article card, picture" }).getByLabel("left").click();
  await expect(sheet(page).getByRole("group", { name: "Article card, picture" }).getByLabel("left")).toBeChecked();
  await page.getByRole("button", { name: "Thirds" }).click();
  await tab(page, "Copy");
  await expect(sheet(page).getByRole("region", { name: "Column 3" })).toBeVisible();

  // Too wide for a third of the row, which is said before anything is dropped; it fits in one column.
  await expect(sheet(page)).toContainText(/Too wide here: it needs 480 px and has \d+/);
  await page.getByRole("button", { name: "Arrange Article card" }).click();
  await expect(page.getByRole("menuitem", { name: /Move to column 2/ })).toBeDisabled();
  await page.keyboard.press("Escape");
  await tab(page, "Look");
  await page.getByRole("button", { name: "One column" }).click();
  await tab(page, "Copy");
  await expect(sheet(page)).not.toContainText("Too wide here");

  // A look is copied from one piece to another, and pieces change places.
  await addBlock(page, "Offer");
  await page.getByRole("button", { name: "Arrange Article card" }).click();
  await page.getByRole("menuitem", { name: "Copy its look and content" }).click();
  await page.getByRole("button", { name: "Arrange Offer" }).click();
  await page.getByRole("menuitem", { name: "Give it the copied look" }).click();
  await tab(page, "Look");
  await expect(sheet(page).getByRole("group", { name: "Offer, picture" }).getByLabel("left")).toBeChecked();
  await tab(page, "Copy");
  await page.getByRole("button", { name: "Arrange Offer" }).click();
  await page.getByRole("menuitem", { name: "Move up" }).click();
  await expect(sheet(page).locator("legend").first()).toHaveText("Offer");

  // Limits and locks of two pieces at once.
  await tab(page, "Rules");
  await sheet(page).getByRole("button", { name: "All blocks" }).click();
  await sheet(page).getByRole("combobox", { name: "Look" }).selectOption("sealed");
  await sheet(page)
    .getByRole("checkbox", { name: /^The row/ })
    .uncheck();
  await sheet(page)
    .getByRole("checkbox", { name: /^Article card/ })
    .uncheck();
  await sheet(page).getByRole("group", { name: "Name", exact: true }).getByLabel("characters at most").fill("12");
  await kept(page);
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(sheet(page).getByRole("group", { name: "Name", exact: true }).getByLabel("characters at most")).toHaveValue("");
  await page.getByRole("button", { name: "Redo" }).click();
  await expect(sheet(page).getByRole("group", { name: "Name", exact: true }).getByLabel("characters at most")).toHaveValue("12");
  await page.getByRole("button", { name: "Release", exact: true }).click();
  await page.getByLabel("What changed").fill("First");
  await page.getByRole("dialog").getByRole("button", { name: "Release" }).click();
  await expect(page.getByText("release 1", { exact: true })).toBeVisible();
  await page.goto("/coverage");
  await expect(page.getByRole("cell", { name: "Legal, Members’ gazette: served" })).toBeVisible();

  // Contradictions are refused beside the thing, and nothing is lost.
  await page.goto("/rows?q=Conditions");
  await page.getByRole("link", { name: "Conditions" }).click();
  await tab(page, "Rules");
  await sheet(page)
    .getByRole("checkbox", { name: /^The row/ })
    .uncheck();
  await sheet(page)
    .getByRole("checkbox", { name: /^Offer/ })
    .check();
  await sheet(page).getByRole("group", { name: "Picture", exact: true }).getByLabel("shape, width to height").fill("wide");
  await expect(page.getByRole("status").filter({ hasText: "is no shape" })).toBeVisible();
});

test("a template goes out as a file and comes back in; a broken one is told of and changes nothing", async ({ browser }) => {
  const page = await signIn(browser, "ruth", "/templates");
  await page.getByRole("article", { name: "Volunteer call" }).getByRole("link", { name: "Open" }).click();
  await row(page, /About this template/).click();
  await page.getByRole("button", { name: /^Status/ }).click();
  const [download] = await Promise.all([page.waitForEvent("download"), page.getByRole("menuitem", { name: "Export as a file" }).click()]);
  expect(download.suggestedFilename()).toBe("Volunteer call.template.json");
  const json = readFileSync(await download.path(), "utf8");

  // An independent validator reads the committed schema.
  const schema = JSON.parse(readFileSync(join(import.meta.dirname, "../../docs/template.schema.json"), "utf8"));
  const validate = new Ajv2020({ strict: false, allErrors: true }).compile(schema);
  validate(JSON.parse(json));
  expect(validate.errors ?? []).toEqual([]);
  expect(validate({ ...JSON.parse(json), template: { name: 7 } })).toBe(false);

  const bring = async (text: string, name: string) => {
    await page.goto("/templates");
    await page.getByRole("button", { name: "Import" }).click();
    const dialog = page.getByRole("dialog");
    await dialog
      .locator("input[type=file]")
      .setInputFiles({ name: "x.template.json", mimeType: "application/json", buffer: Buffer.from(text) });
    await dialog.getByLabel("Name").fill(name);
    await dialog.getByRole("button", { name: "Import" }).click();
    return dialog;
  };
  const refused = await bring(json.replace('"version": 1', '"version": 12'), "Too new");
  await expect(refused.getByText("of version 12, which is newer than this program knows")).toBeVisible();
  const dialog = await bring(json, "Call, come back");
  await expect(dialog.getByText(/“Call, come back” is here as a draft/)).toBeVisible();
  await dialog.getByRole("button", { name: "Open it" }).click();
  await expect(page.getByText("draft, no release yet")).toBeVisible();
  await page.goto("/templates");
  await expect(page.getByRole("article", { name: "Call, come back" })).toBeVisible();
  await expect(page.getByRole("article", { name: "Too new" })).toHaveCount(0);
});

test("where a zone allows it an author builds a row of blocks, and detaches a saved one", async ({ browser }) => {
  const designer = await signIn(browser, "dana");
  const id = crypto.randomUUID();
  const made = await designer.request.post("/api/templates", {
    data: { id, name: "Newsletter to build in", campaignType: "members-gazette", from: { starter: "newsletter" } },
  });
  expect(made.ok()).toBe(true);

  // The designer lets one saved row into the zone by name, whatever its kind.
  await designer.goto(`/templates/${id}`);
  await row(designer, /^Stories, 2 to 8/).click();
  await sheet(designer).getByLabel("Saved rows by name").fill("Two facts");
  await designer.getByRole("option", { name: "Two facts" }).click();
  await expect(sheet(designer).getByRole("button", { name: "Remove" }).last()).toBeVisible();
  // Stored: there is something to take back.
  await expect(designer.getByRole("button", { name: "Undo" })).toBeEnabled();
  expect((await designer.request.post(`/api/templates/${id}/releases`, { data: { note: "First" } })).ok()).toBe(true);

  const page = await signIn(browser, "bea");
  await startEmail(page, "Newsletter to build in", "Built by an author");
  const stories = order(page).getByRole("region", { name: "Stories", exact: true });
  await stories.getByRole("button", { name: "Add a row" }).click();
  await page.getByRole("dialog").getByRole("button", { name: "Halves" }).click();
  await putBlock(page, sheet(page).getByRole("region", { name: "Column 1" }).getByRole("button", { name: "Add a block" }), "Heading");
  await sheet(page).getByLabel("Headline").fill("Built here");
  await expect(proof(page, "Desktop").getByRole("heading", { name: "Built here" })).toBeVisible();
  await page.getByRole("button", { name: "Arrange Heading" }).click();
  await page.getByRole("menuitem", { name: "Move to column 2" }).click();
  await expect(sheet(page).getByRole("region", { name: "Column 2" }).getByLabel("Headline")).toHaveValue("Built here");
  // The brand's choices and nothing else; a row for one screen only, shown all the same while it is made.
  await tab(page, "Look");
  await sheet(page).getByRole("group", { name: "Heading, level" }).getByLabel("Heading 3").click();
  await expect(proof(page, "Desktop").locator("h3", { hasText: "Built here" })).toBeVisible();
  await sheet(page).getByRole("group", { name: "Where it is shown" }).getByLabel("The whole row").selectOption("phone-only");
  await expect(proof(page, "Desktop").getByRole("heading", { name: "Built here" })).toBeHidden();
  await expect(proof(page, "Phone").getByRole("heading", { name: "Built here" })).toBeVisible();
  await page.getByRole("button", { name: "Show hidden" }).click();
  await expect(proof(page, "Desktop").getByRole("heading", { name: "Built here" })).toBeVisible();
  await expect(sheet(page).getByRole("tab", { name: "Rules" })).toHaveCount(0);

  await stories.getByRole("button", { name: "Add a row" }).click();
  await page
    .getByRole("dialog")
    .getByRole("button", { name: /^(Two facts, as it looks )?Two facts / })
    .click();
  await tab(page, "Copy");
  await sheet(page).getByRole("button", { name: "Unlink from the library" }).click();
  await expect(sheet(page).getByRole("region", { name: "Column 2" })).toBeVisible();
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(sheet(page).getByRole("region", { name: "Column 2" })).toHaveCount(0);
  await expect(sheet(page).getByRole("button", { name: "Unlink from the library" })).toBeVisible();
});
