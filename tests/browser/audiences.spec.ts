import { expect, type Page } from "@playwright/test";
import { Mustache } from "./mustache";
import {
  demoEmail,
  expectNoViolations,
  expectNoViolationsInBoth,
  kept,
  node,
  openEmail,
  proof,
  row,
  sendEdits,
  signIn,
  test,
} from "./support";

const panel = (page: Page, name: RegExp | string) => page.getByRole("tab", { name }).click();

test("a combination that leaves readers without a main row is found, shown as one of them and mended", async ({ browser }) => {
  const lead = await signIn(browser, "ruth", "/readers/audiences");
  await lead.getByLabel("New audience").fill("Neighbours");
  await lead.getByRole("button", { name: "Add", exact: true }).click();
  const form = lead.getByRole("region", { name: "Neighbours" });
  await form.getByLabel("Field", { exact: true }).selectOption({ label: "Where they live" });
  await form.getByLabel("Comparison").selectOption("is-not");
  await form.getByLabel("Value", { exact: true }).selectOption("elsewhere");
  await expect(form.getByText("For readers: Where they live is not elsewhere.")).toBeVisible();
  await expect(lead.getByRole("button", { name: /Neighbours/ })).toContainText("Where they live is not elsewhere");
  await expectNoViolationsInBoth(lead);

  const author = await signIn(browser, "bea", "/emails");
  await openEmail(author, "Spring on the shop shelf");
  const offers = row(author, /Offer/);
  await expect(offers.nth(1)).toContainText("for Members");
  await offers.first().click();
  await panel(author, "Look");
  const who = author.getByRole("group", { name: "Who sees it", exact: true });
  await who.getByLabel("The whole row", { exact: true }).selectOption("Neighbours");
  await expect(offers.first()).toContainText("for Neighbours");
  await kept(author);
  await expectNoViolations(author, ["iframe"]);

  // What everyone sees has neither offer; both are marked otherwise.
  const mug = proof(author, "Desktop").getByText("The engine-green mug");
  await expect(mug).toBeVisible();
  await author.getByRole("button", { name: "Everyone sees" }).click();
  await expect(mug).toBeHidden();
  await author.getByRole("button", { name: "Everyone sees" }).click();

  await panel(author, /Findings/);
  const found = author.getByRole("listitem").filter({ hasText: "There is no main row" });
  await expect(found).toContainText("For readers: not Neighbours and not Members");
  await found.getByRole("button", { name: "Show as one of them" }).click();
  await expect(author.getByText(/A made-up reader. Where they live: elsewhere, Is a member: no/)).toBeVisible();
  await expect(mug).toHaveCount(0);
  await expect(proof(author, "Desktop").getByText("A year of the line")).toHaveCount(0);
  await author.getByRole("button", { name: "Plain text" }).click();
  await expect(author.getByText(/Everything here is made within/)).toBeVisible();
  await expect(author.getByText(/engine-green/)).toHaveCount(0);
  await author.getByRole("button", { name: "Plain text" }).click();
  await author.getByRole("group", { name: "As a reader" }).getByRole("button", { name: "Close" }).click();
  await expect(mug).toBeVisible();

  // A lead widens the audience, and the gap is closed in the window that is open.
  await form.getByLabel("Comparison").selectOption("not-empty");
  await expect(found).toContainText("not Neighbours");
  await form.getByRole("button", { name: "Remove condition 1" }).click();
  await expect(found).toHaveCount(0);
});

test("three readers, three proofs; by a condition of its own a block is for some of them", async ({ browser }) => {
  const author = await signIn(browser, "bea", "/emails");
  await openEmail(author, "Soup and a window seat");
  const dish = row(author, /Dish|Story|Offer|Main/).first();
  await dish.click();
  await panel(author, "Look");
  const who = author.getByRole("group", { name: "Who sees it", exact: true });
  await who.getByRole("combobox", { name: "Text", exact: true }).first().selectOption("Own condition");
  await who.getByRole("button", { name: "Add a condition" }).click();
  await who.getByLabel("Field", { exact: true }).selectOption({ label: "Interests" });
  await who.getByLabel("Comparison").selectOption("one-of");
  await expect(who.getByText(/For readers: Interests is tearoom/)).toBeVisible();
  await expect(dish).toContainText("1 block for some");
  await kept(author);
  await author.getByRole("button", { name: "As reader" }).click();
  const seen = new Set<string>();
  const texts = proof(author, "Desktop").locator('[data-piece="text"]');
  for (let i = 0; i < 3; i++) {
    const name = await author.getByLabel("Sample reader").inputValue();
    await expect.poll(async () => (await texts.count()) > 0).toBe(true);
    seen.add(`${name} ${await texts.count()}`);
    await author.keyboard.press("r");
    await expect(author.getByLabel("Sample reader")).not.toHaveValue(name);
  }
  expect(seen.size).toBe(3);
});

