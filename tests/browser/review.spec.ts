import { readFile } from "node:fs/promises";
import { expect, type Page } from "@playwright/test";
import ICAL from "ical.js";
import { expectNoViolations, signIn, test } from "./support";

const gala = (page: Page) => page.request.get("/api/emails?q=gala").then(async (answer) => (await answer.json()).emails[0].id as string);
const proof = (page: Page) => page.frameLocator('iframe[title="Now, as it is now"]');

/** A small change of a colour, released: nobody touches an email, and every email is another. */
async function restyle(page: Page, value: string) {
  const [house] = await (await page.request.get("/api/house-styles")).json();
  const style = await (await page.request.get(`/api/house-styles/${house.id}`)).json();
  const variable = style.variables.find((v: { variable: { key: string } }) => v.variable.key === "buffer-red").variable;
  const id = (n: string) => `0199a0b0-0000-7000-8000-${value.slice(1)}${n.padStart(6, "0")}`;
  const sent = await page.request.post(`/api/house-styles/${house.id}/edits`, {
    data: {
      base: style.revision,
      edits: [{ id: id("1"), step: id("2"), edit: { kind: "set-variable", variable: { ...variable, value } } }],
    },
  });
  expect(sent.ok(), await sent.text()).toBe(true);
  expect((await page.request.post(`/api/house-styles/${house.id}/releases`, { data: { note: "A little darker" } })).ok()).toBe(true);
}

