import { soundDialog } from "./accessible.mjs";
import { bringIn, expect, frames, pageText, saveElsewhere, test } from "./desk.mjs";
import { join } from "node:path";
import { root } from "./server.mjs";

test("a letter is written with fields, faces and a picture, saves itself, and its versions can be brought back", async ({ page }) => {
  await bringIn(page, "members.csv", "First,Last,Amount due,Renewal date\r\nAna,Okafor,64.00,2027-02-28\r\nPer,,1250.5,2027-03-31\r\n");
  await page.goto("/designs");
  await page.getByRole("button", { name: "New design" }).first().click();
  await page.getByLabel("Name", { exact: true }).fill("Second notice");
  await page.getByRole("button", { name: "Create design", exact: true }).click();
  const letter = page.getByLabel("Letter", { exact: true });
  await letter.click();

  await test.step("the palette puts several fields in at once", async () => {
    await page.getByLabel("Select First").check();
    await page.getByLabel("Select Last").check();
    await page.getByRole("button", { name: "Insert 2 fields" }).click();
    await expect(letter.locator(".chip")).toHaveText(["First", "Last"]);
    await pageText(page, "Ana Okafor");
  });

  await test.step("a chip keeps its formatting, format and what to print when blank", async () => {
    await letter.locator(".chip").nth(1).click();
    await page.getByRole("button", { name: "Bold (Ctrl B)" }).click();
    await expect(letter.locator(".chip").nth(1)).toHaveClass(/strong-chip/);
    await expect(page.getByRole("region", { name: "Field", exact: true })).toContainText("Blank for 1 recipient");
    await page.getByRole("group", { name: "Format" }).getByRole("button", { name: "OKAFOR", exact: true }).click();
    await pageText(page, "Ana OKAFOR");
    await page.getByLabel("When blank").selectOption("Print this text");
    await page.getByLabel("Text to print when blank").fill("friend");
    await page.keyboard.press("Enter");
    await page.getByLabel("Next recipient").click();
    await pageText(page, "Per friend");
    await page.getByLabel("Previous recipient").click();
  });

  await test.step("typed fields, line breaks, size and alignment", async () => {
    await page.keyboard.press("Escape");
    // A script is faster than the editor takes its selection over when the focus comes back; nobody's hands are.
    await expect(async () => {
      await letter.press("Control+End");
      await frames(page, 4);
      await expect(letter.locator(".ProseMirror-selectednode")).toHaveCount(0, { timeout: 300 });
    }).toPass();
    await page.keyboard.press("Enter");
    await page.keyboard.type("Due: {Renewal date | date long}");
    await page.keyboard.press("Shift+Enter");
    await page.keyboard.type("{Frist}");
    await expect(letter.locator('.chip[data-wrong="true"]')).toHaveCount(1);
    await expect(page.getByText("There is no column “Frist” in this list.").first()).toBeVisible();
    await pageText(page, "Due: February 28, 2027");
    await page.keyboard.press("Control+z");
    await expect(letter.locator('.chip[data-wrong="true"]')).toHaveCount(0);
    await page.keyboard.press("Control+y");
    await expect(letter.locator('.chip[data-wrong="true"]')).toHaveCount(1);
    await expect(async () => {
      await page.keyboard.press("Backspace");
      await expect(letter.locator('.chip[data-wrong="true"]')).toHaveCount(0, { timeout: 4000 });
    }).toPass();
    await page.getByLabel("Size").selectOption("24");
    await page.getByLabel("Font").selectOption("Caveat");
    await page.keyboard.type(" signed");
    await page.getByRole("button", { name: "Right", exact: true }).click();
    await pageText(page, "signed");
  });

  await test.step("a picture is brought in", async () => {
    await page.getByLabel("Picture file").setInputFiles(join(root, "demo/files/emblem.png"));
    await expect(letter.locator(".letter-picture img")).toBeVisible();
    await page.getByLabel("Picture file").setInputFiles({ name: "x.png", mimeType: "image/png", buffer: Buffer.from("nothing") });
    await expect(page.getByText("This file is not a PNG, JPEG, SVG, or PDF.")).toBeVisible();
  });

  await test.step("it has saved itself", async () => {
    await expect(page.getByTestId("save-state")).toHaveText("Version 1, saved");
    await page.reload();
    await expect(letter).toContainText("signed");
    await expect(letter.locator(".chip")).toHaveCount(3);
    await expect(letter.locator(".chip").nth(1)).toHaveClass(/strong-chip/);
    await expect(letter.locator(".letter-picture img")).toBeVisible();
  });

  await test.step("another's version does not get lost, and an old one can be brought back", async () => {
    const id = /designs\/(\d+)/.exec(page.url())[1];
    const document = {
      page: { sheet: "a4" },
      maxPages: 1,
      content: [{ type: "paragraph", content: [{ type: "text", text: "by Tomás" }] }],
    };
    await saveElsewhere(page, id, document);
    await letter.press("Control+End");
    await page.keyboard.type(" more");
    await expect(page.getByRole("alert")).toContainText("Tomás has since saved version 2");
    await page.getByRole("button", { name: "Merge or choose…" }).click();
    await soundDialog(page);
    await page.getByRole("button", { name: "Keep the text of Tomás as the newest" }).click();
    await expect(letter).toContainText("by Tomás");
    await page.getByRole("button", { name: "Versions" }).click();
    await page.getByRole("button", { name: /^Version 1/ }).click();
    await page.getByRole("button", { name: "Restore version 1" }).click();
    await expect(letter).toContainText("signed");
    await expect(page.getByTestId("save-state")).toHaveText("Version 5, saved");
  });
});
