import { expect, type Page } from "@playwright/test";
import { Mustache } from "./mustache";
import {
  demoEmail,
  expectNoViolations,
  expectNoViolationsInBoth,
  node,
  openEmail,
  order,
  proof,
  row,
  sendEdits,
  signIn,
  startEmail,
  takeBack,
  test,
} from "./support";

const snippet = (page: Page, name: RegExp) => page.getByRole("region", { name: "Snippets" }).getByRole("link", { name });

/** Days from now as people here write them, and as the API has them. */
const dayFrom = (days: number) => {
  const at = new Date(Date.now() + days * 86_400_000);
  return { typed: `${at.getUTCDate()}/${at.getUTCMonth() + 1}/${at.getUTCFullYear()}`, iso: at.toISOString().slice(0, 10) };
};

test("one change of a snippet is in two open emails and a template within a second, and the day it goes out decides what is shown", async ({
  browser,
}) => {
  const lead = await signIn(browser, "ruth");
  const [first, second, template] = [await signIn(browser, "imran"), await signIn(browser, "bea"), await signIn(browser, "dana")];
  await startEmail(first, "Timetable notice", "Snippets, the first");
  await startEmail(second, "Timetable notice", "Snippets, the second");
  await template.goto("/templates");
  await template.getByRole("article", { name: "Timetable notice" }).getByRole("link", { name: "Open" }).click();
  await expect(order(template)).toBeVisible();
  const shown = (page: Page, words: string) => expect(proof(page, "Desktop").getByText(words)).toBeVisible();
  for (const page of [first, second, template]) {
    await shown(page, "Saturday and Sunday, first train 09:10");
  }

  await lead.getByRole("link", { name: "Snippets", exact: true }).click();
  await snippet(lead, /Next running days/).click();
  const says = lead.getByRole("region", { name: "Next running days" }).getByRole("textbox", { name: "What it says now" });
  await says.click();
  await says.press("End");
  const pressed = Date.now();
  await says.pressSequentially(" sharp");
  for (const page of [first, second, template]) {
    await shown(page, "Saturday and Sunday, first train 09:10 sharp");
  }
  // A bound for a busy machine; `./bench` measures.
  expect(Date.now() - pressed).toBeLessThan(30_000);

  // From a moment on it says something else: an email that goes out then shows that.
  const later = lead.getByRole("textbox", { name: /^What it says from/ });
  const before = await later.count();
  await lead.getByRole("button", { name: "Another value from a moment on" }).click();
  await expect(later).toHaveCount(before + 1);
  await later.last().fill("by request only");
  await order(first)
    .getByRole("option", { name: /Subject and sender/ })
    .click();
  const day = first.getByLabel("Goes out on");
  await day.fill(dayFrom(6).typed);
  await day.press("Enter");
  await shown(first, "Saturdays and Sundays in winter, first train 09:40");
  await day.fill(dayFrom(20).typed);
  await day.press("Enter");
  await shown(first, "by request only");
  await day.fill(dayFrom(60).typed);
  await day.press("Enter");
  await first.getByRole("tab", { name: /Findings/ }).click();
  await expect(first.getByText(/"Next running days" has expired/)).toBeVisible();
  await shown(second, "Saturday and Sunday, first train 09:10 sharp");
  await expectNoViolationsInBoth(lead);
});

