import { expect, type Locator, type Page } from "@playwright/test";
import { closeServer, freePort, openServer } from "./server";
import { carry, kept, namesInOrder, order, proof, putBlock, row, signIn, startEmail, test } from "./support";

const sheet = (page: Page) => page.getByRole("complementary", { name: "Copy sheet" });
const tab = (page: Page, name: string) =>
  sheet(page)
    .getByRole("tab", { name: new RegExp(`^${name}`) })
    .click();

/** A slow line: edits wait until they are let through, and answers to those that went wait too. */
async function slowLine(page: Page, what: string | RegExp = "**/edits") {
  let open = false;
  let go: () => void = () => undefined;
  const opened = new Promise<void>((resolve) => {
    go = resolve;
  });
  await page.route(what, async (route) => {
    if (!open && route.request().method() !== "GET") await opened;
    await route.continue().catch(() => undefined);
  });
  return () => {
    open = true;
    go();
  };
}

const desk = async (page: Page, kind = "emails") => {
  const answer = await page.request.get(`/api/${kind}/${new URL(page.url()).pathname.split("/").at(-1)}/desk`);
  return answer.json();
};

/** Types as a person does, key by key, and finds all of it there. */
async function type(field: Locator, words: string) {
  await field.pressSequentially(words);
  await expect(field).toHaveValue(words);
}

test("no letter is lost on a slow line, whatever is written in", async ({ browser }) => {
  const page = await signIn(browser, "ruth");
  await startEmail(page, "Special train", "A slow line");
  await page.getByRole("button", { name: "Plain text" }).click();
  await page.getByRole("button", { name: "Write it by hand" }).click();
  const text = page.getByRole("textbox", { name: "Plain text" });
  await expect(text).toBeVisible();
  await kept(page);
  await text.fill("");
  await kept(page);
  const release = await slowLine(page);
  await type(text, "Steam returns on Saturday, from platform 2.");
  release();
  await kept(page);
  await expect(text).toHaveValue("Steam returns on Saturday, from platform 2.");
  const sent = () => page.request.get(`/api/emails/${page.url().split("/").at(-1)}/text`).then((answer) => answer.text());
  await expect.poll(sent).toContain("from platform 2.");
  // And at once thereafter: an answer that is older than what is typed does not undo it.
  await text.pressSequentially(" Come!");
  await expect.poll(sent).toContain("from platform 2. Come!");
  await expect(text).toHaveValue("Steam returns on Saturday, from platform 2. Come!");

  await page.goto("/house-style");
  await page.getByRole("button", { name: /^Moor/ }).click();
  await page.getByRole("button", { name: "Name, group and position" }).click();
  const about = page.getByLabel("What it is for");
  await about.fill("");
  const letThrough = await slowLine(page);
  await type(about, "The hills beyond the line");
  // Colour and name one after the other are one whole.
  await page.getByLabel("Moor", { exact: true }).fill("#405041");
  await page.getByLabel("Name", { exact: true }).fill("Moorland ");
  letThrough();
  await expect(page.frameLocator("iframe[title=Specimen]").locator("[data-piece=type-7] p")).toHaveCSS("color", "rgb(64, 80, 65)");
  await expect(page.getByLabel("Name", { exact: true })).toHaveValue("Moorland ");
  await expect(about).toHaveValue("The hills beyond the line");
  await page.reload();
  await page.getByRole("button", { name: /^Moorland/ }).click();
  await page.getByRole("button", { name: "Name, group and position" }).click();
  await expect(page.getByLabel("What it is for")).toHaveValue("The hills beyond the line");
  await expect(page.getByLabel("Moorland", { exact: true })).toHaveValue("#405041");
});

