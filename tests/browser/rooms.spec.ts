import { expect, type Page } from "@playwright/test";
import { carry, kept, namesInOrder, openEmail, order, proof, row, signIn, startEmail, test } from "./support";

test("signing in and out", async ({ page }) => {
  await page.goto("/emails");
  await page.getByLabel("Email address").fill("imran@larkfell.example.org");
  await page.locator("input[type=password]").fill("not the password");
  await page.getByRole("button", { name: "Sign in" }).click();
  await expect(page.getByText("The email address or the password is not right.")).toBeVisible();
  await page.locator("input[type=password]").fill("steam-and-cinders");
  await page.keyboard.press("Enter");
  // Signed in, one is where one wanted to go.
  await expect(page.getByRole("heading", { name: "Emails" })).toBeVisible();
  await page.getByRole("button", { name: /Imran Sayle/ }).click();
  await page.getByRole("menuitem", { name: "Sign out", exact: true }).click();
  await expect(page.getByRole("button", { name: "Sign in" })).toBeVisible();
  await page.goto("/emails");
  await expect(page.getByRole("button", { name: "Sign in" })).toBeVisible();
});

test("the other rooms are fetched ahead, but not for whoever saves data", async ({ browser }) => {
  const saving = await signIn(browser, "bea");
  const asked: string[] = [];
  saving.on("request", (request) => asked.push(request.url()));
  const usual = await browser.newContext({ baseURL: process.env.GOLDEN_RULE_URL, storageState: await saving.context().storageState() });
  const page = await usual.newPage();
  const last = page.waitForRequest(/SendingRoom-/);
  await page.goto("/");
  await last;
  expect(asked.filter((address) => /Room-/.test(address))).toEqual([]);
  await saving.getByRole("link", { name: "Snippets", exact: true }).click();
  await expect(saving).toHaveTitle(/Snippets/);
});

test("templates by campaign type, with what they look like, and what to do where there is none", async ({ browser }) => {
  const page = await signIn(browser, "bea", "/templates");
  await page.getByRole("button", { name: /Special train/ }).click();
  await expect(page.getByRole("article")).toHaveCount(1);
  // Drawn once, with the picture that the template shows: neither white nor of one colour where it is.
  const thumbnail = page.getByRole("img", { name: "Special train, as it looks" });
  await expect(thumbnail).toHaveJSProperty("complete", true);
  const colours = await thumbnail.evaluate((img: HTMLImageElement) => {
    const canvas = document.createElement("canvas");
    [canvas.width, canvas.height] = [img.naturalWidth, img.naturalHeight];
    const drawn = canvas.getContext("2d") as CanvasRenderingContext2D;
    drawn.drawImage(img, 0, 0);
    // A column of pixels through the header and the picture.
    const pixels = drawn.getImageData(canvas.width / 2, 0, 1, canvas.height / 2).data;
    return new Set(Array.from({ length: pixels.length / 4 }, (_, i) => pixels.slice(i * 4, i * 4 + 3).join())).size;
  });
  expect(colours).toBeGreaterThan(20);
  // Of a campaign type whose only template is retired it is said what to do.
  const lead = await signIn(browser, "ruth");
  const { templates } = await (await lead.request.get("/api/templates?campaignType=timetable-notice")).json();
  const status = (retired: boolean) => lead.request.put(`/api/templates/${templates[0].id}/status`, { data: { retired } });
  expect((await status(true)).ok()).toBe(true);
  await page.getByRole("button", { name: /Timetable notice/ }).click();
  await expect(page.getByText("Timetable notice has no template yet. A lead or a designer makes one.")).toBeVisible();
  expect((await status(false)).ok()).toBe(true);

  const reviewer = await signIn(browser, "jonas", "/templates");
  await expect(reviewer.getByRole("article").first()).toBeVisible();
  await expect(reviewer.getByRole("button", { name: "Start an email" })).toHaveCount(0);
  await openEmail(reviewer, "Winter steam gala");
  await row(reviewer, /Hero/).click();
  await expect(reviewer.getByRole("complementary").getByRole("textbox")).toHaveCount(0);
  await expect(order(reviewer).getByRole("button", { name: "Add a row" })).toHaveCount(0);
});

test("a picture is uploaded and one that is none is refused beside the button", async ({ browser }) => {
  const page = await signIn(browser, "imran");
  await startEmail(page, "Shop offer", "Pictures");
  await row(page, /Hero/).click();
  await page.getByRole("button", { name: "Choose another" }).click();
  const dialog = page.getByRole("dialog", { name: "Pictures" });
  await dialog
    .getByLabel("Picture file")
    .setInputFiles({ name: "engine.png", mimeType: "image/png", buffer: Buffer.from("not a picture") });
  await expect(dialog.getByRole("alert")).toContainText("is no picture");
  const drawn = await page.evaluate(() => {
    const canvas = Object.assign(document.createElement("canvas"), { width: 1600, height: 900 });
    canvas.getContext("2d")?.fillRect(0, 0, 800, 900);
    return canvas.toDataURL("image/png").split(",")[1] ?? "";
  });
  await dialog.getByLabel("Picture file").setInputFiles({ name: "half.png", mimeType: "image/png", buffer: Buffer.from(drawn, "base64") });
  await expect(dialog).toHaveCount(0);
  await expect(page.getByText("1280 × 720", { exact: false })).toBeVisible();
  const shown = proof(page, "Desktop").locator("[data-row=hero] img");
  await expect.poll(() => shown.evaluate((img: HTMLImageElement) => img.naturalWidth)).toBe(1280);
  // Picture and alt text came in one step and go in one.
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByText("Shop shelf")).toBeVisible();
});