test("five people: asked, commented, mended, approved by both, overtaken by the house style, asked again and approved", async ({
  browser,
}) => {
  const [author, colleague, legal, lead, designer] = (await Promise.all(
    ["imran", "bea", "jonas", "ruth", "dana"].map((who) => signIn(browser, who)),
  )) as [Page, Page, Page, Page, Page];
  const id = await gala(author);

  // Home leads legal and the lead to what waits for them; the author sees whom it waits for.
  await legal.goto("/home");
  await legal.getByRole("link", { name: "Look and decide Winter steam gala" }).click();
  await author.goto("/home");
  await expect(author.getByText(/Winter steam gala with Legal, Lead for approval/)).toBeVisible();
  await expect(colleague.getByText("Winter steam gala with")).toBeHidden();

  // Legal comments on one word, and asks for changes.
  await expect(legal.getByRole("heading", { name: "Winter steam gala" })).toBeVisible();
  await proof(legal)
    .getByText("Children £9")
    .dblclick({ position: { x: 20, y: 6 } });
  await legal.getByRole("textbox", { name: "Comment on it" }).fill("Which price holds, @Im");
  await legal.getByRole("button", { name: "Imran Sayle" }).click();
  await legal.getByRole("button", { name: "Comment", exact: true }).click();
  await expect(legal.getByRole("article", { name: /^Comment 1 on/ })).toContainText("Children");
  await expectNoViolations(legal, ["iframe"]);
  await legal.getByRole("button", { name: "Ask for changes" }).click();
  await legal.getByRole("textbox", { name: "What is to be changed" }).fill("The price for children is last year’s.");
  await legal.getByRole("dialog").getByRole("button", { name: "Ask for changes" }).click();
  await expect(legal.getByRole("status")).toHaveText("draft");

  // The author is told at home, answers, mends it and asks again.
  await author.goto("/home");
  await expect(author.getByText(/Jonas Peel asked for changes: “The price for children/)).toBeVisible();
  await author.getByRole("link", { name: /Go to the comment Winter steam gala/ }).click();
  await author.getByRole("textbox", { name: "Answer" }).fill("£8 is right.");
  await author.getByRole("button", { name: "Answer" }).click();
  await expect(legal.getByText("£8 is right.")).toBeVisible();
  await author.goto(`/emails/${id}`);
  const desk = await (await author.request.get(`/api/emails/${id}/desk`)).json();
  const subject = author.getByRole("textbox", { name: "Subject" });
  await subject.fill("Seven engines, one frosty weekend");
  await expect(author.locator("[data-keeping=kept]")).toBeVisible();
  await author.getByRole("button", { name: "Ask for approval" }).click();
  await author.getByRole("textbox", { name: /A word with it/ }).fill("The price is mended.");
  await author.getByRole("dialog").getByRole("button", { name: "Ask for approval" }).click();
  // What is in review nobody changes; the open desk says so at once.
  await expect(author.getByRole("link", { name: "Review", exact: true })).toBeVisible();
  await expect(subject).toBeDisabled();
  const stale = await author.request.post(`/api/emails/${id}/edits`, {
    data: {
      base: desk.revision + 1,
      edits: [
        {
          id: "0199a0b0-0000-7000-8000-000000000011",
          step: "0199a0b0-0000-7000-8000-000000000012",
          edit: { kind: "set-detail", field: "subject", value: "Late" },
        },
      ],
    },
  });
  expect(stale.status()).toBe(403);

  // Both see what changed since they were asked before, and approve.
  for (const [page, as] of [
    [legal, "Legal"],
    [lead, "Lead"],
  ] as const) {
    await page.goto(`/emails/${id}/review?against=asked`);
    await expect(page.getByText("The price is mended.")).toBeVisible();
    await expect(page.locator("[data-change]", { hasText: "Subject" })).toContainText("SixSeven engines");
    await page.getByRole("button", { name: `Approve as ${as}` }).click();
    await expect(page.getByText(/approved, /).first()).toBeVisible();
  }
  await expect(legal.getByRole("status")).toHaveText("approved");
  await expect(author.getByRole("link", { name: "Review", exact: true })).toBeVisible();

  // The house style changes: the approval is overtaken, shown, and asked for again by itself.
  await restyle(designer, "#701010").catch(() => restyle(lead, "#701010"));
  await expect(legal.getByRole("status")).toHaveText("in review", { timeout: 60_000 });
  await legal.goto("/home");
  await legal.getByRole("link", { name: "See what changed Winter steam gala" }).click();
  await expect(legal.getByRole("heading", { name: "Changed by itself" })).toBeVisible();
  await expect(legal.getByText(/^Asked again/)).toBeVisible();
  for (const page of [legal, lead]) {
    await page.goto(`/emails/${id}/review?against=approval`);
    await page.getByRole("button", { name: /^Approve as/ }).click();
    await expect(page.getByText(/approved, /).first()).toBeVisible();
  }
  await expect(lead.getByRole("status")).toHaveText("approved");
  // A draft again by an edit, which says what it was.
  await author.goto(`/emails/${id}`);
  await Promise.all([
    author.waitForResponse((answer) => answer.url().endsWith(`/emails/${id}/edits`) && answer.ok()),
    author.getByRole("textbox", { name: "Subject" }).fill("Eight engines"),
  ]);
  await author.goto(`/emails/${id}/review`);
  await expect(author.getByRole("status")).toHaveText("draft, changed since it was approved");
});

