import { expect, type Page } from "@playwright/test";
import { TOTP } from "otpauth";
import { expectNoViolations, kept, newPage, openEmail, order, row, signIn, startEmail, test } from "./support";

/** The link in the last mail to an address, once it is there. */
async function linkTo(address: string, subject: RegExp): Promise<string> {
  const mailbox = process.env.GOLDEN_RULE_MAILBOX;
  let found: { id: number } | undefined;
  await expect
    .poll(async () => {
      const mails: { id: number; to: string[]; subject: string }[] = await (await fetch(`${mailbox}/messages`)).json();
      found = mails.find((m) => m.to.includes(address) && subject.test(m.subject));
      return found !== undefined;
    })
    .toBe(true);
  const { text } = await (await fetch(`${mailbox}/messages/${found?.id}`)).json();
  return /http\S+/.exec(text)?.[0] ?? "";
}

const password = "three words and a train";

async function invite(lead: Page, address: string, name: string, where: string) {
  await lead.goto("/people");
  await lead.getByRole("button", { name: "Invite" }).click();
  const dialog = lead.getByRole("dialog");
  await dialog.getByLabel("Email address").fill(address);
  await dialog.getByLabel("Name", { exact: true }).fill(name);
  await dialog.getByLabel("Their roles hold").selectOption({ label: where });
  await expectNoViolations(lead);
  await dialog.getByRole("button", { name: "Send the invitation" }).click();
  await expect(lead.getByRole("heading", { name })).toBeVisible();
}

