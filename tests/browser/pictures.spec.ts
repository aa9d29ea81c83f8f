import { expect, type Page } from "@playwright/test";
import { openEmail, proof, row, signIn, test } from "./support";

/** A PNG drawn by the browser: one colour, with a band of another at the left. */
const drawn = (page: Page, width: number, height: number, colour: string, band: string) =>
  page.evaluate(
    ([w, h, c, b]) => {
      const canvas = Object.assign(document.createElement("canvas"), { width: w, height: h });
      const pen = canvas.getContext("2d") as CanvasRenderingContext2D;
      pen.fillStyle = c as string;
      pen.fillRect(0, 0, w as number, h as number);
      pen.fillStyle = b as string;
      pen.fillRect(0, 0, (w as number) / 6, h as number);
      return canvas.toDataURL("image/png").split(",")[1] ?? "";
    },
    [width, height, colour, band] as const,
  );

async function openPictures(page: Page) {
  await page.getByRole("link", { name: "Pictures" }).click();
  await expect(page.getByRole("button", { name: /Viaduct, morning/ })).toBeVisible();
}

const side = (page: Page) => page.getByRole("complementary", { name: "The chosen picture" });

test("several files come in at once; the one that is no picture says so and takes nothing with it", async ({ browser }) => {
  const page = await signIn(browser, "dana");
  await openPictures(page);
  const files = await Promise.all(
    [1600, 700].map(async (width) => ({
      name: `Signal box ${width}.png`,
      mimeType: "image/png",
      buffer: Buffer.from(await drawn(page, width, 500, "#204060", "#e0c060"), "base64"),
    })),
  );
  await page
    .getByLabel("Picture files")
    .setInputFiles([
      files[0],
      { name: "notes.png", mimeType: "image/png", buffer: Buffer.from("%PDF-1.7 notes") },
      files[1],
    ] as typeof files);
  await expect(page.getByRole("list", { name: "Uploads" }).getByRole("alert")).toContainText("is a PDF");
  await expect(page.getByRole("button", { name: /Signal box 1600/ })).toContainText("1280 × 400");
  await expect(page.getByRole("button", { name: /Signal box 700/ })).toContainText("no alt text");
});

test("dropped and pasted files are taken too", async ({ browser }) => {
  const page = await signIn(browser, "dana");
  await openPictures(page);
  for (const [kind, colour] of [
    ["drop", "#602040"],
    ["paste", "#206040"],
  ] as const) {
    const png = await drawn(page, 420, 300, colour, "#ffffff");
    await page.evaluate(
      ([kind, png]) => {
        const bytes = Uint8Array.from(atob(png), (c) => c.charCodeAt(0));
        const data = new DataTransfer();
        data.items.add(new File([bytes], `by ${kind}.png`, { type: "image/png" }));
        const target = document.querySelector("main section") ?? document.body;
        target.dispatchEvent(
          kind === "drop"
            ? new DragEvent("drop", { dataTransfer: data, bubbles: true, cancelable: true })
            : new ClipboardEvent("paste", { clipboardData: data, bubbles: true }),
        );
      },
      [kind, png] as const,
    );
    await expect(page.getByRole("button", { name: new RegExp(`by ${kind}`) })).toBeVisible();
  }
});

test("a picture is described, tagged, found again, and its crop follows the focal point", async ({ browser }) => {
  const page = await signIn(browser, "dana");
  await openPictures(page);
  const buffer = Buffer.from(await drawn(page, 1200, 400, "#305030", "#c03020"), "base64");
  await page.getByLabel("Picture files").setInputFiles({ name: "Crossing keeper.png", mimeType: "image/png", buffer });
  await expect(side(page).getByLabel("Name")).toHaveValue("Crossing keeper");
  await side(page).getByLabel("Alt text").fill("A keeper at a level crossing");
  await side(page).getByLabel("Tags").fill("crossings");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("navigation", { name: "Tags" }).getByRole("button", { name: "crossings 1" })).toBeVisible();

  const crop = side(page).locator("figure img");
  const before = await crop.getAttribute("src");
  const focal = side(page).getByRole("button", { name: /^Focal point/ });
  await focal.focus();
  for (let i = 0; i < 8; i++) {
    await page.keyboard.press("ArrowLeft");
  }
  await expect(side(page).getByRole("button", { name: /^Focal point, 10 %/ })).toBeVisible();
  await expect(crop).not.toHaveAttribute("src", before ?? "");
  // The band that was out of sight is in the crop now.
  await expect
    .poll(() =>
      crop.evaluate(async (img: HTMLImageElement) => {
        await img.decode();
        const canvas = Object.assign(document.createElement("canvas"), { width: img.naturalWidth, height: img.naturalHeight });
        const pen = canvas.getContext("2d") as CanvasRenderingContext2D;
        pen.drawImage(img, 0, 0);
        return pen.getImageData(10, 10, 1, 1).data[0];
      }),
    )
    .toBe(0xc0);

  await page.getByLabel("Search pictures").fill("level keeper");
  await expect(page.getByText("1 picture", { exact: true })).toBeVisible();
  await page.getByLabel("Search pictures").fill("nothing like it");
  await expect(page.getByText("No picture has these words.")).toBeVisible();
});

test("a picture replaced everywhere shows in an open email at once, and is put back", async ({ browser }) => {
  const author = await signIn(browser, "imran", "/emails");
  await openEmail(author, "March: the viaduct reopens");
  await row(author, /Hero/).click();
  const shown = proof(author, "Desktop").locator("[data-row=hero] img");
  const before = (await shown.getAttribute("src")) ?? "";

  const page = await signIn(browser, "dana");
  await openPictures(page);
  await page.getByRole("button", { name: /Viaduct, morning/ }).click();
  await expect(
    side(page)
      .getByRole("link", { name: /March: the viaduct reopens|Members' gazette/ })
      .first(),
  ).toBeVisible();
  await side(page).getByRole("button", { name: "Replace it everywhere" }).click();
  await page
    .getByRole("dialog")
    .getByRole("button", { name: /The Lamplighter/ })
    .click();
  await expect(side(page).getByText("Another picture stands in its place")).toBeVisible();
  await expect(shown).not.toHaveAttribute("src", before);
  await side(page).getByRole("button", { name: "Undo the replacement" }).click();
  await expect(shown).toHaveAttribute("src", before);
});

test("reviewers look at pictures and change none", async ({ browser }) => {
  const page = await signIn(browser, "jonas");
  await openPictures(page);
  await page.getByRole("button", { name: /Viaduct, morning/ }).click();
  await expect(side(page).getByLabel("Name")).toBeDisabled();
  await expect(page.getByRole("button", { name: "Add pictures" })).toHaveCount(0);
  await expect(side(page).getByRole("button", { name: "Replace it everywhere" })).toHaveCount(0);
});
