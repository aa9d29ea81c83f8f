import { readFileSync } from "node:fs";
import { expect, type Locator, type Page } from "@playwright/test";
import { carry, kept, namesInOrder, order, proof, putBlock, row, signIn, startEmail, test } from "./support";

const story = (n: number) => `<h2>Story number ${n}</h2><p>What happened in <b>story ${n}</b>, told in a line.</p>`;
const copy = `<p>Subject: Spring by steam</p><p>Preheader: Nine days and nine trains along the line</p>
  <h1>Spring by steam</h1><p>The line opens on Saturday, and members ride first.</p>
  <p><a href="https://larkfell.example.org/spring">Choose a day</a></p>${[1, 2, 3, 4].map(story).join("")}`;

const gazette = [
  "Subject and sender",
  "Masthead",
  "Hero",
  ...Array.from({ length: 4 }, () => expect.stringMatching(/^Story/)),
  expect.any(String),
  "Sign-off",
  "Footer",
];

/** What someone copied elsewhere. */
async function copyElsewhere(page: Page, html: string, text: string) {
  await page.context().grantPermissions(["clipboard-read", "clipboard-write"]);
  await page.evaluate(
    ([rich, plain]) =>
      navigator.clipboard.write([
        new ClipboardItem({
          "text/html": new Blob([rich ?? ""], { type: "text/html" }),
          "text/plain": new Blob([plain ?? ""], { type: "text/plain" }),
        }),
      ]),
    [html, text],
  );
}

/** Presses Tab until the focus is there, as whoever has no mouse does. */
async function tabTo(page: Page, target: Locator) {
  for (let i = 0; i < 150; i++) {
    if (await target.evaluate((e) => e === document.activeElement).catch(() => false)) {
      return;
    }
    await page.keyboard.press("Tab");
  }
  throw new Error(`${target} cannot be reached by Tab.`);
}

async function expectGazette(page: Page) {
  await expect.poll(() => namesInOrder(page)).toEqual(gazette);
  for (const which of ["Desktop", "Phone"] as const) {
    await expect(proof(page, which).locator("h1")).toHaveText("Spring by steam");
    for (const n of [1, 2, 3, 4]) {
      await expect(proof(page, which).getByText(`Story number ${n}`)).toBeVisible();
      await expect(
        proof(page, which)
          .locator("b, strong")
          .filter({ hasText: `story ${n}` }),
      ).toHaveCount(1);
    }
  }
  await kept(page);
  await expect(row(page, /Subject and sender/)).toContainText("Spring by steam");
}

test("whoever has never seen it makes a nine-row gazette from pasted copy by the keyboard alone", async ({ browser }) => {
  const page = await signIn(browser, "imran");
  await copyElsewhere(page, copy, "");
  await tabTo(page, page.getByRole("link", { name: "Emails", exact: true }));
  await page.keyboard.press("Enter");
  await tabTo(page, page.getByRole("link", { name: "Start an email" }));
  await page.keyboard.press("Enter");
  await tabTo(page, page.getByLabel("Find", { exact: true }));
  await page.keyboard.type("gazette");
  await expect(page.getByRole("article")).toHaveCount(1);
  await tabTo(page, page.getByRole("article").getByRole("button", { name: "Start from this" }));
  await page.keyboard.press("Enter");
  await expect(page.getByRole("dialog").getByLabel("Name")).toBeFocused();
  await page.keyboard.type("By the keyboard alone");
  await page.keyboard.press("Enter");
  await expect(order(page)).toBeVisible();
  await tabTo(page, page.getByRole("button", { name: "Text tools" }));
  await page.keyboard.press("Enter");
  // The menu takes the keys once it has the focus, a moment after it is drawn.
  await expect(page.getByRole("menu").locator("[data-autofocus]")).toBeFocused();
  await page.keyboard.press("ArrowDown");
  await expect(page.getByRole("menuitem", { name: /Paste a document/ })).toBeFocused();
  await page.keyboard.press("Enter");
  await expect(page.getByRole("textbox", { name: "Document" })).toBeFocused();
  await page.keyboard.press("Control+V");
  await expect(page.getByRole("dialog").getByText("Story number 4")).toBeVisible();
  await tabTo(page, page.getByRole("button", { name: "Put it in" }));
  await page.keyboard.press("Enter");
  await expectGazette(page);

  // What is left is told in one list, and mended from there.
  await page.keyboard.press("Escape");
  await tabTo(page, order(page).locator("[aria-current=true]"));
  await page.keyboard.press("ArrowDown");
  await page.keyboard.press("ArrowDown");
  await expect(row(page, /Hero/)).toBeFocused();
  await page.keyboard.press("Enter");
  await expect(page.locator("aside :focus")).toBeVisible();
});