test("who approves is set with the campaign type, and a manager approves on a phone", async ({ browser }) => {
  const lead = await signIn(browser, "ruth", "/plan/campaign-types");
  await lead.getByRole("link", { name: "Settings of Timetable notice" }).click();
  await lead.getByRole("button", { name: "Remove Lead" }).click();
  await expect(lead.getByText("Nobody: whoever asks says that it is done.")).toBeVisible();
  await lead.getByRole("button", { name: "Add an approval" }).click();
  await lead.getByRole("textbox", { name: "Approval", exact: true }).fill("Manager");
  await lead
    .getByRole("combobox", { name: /one of these people/ })
    .or(lead.getByRole("textbox", { name: /one of these people/ }))
    .first()
    .click();
  await lead.getByRole("option", { name: "Jonas Peel" }).click();
  await expect
    .poll(async () => {
      const types = await (await lead.request.get("/api/campaign-types")).json();
      return types.find((t: { key: string }) => t.key === "timetable-notice").reviewRule.needs.map((n: { name: string }) => n.name);
    })
    .toEqual(["Manager"]);
  await expectNoViolations(lead);

  const author = await signIn(browser, "imran");
  const { emails } = await (await author.request.get("/api/emails?q=timetable")).json();
  const id = emails.find((e: { state: string }) => e.state === "in-review").id;
  await author.goto(`/emails/${id}/review`);
  await author.getByRole("button", { name: "Take back" }).click();
  await author.getByRole("button", { name: "Ask for approval" }).click();
  await expect(author.getByRole("dialog").getByText("Jonas Peel")).toBeVisible();
  await author.getByRole("dialog").getByRole("button", { name: "Ask for approval" }).click();
  await expect(author.getByRole("status")).toHaveText("in review");

  const manager = await signIn(browser, "jonas");
  await manager.setViewportSize({ width: 390, height: 800 });
  await manager.goto(`/emails/${id}/review`);
  await expect(manager.getByRole("button", { name: "Approve" })).toBeVisible();
  expect(await manager.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  await expectNoViolations(manager, ["iframe"]);
  await manager.getByRole("button", { name: "Approve" }).click();
  await expect(manager.getByRole("status")).toHaveText("approved");
});

test("what there is now is looked at as one reader gets it", async ({ browser }) => {
  const page = await signIn(browser, "ruth");
  const { emails } = await (await page.request.get("/api/emails?q=shelf")).json();
  await page.goto(`/emails/${emails[0].id}/review`);
  const members = page.frameLocator('iframe[title^="Now"]').getByText("A year of the line");
  await expect(members.first()).toBeVisible();
  const reader = page.getByLabel("Which reader sees what there is now");
  const { readers } = await (await page.request.get("/api/sample-readers")).json().then((all) => ({ readers: all.readers ?? all }));
  const other = readers.find((r: { values: Record<string, string> }) => r.values.member !== "yes");
  await reader.selectOption(other.id);
  await expect(page.getByText(`Now, as ${other.name}`)).toBeVisible();
  await expect(members).toHaveCount(0);
  await page.getByText("Plain text", { exact: true }).click();
  await expect(page.getByText("The engine-green mug").first()).toBeVisible();
  await expect(page.getByText("A year of the line")).toHaveCount(0);
  await reader.selectOption("");
  await expect(page.getByText("A year of the line").first()).toBeVisible();
});

test("home shows what goes out when, gives a draft another day, and hands the days to a calendar program", async ({ browser }) => {
  const page = await signIn(browser, "bea", "/home");
  const calendar = page.getByRole("region", { name: "Going out" });
  await expect(calendar.getByRole("link", { name: "Soup and a window seat" })).toBeVisible();
  await expectNoViolations(page);
  // By mouse onto another day, taken back, and by keyboard with a day.
  const entry = calendar.getByRole("link", { name: "Soup and a window seat" });
  const days = calendar.getByRole("listitem");
  const from = await entry.boundingBox();
  const to = await days.nth(9).boundingBox();
  if (!from || !to) throw new Error("The calendar is not there.");
  await page.mouse.move(from.x + 20, from.y + 8);
  await page.mouse.down();
  await page.mouse.move(from.x + 24, from.y + 30, { steps: 4 });
  await page.mouse.move(to.x + 120, to.y + 12, { steps: 8 });
  await page.mouse.up();
  await expect(calendar.getByText(/Soup and a window seat goes out on/)).toBeVisible();
  await expect(days.nth(9)).toContainText("Soup and a window seat");
  await calendar.getByRole("button", { name: "Undo" }).click();
  await expect(days.nth(9)).not.toContainText("Soup and a window seat");

  // RFC 5545, read by another program's library.
  const link = page.waitForEvent("download");
  await calendar.getByRole("link", { name: "As a calendar file" }).click();
  const file = await readFile(await (await link).path(), "utf8");
  const events = new ICAL.Component(ICAL.parse(file)).getAllSubcomponents("vevent").map((e) => new ICAL.Event(e));
  const soup = events.find((e) => e.summary.includes("Soup and a window seat"));
  expect(soup?.startDate.isDate).toBe(true);
  expect(soup?.duration.toSeconds()).toBe(24 * 3600);
});

test("a row used in 200 emails: before its release a designer sees which three it would break, each before and after", async ({
  browser,
}) => {
  const [author, designer] = (await Promise.all(["imran", "dana"].map((who) => signIn(browser, who)))) as [Page, Page];
  let made = 0;
  const id = () => `0199a0b1-0000-7000-8000-${(++made).toString(16).padStart(12, "0")}`;
  const send = async (page: Page, address: string, data: unknown) => {
    const answer = await page.request.post(address, { data });
    expect(answer.ok(), await answer.text()).toBe(true);
    return answer.json();
  };
  const { templates } = await (await author.request.get("/api/templates?campaignType=members-gazette")).json();
  const first = id();
  await send(author, "/api/emails", { id: first, name: "Reached 1", template: templates[0].id });
  let desk = await (await author.request.get(`/api/emails/${first}/desk`)).json();
  const zone = desk.order.items.find((item: { zone?: { add: { allowed: boolean } } }) => item.zone?.add.allowed).zone.id;
  const offers: { id: string; release: number; name: string }[] = await (
    await author.request.get(`/api/emails/${first}/offers?zone=${zone}`)
  ).json();
  const offer = offers.find((o) => o.name === "Story, words only");
  if (!offer) throw new Error("The demo has no such row.");
  const row = id();
  const edits = (...all: object[]) => all.map((edit) => ({ id: id(), step: id(), edit }));
  desk = await send(author, `/api/emails/${first}/edits`, {
    base: desk.revision,
    edits: edits({ kind: "insert-row", zone, index: 0, row: { id: row, master: offer.id, release: offer.release } }),
  });
  const block = desk.rows.find((r: { id: string }) => r.id === row).columns[0].blocks.find((b: { kind: string }) => b.kind === "heading");
  const words = (text: string) => ({ kind: "set-fill", row, piece: block.id, field: block.fields[0].name, value: { kind: "words", text } });
  await send(author, `/api/emails/${first}/edits`, { base: desk.revision, edits: edits(words("Short")) });
  const others = Array.from({ length: 199 }, (_, at) => ({ id: id(), name: `Reached ${at + 2}` }));
  for (let at = 0; at < others.length; at += 20) {
    await Promise.all(others.slice(at, at + 20).map((other) => send(author, "/api/emails", { ...other, email: first })));
  }
  for (const other of others.slice(50, 53)) {
    const copied = await (await author.request.get(`/api/emails/${other.id}/desk`)).json();
    const placed = copied.rows.find((r: { master?: string }) => r.master === offer.id);
    const heading = placed.columns[0].blocks.find((b: { kind: string }) => b.kind === "heading");
    await send(author, `/api/emails/${other.id}/edits`, {
      base: copied.revision,
      edits: edits({ ...words("A heading that says a little more than it may"), row: placed.id, piece: heading.id }),
    });
  }
  const draft = await (await designer.request.get(`/api/rows/${offer.id}/desk`)).json();
  await send(designer, `/api/rows/${offer.id}/edits`, {
    base: draft.revision,
    edits: edits({ kind: "set-limit", piece: block.id, field: block.fields[0].name, limit: { characters: 20 } }),
  });

  await designer.goto(`/rows/${offer.id}`);
  await designer.getByRole("button", { name: "Release", exact: true }).click();
  const dialog = designer.getByRole("dialog");
  await expect(dialog.getByText(/^20\d emails use it/)).toBeVisible();
  const broken = dialog.getByRole("region", { name: "Emails that would break" });
  await expect(broken.getByText("Reached 52", { exact: true })).toBeVisible({ timeout: 60_000 });
  await expect(dialog.getByRole("progressbar")).toBeHidden({ timeout: 60_000 });
  await expect(broken.locator("summary", { hasText: /^Reached/ })).toHaveCount(3);
  await broken.getByText("Reached 52", { exact: true }).click();
  await expect(broken.getByText(/Loses its place/).first()).toBeVisible();
  await broken.locator("details[open]").getByRole("button", { name: "Before and after" }).click();
  await expect(broken.frameLocator('iframe[title="As it is"]').getByText("A heading that says a little more")).toBeVisible();
  await expect(broken.frameLocator('iframe[title="With this release"]').getByText("A heading that says a little more")).toBeHidden();
  await expectNoViolations(designer, ["iframe"]);
});
