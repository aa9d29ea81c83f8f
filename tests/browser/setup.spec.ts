import { join } from "node:path";
import { expect } from "@playwright/test";
import { closeServer, dropDatabase, emptyDatabase, freePort, openServer } from "./server";
import { expectNoViolations, namesInOrder, newPage, putBlock, row, test } from "./support";

const website = join(import.meta.dirname, "../../demo/larkfell/website");

test("an empty database becomes a library: its first lead, house style, row, template and email", async ({ browser }) => {
  test.slow();
  const name = "browser_setup_empty";
  const port = await freePort();
  await openServer(port, emptyDatabase(name), { "Setup:Code": "points-and-signals" });
  try {
    const page = await newPage(browser, `http://127.0.0.1:${port}`);
    await page.goto("/");
    await page.getByLabel("Code").fill("guessed");
    await page.getByLabel("Organisation").fill("Fell Ferry");
    await page.getByLabel("Your name").fill("Ada Fell");
    await page.getByLabel("Your email address").fill("ada@fell.example.org");
    await page.locator("input[type=password]").fill("words that float on water");
    await page.getByRole("button", { name: "Begin" }).click();
    await expect(page.getByText("That is not the code that the start command printed.")).toBeVisible();
    await expectNoViolations(page);
    await page.getByLabel("Code").fill("points-and-signals");
    await page.getByRole("button", { name: "Begin" }).click();
    await expect(page.getByRole("button", { name: "Ada Fell, lead" })).toBeVisible();
    // Nobody becomes another first lead.
    const late = await page.request.post("/api/setup", {
      data: {
        code: "points-and-signals",
        organisation: "Theirs",
        name: "Eve",
        email: "eve@fell.example.org",
        password: "words that float on water",
      },
    });
    expect(late.status()).toBe(410);

    // Every room says what to do where there is nothing yet.
    for (const room of [
      "/house-style",
      "/plan/coverage",
      "/plan/teams",
      "/rows",
      "/snippets",
      "/readers/audiences",
      "/templates",
      "/emails",
      "/start",
      "/people",
    ]) {
      await page.goto(room);
      await expect(page.getByRole("heading", { level: 1 })).toBeVisible();
      await expectNoViolations(page);
    }

    await page.goto("/templates");
    await page.getByRole("link", { name: "Say which campaign types there are" }).click();
    await page.getByLabel("New campaign type").fill("Crossing news");
    await page.getByRole("button", { name: "Add" }).click();
    await expect(page.getByText("Crossing news is a campaign type now.")).toBeVisible();

    await page.getByRole("link", { name: "House style" }).click();
    await page.getByRole("button", { name: "Create the house style" }).click();
    await page.getByRole("dialog").getByLabel("Name").fill("Fell Ferry");
    await page.getByRole("button", { name: "Create", exact: true }).click();
    await page.getByRole("button", { name: "Import" }).click();
    await page.getByLabel("File to import").setInputFiles(join(website, "site.css"));
    await page.getByRole("button", { name: /^Import \d+ value/ }).click();
    await expect(page.getByRole("button", { name: /^Buffer red/ })).toBeVisible();
    await page.getByLabel("What changed").fill("As the website has it");
    await page.getByRole("button", { name: "Release 1" }).click();
    await expect(page.getByText("Release 1 is in use")).toBeVisible();

    await page.getByRole("link", { name: "Rows" }).click();
    await page.getByRole("button", { name: "New row" }).click();
    await page.getByRole("dialog").getByLabel("Name").fill("Crossing");
    await page.getByRole("dialog").getByRole("button", { name: "Create" }).click();
    await page.locator("#order-about").waitFor();
    await putBlock(page, page.getByRole("complementary").getByRole("button", { name: "Add a block" }).last(), "Heading");
    await page.getByRole("button", { name: "Release", exact: true }).click();
    await page.getByLabel("What changed").fill("First");
    await page.getByRole("dialog").getByRole("button", { name: "Release" }).click();
    await expect(page.getByText("release 1", { exact: true })).toBeVisible();

    await page.goto("/templates?new=yes");
    await page.getByRole("dialog").getByLabel("Name").fill("Crossing news");
    await page.getByRole("dialog").getByLabel("Campaign type").click();
    await page.getByRole("option", { name: "Crossing news" }).click();
    await page.getByRole("dialog").getByRole("button", { name: "Create" }).click();
    await page.locator("#order-about").waitFor();
    await page.getByRole("button", { name: "Add a row or a zone" }).click();
    await page
      .getByRole("dialog")
      .getByRole("button", { name: /Crossing/ })
      .click();
    await expect(row(page, /^Crossing Main/)).toBeVisible();
    await page.getByRole("button", { name: "Release", exact: true }).click();
    await page.getByLabel("What changed").fill("First");
    await page.getByRole("dialog").getByRole("button", { name: "Release" }).click();
    await expect(page.getByText("release 1", { exact: true })).toBeVisible();

    await page.goto("/templates");
    await page.getByRole("article", { name: "Crossing news" }).getByRole("button", { name: "Start an email" }).click();
    await page.getByLabel("Name").fill("The first crossing");
    await page.getByRole("button", { name: "Start", exact: true }).click();
    await expect(row(page, /Crossing/)).toBeVisible();
    expect(await namesInOrder(page)).toEqual(["Subject and sender", "Crossing"]);
  } finally {
    await closeServer(port);
    dropDatabase(name);
  }
});