test("rows are dragged by mouse, looks chosen, findings mended in one step, links set", async ({ browser }) => {
  const page = await signIn(browser, "bea", "/emails");
  await openEmail(page, "Spring on the shop shelf");
  await expect(page.getByText("approved, from Shop offer 1")).toBeVisible();
  await carry(page, row(page, /^Offer/).last(), row(page, /^Offer/).first());
  await expect(proof(page, "Desktop").locator("[data-row]").nth(2)).toContainText("A year of the line");
  // What was approved is a draft again.
  await expect(page.getByText("draft, from Shop offer 1")).toBeVisible();

  await row(page, /^Offer/)
    .first()
    .click();
  await page.getByRole("tab", { name: "Look" }).click();
  await page.getByRole("radio", { name: "Secondary" }).click();
  await expect(proof(page, "Phone").locator("[data-row]").nth(2).locator("a.bs")).toBeVisible();
  await page.getByRole("tab", { name: "Copy" }).click();

  await page.getByRole("textbox", { name: "Alt text" }).fill("");
  await expect(page.getByText("Readers with pictures off get nothing here.")).toBeVisible();
  await page.getByRole("button", { name: "Mark as decorative" }).click();
  await expect(page.getByRole("checkbox", { name: /Decorative/ })).toBeChecked();
  await expect(page.getByText("Readers with pictures off get nothing here.")).toHaveCount(0);

  const text = page.getByRole("textbox", { name: "Text", exact: true });
  await text.click();
  await page.keyboard.press("Control+a");
  await page.getByRole("toolbar", { name: /^Text/ }).getByRole("button", { name: "Link" }).click();
  await page.getByLabel("Leads to").fill("https://larkfell.example.org/calendar");
  await page.getByRole("button", { name: "Set the link" }).click();
  await expect(proof(page, "Desktop").locator('a[href="https://larkfell.example.org/calendar"]')).toBeVisible();
  await text.click();
  await page.keyboard.press("End");
  await page.getByRole("toolbar", { name: /^Text/ }).getByRole("button", { name: "Bulleted list" }).click();
  await expect(proof(page, "Desktop").locator("[data-row]").nth(2).locator("li")).toBeVisible();
  await kept(page);
});

test("one refused edit among several waiting takes only itself back", async ({ browser }) => {
  const page = await signIn(browser, "imran");
  await startEmail(page, "Volunteer call", "Waiting edits");
  await row(page, /Hero/).click();
  await kept(page);
  await page.context().setOffline(true);
  await page.getByRole("textbox", { name: "Headline" }).fill("Written offline");
  await expect(page.getByText("Offline.")).toBeVisible();
  await order(page).getByRole("region", { name: "What wants doing" }).getByRole("option", { name: /Call/ }).click();
  // The zone needs one row. The other one is removed by someone else meanwhile, so this move comes too late.
  await page.getByRole("textbox", { name: "Headline" }).fill("Also offline");
  const id = page.url().split("/").at(-1) ?? "";
  const other = await signIn(browser, "bea");
  const desk = await other.request.get(`/api/emails/${id}/desk`).then((r) => r.json());
  const zone = desk.order.items.find((i: { zone?: { id: string } }) => i.zone?.id === "calls").zone;
  const edit = (e: object) => ({ id: crypto.randomUUID(), step: crypto.randomUUID(), edit: e });
  const answer = await other.request.post(`/api/emails/${id}/edits`, {
    data: {
      base: desk.revision,
      edits: [edit({ kind: "duplicate-row", row: zone.rows[0], copy: "another" }), edit({ kind: "remove-row", row: zone.rows[0] })],
    },
  });
  expect(answer.ok()).toBe(true);
  await page.context().setOffline(false);
  await expect(proof(page, "Desktop").locator("h1")).toHaveText("Written offline");
  await expect(page.getByRole("status").filter({ hasText: "not in the email" })).toBeVisible();
  await kept(page);
});

const nothingRunsOff = async (page: Page) =>
  expect(await page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth)).toBeLessThanOrEqual(0);

for (const [width, height] of [
  [1024, 768],
  [1280, 800],
  [1920, 1080],
] as const) {
  test(`everything fits at ${width} by ${height}`, async ({ browser }) => {
    const page = await signIn(browser, "ruth");
    await page.setViewportSize({ width, height });
    for (const address of ["/templates", "/emails", "/house-style"]) {
      await page.goto(address);
      await expect(page.getByRole("heading").first()).toBeVisible();
      await nothingRunsOff(page);
    }
    await openEmail(page, "March: the viaduct reopens");
    await nothingRunsOff(page);
    const tall = () => page.evaluate(() => document.documentElement.scrollHeight);
    expect(await tall()).toBe(height);
    // The longest of the sheets, with findings beside its fields, and the list of all.
    await row(page, /Viaduct/).click();
    await page.getByRole("button", { name: "Whole email" }).click();
    expect(await tall()).toBe(height);
    await page.getByRole("tab", { name: /Findings/ }).click();
    expect(await tall()).toBe(height);
    expect((await namesInOrder(page)).length).toBeGreaterThan(7);
    for (const which of ["Desktop", "Phone"]) {
      const box = await page.locator(`iframe[title="${which} proof"]`).boundingBox();
      const table = await page.getByRole("main", { name: "Proofs" }).boundingBox();
      if (width >= 1280) {
        expect((box?.x ?? 0) + (box?.width ?? 0)).toBeLessThanOrEqual((table?.x ?? 0) + (table?.width ?? 0) + 1);
      }
    }
    await expect(page.getByRole("button", { name: "Export" })).toBeInViewport();
  });
}
