import { expect, type Page } from "@playwright/test";
import { carry, expectNoViolations, kept, moveHeld, namesInOrder, openEmail, order, proof, row, signIn, startEmail, test } from "./support";

const sheet = (page: Page) => page.getByRole("complementary", { name: "Copy sheet" });

test("anything is gone to by typing its name; what was opened last comes first", async ({ browser }) => {
  const page = await signIn(browser, "ruth", "/emails");
  await openEmail(page, "March: the viaduct reopens");
  await page.goto("/templates");
  await expect(page.getByRole("navigation", { name: "Rooms" })).toBeVisible();
  await page.keyboard.press("Control+k");
  const go = page.getByRole("dialog", { name: "Go to" });
  await expect(go.getByRole("option").first()).toContainText("March: the viaduct reopens");
  await go.getByRole("searchbox").fill("two fac");
  await expect(go.getByRole("option", { name: /Two facts/ })).toBeVisible();
  await expectNoViolations(page);
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { level: 1, name: "Two facts" })).toBeVisible();
  // From a desk, and to a variable of the brand.
  await page.keyboard.press("Control+k");
  await go.getByRole("searchbox").fill("buffer");
  await go.getByRole("option", { name: /Buffer red/ }).click();
  await expect(page.getByRole("button", { name: /^Buffer red/ })).toHaveAttribute("aria-expanded", "true");
  await page.keyboard.press("Control+k");
  await go.getByRole("searchbox").fill("nothing is called so");
  await expect(go.getByText("Nothing is called that.")).toBeVisible();
});

test("blocks are put in at a mark in the proofs, by typing, by a click and by a hand", async ({ browser }) => {
  const page = await signIn(browser, "dana", "/rows?new=yes");
  // A name is offered, chosen so that writing replaces it.
  await expect(page.getByLabel("Name")).toHaveValue("New main row");
  await page.getByRole("button", { name: "Create", exact: true }).click();
  await expect(proof(page, "Desktop").getByText("Add a block")).toBeVisible();
  await expect(sheet(page).getByRole("region", { name: "First steps with a row" })).toBeVisible();

  // The keys work at once: the row is what the work begins with.
  await page.keyboard.press("/");
  const slip = page.getByRole("dialog", { name: /^Add a block/ });
  await expect(proof(page, "Phone").getByText("put it here")).toBeVisible();
  await expect(slip.getByLabel("Find a block")).toBeFocused();
  await expect(slip.getByRole("option", { name: /^Heading/ })).toBeVisible();
  await page.keyboard.type("butt");
  await page.keyboard.press("Enter");
  const pieces = proof(page, "Desktop").locator("[data-piece]");
  await expect(pieces).toHaveCount(1);
  // It stays open for the next, and the mark is moved by the keyboard or with a press in a proof.
  await page.keyboard.press("Alt+ArrowUp");
  await page.keyboard.type("head");
  await page.keyboard.press("Enter");
  await expect(sheet(page).locator("legend")).toHaveText(["Heading", "Button"]);
  await pieces.last().click();
  await slip.getByLabel("Find a block").fill("quote");
  await carry(page, slip.getByRole("option", { name: /^Quote/ }), page.locator("iframe[title='Phone proof']"));
  await expect(sheet(page).locator("legend")).toHaveCount(3);
  await page.keyboard.press("Escape");
  await expect(slip).toHaveCount(0);
  await expect(page.getByText("3 for authors to fill")).toBeVisible();

  // What does not fit says so and is not put in.
  await page.getByRole("tab", { name: "Look" }).click();
  await page.getByRole("button", { name: "Quarters" }).click();
  await page.getByRole("tab", { name: "Copy" }).click();
  await sheet(page).getByRole("region", { name: "Column 4" }).getByRole("button", { name: "Add a block" }).click();
  await slip.getByLabel("Find a block").fill("video");
  await expect(slip.getByRole("option", { name: /^Video/ })).toContainText(/needs \d+ px/);
  await page.keyboard.press("Enter");
  await expect(page.getByRole("status").filter({ hasText: "fits" })).toBeVisible();
  await slip.getByRole("button", { name: "Close" }).click();
  await kept(page);

  // A block is carried from one column to another by the keyboard alone.
  const handle = sheet(page).getByRole("button", { name: "Drag Quote" });
  await handle.focus();
  await page.keyboard.press("Space");
  await expect(page.locator("[id^=DndLiveRegion]")).toContainText("Quote");
  for (let tries = 0; tries < 12; tries++) {
    if ((await page.locator("[id^=DndLiveRegion]").textContent())?.includes("fits")) break;
    await page.keyboard.press("ArrowDown");
  }
  await page.keyboard.press("Escape");
  await expect(page.locator("[id^=DndLiveRegion]")).toContainText("stays where it was");
});

