import { expect } from "@playwright/test";
import { expectNoViolations, kept, moveHeld, namesInOrder, order, proof, row, signIn, startEmail, test } from "./support";

test("an author makes an email from a template and is kept within it", async ({ browser }) => {
  const page = await signIn(browser, "imran");
  await startEmail(page, "Special train", "Autumn leaf express");

  await test.step("a headline past its limit is metered and found, in both proofs as it is typed", async () => {
    await row(page, /Hero/).click();
    const headline = page.getByRole("textbox", { name: "Headline" });
    await headline.pressSequentially("Golden hour on the autumn line");
    for (const which of ["Desktop", "Phone"] as const) {
      await expect(proof(page, which).locator("h1")).toHaveText("Golden hour on the autumn line");
    }
    await expect(page.getByText("30 of 60")).toBeVisible();
    await headline.pressSequentially(" which is now quite a bit longer than anyone may write");
    await expect(page.getByText("84 of 60")).toBeVisible();
    await expect(page.getByText("84 characters, at most 60.")).toBeVisible();
    await page.getByRole("tab", { name: /Findings/ }).click();
    await expect(page.getByRole("button", { name: /Hero.*too long/ })).toBeVisible();
    await page.getByRole("button", { name: /Hero.*too long/ }).click();
    await expect(headline).toBeFocused();
    await headline.fill("Golden hour on the autumn line");
    await expect(page.getByText("at most 60.")).toHaveCount(0);
  });

  await test.step("a picture is replaced, with the alt text it is known by", async () => {
    await page.getByRole("button", { name: "Choose another" }).click();
    await page.getByRole("button", { name: /Larkfell station/ }).click();
    await expect(page.getByRole("textbox", { name: "Alt text" })).toHaveValue("The platform at Larkfell with its clock and benches.");
    await expect(proof(page, "Phone").locator("[data-row=hero] img")).toHaveAttribute("alt", /platform at Larkfell/);
  });

  await test.step("rows are added in the zone and nowhere else, and reordered", async () => {
    const zone = order(page).getByRole("region", { name: "Stops" });
    for (const [offer, time] of [
      ["Itinerary stop", "10:40"],
      ["Story, words only", "The line in October"],
    ] as const) {
      await zone.getByRole("button", { name: "Add a row" }).click();
      const drawer = page.getByRole("dialog", { name: "Add to Stops" });
      await expect(drawer.getByRole("button", { name: /Footer|Masthead|Offer/ })).toHaveCount(0);
      await drawer.getByRole("button", { name: new RegExp(offer) }).click();
      await page.getByRole("textbox", { name: offer === "Itinerary stop" ? "Time" : "Headline" }).fill(time);
    }
    await expect(order(page).getByRole("button", { name: "Add a row" })).toHaveCount(2);
    expect(await namesInOrder(page)).toEqual([
      "Subject and sender",
      "Masthead",
      "Hero",
      "Departure board",
      "Itinerary stop",
      "Story, words only",
      "Sign-off",
      "Footer",
    ]);
    await page.getByRole("button", { name: "Move up" }).click();
    await expect
      .poll(() => namesInOrder(page))
      .toEqual(["Subject and sender", "Masthead", "Hero", "Departure board", "Story, words only", "Itinerary stop", "Sign-off", "Footer"]);
    const rows = proof(page, "Desktop").locator("[data-row]");
    await expect(rows.nth(3)).toContainText("The line in October");
    await expect(rows.nth(4)).toContainText("10:40");
  });

  await test.step("undo and redo", async () => {
    await page.getByRole("button", { name: "Undo" }).click();
    await expect.poll(() => namesInOrder(page).then((n) => n[4])).toBe("Itinerary stop");
    await page.keyboard.press("Control+Shift+Z");
    await expect.poll(() => namesInOrder(page).then((n) => n[4])).toBe("Story, words only");
  });

  await test.step("the footer is sealed and says who may change it", async () => {
    await proof(page, "Desktop").getByText("Station Yard").click();
    await expect(page.getByRole("status").filter({ hasText: "Reserved for designers." })).toBeVisible();
    const sheet = page.getByRole("complementary", { name: "Copy sheet" });
    await expect(sheet.getByRole("heading", { name: "Footer" })).toBeVisible();
    await expect(sheet.getByRole("textbox")).toHaveCount(0);
    await expect(sheet.getByText("Reserved for designers.").first()).toBeVisible();
    await expect(sheet.getByRole("button", { name: "Remove" })).toHaveCount(0);
  });

  await test.step("all of it is there after a reload", async () => {
    await kept(page);
    const before = await namesInOrder(page);
    await page.reload();
    await expect(proof(page, "Desktop").locator("h1")).toHaveText("Golden hour on the autumn line");
    expect(await namesInOrder(page)).toEqual(before);
  });
});