test("and another by the mouse alone, with nothing typed but its name", async ({ browser }) => {
  const page = await signIn(browser, "imran");
  await copyElsewhere(page, copy, "");
  await page.getByRole("link", { name: "Emails", exact: true }).click();
  await page.getByRole("link", { name: "Start an email" }).click();
  // The room before offers campaign types too, and stays until the next one is here.
  await expect(page.getByRole("heading", { level: 1, name: "Start an email" })).toBeVisible();
  await page
    .getByRole("navigation", { name: "Campaign types" })
    .getByRole("button", { name: /gazette/ })
    .click();
  const one = page.getByRole("article", { name: "Members’ gazette" });
  // Seen as both screens show it.
  await expect(one.getByRole("img", { name: "Members’ gazette, on the desktop" })).toHaveJSProperty("complete", true);
  await expect(one.getByRole("img", { name: "Members’ gazette, on the phone" })).toHaveJSProperty("complete", true);
  await one.getByRole("button", { name: "Start from this" }).click();
  await page.getByLabel("Name").fill("By the mouse alone");
  await page.getByRole("button", { name: "Start", exact: true }).click();
  await page.getByRole("button", { name: "Text tools" }).click();
  await page.getByRole("menuitem", { name: /Paste a document/ }).click();
  await page.getByRole("button", { name: "Paste from the clipboard" }).click();
  await expect(page.getByRole("dialog").getByText("Spring by steam").first()).toBeVisible();
  await page.getByRole("button", { name: "Put it in" }).click();
  await expectGazette(page);
  await carry(page, row(page, /^Story.*Main/).last(), row(page, /^Story.*Main/).first());
  await expect(proof(page, "Desktop").locator("[data-row]").filter({ hasText: "Story number" }).first()).toContainText("Story number 4");
});

test("two people see each other, and each other's edits as they are made", async ({ browser }) => {
  const [imran, bea] = [await signIn(browser, "imran"), await signIn(browser, "bea")];
  await startEmail(imran, "Special train", "The two of us");
  await bea.goto(imran.url());
  await expect(imran.getByRole("button", { name: /Bea Thornley, go to/ })).toBeVisible();
  await expect(bea.getByRole("button", { name: /Imran Sayle, go to/ })).toBeVisible();
  await row(bea, /Hero/).click();
  await expect(row(imran, /Hero/)).toContainText("Bea Thornley is here");
  await row(imran, /Departure board/).click();
  await bea.getByRole("textbox", { name: "Headline" }).fill("Written by Bea");
  for (const which of ["Desktop", "Phone"] as const) {
    await expect(proof(imran, which).locator("h1")).toHaveText("Written by Bea");
  }
  await row(imran, /Hero/).click();
  await imran.getByRole("textbox", { name: "Headline" }).click();
  await bea.getByRole("textbox", { name: "Headline" }).click();
  await expect(imran.getByText("Bea Thornley writes here too.")).toBeVisible();
  await bea.close();
  await expect(imran.getByRole("button", { name: /Bea Thornley/ })).toHaveCount(0);
});

test("what was done is told, looked at and gone back to as new work", async ({ browser }) => {
  const page = await signIn(browser, "imran");
  await startEmail(page, "Special train", "Told and gone back to");
  await row(page, /Hero/).click();
  const headline = page.getByRole("textbox", { name: "Headline" });
  await headline.fill("The first headline");
  await kept(page);
  await page
    .getByRole("textbox", { name: /^Button/ })
    .first()
    .fill("Come along");
  await headline.fill("The second headline");
  await expect(proof(page, "Desktop").locator("h1")).toHaveText("The second headline");
  await kept(page);
  await page.getByRole("button", { name: "History" }).click();
  const dialog = page.getByRole("dialog");
  await expect(dialog.getByRole("button", { name: /changed headline of Hero/ })).toHaveCount(2);
  await dialog
    .getByRole("button", { name: /changed headline of Hero/ })
    .last()
    .click();
  await expect(dialog.frameLocator('iframe[title="As it was then"]').locator("h1")).toHaveText("The first headline");
  await expect(dialog.frameLocator('iframe[title="As it is now"]').locator("h1")).toHaveText("The second headline");
  await dialog.getByRole("button", { name: "Restore this version" }).click();
  await expect(proof(page, "Desktop").locator("h1")).toHaveText("The first headline");
  await expect(proof(page, "Desktop").getByText("Come along")).toHaveCount(0);
  // It is undone like any work, in another session too.
  await kept(page);
  await page.reload();
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(proof(page, "Desktop").locator("h1")).toHaveText("The second headline");
  await expect(proof(page, "Desktop").getByText("Come along")).toBeVisible();
});