test("settings changed one after the other on a slow line are shown at once and all stored", async ({ browser }) => {
  const page = await signIn(browser, "ruth", "/account");
  let release = await slowLine(page, "**/api/notices");
  const ticked = page.getByRole("checkbox", { name: /mentions me in a comment, (here|by mail)$/ });
  await expect(ticked).toHaveCount(2);
  const before = await ticked.evaluateAll((all) => all.map((one) => (one as HTMLInputElement).checked));
  for (const one of await ticked.all()) {
    await one.click();
  }
  const states = () => ticked.evaluateAll((all) => all.map((one) => (one as HTMLInputElement).checked));
  expect(await states()).toEqual(before.map((one) => !one));
  release();
  const stored = async () => {
    const { settings } = await (await page.request.get("/api/notices")).json();
    const { inApplication, byMail } = settings.find((s: { kind: string }) => s.kind === "mention");
    return [inApplication, byMail];
  };
  await expect.poll(stored).toEqual(before.map((one) => !one));
  await page.reload();
  await expect.poll(states).toEqual(before.map((one) => !one));

  await page.goto("/checks/severities");
  release = await slowLine(page, "**/api/checks/policy");
  await page.getByLabel("No preheader, severity").selectOption("stop");
  await page.getByLabel("Updates that wait, severity").selectOption("advise");
  await expect(page.getByLabel("No preheader, severity")).toHaveValue("stop");
  release();
  await expect(page.getByText("Saved", { exact: true })).toBeVisible();
  await page.reload();
  await expect(page.getByLabel("No preheader, severity")).toHaveValue("stop");
  await expect(page.getByLabel("Updates that wait, severity")).toHaveValue("advise");

  await page.goto("/people");
  await page.getByRole("button", { name: /Wren/ }).click();
  for (const where of ["Roles of .* everywhere", "Shop"]) {
    release = await slowLine(page, /\/api\/(accounts|teams)\//);
    const reviewer = page
      .getByRole("group", { name: new RegExp(where) })
      .getByLabel("Reviewer", { exact: false })
      .or(page.getByLabel(`Reviewer in ${where}`));
    const designer = page
      .getByRole("group", { name: new RegExp(where) })
      .getByLabel("Designer", { exact: false })
      .or(page.getByLabel(`Designer in ${where}`));
    await reviewer.check();
    await designer.check();
    release();
    await expect(page.getByText(/is .*designer.*reviewer (everywhere|in Shop)\./)).toBeVisible();
    await page.reload();
    await expect(reviewer).toBeChecked();
    await expect(designer).toBeChecked();
  }
});

test("selects, checkboxes and choices move offline, and two quick ticks are both kept", async ({ browser }) => {
  const page = await signIn(browser, "dana");
  const id = crypto.randomUUID();
  const made = await page.request.post("/api/rows", { data: { id, name: "Ticked", rowKind: "main", campaignTypes: ["shop-offer"] } });
  expect(made.ok()).toBe(true);
  await page.goto(`/rows/${id}`);
  await row(page, /About this row/).click();
  const types = page.getByRole("group", { name: "For campaign types" });
  await expect(types.getByLabel("Shop offer")).toBeChecked();

  await page.route("**/edits", (route) => route.abort());
  await types.getByLabel("Members’ gazette").check();
  await types.getByLabel("Volunteer call").check();
  await page.getByLabel("Row kind").selectOption("advert");
  await expect(page.getByText("Offline.")).toBeVisible();
  await expect(types.getByLabel("Members’ gazette")).toBeChecked();
  await expect(types.getByLabel("Volunteer call")).toBeChecked();
  await expect(page.getByLabel("Row kind")).toHaveValue("advert");
  await page.unrouteAll({ behavior: "wait" });
  await kept(page);
  const about = (await desk(page, "rows")).about;
  expect([about.campaignTypes.length, about.rowKind]).toEqual([3, "advert"]);

  // What an author may choose among: two ticks before the first is answered.
  await row(page, /^Ticked/).click();
  await tab(page, "Rules");
  await sheet(page).getByRole("combobox", { name: /^Look/ }).selectOption("open");
  await kept(page);
  const release = await slowLine(page);
  const offer = sheet(page).getByRole("group", { name: "Background", exact: true });
  await offer.getByLabel("tint").check();
  await offer.getByLabel("strong").check();
  await expect(offer.getByLabel("tint")).toBeChecked();
  release();
  await kept(page);
  await page.reload();
  await row(page, /^Ticked/).click();
  await tab(page, "Rules");
  await expect(sheet(page).getByRole("group", { name: "Background", exact: true }).getByLabel("tint")).toBeChecked();
  await expect(sheet(page).getByRole("group", { name: "Background", exact: true }).getByLabel("strong")).toBeChecked();
});

test("a brand variable in a text or a link stays one, and the caret stays where it is typed", async ({ browser }) => {
  const page = await signIn(browser, "ruth");
  const house = (await (await page.request.get("/api/house-styles")).json())[0].id;
  const variables = (await (await page.request.get(`/api/house-styles/${house}`)).json()).variables;
  const of = (type: string) => variables.find((v: { variable: { type: string } }) => v.variable.type === type);
  const [words, link] = [of("text"), of("link")];
  await startEmail(page, "Special train", "With the brand's words");
  const id = page.url().split("/").at(-1);
  const before = await desk(page);
  type Block = { id: string; content: { allowed: boolean }; fields: { name: string; value: { kind: string } }[] };
  const found = (kind: string) => {
    for (const one of before.rows) {
      for (const block of one.columns.flatMap((c: { blocks: Block[] }) => c.blocks) as Block[]) {
        const field = block.content.allowed && block.fields.find((f) => f.value.kind === kind);
        if (field) return { row: one.id as string, name: one.name as string, piece: block.id, field: field.name };
      }
    }
    throw new Error(`Nothing takes a ${kind}.`);
  };
  const [text, button] = [found("prose"), found("link")];
  const runs = [
    { text: "Ring ", bold: false, italic: false },
    { text: "", bold: false, italic: false, variable: words.variable.key },
    { text: " today", bold: false, italic: false },
  ];
  const edits = [
    {
      kind: "set-fill",
      row: text.row,
      piece: text.piece,
      field: text.field,
      value: { kind: "prose", text: { paragraphs: [{ list: "none", runs }] } },
    },
    {
      kind: "set-fill",
      row: button.row,
      piece: button.piece,
      field: button.field,
      value: { kind: "link", href: `{${link.variable.key}}` },
    },
  ].map((edit) => ({ id: crypto.randomUUID(), step: crypto.randomUUID(), edit }));
  expect((await page.request.post(`/api/emails/${id}/edits`, { data: { base: before.revision, edits } })).ok()).toBe(true);

  await page.goto(`/emails/${id}#${text.row}/${text.piece}/${text.field}`);
  const editor = page.locator(`#${text.row}-${text.piece}-${text.field}`);
  await expect(editor).toContainText(`Ring ${words.resolved} today`);
  await expect(editor).toBeFocused();
  // For 200 ms after it took the focus the editor takes a caret at its start for the browser's doing, and puts it back.
  await page.evaluate(() => new Promise((over) => setTimeout(over, 300)));
  await page.keyboard.press("Home");
  await page.keyboard.type("Please ");
  await kept(page);
  await page.keyboard.type("do ");
  await expect(editor).toContainText(`Please do Ring ${words.resolved} today`);
  await expect(proof(page, "Desktop").locator("body")).toContainText(`Please do Ring ${words.resolved} today`);
  await kept(page);

  await row(page, button.name).click();
  const leads = page.locator(`#${button.row}-${button.piece}-${button.field}`);
  await expect(leads).toHaveValue(`{${link.variable.key}}`);
  await expect(page.locator(`#${button.row}-${button.piece}-${button.field}-comes-to`)).toHaveText(
    `A brand variable, now ${link.resolved}`,
  );
  const fields = (await desk(page)).rows.flatMap((r: { id: string; columns: { blocks: Block[] }[] }) =>
    r.columns.flatMap((c) => c.blocks.flatMap((b) => b.fields.map((f) => ({ place: `${r.id}/${b.id}/${f.name}`, value: f.value })))),
  );
  const value = (at: typeof text) => fields.find((f: { place: string }) => f.place === `${at.row}/${at.piece}/${at.field}`).value;
  expect(value(text).text.paragraphs[0].runs.map((r: { variable?: string; text: string }) => r.variable ?? r.text)).toEqual([
    "Please do Ring ",
    words.variable.key,
    " today",
  ]);
  expect(value(button).href).toBe(`{${link.variable.key}}`);
});

test("of two conflicts at once both are kept, closed and opened again, until each is chosen", async ({ browser }) => {
  const page = await signIn(browser, "imran");
  await startEmail(page, "Special train", "Two at once");
  const id = page.url().split("/").at(-1);
  await kept(page);
  const say = (field: string, value: string) => ({ kind: "set-detail", field, value });
  const bea = await signIn(browser, "bea");
  const theirs = [say("subject", "Hers"), say("preheader", "Hers too")].map((edit) => ({
    id: crypto.randomUUID(),
    step: crypto.randomUUID(),
    edit,
  }));
  // His window does not hear of hers before he writes.
  await page.route("**/desk*", (route) => route.abort());
  const release = await slowLine(page);
  await row(page, /^Subject and sender/).click();
  await page.getByRole("textbox", { name: "Subject" }).fill("His");
  await page.getByLabel("Preheader").fill("His too");
  expect((await bea.request.post(`/api/emails/${id}/edits`, { data: { base: 0, edits: theirs } })).ok()).toBe(true);
  await page.unroute("**/desk*");
  release();

  const dialog = page.getByRole("dialog");
  await expect(dialog.getByText("1 of 2")).toBeVisible();
  await expect(dialog).toContainText("Hers");
  await page.keyboard.press("Escape");
  await expect(dialog).toHaveCount(0);
  await expect(page.getByText("2 places were changed by two at once.")).toBeVisible();
  await page.reload();
  await expect(dialog.getByText("1 of 2")).toBeVisible();
  await dialog.getByRole("button", { name: "Use yours" }).click();
  await expect(dialog).toContainText("Hers too");
  await dialog.getByRole("button", { name: "Keep theirs" }).click();
  await expect(dialog).toHaveCount(0);
  await kept(page);
  const {
    head: { details },
  } = await desk(page);
  expect([details.subject, details.preheader]).toEqual(["His", "Hers too"]);
});

test("a step that cannot be taken back is passed over", async ({ browser }) => {
  const page = await signIn(browser, "imran");
  await startEmail(page, "Special train", "Passed over");
  const id = page.url().split("/").at(-1);
  await page.getByLabel("Preheader").fill("Before");
  await kept(page);
  await page.getByRole("textbox", { name: "Subject" }).fill("His");
  await kept(page);
  const bea = await signIn(browser, "bea");
  const { revision } = await desk(page);
  const edit = { id: crypto.randomUUID(), step: crypto.randomUUID(), edit: { kind: "set-detail", field: "subject", value: "Hers" } };
  expect((await bea.request.post(`/api/emails/${id}/edits`, { data: { base: revision, edits: [edit] } })).ok()).toBe(true);
  await expect(page.getByRole("textbox", { name: "Subject" })).toHaveValue("Hers");
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByText("Someone else has changed this since")).toBeVisible();
  await page.getByRole("button", { name: "Skip it and undo what was before" }).click();
  await expect(page.getByLabel("Preheader")).not.toHaveValue("Before");
  await expect(page.getByRole("textbox", { name: "Subject" })).toHaveValue("Hers");
});