test("the whole of it by keyboard", async ({ browser }) => {
  const page = await signIn(browser, "imran");
  await startEmail(page, "Members’ gazette", "April, by keyboard");
  await row(page, /Subject and sender/).focus();
  await page.keyboard.press("ArrowDown");
  await page.keyboard.press("ArrowDown");
  await expect(row(page, /Hero/)).toBeFocused();
  await page.keyboard.press("Enter");
  await page.keyboard.press("Escape");
  await expect(row(page, /Hero/)).toBeFocused();

  await page.keyboard.press("ArrowDown");
  await page.keyboard.press("/");
  const drawer = page.getByRole("dialog", { name: "Add to Stories" });
  await drawer.getByRole("button", { name: /words only/ }).focus();
  await page.keyboard.press("Enter");
  await expect
    .poll(() => namesInOrder(page))
    .toEqual([
      "Subject and sender",
      "Masthead",
      "Hero",
      "Story, picture left",
      "Story, words only",
      "Story, picture right",
      "Tearoom",
      "Sign-off",
      "Footer",
    ]);

  await row(page, /words only/).focus();
  await page.keyboard.press("Alt+ArrowDown");
  await expect.poll(() => namesInOrder(page).then((n) => n[5])).toBe("Story, words only");
  await page.keyboard.press("Control+d");
  await expect.poll(() => namesInOrder(page).then((n) => n.filter((x) => x === "Story, words only").length)).toBe(2);
  await page.keyboard.press("Delete");
  await expect.poll(() => namesInOrder(page).then((n) => n.filter((x) => x === "Story, words only").length)).toBe(1);

  await row(page, /Story, words only/).focus();
  await page.keyboard.press("Enter");
  await page.keyboard.type("The bell is back");
  await expect(proof(page, "Phone").getByRole("heading", { name: "The bell is back" })).toBeVisible();
  await page.keyboard.press("Tab");
  await page.keyboard.type("It rings ");
  await page.keyboard.press("Control+b");
  await page.keyboard.type("twice");
  await expect(proof(page, "Desktop").locator("strong", { hasText: "twice" })).toBeVisible();

  await row(page, /Footer/).focus();
  await page.keyboard.press("Delete");
  await expect(page.getByRole("status").filter({ hasText: "stays where it is" })).toBeVisible();
  await page.keyboard.press("?");
  await expect(page.getByRole("dialog", { name: "Keys" })).toBeVisible();
});