test("a snippet is made, put into words by a key, scheduled, retired and replaced", async ({ browser }) => {
  const lead = await signIn(browser, "ruth");
  const author = await signIn(browser, "imran");
  await lead.goto("/snippets");
  await lead.getByRole("button", { name: "New snippet" }).click();
  await lead.getByRole("dialog").getByLabel("Name", { exact: true }).fill("Platform of the day");
  await expect(lead.getByLabel("Technical name")).toHaveValue("platform-of-the-day");
  await expectNoViolations(lead);
  await lead.getByRole("button", { name: "Make it" }).click();
  // Of the new one, not of that which stood there before.
  const made = lead.getByRole("region", { name: "Platform of the day" });
  await made.getByRole("textbox", { name: "What it says now" }).fill("platform 2");
  await expect(snippet(lead, /Platform of the day/)).toContainText("not used yet");

  await takeBack(author, "winter-times");
  await openEmail(author, "Winter timetable");
  await row(author, /Harrow request stop/).click();
  const headline = author.getByRole("textbox", { name: "Headline" });
  await headline.fill("From ");
  await author.keyboard.type("/platform");
  await author.getByRole("option", { name: /Platform of the day/ }).waitFor();
  await author.keyboard.press("Enter");
  await expect(proof(author, "Desktop").getByText("From platform 2")).toBeVisible();
  await author.keyboard.type(" again");
  await expect(proof(author, "Phone").getByText("From platform 2 again")).toBeVisible();
  await author.getByRole("group", { name: "Headline" }).getByRole("button", { name: "Insert a snippet or field" }).click();
  await author.getByRole("option", { name: /Tearoom hours/ }).waitFor();
  // What the menu lies over is looked at elsewhere.
  await expectNoViolations(author, ["iframe", "aside"]);
  await author.keyboard.press("Escape");
  // It is a node, not words: nothing of it is in the API as syntax that could be typed.
  await author.getByRole("button", { name: "Undo" }).click();
  await author.getByRole("button", { name: "Redo" }).click();
  await expect(proof(author, "Phone").getByText("From platform 2 again")).toBeVisible();

  await lead.reload();
  await expect(snippet(lead, /Platform of the day/)).toContainText("1 place");
  await lead.getByRole("button", { name: "Retire", exact: true }).click();
  await author.getByRole("tab", { name: /Findings/ }).click();
  await expect(author.getByText('The snippet "Platform of the day" is retired.')).toBeVisible();
  await lead.getByLabel("Use another wherever it stands").selectOption({ label: "Tearoom hours" });
  await expect(proof(author, "Desktop").getByText("From Friday to Sunday, 10:00 to 16:30 again")).toBeVisible();
  await lead.getByRole("button", { name: "Undo", exact: true }).click();
  await expect(proof(author, "Desktop").getByText("From platform 2 again")).toBeVisible();
  await author.getByRole("button", { name: "Keep its words without the snippet" }).click();
  await made.getByRole("textbox", { name: "What it says now" }).fill("platform 9");
  await expect(author.getByText('The snippet "Platform of the day" is retired.')).toHaveCount(0);
  await expect(proof(author, "Desktop").getByText("From platform 2 again")).toBeVisible();
});

test("typed without a pause, each letter lands where it is meant: text, list, text", async ({ browser }) => {
  const author = await signIn(browser, "imran");
  await takeBack(author, "winter-times");
  await openEmail(author, "Winter timetable");
  await row(author, /Harrow request stop/).click();
  const headline = author.getByRole("textbox", { name: "Headline" });
  const intro = author.getByRole("textbox", { name: /^Text/ }).first();
  await headline.fill("Open  this week");
  for (let n = 0; n < " this week".length; n++) await headline.press("ArrowLeft");
  // The slowest machine: between two keys no timer runs out, and no frame is drawn.
  await author.evaluate(() => {
    const later = window.setTimeout;
    const held = (act: () => void, ms = 0) => (ms > 0 ? later(act, ms) : 0);
    Object.assign(window, { setTimeout: held, requestAnimationFrame: () => 0 });
  });
  await author.keyboard.type("/tearoom hours\n, all of");
  await expect(headline).toHaveText("Open Friday to Sunday, 10:00 to 16:30, all of this week");
  await author.keyboard.type(" /tearoom hours\n!");
  await expect(headline).toHaveText(/all of Friday to Sunday, 10:00 to 16:30! this week$/);
  await author.keyboard.press("Control+a");
  await author.keyboard.type("Hello");
  await expect(headline).toHaveText("Hello");
  await author.keyboard.type(" /nothing like it");
  await author.keyboard.press("Escape");
  await author.keyboard.type("back");
  await expect(headline).toHaveText("Hello back");
  await intro.focus();
  await author.keyboard.press("Control+a");
  await author.keyboard.type("Open /tearoom hours\n, all week");
  await expect(intro).toHaveText("Open Friday to Sunday, 10:00 to 16:30, all week");
});