test("someone is invited, comes with two factors, and is stopped in an open window once the role is gone", async ({ browser }) => {
  test.slow();
  const lead = await signIn(browser, "ruth");
  await invite(lead, "mia@larkfell.example.org", "Mia Fen", "in Events");
  await expect(lead.getByText("Invited; the link in the mail works until")).toBeVisible();
  await expectNoViolations(lead);

  // Read in the Mailroom, as a phone shows it too.
  await lead.getByRole("button", { name: "Ruth Calder, lead" }).click();
  await lead.getByRole("menuitem", { name: "Mailroom (simulated)" }).click();
  await expect(lead.frameLocator("iframe").getByText("Ruth Calder invites you to write the emails of Larkfell")).toBeVisible();
  await lead.getByRole("button", { name: "Phone" }).click();
  await expect(lead.frameLocator("iframe").getByRole("link")).toHaveAttribute("href", /\/join#person=/);
  await lead.getByRole("button", { name: "Headers" }).click();
  await expect(lead.getByText("To: Mia Fen <mia@larkfell.example.org>")).toBeVisible();
  await lead.getByRole("button", { name: "Source" }).click();
  await expect(lead.getByText("Content-Type: multipart/alternative")).toBeVisible();
  await expectNoViolations(lead);

  const mia = await newPage(browser);
  await mia.goto(await linkTo("mia@larkfell.example.org", /invites you/));
  await expectNoViolations(mia);
  await mia.getByLabel("New password").fill(password);
  await mia.getByRole("button", { name: "Begin" }).click();
  await expect(mia.getByRole("button", { name: "Mia Fen, author" })).toBeVisible();

  await mia.getByRole("button", { name: /Mia Fen/ }).click();
  await mia.getByRole("menuitem", { name: "Your account" }).click();
  await expect(mia.getByText("Mia Fen: author in Events")).toBeVisible();
  await mia.getByRole("button", { name: "Set up an app" }).click();
  await mia.getByLabel("Your password").fill(password);
  await mia.getByRole("button", { name: "Set up an app" }).click();
  await expect(mia.getByRole("img", { name: "QR code for your authenticator app" })).toBeVisible();
  await expectNoViolations(mia);
  const secret = ((await mia.locator("code").textContent()) ?? "").replaceAll(" ", "");
  // An authenticator that has nothing to do with this program.
  const app = new TOTP({ secret });
  const now = Date.now();
  await mia.getByLabel("Code that the app shows now").fill(app.generate({ timestamp: now }));
  await mia.getByRole("button", { name: "Turn it on" }).click();
  await expect(mia.getByRole("listitem")).toHaveCount(10);
  const recovery = (await mia.getByRole("listitem").first().textContent()) ?? "";
  await mia.getByRole("button", { name: "I have them" }).click();
  await expect(mia.getByText("10 recovery codes left.")).toBeVisible();
  await mia.getByRole("button", { name: "Sign out everywhere" }).click();

  await mia.getByLabel("Email address").fill("Mia@larkfell.example.org");
  await mia.locator("input[type=password]").fill(password);
  await mia.getByRole("button", { name: "Sign in" }).click();
  await mia.getByLabel("Code").fill(app.generate({ timestamp: now }));
  await mia.getByRole("button", { name: "Sign in" }).click();
  // It turned two-factor sign-in on, and opens nothing any more.
  await expect(mia.getByText("The code is not right, or was used already.")).toBeVisible();
  await mia.getByLabel("Code").fill(recovery);
  await mia.getByRole("button", { name: "Sign in" }).click();
  await startEmail(mia, "Special train", "Mia's train");
  await row(mia, /Hero/).click();
  const headline = mia.getByRole("textbox", { name: "Headline" });
  await headline.fill("Steam at dusk");
  await kept(mia);

  // In another window the lead takes the role away; in Mia's, which stays open, nothing can be written any more.
  await lead.goto("/people");
  await lead.getByRole("button", { name: /Mia Fen/ }).click();
  await lead.getByRole("checkbox", { name: "Author in Events" }).click();
  await expect(lead.getByText("Mia Fen has no role in Events.")).toBeVisible();
  await expect(headline).toHaveCount(0, { timeout: 60_000 });
  await expect(mia.getByText("a lead, designer or author changes the email", { exact: false }).first()).toBeVisible();
  const id = mia.url().split("/").pop();
  const refused = await mia.request.post(`/api/emails/${id}/edits`, {
    data: {
      base: 1,
      edits: [
        {
          id: crypto.randomUUID(),
          step: crypto.randomUUID(),
          edit: { kind: "set-detail", field: "subject", value: "Still here" },
        },
      ],
    },
  });
  expect(refused.status()).toBe(403);
  await lead.getByRole("button", { name: "Undo" }).click();
  await expect(headline).toBeVisible();
  await expect(headline).toHaveValue("Steam at dusk");
});

test("an author of one team does not see what another hides: by list, search, address, API or live message", async ({ browser }) => {
  const wren = await signIn(browser, "wren");
  await startEmail(wren, "Shop offer", "Enamel mugs");
  await kept(wren);
  const address = new URL(wren.url()).pathname;
  const id = address.split("/")[2] ?? "";
  const hanna = await signIn(browser, "hanna");
  const heard: string[] = [];
  hanna.on("websocket", (socket) => socket.on("framereceived", ({ payload }) => heard.push(`${payload}`)));
  await hanna.goto("/emails");
  await expect(hanna.getByRole("link", { name: /Winter steam gala/ }).first()).toBeVisible();
  await expect(hanna.getByText("Enamel mugs")).toHaveCount(0);
  await hanna.keyboard.press("Control+k");
  await hanna.getByRole("dialog").getByRole("searchbox").fill("Enamel mugs");
  await expect(hanna.getByRole("dialog").getByRole("status")).toContainText("Nothing is called that.");
  await expect(hanna.getByRole("dialog").getByRole("option", { name: /Enamel mugs/ })).toHaveCount(0);
  await hanna.keyboard.press("Escape");
  await hanna.goto(address);
  await expect(hanna.getByText("There is no such email", { exact: false })).toBeVisible();
  for (const path of ["desk", "html", "text", "bundle", "message", "history", "report", "copy-deck"]) {
    expect((await hanna.request.get(`/api/emails/${id}/${path}`)).status(), path).toBe(404);
  }
  // Whoever asks to hear of it hears nothing.
  await hanna.goto("/emails");
  await row(wren, /Hero/).click();
  await wren.getByRole("textbox", { name: "Headline" }).fill("Mugs for the footplate");
  await kept(wren);
  await hanna.waitForTimeout(500);
  expect(heard.filter((said) => said.includes(id))).toEqual([]);
  // Emails of a team that hides nothing are read, not written; templates of others start nothing.
  await openEmail(wren, "Winter steam gala");
  await row(wren, /Hero/).click();
  await expect(wren.getByRole("complementary").getByRole("textbox")).toHaveCount(0);
  await wren.goto("/templates");
  await expect(wren.getByRole("article", { name: "Special train" })).toBeVisible();
  await expect(wren.getByRole("article", { name: "Special train" }).getByRole("button", { name: "Start an email" })).toHaveCount(0);
  await expect(wren.getByRole("article", { name: "Shop offer" }).getByRole("button", { name: "Start an email" })).toBeVisible();
});

test("the lead plans teams and campaign types, and takes a change back", async ({ browser }) => {
  const lead = await signIn(browser, "ruth");
  await lead.getByRole("link", { name: "Plan" }).click();
  await lead.getByRole("link", { name: "Teams" }).click();
  await lead.getByLabel("New team").fill("Outings");
  await lead.getByRole("button", { name: "Add" }).click();
  await expect(lead.getByText("Outings is a team now.")).toBeVisible();
  await lead.getByLabel("New team").fill("outings");
  await lead.getByRole("button", { name: "Add" }).click();
  await expect(lead.getByRole("alert")).toContainText('There is a team "outings" already');
  await lead.getByLabel("People outside Events").selectOption({ label: "do not see its emails" });
  await expect(lead.getByText("People outside Events do not see its emails.")).toBeVisible();
  await lead.getByRole("button", { name: "Undo" }).click();
  await expect(lead.getByLabel("People outside Events")).toHaveValue("read-only");
  await lead.getByLabel("Name of Outings").fill("Group visits");
  await lead.keyboard.press("Enter");
  await expect(lead.getByText("Outings is called Group visits now.")).toBeVisible();
  await lead.getByRole("button", { name: "Move Group visits up" }).click();
  await expect(lead.getByText("Group visits was moved.")).toBeVisible();
  await expectNoViolations(lead);
  // What another team alone sends keeps it here.
  await lead.getByRole("button", { name: "More for Shop" }).click();
  await lead.getByRole("menuitem", { name: "Remove" }).click();
  await expect(lead.getByRole("alert")).toContainText("Shop sends Shop offer. Give that to another team first");

  await lead.getByRole("link", { name: "Campaign types" }).click();
  await lead.getByLabel("New campaign type").fill("Group offer");
  await lead.getByRole("combobox", { name: "Sent by" }).click();
  await lead.getByRole("option", { name: "Group visits" }).click();
  await lead.keyboard.press("Escape");
  await lead.getByRole("button", { name: "Add" }).click();
  await expect(lead.getByText("Group offer is a campaign type now.")).toBeVisible();
  await expectNoViolations(lead);
  await lead.getByRole("button", { name: "More for Group offer" }).click();
  await lead.getByRole("menuitem", { name: "Retire" }).click();
  await expect(lead.getByText("group-offer, retired")).toBeVisible();
  await lead.getByRole("button", { name: "Undo" }).click();
  await expect(lead.getByText("group-offer, retired")).toHaveCount(0);
  await lead.getByRole("link", { name: "Coverage" }).click();
  await expect(lead.getByRole("columnheader", { name: /Group offer/ })).toBeVisible();
  await lead.getByRole("link", { name: "Teams" }).click();
  await lead.getByRole("button", { name: "More for Group visits" }).click();
  await lead.getByRole("menuitem", { name: "Events" }).click();
  await expect(lead.getByText("Group visits is part of Events now")).toBeVisible();
  await expect(lead.getByRole("row", { name: /Events/ })).toContainText("Group offer");
  // Row kinds are the lead's: one of its own, which is then part of another, with all that is of it.
  await lead.getByRole("link", { name: "Row kinds" }).click();
  await lead.getByLabel("New row kind").fill("Quiz");
  await lead.getByRole("button", { name: "Add" }).click();
  await expect(lead.getByText("Quiz is a row kind now.")).toBeVisible();
  await lead.getByLabel("Name of Quiz").fill("Game");
  await lead.keyboard.press("Enter");
  await expect(lead.getByText("Quiz is called Game now.")).toBeVisible();
  await expectNoViolations(lead);
  await lead.goto("/rows?new=yes&kind=quiz");
  await expect(
    lead
      .getByRole("dialog")
      .getByRole("textbox", { name: "Row kind" })
      .or(lead.getByRole("combobox", { name: "Row kind" })),
  ).toHaveValue("Game");
  await lead.goto("/plan/row-kinds");
  await lead.getByRole("button", { name: "More for Game" }).click();
  await lead.getByRole("menuitem", { name: "Main" }).click();
  await expect(lead.getByText(/Game is part of Main now/)).toBeVisible();
  await expect(lead.getByLabel("Name of Game")).toHaveCount(0);
  // Nobody else plans.
  const author = await signIn(browser, "imran", "/plan/teams");
  await expect(author.getByRole("row", { name: /Events/ })).toBeVisible();
  await expect(author.getByLabel("New team")).toHaveCount(0);
  await expectNoViolations(author);
});

test("a forgotten password is chosen anew by mail, and the log tells of it", async ({ browser }) => {
  const page = await newPage(browser);
  await page.goto("/");
  await page.getByRole("link", { name: "I forgot my password" }).click();
  await expectNoViolations(page);
  await page.getByLabel("Email address").fill("jonas@larkfell.example.org");
  await page.getByRole("button", { name: "Send the link" }).click();
  await expect(page.getByText("If somebody has the address jonas@larkfell.example.org")).toBeVisible();
  const link = await linkTo("jonas@larkfell.example.org", /new password/);
  await page.goto(link);
  await page.getByLabel("New password").fill(password);
  await page.getByRole("button", { name: "Change it" }).click();
  await expect(page.getByText("Your password is changed")).toBeVisible();
  await linkTo("jonas@larkfell.example.org", /was changed/);
  await page.goto("about:blank");
  await page.goto(link);
  await page.getByLabel("New password").fill(password);
  await page.getByRole("button", { name: "Change it" }).click();
  await expect(page.getByText("It was used already, or is too old")).toBeVisible();
  await page.goto("/");
  await page.getByLabel("Email address").fill("jonas@larkfell.example.org");
  await page.locator("input[type=password]").fill(password);
  await page.getByRole("button", { name: "Sign in" }).click();
  await expect(page.getByRole("navigation", { name: "Rooms" })).toBeVisible();
  await expect(page.getByRole("link", { name: "People" })).toHaveCount(0);

  const lead = await signIn(browser, "ruth", "/people/log");
  await lead.getByLabel("Who or whom").selectOption({ label: "Jonas Peel" });
  await expect(lead.getByRole("row", { name: /Jonas Peel Chose a new password by mail/ })).toBeVisible();
  await lead.getByLabel("What").selectOption({ label: "Signed in" });
  await expect(lead.getByRole("row", { name: /Chose a new password/ })).toHaveCount(0);
  await expectNoViolations(lead);
  const [file] = await Promise.all([lead.waitForEvent("download"), lead.getByRole("link", { name: "Export as CSV" }).click()]);
  expect(file.suggestedFilename()).toBe("Log.csv");
  // Whoever leads alone goes on leading.
  await lead.goto("/people");
  await lead.getByRole("button", { name: /Ruth Calder lead/ }).click();
  await lead.getByRole("checkbox", { name: "Lead", exact: true }).click();
  await expect(lead.getByRole("alert")).toContainText("Someone has to lead the library");
  // Someone goes: signed out at once, and back again by Undo.
  await lead.getByRole("button", { name: /Jonas Peel/ }).click();
  await lead.getByRole("button", { name: "Deactivate" }).click();
  await expect(lead.getByText("Jonas Peel is deactivated.")).toBeVisible();
  expect((await page.request.get("/api/templates")).status()).toBe(401);
  await lead.getByRole("button", { name: "Undo" }).click();
  await expect(lead.getByRole("button", { name: "Deactivate" })).toBeVisible();
  await expect(order(lead)).toHaveCount(0);
});
