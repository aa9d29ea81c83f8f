import { expect } from "@playwright/test";
import { expectNoViolations, openEmail, signIn, test } from "./support";

test("the lead sets the severity of a check for one campaign type, and takes it back", async ({ browser }) => {
  const lead = await signIn(browser, "ruth");
  const author = await signIn(browser, "imran", "/emails");
  await openEmail(author, "The Lamplighter");
  await lead.getByRole("link", { name: "Checks", exact: true }).click();
  await lead.getByRole("link", { name: "Severity", exact: true }).click();
  await expect(lead.getByRole("link", { name: "Severity", exact: true })).toHaveAttribute("aria-current", "page");
  await lead.getByLabel("Campaign type", { exact: true }).selectOption({ label: "Special train" });
  await lead.getByLabel("No preheader, severity").selectOption("stop");
  await expect(lead.getByText("Saved", { exact: true })).toBeVisible();
  await expectNoViolations(lead);
  // Open desks follow by themselves.
  await author.getByRole("tab", { name: /Findings/ }).click();
  const finding = author.getByRole("listitem").filter({ hasText: "The email has no preheader." });
  await expect(finding.getByText("Blocker: ")).toBeAttached();
  await lead.getByRole("button", { name: "Undo" }).click();
  await expect(finding.getByText("Warning: ")).toBeAttached();
  await expect(lead.getByLabel("No preheader, severity")).toHaveValue("");
  // What the law says is not to be set.
  await expect(lead.getByLabel("No way to unsubscribe, severity")).toHaveCount(0);
  await expect(lead.getByRole("row", { name: /No way to unsubscribe/ })).toContainText("Blocker, always");

  await author.goto("/checks/severities");
  await expect(author.getByLabel("No preheader, severity")).toBeDisabled();
});

test("readers' mail clients and hosts are set, and the report of an email counts by them", async ({ browser }) => {
  const lead = await signIn(browser, "ruth", "/checks/clients");
  await lead.getByLabel("HEY, Desktop Webmail").fill("80");
  await lead.keyboard.press("Tab");
  await expect(lead.getByRole("alert")).toContainText("The shares come to 180 of a hundred readers");
  await expect(lead.getByText("100 of 100 set.")).toBeVisible();
  await lead.getByLabel("Yahoo! Mail, Desktop Webmail").fill("");
  await lead.keyboard.press("Tab");
  await expect(lead.getByText("97 of 100 set.")).toBeVisible();
  await lead.getByRole("button", { name: "Undo" }).click();
  await expect(lead.getByText("100 of 100 set.")).toBeVisible();
  await expectNoViolations(lead);

  await lead.getByRole("link", { name: "Allowed sites" }).click();
  await expect(lead.getByRole("link", { name: "Allowed sites" })).toHaveAttribute("aria-current", "page");
  await lead.getByLabel("Site", { exact: true }).fill("not a site");
  await lead.getByRole("button", { name: "Add" }).click();
  await expect(lead.getByText('"not a site" is not the name of a host.')).toBeVisible();
  await lead.getByLabel("Site", { exact: true }).fill("https://shop.example.org/mugs");
  await lead.getByRole("button", { name: "Add" }).click();
  await expect(lead.getByRole("listitem").filter({ hasText: "shop.example.org" })).toBeVisible();
  await lead.getByRole("button", { name: "Remove shop.example.org" }).click();
  await expect(lead.getByRole("listitem").filter({ hasText: "shop.example.org" })).toHaveCount(0);
  await expectNoViolations(lead);

  await lead.getByRole("link", { name: "Allowed senders" }).click();
  await expect(lead.getByRole("link", { name: "Allowed senders" })).toHaveAttribute("aria-current", "page");
  await lead.getByLabel("Campaign type", { exact: true }).selectOption("Members’ gazette");
  await expect(lead.getByText("As for all campaign types: larkfell.example.org.")).toBeVisible();
  await lead.getByLabel("Domain", { exact: true }).fill("gazette.example.org");
  await lead.getByRole("button", { name: "Add" }).click();
  await expect(lead.getByRole("button", { name: "Remove gazette.example.org" })).toBeVisible();
  await expectNoViolations(lead);

  await openEmail(lead, "March: the viaduct reopens");
  await expect(lead.getByText("This campaign type is sent from gazette.example.org").first()).toBeVisible();
  await lead.getByRole("button", { name: "Export" }).click();
  await lead.getByRole("menuitem", { name: "All findings" }).click();
  const corners = lead.getByRole("row", { name: /^border-radius/ });
  await expect(corners).toContainText("square corners");
  await expect(corners).toContainText(/\d+ of 100/);
  await expectNoViolations(lead);
  // A finding leads to its place on the desk.
  await lead
    .getByRole("row", { name: /Readers with pictures off get nothing here/ })
    .getByRole("link")
    .click();
  await expect(lead.getByRole("complementary", { name: "Copy sheet" }).getByRole("heading", { name: "Viaduct" })).toBeVisible();
});

test("the library is audited, counted three ways and exported", async ({ browser }) => {
  const lead = await signIn(browser, "ruth");
  await lead.getByRole("link", { name: "Checks", exact: true }).click();
  await lead.getByRole("button", { name: /^Run the audit/ }).click();
  await expect(lead.getByText(/documents checked .* without a finding/)).toBeVisible({ timeout: 120_000 });
  await expect(lead.getByRole("heading", { name: /^All findings, \d+/ })).toBeVisible();
  await lead.getByRole("button", { name: "Wording of the saved row left as it is", exact: true }).click();
  await expect(lead.getByRole("heading", { name: /^Wording of the saved row left as it is, \d+/ })).toBeVisible();
  // Of a number in it only those; and from a finding to its very field.
  await lead.getByRole("button", { name: /^\d+ blockers?, Placeholder text left in/ }).click();
  await expect(lead.getByRole("heading", { name: /^blockers, Placeholder text left in, \d+/ })).toBeVisible();
  await lead.getByRole("button", { name: "Show all" }).click();
  await lead.getByText("By campaign type").click();
  await lead.getByRole("button", { name: "Members’ gazette", exact: true }).click();
  await expect(lead.getByRole("heading", { name: /^Members’ gazette, \d+/ })).toBeVisible();
  await expectNoViolations(lead);
  const download = lead.waitForEvent("download");
  await lead.getByRole("link", { name: "Download as CSV" }).click();
  expect((await download).suggestedFilename()).toMatch(/^audit \d{4}-\d\d-\d\d\.csv$/);
  await lead.getByRole("button", { name: "Show all" }).click();
  await lead
    .getByRole("row", { name: /placeholder text/ })
    .first()
    .getByRole("link")
    .click();
  await expect(lead.locator("aside :focus")).toBeVisible();
});