test("the ruler, dark mode, pictures off and plain text change what is looked at", async ({ browser }) => {
  const page = await signIn(browser, "imran", "/emails");
  await page.getByRole("link", { name: /Winter steam gala/ }).click();
  const ruler = page.getByRole("slider", { name: /desktop proof/ });
  await ruler.focus();
  await page.keyboard.press("Home");
  await expect(page.getByText("Desktop, 320")).toBeVisible();
  await page.keyboard.press("End");
  const box = await ruler.boundingBox();
  await page.mouse.move((box?.x ?? 0) + 22, (box?.y ?? 0) + 10);
  await page.mouse.down();
  await moveHeld(page, [(box?.x ?? 0) + 22, (box?.y ?? 0) + 10], [(box?.x ?? 0) - 80, (box?.y ?? 0) + 10]);
  await page.mouse.up();
  const width = Number(await ruler.getAttribute("aria-valuenow"));
  expect(width).toBeGreaterThan(400);
  expect(width).toBeLessThan(560);

  const page_ = proof(page, "Desktop").locator("body");
  await expect(page_).toHaveCSS("background-color", "rgb(255, 255, 255)");
  await page.getByRole("button", { name: "Dark" }).click();
  await expect(page_).toHaveCSS("background-color", "rgb(18, 26, 24)");
  await page.getByRole("button", { name: "Pictures off" }).click();
  await expect(proof(page, "Desktop").locator("img[src]")).toHaveCount(0);
  await page.getByRole("button", { name: "Plain text" }).click();
  await expect(page.getByText(/^={10,}$/m)).toBeVisible();
});

test("the HTML and the text are taken away", async ({ browser }) => {
  const page = await signIn(browser, "imran", "/emails");
  await page.getByRole("link", { name: /Winter steam gala/ }).click();
  await page.getByRole("button", { name: "Export" }).click();
  const download = page.waitForEvent("download");
  await page.getByRole("menuitem", { name: "HTML file", exact: true }).click();
  expect((await download).suggestedFilename()).toBe("Winter steam gala (in review).html");

  await page.context().grantPermissions(["clipboard-read", "clipboard-write"]);
  await page.getByRole("button", { name: "Export" }).click();
  await page.getByRole("menuitem", { name: /^Copy the HTML/ }).click();
  await expect(page.getByRole("button", { name: "Copied" })).toBeVisible();
  const copied = await page.evaluate(() => navigator.clipboard.readText());
  expect(copied).toMatch(/^<!DOCTYPE html>/);
  expect(copied).toContain("Six engines, one frosty weekend");
  expect(copied).not.toContain("data-piece");
});

test("what is still to fill is counted apart from what is wrong, and led to field by field", async ({ browser }) => {
  const page = await signIn(browser, "imran");
  await startEmail(page, "Special train", "Still to fill");
  const unfilled = page.getByRole("button", { name: /^\d+ of \d+ filled$/ });
  const count = async () => {
    const [filled = 0, all = 0] = ((await unfilled.textContent()) ?? "").split(" of ").map((n) => Number.parseInt(n, 10));
    return all - filled;
  };
  await expect(unfilled).toBeVisible();
  const before = await count();
  expect(before).toBeGreaterThan(1);
  await expect(page.getByRole("button", { name: /show the findings$/ })).not.toContainText("blocker");

  // The first is the subject; by the key and by the button the next follow.
  await page.keyboard.press("F8");
  const subject = page.getByRole("textbox", { name: "Subject" });
  await expect(subject).toBeFocused();
  await expect(page.getByText("To fill: The email has no subject.")).toBeVisible();
  await page.keyboard.type("A day by steam");
  await kept(page);
  await expect.poll(count).toBe(before - 1);
  await unfilled.click();
  const field = page.locator("aside :focus");
  await expect(field).toBeVisible();
  await expect(subject).toHaveCount(0);
  await page.keyboard.press("F8");
  await expect(field).toBeVisible();

  // It still keeps the email from going out.
  await page.getByRole("button", { name: "Export" }).click();
  await expect(page.getByText(`Not ready to go out: ${before - 1} to fill`)).toBeVisible();
  await page.keyboard.press("Escape");
  await page.getByRole("tab", { name: /Findings/ }).click();
  await expect(page.getByRole("heading", { name: `To fill, ${before - 1}` })).toBeVisible();
  await expectNoViolations(page, ["iframe"]);
});