test("what is exported waits for what was typed, and an ended session is said", async ({ browser }) => {
  const page = await signIn(browser, "imran");
  await page.context().grantPermissions(["clipboard-read", "clipboard-write"]);
  await startEmail(page, "Special train", "Exported");
  await kept(page);
  const release = await slowLine(page);
  await row(page, /Hero/).click();
  await page.getByRole("textbox", { name: "Headline" }).fill("Typed a moment ago");
  await page.getByRole("button", { name: "Export" }).click();
  await page.getByRole("menuitem", { name: /^Copy the HTML/ }).click();
  await expect(page.getByRole("button", { name: "Copied" })).toHaveCount(0);
  release();
  await expect(page.getByRole("button", { name: "Copied" })).toBeVisible();
  expect(await page.evaluate(() => navigator.clipboard.readText())).toContain("Typed a moment ago");

  await page.getByRole("button", { name: /Copied|Export/ }).click();
  const download = page.waitForEvent("download");
  await page.getByRole("menuitem", { name: /^Message \(.eml\)/ }).click();
  expect((await download).suggestedFilename()).toBe("Exported (draft).eml");

  await expect(page.getByRole("button", { name: "Export" })).toBeVisible();
  await page.context().clearCookies();
  await page.getByRole("button", { name: "Export" }).click();
  await page.getByRole("menuitem", { name: "Copy the plain text" }).click();
  await expect(page.getByRole("status").filter({ hasText: /sign/i })).toBeVisible();
  await expect(page.getByRole("button", { name: "Copied" })).toHaveCount(0);
  expect(await page.evaluate(() => navigator.clipboard.readText())).toContain("Typed a moment ago");
});