test("on a slow line, what is typed after the choice stays behind it until the editor is here", async ({ browser }) => {
  const author = await signIn(browser, "imran");
  await takeBack(author, "winter-times");
  let fetched = () => {};
  const held = new Promise<void>((resolve) => {
    fetched = resolve;
  });
  await author.route(/LineEditor-.*\.js$/, (route) => held.then(() => route.continue()));
  await openEmail(author, "Winter timetable");
  await row(author, /Harrow request stop/).click();
  const headline = author.getByRole("textbox", { name: "Headline" });
  await headline.fill("Open, xx, this week");
  for (let n = 0; n < ", this week".length; n++) await headline.press("ArrowLeft");
  // What was chosen is written over.
  for (let n = 0; n < "xx".length; n++) await headline.press("Shift+ArrowLeft");
  await author.getByRole("button", { name: "Insert a snippet or field" }).first().click();
  await author.keyboard.type("tearoom hours\n, rain or shine");
  await expect(headline).toHaveValue("Open, , rain or shine, this week");
  fetched();
  await expect(headline).toHaveText("Open, Friday to Sunday, 10:00 to 16:30, rain or shine, this week");
  await author.keyboard.type(" too");
  await expect(headline).toHaveText("Open, Friday to Sunday, 10:00 to 16:30, rain or shine too, this week");
});

test("where somebody else puts the first snippet into a line, whoever writes in it keeps the focus, and nobody is given it", async ({
  browser,
}) => {
  const [author, other] = [await signIn(browser, "imran"), await signIn(browser, "bea")];
  await takeBack(author, "winter-times");
  for (const page of [author, other]) await openEmail(page, "Winter timetable");
  const field = (page: Page, name: string) => page.getByRole("textbox", { name, exact: true });
  const put = async (name: string) => {
    await field(other, name).press("End");
    await other.keyboard.type(" /tearoom hours\n");
    await expect(field(author, name)).toHaveText(/10:00 to 16:30$/);
  };
  // The headline was asked for once, by a click in the proof; by now the author is elsewhere.
  await row(other, /^Title/).click();
  await proof(author, "Desktop").locator("h1").click();
  await expect(field(author, "Headline")).toBeFocused();
  const history = author.getByRole("button", { name: "History" });
  await history.focus();
  await put("Headline");
  await expect(history).toBeFocused();

  for (const page of [author, other]) {
    await order(page)
      .getByRole("option", { name: /Subject and sender/ })
      .click();
  }
  await field(author, "Subject").fill("Winter trains");
  await expect(field(other, "Subject")).toHaveValue("Winter trains");
  await put("Subject");
  await author.keyboard.type(" too");
  await expect(field(author, "Subject")).toHaveText("Winter trains Friday to Sunday, 10:00 to 16:30 too");
});

test("what is wrong with a snippet is said beside it, and its words stay", async ({ browser }) => {
  const lead = await signIn(browser, "ruth", "/snippets");
  await snippet(lead, /Booking page/).click();
  const says = lead.getByRole("region", { name: "Booking page" }).getByRole("textbox", { name: "What it says now" });
  await says.fill("javascript:alert(1)");
  await expect(lead.getByRole("alert").first()).toContainText("A link begins with https://");
  await expect(says).toHaveValue("javascript:alert(1)");
  await says.fill("https://larkfell.example.org/seats");
  await expect(lead.getByRole("alert")).toHaveCount(0);
  await lead.reload();
  await expect(says).toHaveValue("https://larkfell.example.org/seats");
  // A name that is taken is refused in the dialog, which stays.
  await lead.getByRole("button", { name: "New snippet" }).click();
  await lead.getByRole("dialog").getByLabel("Name", { exact: true }).fill("Booking page");
  await lead.getByRole("button", { name: "Make it" }).click();
  await expect(lead.getByRole("dialog").getByRole("alert")).toContainText("Choose another");
});