test("an update is shown before it is taken; what it has no place for is set aside", async ({ browser }) => {
  const designer = await signIn(browser, "dana");
  // A template of its own: what is released here is met by nobody else.
  const known = await designer.request.get("/api/templates").then((r) => r.json());
  const from = known.templates.find((t: { name: string }) => t.name === "Volunteer call");
  const template = crypto.randomUUID();
  const made = await designer.request.post("/api/templates", {
    data: { id: template, name: "Call for hands", campaignType: from.campaignType, houseStyle: null, from: { template: from.id } },
  });
  expect(made.ok()).toBe(true);
  const release = async (note: string) => {
    const released = await designer.request.post(`/api/templates/${template}/releases`, { data: { note, required: false } });
    expect(released.ok()).toBe(true);
  };
  await release("The first");
  const author = await signIn(browser, "imran");
  await startEmail(author, "Call for hands", "Before the update");
  await row(author, /Hero/).click();
  await author.getByRole("textbox", { name: "Headline" }).fill("Hands for the hill");
  await kept(author);

  const id = () => crypto.randomUUID();
  const sealed = await designer.request.post(`/api/templates/${template}/edits`, {
    data: {
      base: 0,
      edits: [
        { id: id(), step: id(), edit: { kind: "set-lock", row: "hero", piece: "headline", aspect: "content", lock: { kind: "sealed" } } },
      ],
    },
  });
  expect(sealed.ok()).toBe(true);
  await release("One promise for every call");

  await author.getByRole("button", { name: "update available" }).click();
  const dialog = author.getByRole("dialog");
  await expect(dialog.getByText("One promise for every call")).toBeVisible();
  await expect(dialog.getByText("What it says is locked now.")).toBeVisible();
  await expect(dialog.frameLocator('iframe[title="As it is"]').locator("h1")).toHaveText("Hands for the hill");
  await expect(dialog.frameLocator('iframe[title="With the update"]').locator("h1")).not.toHaveText("Hands for the hill");
  await dialog.getByRole("button", { name: "Take the update" }).click();
  await expect(author.getByRole("button", { name: "update available" })).toHaveCount(0);
  await row(author, /Subject and sender/).click();
  const aside = author.getByRole("region", { name: "Unplaced text" });
  await expect(aside).toContainText("Hands for the hill");
  await author.getByRole("button", { name: "Undo" }).click();
  await expect(proof(author, "Desktop").locator("h1")).toHaveText("Hands for the hill");
  await expect(aside).toHaveCount(0);
  await author.getByRole("button", { name: "Redo" }).click();
  await aside.getByRole("button", { name: "Discard" }).click();
  await expect(aside).toHaveCount(0);
});

test("the words go out as a deck and come back; words are found and replaced", async ({ browser }) => {
  const page = await signIn(browser, "imran");
  await startEmail(page, "Special train", "Out and back in");
  await row(page, /Hero/).click();
  await page.getByRole("textbox", { name: "Headline" }).fill("An evening train");
  await kept(page);
  await page.getByRole("button", { name: "Text tools" }).click();
  await page.getByRole("menuitem", { name: /Copy deck/ }).click();
  const [download] = await Promise.all([page.waitForEvent("download"), page.getByRole("link", { name: /\.csv/ }).click()]);
  const deck = readFileSync(await download.path(), "utf8");
  expect(download.suggestedFilename()).toBe("Out and back in.csv");
  const back = deck.replace("An evening train", "Trên gyda’r nos").replace("hero/text/text", "gone/text/text");
  await page.locator("input[type=file]").setInputFiles({ name: "deck.csv", mimeType: "text/csv", buffer: Buffer.from(back) });
  await expect(page.getByText("1 place would change.", { exact: false })).toBeVisible();
  await expect(page.getByText("The email has no such place any more.")).toBeVisible();
  await page.getByRole("button", { name: "Use these texts" }).click();
  await expect(proof(page, "Phone").locator("h1")).toHaveText("Trên gyda’r nos");
  await kept(page);

  await page.keyboard.press("Control+H");
  await page.getByLabel("Find", { exact: true }).fill("nos");
  await page.getByLabel("Replace with").fill("hwyr");
  await page.getByRole("button", { name: "Replace in all of these" }).click();
  await expect(proof(page, "Phone").locator("h1")).toHaveText("Trên gyda’r hwyr");
});

