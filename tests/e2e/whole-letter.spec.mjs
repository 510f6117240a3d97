import { bringInQuietly, expect, inMillimeters, pageText, readPdf, test, tray } from "./desk.mjs";
import { execFileSync } from "node:child_process";
import { mkdtempSync, readdirSync, readFileSync, statSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { root } from "./server.mjs";

const members = [
  "No.,First,Last,Street,City,State,ZIP,Amount due,Renewal date,Language,Photo",
  "F-1,Ana,Okafor,2291 Lantern Row,Alder Point,OR,97412,1250.5,2027-02-28,en,emblem.png",
  "F-2,Luis,Ortega,14 Quay Road,Fernquay,OR,97412,64,2027-03-31,es,",
  "F-3,Mary,Halloway,3 Mill Lane,Fernquay,OR,97412,0,2027-04-30,,emblem.png",
  "F-4,Per,Lindqvist,8 Bell Street,Fernquay,OR,97412,28,2027-05-31,en,",
].join("\r\n");
const gifts = ["No.,Plant,Gift", "F-1,Titan arum,75", "F-1,Ginkgo,50.5", "F-2,Blue poppy,120", "F-4,Camellia,"].join("\r\n");

const open = async (page) => {
  await page.goto("/designs");
  await page.getByRole("button", { name: "New design" }).first().click();
  await page.getByLabel("Name", { exact: true }).fill("Renewal letter");
  await page.getByRole("button", { name: "Create design", exact: true }).click();
  const letter = page.getByLabel("Letter", { exact: true });
  await letter.click();
  return letter;
};

/** Where a text stands on a page of a PDF, in points from its left and top edges. */
function placeOf(pdf, pageNumber, word) {
  const boxes = execFileSync("pdftotext", ["-bbox", "-f", `${pageNumber}`, "-l", `${pageNumber}`, pdf, "-"], { encoding: "utf8" });
  const found = new RegExp(`<word xMin="([\\d.]+)" yMin="([\\d.]+)" xMax="([\\d.]+)"[^>]*>${word.replace(/[$.]/g, "\\$&")}</word>`).exec(
    boxes,
  );
  expect(found, `${word} on page ${pageNumber}`).not.toBeNull();
  return { left: Number(found[1]), top: Number(found[2]), right: Number(found[3]) };
}

test("a renewal letter with letterhead, watermark, brackets, a table with its total, two locales and a picture, written and produced", async ({
  page,
}) => {
  await inMillimeters(page);
  const listId = await bringInQuietly(page, "members.csv", members);
  await page.goto(`/lists/${listId}`);
  await page.getByRole("tab", { name: "Detail rows" }).click();
  await page.getByRole("link", { name: "Import rows" }).click();
  await page.getByLabel("List file").setInputFiles({ name: "gifts.csv", mimeType: "text/csv", buffer: Buffer.from(gifts) });
  await page.getByRole("button", { name: "Import rows" }).click();
  await page.waitForURL(/pane=rows/);
  const letter = await open(page);

  await test.step("letterhead: header, footer with the pages counted, watermark", async () => {
    await page.getByLabel("Header", { exact: true }).click();
    await page.keyboard.type("Fernquay Botanic Garden");
    await page.keyboard.press("Shift+Home");
    await page.getByRole("button", { name: "Bold (Ctrl B)" }).click();
    await page.getByLabel("Footer", { exact: true }).click();
    await page.getByLabel("Snippets").click();
    await page.getByRole("button", { name: /^Page n of m/ }).click();
    await pageText(page, "page 1 of 1");
    await page.getByRole("button", { name: "Page", exact: true }).click();
    await page.getByLabel("Watermark text").fill("For {First}");
    await page.getByLabel("Watermark opacity").fill("8");
    await page.getByRole("button", { name: "Apply", exact: true }).click();
    await pageText(page, "For Ana");
  });

  await test.step("ready pieces: address, date, salutation", async () => {
    await letter.click();
    for (const piece of [/^Delivery address/, /^Date Date the piece/, /^Salutation/]) {
      await page.getByLabel("Snippets").click();
      await page.getByRole("dialog", { name: "Snippets" }).getByRole("button", { name: piece }).click();
      if (!String(piece).includes("Salutation")) await page.keyboard.press("Enter");
    }
    expect(await pageText(page, "Dear Ana,")).toMatch(/Ana Okafor\s+2291 Lantern Row\s+Alder Point OR 97412/);
  });

  await test.step("a paragraph with money and a date, formats chosen by what comes out", async () => {
    await letter.press("Control+End");
    await page.keyboard.press("Enter");
    await page.keyboard.type("You owe {Amount due} by {Renewal date | date long}.");
    await letter.locator(".chip", { hasText: "Amount due" }).click();
    await page.getByRole("group", { name: "Format" }).getByRole("button", { name: "$1,250.50", exact: true }).click();
    await pageText(page, "You owe $1,250.50 by February 28, 2027.");
  });

  await test.step("what is selected becomes conditional, with another way for the others", async () => {
    await letter.press("Control+End");
    await page.getByRole("button", { name: "When", exact: true }).click();
    await page.getByRole("textbox", { name: "Condition", exact: true }).fill("Amount due > 0");
    await page.keyboard.press("Enter");
    await expect(letter.locator(".bracket-head").first()).toContainText("3 of 4");
    await letter.locator(".branch").first().hover();
    await page.getByRole("button", { name: "+ Otherwise" }).click();
    await letter.locator(".branch").nth(1).locator("p").click();
    await page.keyboard.type("Nothing is due.");
    await pageText(page, "You owe $1,250.50");
    await page.getByLabel("Next recipient").click();
    await pageText(page, "Hola, Luis:");
    expect(await pageText(page, "31 de marzo de 2027")).toContain("You owe $64.00");
    await page.getByLabel("Next recipient").click();
    await pageText(page, "Nothing is due.");
    await page.getByLabel("Previous recipient").click();
    await page.getByLabel("Previous recipient").click();
  });

  await test.step("a table whose row is repeated for each gift, with the total", async () => {
    // A click on the paper below the text goes on there.
    await page.locator(".letter-page").click({ position: { x: 200, y: 500 } });
    await page.getByRole("button", { name: "Table", exact: true }).click();
    const cells = letter.locator("th, td");
    await expect(cells).toHaveCount(9);
    const write = async (n, text) => {
      await cells.nth(n).click();
      await page.keyboard.type(text);
    };
    await write(0, "Plant");
    await write(1, "Gift");
    await cells.nth(2).click();
    await page.getByLabel("Delete").click();
    await page.getByRole("button", { name: "Delete column" }).click();
    await expect(cells).toHaveCount(6);
    await cells.nth(2).click();
    await page.getByLabel("Print row").click();
    await page.getByRole("button", { name: "Once for each row of Gifts" }).click();
    await expect(letter.locator(".row-label")).toHaveText("each Gifts");
    await write(2, "{Plant}");
    await write(3, '{Gift | money | else ""}');
    await write(4, "Together");
    await write(5, '{sum(Gifts.Gift) | money | else ""}');
    await page.getByLabel("Print row").click();
    await page.getByLabel("Hide the table if it has no rows").uncheck();
    await page.keyboard.press("Escape");
    await pageText(page, "Titan arum");
    expect(await pageText(page, "$125.50")).toMatch(/Titan arum\s+\$75\.00\s+Ginkgo\s+\$50\.50\s+Together\s+\$125\.50/);
  });

  await test.step("a picture that a column chooses, and one for everybody else", async () => {
    await page.locator(".letter-page").click({ position: { x: 200, y: 500 } });
    await page.getByLabel("Picture file").setInputFiles(join(root, "demo/files/emblem.png"));
    await expect(letter.locator(".letter-picture img")).toBeVisible();
    await letter.locator(".letter-picture img").click();
    await page.getByLabel("Alt text").fill("Garden logo");
    await page.getByLabel("Width", { exact: true }).fill("20");
    await page.getByLabel("Picture from").selectOption({ label: "Column Photo" });
    await expect(page.getByTestId("save-state")).toHaveText("Version 1, saved");
  });

  let made;
  await test.step("produced for four who take different ways", async () => {
    await page.getByRole("link", { name: "Start drop" }).click();
    await page.getByLabel("Campaign name").fill("Spring");
    await page.getByLabel("drop name").fill("Renewal");
    await page.getByRole("button", { name: "Start drop" }).click();
    await page.waitForURL(/\/drops\/\d+\/proof$/);
    await expect(tray(page, "Ready")).toHaveText("4");
    await page.getByRole("link", { name: /^Produce 4/ }).click();
    await page.getByRole("button", { name: "Produce 4 letters" }).click();
    const download = page.waitForEvent("download");
    await page.getByRole("link", { name: /^PDF,/ }).click();
    made = await (await download).path();
    const { pages } = await readPdf(made);
    expect(pages).toHaveLength(4);
    const [ana, luis, mary, per] = pages;
    expect(ana).toContain("Fernquay Botanic Garden");
    expect(ana).toMatch(/Dear Ana,\s?You owe \$1,250\.50 by February 28, 2027\./);
    expect(ana).toMatch(/Plant Gift Titan arum \$75\.00 Ginkgo \$50\.50 Together \$125\.50/);
    expect(luis).toMatch(/Hola, Luis:\s?You owe \$64\.00 by 31 de marzo de 2027\./);
    expect(luis).toMatch(/Blue poppy \$120\.00 Together \$120\.00/);
    expect(mary).toMatch(/Dear Mary,\s?Nothing is due\.\s?Plant Gift Together/);
    expect(mary).not.toMatch(/You owe|Titan/);
    expect(per).toMatch(/You owe \$28\.00 by May 31, 2027\.\s?Plant Gift Camellia Together/);
    for (const text of pages) expect(text).toMatch(/page 1 of 1/);
    expect(execFileSync("qpdf", ["--check", made], { encoding: "utf8" })).toContain("No syntax or stream encoding errors found");
  });

  await test.step("everything stands where it was put", async () => {
    // An inch.
    const left = 72;
    for (let n = 1; n <= 4; n++) {
      expect(Math.abs(placeOf(made, n, "Fernquay").left - left)).toBeLessThan(1);
      expect(placeOf(made, n, "Fernquay").top).toBeLessThan(60);
      expect(placeOf(made, n, "page").top).toBeGreaterThan(792 - 60);
      // The second column begins in the middle of the text.
      expect(Math.abs(placeOf(made, n, "Gift").left - 306 - 4)).toBeLessThan(1);
    }
    const folder = mkdtempSync(join(tmpdir(), "bandeja-pages-"));
    execFileSync("pdftoppm", ["-r", "60", "-png", made, join(folder, "p")]);
    const pictures = readdirSync(folder);
    expect(pictures).toHaveLength(4);
    for (const picture of pictures) expect(statSync(join(folder, picture)).size).toBeGreaterThan(8000);
    // Four recipients, four different pages.
    expect(new Set(pictures.map((p) => readFileSync(join(folder, p)).toString("base64"))).size).toBe(4);
  });
});