const asks = (field: string, is: string, ...values: string[]) => ({ kind: "test", field, is, values });
const audience = (key: string) => ({ kind: "audience", key });
const group = (match: string, ...parts: object[]) => ({ kind: "group", match, parts });

/** What is exported with conditions, rendered by mustache with each sample's data, is byte for byte our own proof as that reader. */
for (const language of ["en-GB", "ar"]) {
  test(`conditions of the exported HTML and text are rendered by mustache as each sample reader gets them, in ${language}`, async ({
    browser,
  }) => {
    const lead = await signIn(browser, "ruth");
    const request = lead.request;
    const id = demoEmail("march-gazette");
    const desk = await (await request.get(`/api/emails/${id}/desk`)).json();
    const rows: { id: string; piece: string; columns: { blocks: { id: string }[] }[] }[] = desk.rows;
    const conditions = [
      audience("members"),
      asks("home", "one-of", "the valley", "the hills"),
      group("none", asks("interests", "has", "tearoom"), group("all", audience("members"), asks("journeys", "more", "5"))),
      asks("member-until", "before", "2027-01-01"),
      asks("last-name", "empty"),
    ];
    const edits: object[] = [{ kind: "set-language", language }];
    for (const [i, one] of rows.entries()) {
      // The first rows, so that what parts the text stands before and after what everyone gets; and blocks, all of a row once.
      if (i < 2 || i % 3 === 0) {
        edits.push({ kind: "set-condition", row: one.id, piece: one.piece, condition: conditions[i % conditions.length] });
      }
      for (const [b, block] of one.columns.flatMap((c) => c.blocks).entries()) {
        if (i === 4 || (i > 1 && (i + b) % 4 === 1)) {
          edits.push({ kind: "set-condition", row: one.id, piece: block.id, condition: conditions[(i + b) % conditions.length] });
        }
      }
    }
    for (const one of edits) {
      // What is locked stays as it is: the lead may not change it here either.
      await request.post(`/api/emails/${id}/edits`, {
        data: { base: 1 << 20, edits: [{ id: crypto.randomUUID(), step: crypto.randomUUID(), edit: one }] },
      });
    }
    await sendEdits(request, `/api/emails/${id}/edits`, [
      { kind: "set-detail", field: "subject", value: `${node("field", "first-name")}: the Gazette` },
    ]);
    const text = async (path: string) => {
      const answer = await request.get(path);
      expect(answer.ok(), await answer.text()).toBe(true);
      return answer.text();
    };
    const [html, plain, platform] = [
      await text(`/api/emails/${id}/html`),
      await text(`/api/emails/${id}/text`),
      JSON.parse(await text(`/api/emails/${id}/fields`)),
    ];
    expect(platform.conditions.length).toBeGreaterThan(3);
    expect(html).toContain("{{#audience-members}}");
    expect(platform.faults).toEqual([]);
    const seen = new Set<string>();
    for (const sample of platform.samples) {
      const data = { ...sample.values, ...sample.holding };
      const rendered = Mustache.render(plain, data);
      expect(Mustache.render(html, data), sample.name).toBe(await text(`/api/emails/${id}/html?sample=${sample.id}`));
      expect(rendered, sample.name).toBe(await text(`/api/emails/${id}/text?sample=${sample.id}`));
      expect(rendered).not.toContain("\n\n\n");
      seen.add(rendered);
    }
    expect(seen.size).toBeGreaterThan(2);
  });
}

test("a profile without conditions is refused with the place, and gives one email for each audience", async ({ browser }) => {
  const lead = await signIn(browser, "ruth", "/readers/profiles");
  await lead.getByLabel("New profile").fill("Handbill post");
  await lead.getByRole("button", { name: "Add", exact: true }).click();
  const form = lead.getByRole("region", { name: "Handbill post" });
  await form.getByLabel("A field", { exact: true }).fill("<<>>");
  await expect(form.getByRole("alert").first()).toContainText("say with NAME where the field's name goes");
  await form.getByLabel("A field", { exact: true }).fill("<<NAME>>");
  await form.getByLabel("Reserved characters", { exact: true }).fill("<<");
  await expect(form.getByRole("alert")).toHaveCount(0);
  await expectNoViolationsInBoth(lead);

  await openEmail(lead, "Spring on the shop shelf");
  await lead.getByRole("button", { name: "Export" }).click();
  await lead.getByRole("menuitemradio", { name: "Handbill post" }).click();
  await expect(lead.getByText(/Handbill post cannot say all of it. Offer: It is shown to/)).toBeVisible();
  await expect(lead.getByRole("menuitem", { name: "HTML file", exact: true })).toBeDisabled();
  const loads = lead.waitForEvent("download");
  await lead.getByRole("menuitem", { name: /One email for each audience/ }).click();
  expect((await loads).suggestedFilename()).toBe("Spring on the shop shelf (draft).zip");
  const refused = await lead.request.get(`/api/emails/${demoEmail("spring-shelf")}/html?profile=handbill-post`);
  expect(refused.status()).toBe(422);
  expect(await refused.text()).toContain("Offer");
});