test("several rows are moved, hidden and removed at once, by the keyboard and by the mouse", async ({ browser }) => {
  const page = await signIn(browser, "imran");
  await startEmail(page, "Members’ gazette", "Several at once");
  for (const n of [1, 2, 3]) {
    await row(page, /^Story.*Main/)
      .first()
      .click();
    await page.getByRole("button", { name: "Duplicate" }).click();
    await expect(row(page, /^Story.*Main/)).toHaveCount(2 + n);
  }
  const stories = row(page, /^Story.*Main/);
  await stories.nth(0).click();
  await page.keyboard.press("Shift+ArrowDown");
  await page.keyboard.press("Shift+ArrowDown");
  await expect(page.getByText("3 rows picked")).toBeVisible();
  const ids = () => stories.evaluateAll((rows) => rows.map((r) => r.id));
  const [a, b, c, d, e] = await ids();
  await page.keyboard.press("Alt+ArrowDown");
  await expect.poll(ids).toEqual([d, a, b, c, e]);
  await page.getByRole("button", { name: "Phones only" }).click();
  await expect(order(page).getByText("phones only")).toHaveCount(3);
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(order(page).getByText("phones only")).toHaveCount(0);
  await page.getByRole("button", { name: "Clear selection" }).click();

  await stories.nth(1).click();
  await stories.nth(3).click({ modifiers: ["Shift"] });
  await expect(page.getByText("3 rows picked")).toBeVisible();
  await stories.nth(2).click({ modifiers: ["Control"] });
  await expect(page.getByText("2 rows picked")).toBeVisible();
  const before = await ids();
  await page.getByRole("region", { name: "Rows picked" }).getByRole("button", { name: "Swap" }).click();
  await expect.poll(ids).toEqual([before[0], before[3], before[2], before[1], before[4]]);
  await page.getByRole("region", { name: "Rows picked" }).getByRole("button", { name: "Remove" }).click();
  await expect(stories).toHaveCount(3);
  // One step takes both back.
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(stories).toHaveCount(5);
});

test("emails are found by their words, go on from one another, and are archived", async ({ browser }) => {
  const page = await signIn(browser, "imran", "/emails");
  await page.getByLabel("Find emails").fill("boiler plates");
  const march = page.getByRole("listitem").filter({ hasText: "March: the viaduct reopens" });
  await expect(page.getByRole("status").filter({ hasText: "1 found" })).toBeVisible();
  // What was in the list before is gone from it.
  await expect(page.getByRole("list").getByRole("listitem")).toHaveCount(1);
  await march.getByRole("button", { name: /More about/ }).click();
  await page.getByRole("menuitem", { name: "Next issue" }).click();
  await expect(page.getByLabel("Name")).toHaveValue("April: the viaduct reopens");
  await page.getByRole("button", { name: "Start", exact: true }).click();
  await expect(order(page)).toBeVisible();
  await row(page, /Hero/).click();
  await expect(page.getByText("still says what the email before said").first()).toBeVisible();
  await page.getByRole("button", { name: "It still holds" }).first().click();
  await page.getByRole("textbox", { name: "Headline" }).fill("A new headline for April");
  await kept(page);
  const of = page.locator("aside").getByText("“Headline” still says", { exact: false });
  await expect(of).toHaveCount(0);

  await page.goto("/emails");
  const april = page.getByRole("listitem").filter({ hasText: "April: the viaduct reopens" });
  await april.getByRole("button", { name: /More about/ }).click();
  await page.getByRole("menuitem", { name: "Archive" }).click();
  await expect(april).toHaveCount(0);
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(april).toHaveCount(1);
});