test("three readers, three proofs: by key, with the plain text and the inbox line", async ({ browser }) => {
  const author = await signIn(browser, "bea", "/emails");
  await openEmail(author, "Booking, standard wording");
  await order(author)
    .getByRole("option", { name: /Subject and sender/ })
    .click();
  const subject = author.getByRole("textbox", { name: "Subject" });
  await subject.fill("Your seats, ");
  await author.keyboard.type("/first name");
  await author.getByRole("option", { name: /First name/ }).waitFor();
  await author.keyboard.press("Enter");
  await expect(proof(author, "Desktop").getByText("before departure, Ada.")).toBeVisible();
  await author.getByRole("button", { name: "As reader" }).click();
  for (const [name, called] of [
    ["Ada Fell, member in the valley", "Ada"],
    ["Tomos Pryce, volunteer", "Tomos"],
    ["Someone new", "traveller"],
  ]) {
    await expect(author.getByLabel("Sample reader").locator("option:checked")).toHaveText(name ?? "");
    await expect(proof(author, "Desktop").getByText(`before departure, ${called}.`)).toBeVisible();
    await expect(proof(author, "Phone").getByText(`before departure, ${called}.`)).toBeVisible();
    await author.getByRole("button", { name: "Plain text" }).click();
    await expect(author.getByText(`before departure, ${called}.`)).toBeVisible();
    await author.getByRole("button", { name: "Inbox", exact: true }).click();
    await expect(author.getByText(`Your seats, ${called}`).first()).toBeVisible();
    await author.getByRole("button", { name: "Inbox", exact: true }).click();
    await author.getByRole("group", { name: "Proofs, scrolling" }).focus();
    await author.keyboard.press("r");
  }
  await expectNoViolations(author, ["iframe"]);
  await author.getByRole("button", { name: "As reader" }).click();
  await expect(proof(author, "Desktop").getByText("before departure, Ada.")).toBeVisible();
});

test("the lead declares a field, imports sample readers from a file, and deletes them in one act", async ({ browser }) => {
  const lead = await signIn(browser, "ruth");
  await lead.getByRole("link", { name: "Readers", exact: true }).click();
  await lead.getByLabel("New field").fill("Favourite engine");
  await lead.getByRole("button", { name: "Add", exact: true }).click();
  await expect(lead.getByRole("heading", { name: "Favourite engine" })).toBeVisible();
  await lead.getByLabel("Sample", { exact: true }).fill("No. 4");
  await lead.getByLabel("Where it is not known, say something else").check();
  await lead.getByLabel("Fallback").fill("the old engine");
  await expect(lead.getByText('"Hello No. 4" is "Hello the old engine" then.')).toBeVisible();
  await expectNoViolationsInBoth(lead);
  await lead.emulateMedia({ colorScheme: "light" });
  await lead.getByRole("link", { name: "Sample readers" }).click();
  await lead.getByRole("button", { name: "Import from CSV" }).click();
  const drop = lead.getByLabel("A CSV file of sample readers");
  await drop.setInputFiles({
    name: "readers.csv",
    mimeType: "text/csv",
    buffer: Buffer.from("First name,Engine,Is a member\nUna,No. 2,maybe\n"),
  });
  await expect(lead.getByText('Line 2, Is a member: "maybe" is neither yes nor no.')).toBeVisible();
  await drop.setInputFiles({
    name: "readers.csv",
    mimeType: "text/csv",
    buffer: Buffer.from("First name,Engine,Is a member\nUna,No. 2,yes\n"),
  });
  await lead.getByLabel("Engine", { exact: true }).selectOption({ label: "Favourite engine" });
  await expectNoViolations(lead);
  await lead.getByRole("button", { name: "Import 1 sample reader" }).click();
  await expect(lead.getByRole("row", { name: /Reader 1 Una/ })).toContainText("No. 2");
  await lead.getByRole("button", { name: "Delete all" }).click();
  await expect(lead.getByText("There are none yet.")).toBeVisible();
  await lead.getByRole("button", { name: "Undo" }).click();
  await expect(lead.getByRole("row", { name: /Tomos Pryce/ })).toBeVisible();
  await lead.getByRole("button", { name: "Add one by hand" }).click();
  await lead.getByLabel("Name of the sample").fill("By hand");
  await lead.getByLabel("Journeys this year").fill("many");
  await lead.getByRole("button", { name: "Keep it" }).click();
  await expect(lead.getByRole("alert")).toContainText('Journeys this year: "many" is no number');
  await lead.getByLabel("Journeys this year").fill("3");
  await lead.getByRole("button", { name: "Keep it" }).click();
  await expect(lead.getByRole("row", { name: /By hand/ })).toBeVisible();
});

