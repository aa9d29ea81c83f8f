import { createHash } from "node:crypto";
import { readFileSync } from "node:fs";
import { createRequire } from "node:module";
import { join } from "node:path";
import { expect, type Page } from "@playwright/test";
import { convert } from "html-to-text";
import { simpleParser } from "mailparser";
import { demoEmail, demoEmails, kept, openEmail, order, row, signIn, startEmail, test, unzip } from "./support";

let page: Page;

test.beforeAll(async ({ browser }) => {
  page = await signIn(browser, "ruth");
});

const text = (path: string) => page.request.get(path).then((r) => r.text());
const bytes = (path: string) => page.request.get(path).then((r) => r.body());

// RFC 5322, 2045 and 2047 through an independent reader, the npm package "mailparser".
test("every message is read back to the same text, HTML and pictures", async () => {
  // A message is one reader's; what is exported for a sending platform has fields in it instead.
  const [{ id: sample }] = await page.request.get("/api/sample-readers").then((r) => r.json());
  for (const id of demoEmails) {
    const desk = await page.request.get(`/api/emails/${id}/desk`).then((r) => r.json());
    const message = await simpleParser(await bytes(`/api/emails/${id}/message?to=reader@example.org&sample=${sample}`), {
      skipImageLinks: true,
    });
    // Whoever has the file sees in it how far the email was.
    const marks: Record<string, string> = {
      draft: "[Draft]",
      "in-review": "[In review]",
      approved: "[Not handed off]",
      "handed-off": "[Not what was handed off]",
    };
    expect(message.subject).toBe(`${marks[desk.state]} ${desk.head.details.subject}`);
    expect(message.from?.value).toEqual([{ name: desk.head.details.senderName, address: desk.head.details.senderAddress }]);
    expect(message.html).toBe(await text(`/api/emails/${id}/html?sample=${sample}`));
    // mailparser joins flowing lines again (RFC 3676): compared word by word.
    expect(message.text?.split(/\s+/).filter(Boolean)).toEqual(
      (await text(`/api/emails/${id}/text?sample=${sample}`)).split(/\s+/).filter(Boolean),
    );
    expect(message.attachments).toEqual([]);
    const list = message.headers.get("list") as { unsubscribe?: { url: string }; "unsubscribe-post"?: { name: string } } | undefined;
    // A booking answers its reader's own act and offers no way out; every other email does.
    const offers = desk.email.template.campaignType !== "booking-confirmation";
    expect(list?.unsubscribe?.url).toBe(offers ? "https://larkfell.example.org/mail/unsubscribe" : undefined);
    expect(JSON.stringify(list ?? {}).includes("One-Click")).toBe(offers);

    const inside = await simpleParser(await bytes(`/api/emails/${id}/message?embed=true`), { skipImageLinks: true });
    const pictures = inside.attachments.filter((a) => a.related);
    const shown = [...(inside.html || "").matchAll(/cid:([^"')]+)/g)].map((m) => m[1]);
    expect(new Set(pictures.map((p) => p.cid))).toEqual(new Set(shown));
    for (const picture of pictures) {
      expect(picture.filename).toContain(createHash("sha256").update(picture.content).digest("hex"));
    }
  }
});

// The npm package "html-to-text" makes text of our HTML: it has to hold the words of our own text, in the same order.
test("our plain text says what the HTML says, in the same order", async () => {
  const [{ id: sample }] = await page.request.get("/api/sample-readers").then((r) => r.json());
  for (const id of demoEmails) {
    const html = await text(`/api/emails/${id}/html?sample=${sample}`);
    const made = convert(html.replace(/<!--\[if mso\]>[\s\S]*?<!\[endif\]-->/g, "").replace(/<div class="ph"[\s\S]*?<\/div>/, ""), {
      wordwrap: false,
      selectors: [
        { selector: "a", options: { ignoreHref: true } },
        { selector: "img", format: "skip" },
        ...["h1", "h2", "h3", "h4"].map((selector) => ({ selector, options: { uppercase: false } })),
        { selector: "ul", options: { itemPrefix: "" } },
        { selector: "th", format: "block" },
        { selector: "td", format: "block" },
      ],
    });
    const words = (of: string) => of.match(/[\p{L}\p{N}£]+/gu) ?? [];
    // Our own text also says where links lead and what pictures show.
    const own = (await text(`/api/emails/${id}/text?sample=${sample}`)).replace(/https?:\S+|mailto:\S+|\[[^\]]*\]/g, "");
    expect(words(own)).toEqual(words(made));
  }
});

test("the core's client support is what the dataset's package says", async () => {
  // Read by itself, not by the script that took it: the newest tested version of each client says yes, no or partly.
  const { data } = createRequire(import.meta.url)("caniemail/caniemail.json") as {
    data: { slug: string; stats: Record<string, Record<string, Record<string, string>>> }[];
  };
  const core = JSON.parse(readFileSync(join(import.meta.dirname, "../../src/GoldenRule.Core/Checking/client-support.json"), "utf8")) as {
    clients: { key: string }[];
    features: { slug: string; support: string }[];
  };
  expect(core.features.map((f) => f.slug).sort()).toEqual(data.map((f) => f.slug).sort());
  // Asked once of all: ten thousand answers, each asked by itself, take minutes.
  const [ours, theirs] = [new Map<string, string>(), new Map<string, string>()];
  for (const { slug, stats } of data) {
    const support = core.features.find((f) => f.slug === slug)?.support ?? "";
    for (const [at, { key }] of core.clients.entries()) {
      const [family, platform] = [key.slice(0, key.indexOf(".")), key.slice(key.indexOf(".") + 1)];
      const newest =
        Object.values(stats[family]?.[platform] ?? {})
          .at(-1)
          ?.trim()
          .split(" ")[0] ?? "-";
      ours.set(`${slug} in ${key}`, support[at] ?? "");
      theirs.set(`${slug} in ${key}`, newest === "u" ? "-" : newest);
    }
  }
  expect(ours).toEqual(theirs);
  expect([...ours.values()].filter((said) => said !== "-").length).toBeGreaterThan(5_000);
  const { taken } = await import("../../scripts/client-support.mjs");
  // And the report of an email counts by it: who reads with the Word-based client sees no rounded corners.
  const report = await page.request.get(`/api/emails/${demoEmails[0]}/report`).then((r) => r.json());
  const corners = report.features.find((f: { slug: string }) => f.slug === "css-border-radius");
  const policy = await page.request.get("/api/checks/policy").then((r) => r.json());
  const { features, clients } = taken();
  const support = features.find((f: { slug: string }) => f.slug === "css-border-radius")?.support ?? "";
  const total = Object.values(policy.policy.clients as Record<string, number>).reduce((sum, share) => sum + share, 0);
  const without = clients
    .filter((_: unknown, i: number) => support[i] === "n")
    .map((c: { key: string }) => policy.policy.clients[c.key] ?? 0);
  expect(corners.missedShare).toBeCloseTo(without.reduce((sum: number, share: number) => sum + share, 0) / total, 6);
});

/** The files of an email's bundle, by name. */
const bundle = async (id: string) => unzip(await bytes(`/api/emails/${id}/bundle`));

test("a bundle opens anywhere with its pictures", async ({ browser }) => {
  const entries = await bundle(demoEmails[0] as string);
  const reader = await (await browser.newContext()).newPage();
  await reader.route("https://bundle.example/**", (route) => {
    const found = entries.get(new URL(route.request().url()).pathname.slice(1));
    return found ? route.fulfill({ body: found }) : route.abort();
  });
  await reader.goto("https://bundle.example/index.html");
  const sizes = await reader.evaluate(async () => {
    await Promise.all(Array.from(document.images, (i) => i.decode()));
    return Array.from(document.images, (i) => i.naturalWidth);
  });
  expect(sizes.length).toBeGreaterThan(1);
  expect(Math.min(...sizes)).toBeGreaterThan(100);
  expect(entries.get("plain.txt")?.toString()).toBe(await text(`/api/emails/${demoEmails[0]}/text`));
});

// ISO 32000 through an independent reader, the npm package "pdfjs-dist".
test("the sheet to sign off says what the email is, what was found, and shows it on both screens", async () => {
  const id = demoEmail("lamplighter");
  const asked = await (await page.request.post(`/api/emails/${id}/sign-off`, { data: { id: crypto.randomUUID() } })).json();
  await expect
    .poll(async () => (await page.request.get(`/api/jobs/${asked.id}`)).json().then((job) => job.state), { timeout: 120_000 })
    .toBe("done");
  const { getDocument } = await import("pdfjs-dist/legacy/build/pdf.mjs");
  const pdf = await getDocument({ data: new Uint8Array(await bytes(`/api/jobs/${asked.id}/result`)), verbosity: 0 }).promise;
  const pages = await Promise.all(
    Array.from({ length: pdf.numPages }, async (_, i) => {
      const one = await pdf.getPage(i + 1);
      const { items } = await one.getTextContent();
      return { size: one.view.slice(2).map(Math.round), words: items.flatMap((item) => ("str" in item ? [item] : [])) };
    }),
  );
  // Without spaces: a ligature is a word of its own to a reader.
  const bare = (words: string) => words.replace(/\s+/g, "");

  // A4, and at the end one page as long as the email.
  const [sheets, proofs] = [pages.slice(0, -1), pages.slice(-1)];
  expect(sheets.map((p) => p.size)).toEqual(sheets.map(() => [595, 842]));
  const [wide = 0, long = 0] = proofs[0]?.size ?? [];
  expect(wide).toBeGreaterThan((640 + 375) * 0.75);
  expect(long).toBeGreaterThan(842);

  const desk = await (await page.request.get(`/api/emails/${id}/desk`)).json();
  const sheet = bare(sheets.flatMap((p) => p.words.map((w) => w.str)).join(""));
  for (const words of [
    desk.name,
    desk.head.details.subject,
    desk.head.details.preheader,
    desk.head.details.senderAddress,
    `${desk.email.template.name}, release ${desk.email.template.release}`,
  ]) {
    expect(sheet).toContain(bare(words));
  }
  expect(sheet).toMatch(/HousestyleLarkfell,release[1-9]/);
  expect(desk.findings.now.length).toBeGreaterThan(0);
  expect(sheet).toContain(bare(`What the checks found: ${desk.findings.now.length}`));
  for (const { message } of desk.findings.now) expect(sheet).toContain(bare(message));

  // The hash is that of a file which whoever signs can have.
  const html = (await bundle(id)).get("index.html") ?? Buffer.from("");
  expect(sheet).toContain(createHash("sha256").update(html).digest("hex"));
  expect(sheet).toContain(bare(`${(html.length / 1024).toFixed(1)} KB of HTML`));

  // Every heading stands on the page of proofs twice, on the desktop and right of it on the phone.
  const reader = await page.context().newPage();
  await reader.setContent(html.toString());
  const headings = await reader.locator("h1, h2").allInnerTexts();
  await reader.close();
  expect(headings.length).toBeGreaterThan(2);
  const half = (from: number, to: number) =>
    bare(
      (proofs[0]?.words ?? [])
        .filter((w) => w.transform[4] >= from && w.transform[4] < to)
        .map((w) => w.str)
        .join(""),
    );
  const middle = (24 + 640 + 14) * 0.75;
  for (const heading of headings) {
    expect(half(0, middle)).toContain(bare(heading));
    expect(half(middle, wide)).toContain(bare(heading));
  }
});

test("HTML laid out to be read is shown as the one that is sent", async ({ browser }) => {
  const reader = await (await browser.newContext({ viewport: { width: 640, height: 900 } })).newPage();
  const boxes = async (path: string) => {
    await reader.setContent(await text(path));
    return reader.evaluate(() =>
      Array.from(document.body.querySelectorAll("*"), (e) => {
        const { x, y, width, height } = e.getBoundingClientRect();
        return `${e.tagName} ${x} ${y} ${width} ${height}`;
      }),
    );
  };
  for (const id of demoEmails) {
    expect(await boxes(`/api/emails/${id}/html?readable=true`)).toEqual(await boxes(`/api/emails/${id}/html`));
  }
});

test("an email is taken away: attached files, a sheet to sign off, other forms", async ({ browser }) => {
  const author = await signIn(browser, "imran");
  await startEmail(author, "Special train", "The Goods Shed Supper");
  await row(author, /^Subject and sender/).click();
  const chooser = author.waitForEvent("filechooser");
  await author.getByRole("button", { name: "Attach a file" }).click();
  await (await chooser).setFiles({ name: "supper.exe", mimeType: "application/octet-stream", buffer: Buffer.from("MZ") });
  await expect(author.getByRole("alert").filter({ hasText: "not of a sort" })).toBeVisible();
  const again = author.waitForEvent("filechooser");
  await author.getByRole("button", { name: "Attach a file" }).click();
  await (await again).setFiles({ name: "Menü – Frühling.pdf", mimeType: "application/pdf", buffer: Buffer.from("%PDF-1.4 five courses") });
  await expect(author.getByRole("link", { name: "Menü – Frühling.pdf" })).toBeVisible();
  await kept(author);

  await author.getByRole("button", { name: "Export" }).click();
  const download = author.waitForEvent("download");
  await author.getByRole("menuitem", { name: /^Message \(.eml\)/ }).click();
  const message = await simpleParser(readFileSync(await (await download).path()));
  expect(message.attachments.map((a) => [a.filename, a.contentType, a.content.toString()])).toEqual([
    ["Menü – Frühling.pdf", "application/pdf", "%PDF-1.4 five courses"],
  ]);

  await author.getByRole("button", { name: "Export" }).click();
  await author.getByRole("menuitem", { name: "Approval sheet (PDF)" }).click();
  const sheet = author.waitForEvent("download", { timeout: 120_000 });
  await author.getByRole("link", { name: /^Download The Goods Shed Supper/ }).click({ timeout: 120_000 });
  expect(
    readFileSync(await (await sheet).path())
      .subarray(0, 5)
      .toString(),
  ).toBe("%PDF-");
});

test("the plain text is written by hand once the template lets authors", async ({ browser }) => {
  const author = await signIn(browser, "imran");
  await startEmail(author, "Special train", "Works at Larkfell Junction");
  await author.getByRole("button", { name: "Plain text" }).click();
  await expect(author.getByText("The plain text is made from the email. A lead or a designer may write it by hand")).toBeVisible();

  const address = author.url();
  const lead = await signIn(browser, "ruth", address);
  await expect(order(lead)).toBeVisible();
  await lead.getByRole("button", { name: "Plain text" }).click();
  await lead.getByRole("button", { name: "Write it by hand" }).click();
  const written = lead.getByRole("textbox", { name: "Plain text" });
  await written.fill("No trains past the Junction.\n\nRead on: https://larkfell.example.org/");
  const sent = () => lead.request.get(`/api/emails/${address.split("/").at(-1)}/text`).then((r) => r.text());
  await expect.poll(sent).toContain("No trains past the Junction.");

  // The email changes under it: said where it is read, and among the findings.
  await row(lead, /Hero/).click();
  await lead.getByRole("textbox", { name: "Headline" }).fill("Other words");
  await kept(lead);
  await expect(lead.getByText("The email has changed since it was written.")).toBeVisible();
  await lead.getByRole("button", { name: "Keep it as written" }).click();
  await expect(lead.getByText("The email has changed since it was written.")).toHaveCount(0);
  await lead.getByRole("button", { name: "Generate it from the email again" }).click();
  await expect(lead.getByText("Made from the email.")).toBeVisible();
});

test("an email is looked at as clients that recolour would show it, and as an inbox would cut it", async ({ browser }) => {
  const author = await signIn(browser, "bea", "/emails");
  await openEmail(author, "Winter steam gala");
  const frame = author.frameLocator('iframe[title="Desktop proof"]');
  const light = await frame.locator("body").evaluate((b) => getComputedStyle(b).backgroundColor);
  await author.getByLabel("As some clients show it, simulated").selectOption({ label: "Fully inverted, simulated" });
  await expect.poll(() => frame.locator("body").evaluate((b) => getComputedStyle(b).backgroundColor)).not.toBe(light);
  await author.getByLabel("As some clients show it, simulated").selectOption({ label: "Without media queries, simulated" });
  await expect.poll(() => frame.locator("style").first().textContent()).not.toContain("@media");
  await author.getByRole("button", { name: "Inbox", exact: true }).click();
  await expect(author.getByRole("group", { name: "On a phone" })).toContainText("Larkfell");
});

test("days are named as a browser names them, which has the CLDR by another road", async () => {
  const { languages } = JSON.parse(readFileSync(join(import.meta.dirname, "../../src/GoldenRule.Core/Languages/date-words.json"), "utf8"));
  const asked = ["en", "cy", "gd", "fr", "de", "es", "it", "nl", "pl", "pt", "sv", "ga", "ja"];
  // A browser's own data leaves small languages out, and answers in English for them.
  const tags = await page.evaluate((all) => Intl.DateTimeFormat.supportedLocalesOf(all), asked);
  expect(tags.length).toBeGreaterThanOrEqual(8);
  const named = await page.evaluate((asked) => {
    const fixed = { timeZone: "UTC", calendar: "gregory", numberingSystem: "latn" } as const;
    return asked.map((tag) => ({
      // 2027-08-01 is a Sunday.
      weekdays: Array.from({ length: 7 }, (_, d) =>
        new Intl.DateTimeFormat(tag, { ...fixed, weekday: "long" }).format(Date.UTC(2027, 7, 1 + d)),
      ),
      alone: Array.from({ length: 12 }, (_, m) => new Intl.DateTimeFormat(tag, { ...fixed, month: "long" }).format(Date.UTC(2027, m, 15))),
    }));
  }, tags);
  // In Japanese a month is its number; the form of the whole day brings the sign for "month" with it.
  const bare = named.map(({ weekdays, alone }) => ({ weekdays, alone: alone.map((month) => month.replace(/^(\d+)月$/, "$1")) }));
  expect(tags.map((tag) => ({ weekdays: languages[tag].weekdays, alone: languages[tag].alone }))).toEqual(bare);
});