test("a text is pasted without its dress, split for a button, and joined again", async ({ browser }) => {
  const page = await signIn(browser, "dana", "/templates");
  await page.getByRole("article", { name: "Shop offer" }).getByRole("button", { name: "Duplicate" }).click();
  await page.getByLabel("Name").fill("With rows of one's own");
  await page.getByRole("dialog").getByRole("button", { name: "Create" }).click();
  await expect(order(page)).toBeVisible();
  await page.getByRole("button", { name: "Add a row or a zone" }).click();
  await page.getByRole("button", { name: "One column" }).click();
  await putBlock(page, page.getByRole("complementary").getByRole("button", { name: "Add a block" }), "Text");
  const text = page.getByRole("textbox", { name: "Text", exact: true });
  await text.first().click();
  await page.keyboard.press("Control+A");
  await copyElsewhere(
    page,
    `<p class=MsoNormal style="font-family:'Comic Sans MS';color:red">Before the <b>button</b>. After it.</p>`,
    "Before the button. After it.",
  );
  await page.keyboard.press("Control+V");
  const paragraphs = proof(page, "Desktop").locator("[data-row]").last();
  await expect(text.first()).toHaveText("Before the button. After it.");
  await expect(text.first().locator("strong")).toHaveText("button");
  await expect(text.first().locator("[style]")).toHaveCount(0);
  await expect(paragraphs).toContainText("After it.");
  // The caret goes before "After".
  await text.first().click();
  await page.keyboard.press("End");
  for (let i = 0; i < "After it.".length; i++) await page.keyboard.press("ArrowLeft");
  await page.getByRole("button", { name: "Split here" }).first().click();
  await expect(text).toHaveCount(2);
  await expect(text.nth(0)).toHaveText(/^Before the button\.\s*$/);
  await expect(text.nth(1)).toHaveText("After it.");
  await page.getByRole("button", { name: "Arrange Text" }).first().click();
  await putBlock(page, page.getByRole("menuitem", { name: "Add a block below" }), "Button");
  await expect(page.getByRole("button", { name: /^Arrange/ })).toHaveCount(3);
  await expect(page.getByRole("button", { name: /^Arrange/ }).nth(1)).toHaveAccessibleName("Arrange Button");
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByRole("button", { name: /^Arrange/ })).toHaveCount(2);
  await page.getByRole("button", { name: "Arrange Text" }).first().click();
  await page.getByRole("menuitem", { name: "Join with the text below" }).click();
  await expect(text).toHaveCount(1);
  await expect(text.first().locator("p")).toHaveCount(2);
});

test("the lead says once what links get, and everyone sees it", async ({ browser }) => {
  const lead = await signIn(browser, "ruth", "/checks/link-tags");
  const offer = lead.getByRole("region", { name: "Shop offer" });
  await offer.getByRole("button", { name: "Add the usual tags" }).click();
  await expect(offer.getByLabel("Shop offer, name 3")).toHaveValue("utm_campaign");
  await offer.getByLabel("Shop offer, value 1").fill("{month}");
  await offer.getByLabel("Shop offer, value 1").blur();
  await expect(offer.getByRole("alert")).toContainText("{month}");
  await offer.getByLabel("Shop offer, value 1").fill("larkfell");
  await offer.getByLabel("Shop offer, value 1").blur();
  await expect(offer.getByRole("alert")).toHaveCount(0);

  // Another lead sets them while this one types: told, and nothing of either is lost unseen.
  const theirs = { tags: [{ name: "utm_source", value: "theirs" }], hosts: [] };
  await offer.getByLabel("Shop offer, value 1").fill("mine");
  expect((await lead.request.put("/api/campaign-types/shop-offer/link-tags", { data: theirs })).ok()).toBe(true);
  await offer.getByLabel("Shop offer, value 1").blur();
  await expect(offer.getByRole("alert")).toContainText("Links go out with utm_source=theirs now");
  await expect(offer.getByLabel("Shop offer, value 1")).toHaveValue("mine");
  await offer.getByLabel("Shop offer, value 1").fill("larkfell");
  await offer.getByLabel("Shop offer, value 1").blur();
  await expect(offer.getByRole("alert")).toHaveCount(0);
  // What one set oneself a moment ago is no change by another.
  await offer.getByLabel("Shop offer, value 2").fill("mail");
  await offer.getByLabel("Shop offer, value 2").blur();
  await offer.getByLabel("Shop offer, value 4").fill("a-row");
  await offer.getByLabel("Shop offer, value 4").blur();
  const stored = async () => {
    const types: { key: string; linkTags: typeof theirs }[] = await (await lead.request.get("/api/campaign-types")).json();
    return types.find((t) => t.key === "shop-offer")?.linkTags.tags.map((t) => t.value);
  };
  await expect.poll(stored).toEqual(["larkfell", "mail", "{campaign}", "a-row"]);
  await expect(offer.getByRole("alert")).toHaveCount(0);

  const author = await signIn(browser, "imran");
  await startEmail(author, "Shop offer", "Tagged by rule");
  await expect(author.getByText("Links go out with utm_source=larkfell", { exact: false })).toBeVisible();
  await author.goto("/checks/link-tags");
  await expect(author.getByLabel("Shop offer, value 1")).toBeDisabled();
  const put = await lead.request.put("/api/campaign-types/shop-offer/link-tags", { data: { tags: [], hosts: [] } });
  expect(put.ok()).toBe(true);
});
