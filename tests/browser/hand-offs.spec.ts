import { execFileSync } from "node:child_process";
import { createHash } from "node:crypto";
import { mkdtempSync, readFileSync, writeFileSync } from "node:fs";
import { createRequire } from "node:module";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { expect, type Page } from "@playwright/test";
import { simpleParser } from "mailparser";
import PostalMime from "postal-mime";
import { demoEmail, expectNoViolations, expectNoViolationsInBoth, row, signIn, test, unzip } from "./support";

const spring = demoEmail("spring-shelf");

const handOffOf = async (page: Page, email: string) => {
  const { all } = await (await page.request.get(`/api/emails/${email}/hand-offs`)).json();
  return (await page.request.get(`/api/hand-offs/${all[0].id}`)).json();
};

const bodyOf = async (page: Page, path: string) => (await page.request.get(path)).body();

test("an approved email is tested as three readers, handed off, read on its page, and verified after the library changed", async ({
  browser,
}) => {
  const lead = await signIn(browser, "ruth");

  await test.step("a test to oneself in one act, then as three readers", async () => {
    await lead.goto(`/emails/${spring}`);
    await lead.getByRole("button", { name: "Export" }).click();
    await lead.getByRole("menuitem", { name: /^Send me a test/ }).click();
    const dialog = lead.getByRole("dialog", { name: "Send a test" });
    await expect(dialog.getByText("✓ sent")).toHaveCount(1, { timeout: 30_000 });
    await dialog.getByLabel("Sample readers").click();
    const readers = await (await lead.request.get("/api/sample-readers")).json();
    for (const { name } of readers.slice(0, 3)) {
      await lead.getByRole("option", { name, exact: true }).click();
    }
    await lead.keyboard.press("Escape");
    await expect(dialog.getByRole("button", { name: "Send 3 messages" })).toBeVisible();
    await expectNoViolations(lead, ["iframe"]);
    await dialog.getByRole("button", { name: "Send 3 messages" }).click();
    await expect(dialog.getByText("✓ sent")).toHaveCount(4, { timeout: 30_000 });
    await lead.keyboard.press("Escape");

    await lead.goto("/mailroom");
    for (const { name } of readers.slice(0, 3)) {
      await expect(lead.getByRole("link", { name: new RegExp(`^\\[Test, ${name}\\] New on the shelf`) })).toBeVisible();
    }
    await lead
      .getByRole("link", { name: /^\[Test, / })
      .first()
      .click();
    await lead.getByRole("button", { name: "What filters look at" }).click();
    const signs = lead.getByRole("region", { name: "What filters look at" });
    await expect(signs.getByText("No header of it")).toBeVisible();
    await expect(signs.getByText(/^▲ \d+ links|^✓ \d+ links/)).toBeVisible();
    await expectNoViolationsInBoth(lead);
  });

  await test.step("handed off from its review", async () => {
    await lead.goto(`/emails/${spring}/review`);
    await lead.getByRole("button", { name: "Hand off" }).click();
    const dialog = lead.getByRole("dialog", { name: "Hand off" });
    await dialog.getByLabel("A note for the record, if you like").fill("For the shop's list");
    await expectNoViolations(lead, ["iframe"]);
    await dialog.getByRole("button", { name: "Hand off" }).click();
    await expect(lead).toHaveURL(/\/hand-offs\/1$/);
    await expect(lead.getByRole("complementary", { name: "What was handed off" })).toContainText("For the shop's list");
    await expect(lead.frameLocator("iframe[title='Desktop, as it was frozen']").getByText("New on the shelf").first()).toBeVisible();
    await expectNoViolationsInBoth(lead, ["iframe"]);
  });

  const { record, page: address } = await handOffOf(lead, spring);
  const path = new URL(address).pathname;
  const frozen = await Promise.all(
    ["html", "text", "message", "bundle"].map((form) => bodyOf(lead, `/api/hand-offs/${record.id}/${form}`)),
  );

  await test.step("its page opens without a sign-in, and says nothing of anybody", async () => {
    const reader = await (await browser.newContext()).newPage();
    const refused: string[] = [];
    reader.on("console", (message) => message.type() === "error" && refused.push(message.text()));
    await reader.goto(process.env.GOLDEN_RULE_URL + path);
    await expect(reader.getByRole("heading", { name: "New on the shelf this spring" })).toBeVisible();
    await expect.poll(() => reader.evaluate(() => [...document.images].every((image) => image.naturalWidth > 0))).toBe(true);
    expect(refused).toEqual([]);
    expect(await reader.locator("meta[name=robots]").getAttribute("content")).toBe("noindex");
    // Nothing runs in the page itself: looked at in one where axe may.
    const plain = await (await browser.newContext()).newPage();
    await plain.setContent((await bodyOf(reader, path)).toString());
    await expectNoViolations(plain);
    await plain.context().close();
    await reader.context().close();
  });

  await test.step("and the email that goes out leads to it by itself", async () => {
    expect(frozen[0]?.toString()).toContain(`href="${address}"`);
    expect(frozen[1]?.toString()).toContain(address);
  });

  await test.step("the record holds after the house style and a snippet changed", async () => {
    const [style] = await (await lead.request.get("/api/house-styles")).json();
    const house = await (await lead.request.get(`/api/house-styles/${style.id}`)).json();
    const { variable } = house.variables.find((v: { variable: { key: string } }) => v.variable.key === "buffer-red");
    const edit = {
      id: crypto.randomUUID(),
      step: crypto.randomUUID(),
      edit: { kind: "set-variable", variable: { ...variable, value: "#224466" } },
    };
    expect((await lead.request.post(`/api/house-styles/${style.id}/edits`, { data: { base: house.revision, edits: [edit] } })).ok()).toBe(
      true,
    );
    expect((await lead.request.post(`/api/house-styles/${style.id}/releases`, { data: { note: "Bluer" } })).ok()).toBe(true);
    // The number is said by a snippet: another value holds from now on.
    const all = await (await lead.request.get("/api/snippets")).json();
    const found = (all.snippets ?? all).find((s: { key: string }) => s.key === "lost-property");
    const snippet = await (await lead.request.get(`/api/snippets/${found.id}`)).json();
    const [value] = snippet.snippet.values;
    const said = { kind: "prose", text: { paragraphs: [{ runs: [{ text: "Ask at any station" }] }] } };
    const changed = { id: crypto.randomUUID(), step: crypto.randomUUID(), edit: { kind: "set-snippet-value", id: value.id, value: said } };
    const answer = await lead.request.post(`/api/snippets/${found.id}/edits`, { data: { base: snippet.revision, edits: [changed] } });
    expect(answer.ok(), await answer.text()).toBe(true);

    await lead.goto(`/emails/${spring}/hand-offs`);
    await lead.getByRole("button", { name: "Verify" }).click();
    await expect(lead.getByRole("region", { name: "Frozen" })).toContainText("each byte as it was");
    for (const [at, form] of ["html", "text", "message", "bundle"].entries()) {
      expect((await bodyOf(lead, `/api/hand-offs/${record.id}/${form}`)).equals(frozen[at] as Buffer), form).toBe(true);
    }
    const file = record.files.find((f: { name: string }) => f.name === "mustache/index.html");
    expect(
      createHash("sha256")
        .update(frozen[0] as Buffer)
        .digest("hex"),
    ).toBe(file.sha256);
  });

  await test.step("withdrawn, its page is closed", async () => {
    await lead.getByRole("button", { name: "Withdraw" }).click();
    await lead.getByLabel("Why is it withdrawn?").fill("The calendar is sold out");
    await lead.getByRole("button", { name: "Withdraw" }).last().click();
    await expect(lead.getByRole("alert").filter({ hasText: "The calendar is sold out" })).toBeVisible();
    const reader = await (await browser.newContext()).newPage();
    const answer = await reader.goto(process.env.GOLDEN_RULE_URL + path);
    expect(answer?.status()).toBe(410);
    await expect(reader.getByRole("heading", { name: "This page was closed" })).toBeVisible();
    await reader.context().close();
  });
});

// RFC 5322, 2045, 2047, 2369 and 8058 through two independent readers, the npm packages "mailparser" and "postal-mime".
test("every frozen message is read alike by two readers of messages", async ({ browser }) => {
  const lead = await signIn(browser, "ruth");
  for (const file of ["autumn-shelf", "october-gazette", "september-gazette", "works-october", "lineside-week"]) {
    const { record } = await handOffOf(lead, demoEmail(file));
    const message = await bodyOf(lead, `/api/hand-offs/${record.id}/message`);
    const [one, two] = [await simpleParser(message, { skipImageLinks: true }), await PostalMime.parse(message)];
    const html = (await bodyOf(lead, `/api/hand-offs/${record.id}/html`)).toString();
    expect([one.subject, two.subject]).toEqual([record.details.subject, record.details.subject]);
    expect(one.from?.value).toEqual([{ name: record.details.senderName, address: record.details.senderAddress }]);
    expect(two.from).toEqual({ name: record.details.senderName, address: record.details.senderAddress });
    expect(one.html).toBe(html);
    expect(two.html?.replaceAll("\r\n", "\n").trimEnd()).toBe(html.trimEnd());
    const headers = Object.fromEntries(two.headers.map(({ key, value }) => [key, value]));
    expect(headers["list-unsubscribe"]).toBe("<https://larkfell.example.org/mail/unsubscribe>");
    expect(headers["list-unsubscribe-post"]).toBe("List-Unsubscribe=One-Click");
    const unsent = await PostalMime.parse(await bodyOf(lead, `/api/hand-offs/${record.id}/message?unsent=true`));
    expect(unsent.headers.find(({ key }) => key === "x-unsent")?.value).toBe("1");
  }
});

// The WHATWG HTML standard through the Nu HTML Checker: the pages as browsers get them.
test("every page for browsers is valid HTML", async ({ browser }) => {
  const lead = await signIn(browser, "ruth");
  const folder = mkdtempSync(join(tmpdir(), "golden-rule-pages-"));
  const files: string[] = [];
  for (const file of ["autumn-shelf", "october-gazette", "september-gazette", "works-october", "lineside-week"]) {
    const { page } = await handOffOf(lead, demoEmail(file));
    files.push(join(folder, `${file}.html`));
    writeFileSync(files.at(-1) as string, await bodyOf(lead, new URL(page).pathname));
  }
  const jar = createRequire(import.meta.url).resolve("vnu-jar/build/dist/vnu.jar");
  expect(execFileSync("java", ["-jar", jar, "--errors-only", "--stdout", "--exit-zero-always", ...files], { encoding: "utf8" })).toBe("");
});

// ISO 32000 through an independent reader, the npm package "pdfjs-dist".
test("the approval sheet of a hand-off is printed as it was frozen", async ({ browser }) => {
  const lead = await signIn(browser, "ruth", `/emails/${demoEmail("autumn-shelf")}/hand-offs`);
  await lead.getByRole("button", { name: "Export" }).click();
  await lead.getByRole("menuitem", { name: "Approval sheet (PDF)" }).click();
  const download = lead.waitForEvent("download", { timeout: 120_000 });
  await lead.getByRole("link", { name: /^Download Autumn on the shop counter, hand-off 1/ }).click({ timeout: 120_000 });
  const { getDocument } = await import("pdfjs-dist/legacy/build/pdf.mjs");
  const sheet = await getDocument({ data: new Uint8Array(readFileSync(await (await download).path())) }).promise;
  const { items } = await (await sheet.getPage(1)).getTextContent();
  const words = items.map((item) => ("str" in item ? item.str : "")).join(" ");
  // The sheet's letters ff are one, which the reader takes for a word of its own.
  expect(words.replaceAll(/\s/g, "")).toContain("Handedoff,1.");
  expect(words).toContain("Bea Thornley");
  const { record } = await handOffOf(lead, demoEmail("autumn-shelf"));
  const inside = await unzip(await bodyOf(lead, `/api/hand-offs/${record.id}/bundle`));
  const index = createHash("sha256")
    .update(inside.get("index.html") as Buffer)
    .digest("hex");
  expect(words.replaceAll(/\s/g, "")).toContain(index);
  await sheet.loadingTask.destroy();
});

test("a correction is a new hand-off that names the former, and can be compared with it", async ({ browser }) => {
  const [author, lead] = [await signIn(browser, "bea"), await signIn(browser, "ruth")];
  const email = demoEmail("autumn-shelf");
  await author.goto(`/emails/${email}/hand-offs`);
  await author.getByRole("button", { name: "Correct" }).click();
  await expect(author).toHaveURL(new RegExp(`/emails/${email}$`));
  await author.getByLabel("Subject", { exact: true }).fill("Two warm things from the shop");
  await expect(author.locator("[data-keeping=kept]")).toBeVisible();
  await author.getByRole("button", { name: "Ask for approval" }).click();
  await author.getByRole("dialog").getByRole("button", { name: "Ask for approval" }).click();
  await expect(author.getByRole("dialog")).toHaveCount(0);
  await lead.goto(`/emails/${email}/review`);
  await lead.getByRole("button", { name: /^Approve/ }).click();
  await lead.getByRole("button", { name: "Hand off" }).click();
  await expect(lead.getByRole("dialog")).toContainText("It corrects hand-off 1");
  await lead.getByRole("dialog").getByRole("button", { name: "Hand off" }).click();
  await expect(lead.getByRole("region", { name: "Hand-offs of this email" })).toContainText("corrects 1");
  const { record } = await handOffOf(lead, email);
  expect(record.corrects).toBeTruthy();
  const compared = await (await lead.request.get(`/api/emails/${email}/review/comparison?against=hand-off&handOff=1`)).json();
  expect(compared.changes.map((c: { name: string }) => c.name)).toContain("Subject");
});

test("testers are named by leads", async ({ browser }) => {
  const lead = await signIn(browser, "ruth", "/people/testers");
  await lead.getByLabel("Name").fill("An old desktop client");
  await lead.getByLabel("Address").fill("desktop@example.org");
  await lead.getByRole("button", { name: "Add" }).click();
  await expect(lead.getByRole("cell", { name: "desktop@example.org" })).toBeVisible();
  await expectNoViolationsInBoth(lead);
  await lead.getByRole("button", { name: "Remove An old desktop client" }).click();
  await lead.getByRole("button", { name: "Undo" }).click();
  await expect(lead.getByRole("cell", { name: "desktop@example.org" })).toBeVisible();
});

test("a template for one person is made into an email to one, which is sent once", async ({ browser }) => {
  const [designer, author] = [await signIn(browser, "ruth"), await signIn(browser, "bea")];
  const booking = demoEmail("booking-standard");
  const {
    email: { template },
  } = await (await author.request.get(`/api/emails/${booking}/desk`)).json();
  await designer.goto(`/templates/${template.id}`);
  await row(designer, /^About this template/).click();
  await designer.getByLabel("Its emails are each written to one person").check();
  await expect(designer.locator("[data-keeping=kept]")).toBeVisible();
  await designer.getByRole("button", { name: "Release", exact: true }).click();
  const release = designer.getByRole("dialog");
  await release.getByLabel("What changed").fill("For one person");
  await release.getByRole("button", { name: "Release", exact: true }).click();
  await expect(release).toHaveCount(0);

  await author.goto(`/emails/${booking}`);
  await author.getByRole("button", { name: "update available" }).click();
  await author.getByRole("dialog").getByRole("button", { name: /^Take/ }).click();
  const person = author.getByRole("group", { name: "To one person" });
  await expect(person.getByText("Nobody is named to whom it is written.")).toBeVisible();
  await person.getByLabel("Name", { exact: true }).fill("Ada Fell");
  await person.getByLabel("Address").fill("ada.fell@example.org");
  await expect(person.getByText("Nobody is named to whom it is written.")).toHaveCount(0);
  await expect(author.locator("[data-keeping=kept]")).toBeVisible();
  await expectNoViolations(author, ["iframe"]);
  await author.getByRole("button", { name: "Ask for approval" }).click();
  await author.getByRole("dialog").getByRole("button", { name: "It is done" }).click();
  await author.getByRole("button", { name: "Hand off" }).click();
  await author.getByRole("dialog").getByRole("button", { name: "Hand off" }).click();
  await author.getByRole("button", { name: "Send to Ada Fell" }).click();
  await expect(author.getByRole("status").filter({ hasText: /^Sent / })).toBeVisible();
  await expect(author.getByRole("button", { name: "Send to Ada Fell" })).toHaveCount(0);
  await expect(author.getByRole("region", { name: "Page for browsers" })).toContainText("for Ada Fell alone");

  await designer.goto("/mailroom");
  await expect(designer.getByRole("link").filter({ hasText: "To ada.fell@example.org" })).toHaveCount(1);
});