test("keys in a dialog, on a button beside the rows and in another's view change nothing under them", async ({ browser }) => {
  const page = await signIn(browser, "dana");
  await startEmail(page, "Special train", "Keys");
  await page.getByRole("textbox", { name: "Subject" }).fill("Stays");
  await kept(page);
  const rows = await namesInOrder(page);

  // In a dialog.
  await order(page).getByRole("button", { name: "Add a row" }).first().click();
  await expect(page.getByRole("dialog")).toBeVisible();
  await page.keyboard.press("Control+z");
  await page.keyboard.press("Escape");
  await expect(page.getByRole("dialog")).toHaveCount(0);
  await expect(page.getByRole("textbox", { name: "Subject" })).toHaveValue("Stays");

  // On "Add a row", with a row chosen.
  const zone = page.getByRole("region", { name: "Stops" });
  await row(page, new RegExp(rows.at(-2) ?? "")).click();
  await zone.getByRole("button", { name: "Add a row" }).focus();
  await page.keyboard.press("Delete");
  await page.keyboard.press("Control+d");
  expect(await namesInOrder(page)).toEqual(rows);
  await kept(page);
  expect((await desk(page)).revision).toBe(1);

  // As an author sees it.
  const template = (await desk(page)).email.template.id;
  await page.goto(`/templates/${template}`);
  await row(page, /About this template/).click();
  await page.getByLabel("What it is for").fill("For the days when one runs.");
  await kept(page);
  await page.getByRole("button", { name: "See it as an author" }).click();
  await expect(page.getByRole("button", { name: "Back to my desk" })).toBeVisible();
  await page.keyboard.press("Control+z");
  await page.getByRole("button", { name: "Back to my desk" }).click();
  await expect(page.getByLabel("What it is for")).toHaveValue("For the days when one runs.");
});