/**
 * What is exported for a sending platform, rendered by the npm package mustache (the reference of mustache(5) in JavaScript) with each
 * sample's data, is byte for byte what our own proof as that reader is.
 */
test("the exported HTML, text and subject rendered by mustache are what each sample reader gets", async ({ browser }) => {
  const lead = await signIn(browser, "ruth");
  const id = demoEmail("booking-standard");
  const request = lead.request;
  const hostile = [
    '<b>"Bobby" & co</b>',
    "{{first-name}} {{{x}}}",
    "<% %> }} {{",
    "{{=<% %>=}}",
    "a/b?c=d&e#f",
    "‮abc‬ שלום",
    "O’Hara \\ $& $1",
  ];
  for (const [i, value] of hostile.entries()) {
    const put = await request.put(`/api/sample-readers/01a2292a-d0a2-7fab-8e24-b9f0d96a5${100 + i}`, {
      data: { name: `Hostile ${i}`, values: { "first-name": value, "last-name": value, "member-number": value } },
    });
    expect(put.ok(), await put.text()).toBe(true);
  }
  const words = `Hello ${node("field", "first-name")} ${node("field", "last-name")} {{first-name}} {{{ <% {{=<% %>=}} until ${node("field", "member-until")}`;
  await sendEdits(request, `/api/emails/${id}/edits`, [
    {
      kind: "set-fill",
      row: "n1",
      piece: "text",
      field: "text",
      value: {
        kind: "prose",
        text: {
          paragraphs: [
            { list: "none", runs: [{ text: words, bold: false, italic: false }] },
            {
              list: "none",
              runs: [
                {
                  text: node("field", "journeys"),
                  bold: true,
                  italic: false,
                  href: `https://larkfell.example.org/me?n=${node("field", "member-number")}&f=${node("field", "first-name")}`,
                },
                { text: ` ${node("snippet", "tearoom-hours")} ${node("field", "interests")}`, bold: false, italic: true },
              ],
            },
          ],
        },
      },
    },
    { kind: "set-detail", field: "subject", value: `For ${node("field", "first-name")}, {{not a field}}` },
    { kind: "set-detail", field: "preheader", value: `${node("field", "home")} & <more>` },
  ]);
  const text = async (path: string) => {
    const answer = await request.get(path);
    expect(answer.ok(), path).toBe(true);
    return answer.text();
  };
  const [html, plain, fields] = [
    await text(`/api/emails/${id}/html`),
    await text(`/api/emails/${id}/text`),
    await (await request.get(`/api/emails/${id}/fields`)).json(),
  ];
  expect(html).toContain("{{#first-name}}{{first-name}}{{/first-name}}{{^first-name}}traveller{{/first-name}}");
  expect(fields.fields.map((f: { name: string }) => f.name)).toEqual([
    "first-name",
    "first-name-in-link",
    "home",
    "interests",
    "journeys",
    "last-name",
    "member-number-in-link",
    "member-until",
  ]);
  expect(fields.samples.length).toBeGreaterThan(hostile.length);
  for (const sample of fields.samples) {
    expect(Mustache.render(html, sample.values), sample.name).toBe(await text(`/api/emails/${id}/html?sample=${sample.id}`));
    expect(Mustache.render(plain, sample.values), sample.name).toBe(await text(`/api/emails/${id}/text?sample=${sample.id}`));
    const view = await (await request.get(`/api/emails/${id}/draft/reader?reader=${sample.id}`)).json();
    const subject = Mustache.render(fields.subject, sample.values);
    expect(subject.startsWith(view.inbox.phone.subject.text.replace(/…$/, "").trim().slice(0, 20))).toBe(true);
  }
});