test("a row is carried by keys, and a place that does not take it says why before it is put down", async ({ browser }) => {
  const page = await signIn(browser, "imran", "/emails");
  await openEmail(page, "March: the viaduct reopens");
  const before = await namesInOrder(page);
  await row(page, /^Boiler appeal/).focus();
  await page.keyboard.press("Space");
  const told = page.locator("[id^=DndLiveRegion]");
  await expect(told).toContainText("Boiler appeal");
  await page.keyboard.press("ArrowUp");
  await expect(told).toContainText("before Viaduct");
  await page.keyboard.press("Space");
  const [first, second] = [before.indexOf("Viaduct"), before.indexOf("Boiler appeal")];
  expect(second).toBe(first + 1);
  await expect.poll(() => namesInOrder(page)).toEqual([...before.slice(0, first), "Boiler appeal", "Viaduct", ...before.slice(second + 1)]);

  // The advert does not go among the stories: said while it is held there, and not done.
  const advert = row(page, /^Tearoom/);
  await advert.hover();
  await page.mouse.down();
  const to = await row(page, /^Viaduct/).boundingBox();
  if (!to) throw new Error("It has to be there.");
  await moveHeld(page, [to.x + 60, to.y + 60], [to.x + 60, to.y + 20]);
  await expect(page.getByText(/does not take "Tearoom"/).first()).toBeVisible();
  await page.mouse.up();
  await expect(page.getByRole("status").filter({ hasText: "does not take" })).toBeVisible();
  expect((await namesInOrder(page)).at(-3)).toBe("Tearoom");
});

test("a picture of the library is carried onto one in the proof, with its alt text", async ({ browser }) => {
  const page = await signIn(browser, "imran");
  await startEmail(page, "Special train", "Carried pictures");
  await page.getByRole("button", { name: "Picture library" }).click();
  const strip = page.getByRole("region", { name: "Pictures of the library" });
  const listed = strip.getByRole("listitem");
  await expect(listed.first()).toBeVisible();
  const before = await listed.count();
  await strip.getByLabel("Search pictures").fill("viaduct");
  // What is carried has to be where it stays: the list is another once it is found.
  await expect.poll(() => listed.count()).toBeLessThan(before);
  const shown = proof(page, "Desktop").locator("img").nth(1);
  await expect(shown).toHaveAttribute("alt", /lanterns/);
  await carry(page, strip.getByRole("button", { name: /Viaduct/ }), shown);
  await expect(shown).toHaveAttribute("alt", /viaduct/);
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(shown).toHaveAttribute("alt", /lanterns/);
});

test("what cannot load says so and is asked for again; an unknown address says that there is nothing", async ({ browser }) => {
  const page = await signIn(browser, "bea");
  await page.route("**/api/rows?*", (route) => route.fulfill({ status: 500, body: "{}" }));
  await page.getByRole("link", { name: "Rows", exact: true }).click();
  await expect(page.getByRole("alert").filter({ hasText: "The rows could not load" })).toBeVisible();
  await page.unrouteAll({ behavior: "wait" });
  await page.getByRole("button", { name: "Try again" }).click();
  await expect(page.getByRole("heading", { name: "Two facts" })).toBeVisible();
  // A room whose part cannot be had, as after an update or out of reach.
  await page.route("**/assets/SnippetsRoom-*.js", (route) => route.abort());
  await page.reload();
  await page.getByRole("link", { name: "Snippets", exact: true }).click();
  await expect(page.getByRole("alert").filter({ hasText: "This part could not be fetched" })).toBeVisible();
  await expect(page.getByRole("heading", { name: "Two facts" })).toHaveCount(0);
  await page.unrouteAll({ behavior: "wait" });
  await expect(page.getByRole("heading", { name: "Snippets" })).toBeVisible();
  await page.goto("/gazettes/of/nowhere");
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("There is nothing at this address");
  await page.getByRole("link", { name: "Emails" }).last().click();
  await expect(page).toHaveTitle("Emails · Golden Rule");
  await expect(page.locator("main")).toBeFocused();
});

test("what our words mean is read in the rooms and on the desk", async ({ browser }) => {
  const page = await signIn(browser, "bea");
  await page.getByRole("button", { name: /^Bea Thornley/ }).click();
  await page.getByRole("menuitem", { name: "What our words mean" }).click();
  const dialog = page.getByRole("dialog", { name: "What our words mean" });
  await expect(dialog.getByText("a place in a template where authors put rows", { exact: false })).toBeVisible();
  await expectNoViolations(page);
  await page.keyboard.press("Escape");
  await openEmail(page, "March: the viaduct reopens");
  await row(page, /^Hero/).focus();
  await page.keyboard.press("?");
  await page.getByRole("button", { name: "What our words mean" }).click();
  await expect(dialog.getByText("the list of rows, in the order they are read")).toBeVisible();
});