test("an address that was cut short opens the desk, and the blank between two sites can be typed", async ({ browser }) => {
  const page = await signIn(browser, "dana");
  const id = crypto.randomUUID();
  expect((await page.request.post("/api/rows", { data: { id, name: "Limited", rowKind: "main" } })).ok()).toBe(true);
  await page.goto(`/rows/${id}#%E0%A4%A`);
  await expect(order(page)).toBeVisible();
  await row(page, /^Limited/).click();
  await putBlock(page, sheet(page).getByRole("button", { name: "Add a block" }), "Button");
  await kept(page);
  await tab(page, "Rules");
  await sheet(page)
    .getByRole("group", { name: "Rules for" })
    .getByLabel(/Button/)
    .check();
  await sheet(page)
    .getByRole("group", { name: "Rules for" })
    .getByLabel(/The row/)
    .uncheck();
  const sites = sheet(page).getByLabel("sites it may lead to");
  // A name half written stays, however long it stands there, and is said to be one when it is left.
  await type(sites, "larkfell");
  await sites.blur();
  await kept(page);
  await expect(sheet(page).getByRole("alert")).toContainText("not the name of a site yet");
  await expect(sites).toHaveValue("larkfell");
  await sites.clear();
  await type(sites, "larkfell.example.org example.org");
  await kept(page);
  await expect(sites).toHaveValue("larkfell.example.org example.org");
});

test("a row is dropped at the end of a full zone, and a file dropped on a row is not opened", async ({ browser }) => {
  const page = await signIn(browser, "imran");
  // All of the order is seen: near its edge it would scroll under the hand.
  await page.setViewportSize({ width: 1280, height: 1200 });
  await startEmail(page, "Special train", "Dropped");
  const zone = page.getByRole("region", { name: "Stops" });
  const full = zone.getByText(/is full/);
  while ((await full.count()) === 0) {
    const count = (await namesInOrder(page)).length;
    await zone.getByRole("button", { name: "Add a row" }).click();
    await page
      .getByRole("dialog")
      .getByRole("button", { name: /Story, words only/ })
      .first()
      .click();
    await expect.poll(async () => (await namesInOrder(page)).length).toBe(count + 1);
  }
  const inZone = () => zone.locator("button[id^=order-]").evaluateAll((all) => all.map((b) => b.id));
  const before = await inZone();
  await carry(page, zone.locator("button[id^=order-]").first(), full);
  await expect.poll(inZone).toEqual([...before.slice(1), before[0]]);

  const address = page.url();
  await row(page, /Hero/).evaluate((target) => {
    const data = new DataTransfer();
    data.items.add(new File(["x"], "x.html", { type: "text/html" }));
    for (const name of ["dragover", "drop"]) {
      const event = new DragEvent(name, { bubbles: true, cancelable: true, dataTransfer: data });
      target.dispatchEvent(event);
      if (!event.defaultPrevented) throw new Error(`The browser would do its own at ${name}.`);
    }
  });
  expect(page.url()).toBe(address);
});

test("a picture whose dialog was closed while it was sent is not put in", async ({ browser }) => {
  const page = await signIn(browser, "imran");
  await startEmail(page, "Special train", "Closed early");
  await row(page, /Hero/).click();
  let go: () => void = () => undefined;
  const held = new Promise<void>((resolve) => {
    go = resolve;
  });
  await page.route("**/api/pictures", async (route) => {
    if (route.request().method() === "POST") await held;
    await route.continue();
  });
  const png = await page.evaluate(() => {
    const canvas = Object.assign(document.createElement("canvas"), { width: 1300, height: 700 });
    return canvas.toDataURL("image/png").split(",")[1] ?? "";
  });
  await page
    .getByRole("button", { name: /Choose (a picture|another)/ })
    .first()
    .click();
  const dialog = page.getByRole("dialog");
  const sent = page.waitForRequest((r) => r.url().endsWith("/api/pictures") && r.method() === "POST");
  await dialog
    .getByLabel("Picture file")
    .setInputFiles({ name: "Too late.png", mimeType: "image/png", buffer: Buffer.from(png, "base64") });
  await sent;
  await dialog.getByRole("button", { name: "Close" }).click();
  await expect(dialog).toHaveCount(0);
  const answered = page.waitForResponse((r) => r.url().endsWith("/api/pictures") && r.request().method() === "POST");
  go();
  expect((await answered).ok()).toBe(true);
  await expect.poll(async () => JSON.stringify(await (await page.request.get("/api/pictures?q=late")).json())).toContain("Too late");
  expect((await desk(page)).revision).toBe(0);
});

test("after a server was away for minutes news come again", async ({ browser }) => {
  const connection = process.env.GOLDEN_RULE_CONNECTION ?? "";
  const at = await freePort();
  await openServer(at, connection);
  const page = await signIn(browser, "imran", "/", `http://127.0.0.1:${at}`);
  await page.clock.install();
  await startEmail(page, "Special train", "Away for minutes");
  const id = page.url().split("/").at(-1);
  await page.clock.runFor(2_000);
  await expect(page.getByRole("textbox", { name: "Subject" })).toBeVisible();
  await closeServer(at);
  // Three minutes of trying.
  for (let i = 0; i < 12; i++) {
    await page.clock.runFor(15_000);
    await page.waitForLoadState();
  }
  await openServer(at, connection);
  const bea = await signIn(browser, "bea");
  const edit = { id: crypto.randomUUID(), step: crypto.randomUUID(), edit: { kind: "set-detail", field: "subject", value: "News" } };
  await expect(async () => {
    await page.clock.runFor(15_000);
    const { revision } = await (await bea.request.get(`/api/emails/${id}/desk`)).json();
    const again = { ...edit, id: crypto.randomUUID() };
    expect((await bea.request.post(`/api/emails/${id}/edits`, { data: { base: revision, edits: [again] } })).ok()).toBe(true);
    await expect(page.getByRole("textbox", { name: "Subject" })).toHaveValue("News", { timeout: 2_000 });
  }).toPass();
  await closeServer(at);
});