const rooms = [
  "/home",
  "/house-style",
  "/plan/coverage",
  "/plan/campaign-types",
  "/plan/row-kinds",
  "/plan/teams",
  "/people",
  "/people/log",
  "/sending/returns",
  "/sending/destinations",
  "/sending/webhooks",
  "/sending/tokens",
  "/account",
  "/rows",
  "/templates",
  "/emails",
  "/start",
  "/pictures",
  "/snippets",
  "/readers/audiences",
];

test("every screen has one heading of the first level, one main part and a title of its own", async ({ browser }) => {
  const page = await signIn(browser, "ruth");
  const titles = new Set<string>();
  const addresses = [...rooms, "/checks/severities", "/checks/clients"];
  for (const address of addresses) {
    await page.goto(address);
    await expect(page.getByRole("heading", { level: 1 })).toHaveCount(1);
    await expect(page.getByRole("main")).toHaveCount(1);
    titles.add(await page.title());
  }
  await openEmail(page, "Winter steam gala");
  await expect(page.getByRole("heading", { level: 1 })).toHaveCount(1);
  await expect(page.getByRole("main")).toHaveCount(1);
  titles.add(await page.title());
  expect(titles.size).toBe(addresses.length + 1);
});

test("on a phone nothing lies over anything, and the desk is one part at a time", async ({ browser }) => {
  const page = await signIn(browser, "ruth");
  await page.setViewportSize({ width: 390, height: 844 });
  for (const address of [...rooms, "/readers/fields", "/readers/profiles", "/checks/audit"]) {
    await page.goto(address);
    await expect(page.getByRole("heading", { level: 1 })).toBeVisible();
    const wide = await page.evaluate(() => document.documentElement.scrollWidth);
    expect(wide, address).toBeLessThanOrEqual(390);
    // A table moves by itself rather than press its fields together. Where several things are chosen, each is read before what is typed.
    const pressed = await page.getByRole("main").evaluate((main) =>
      Array.from(main.querySelectorAll<HTMLElement>("select, input:not([type=checkbox], [type=radio], [type=file], [type=hidden])"))
        .filter((field) => field.checkVisibility() && !field.closest("[class*=Pills]") && field.clientWidth < 56)
        .map((field) => `${field.getAttribute("aria-label") ?? field.id}: ${field.clientWidth}`),
    );
    expect(pressed, address).toEqual([]);
  }
  await page.goto("/emails");
  await page.getByRole("link", { name: "March: the viaduct reopens" }).click();
  const parts = page.getByRole("navigation", { name: "Parts of the desk" });
  await parts.getByRole("button", { name: "Running order" }).click();
  await row(page, /^Hero/).click();
  await expect(page.getByRole("main", { name: "Proofs" })).toBeHidden();
  await parts.getByRole("button", { name: "Copy" }).click();
  await expect(sheet(page).getByLabel("Headline")).toBeVisible();
  await expect(order(page)).toBeHidden();
  await parts.getByRole("button", { name: "Proofs" }).click();
  await proof(page, "Phone").getByRole("heading").first().click();
  await expect(sheet(page)).toBeVisible();
  await expectNoViolations(page);
});

test("days are typed and shown as people here write them", async ({ browser }) => {
  const page = await signIn(browser, "imran");
  await startEmail(page, "Special train", "Its day");
  const day = page.getByLabel("Goes out on");
  for (const [typed, shown] of [
    ["5/12/2026", "5 Dec 2026"],
    ["2027-01-09", "9 Jan 2027"],
    ["24 December 2026", "24 Dec 2026"],
  ] as const) {
    await day.fill(typed);
    await day.press("Tab");
    await expect(day).toHaveValue(shown);
  }
  await kept(page);
  const id = page.url().split("/").at(-1);
  await expect.poll(async () => (await (await page.request.get(`/api/emails/${id}/desk`)).json()).head.details.sendDay).toBe("2026-12-24");
  await expect(page.getByText(/^\d+ of \d+ filled$/)).toBeVisible();
});

test("a style that is open is marked in the specimen, and a press there opens what it is styled by", async ({ browser }) => {
  const page = await signIn(browser, "ruth", "/house-style");
  const specimen = page.frameLocator("iframe[title=Specimen]");
  await page.getByRole("button", { name: /^Accent/ }).click();
  await expect(specimen.locator("[data-piece]").filter({ hasText: "Choose your seat" })).toHaveCSS("outline-style", "dashed");
  await specimen.getByRole("heading", { name: "Members ride first" }).first().click();
  await expect(page.getByRole("button", { name: /^Heading 2/, expanded: true })).toHaveCount(1);
});
