import { readFileSync, writeFileSync } from "node:fs";
import { strFromU8, unzipSync } from "fflate";
import { newsletter } from "./corpus.mjs";
import { bringInQuietly, expect, readPdf, test } from "./desk.mjs";
import { ownTypeface } from "./typefaces.mjs";

const members = "First name,Last name,City,ZIP,Level\r\nAna,Okafor,Salem,97301,Patron\r\nLuis,Ortega,Bend,97701,Friend\r\n";

test("a newsletter in the organization's own typeface keeps its columns, boxes, and footnotes, on paper and as a DOCX", async ({
  page,
}, info) => {
  const listId = await bringInQuietly(page, "members.csv", members);

  await test.step("a typeface is added; one that must not be embedded and a damaged one are refused", async () => {
    await page.goto("/settings");
    await page.getByRole("link", { name: "Your fonts and replacements" }).click();
    const damaged = ownTypeface("caveat/Caveat-Bold.ttf", "Caveat", "Damage");
    damaged[damaged.length >> 1] ^= 0xff;
    const ttf = (name, buffer) => ({ name, mimeType: "font/ttf", buffer });
    await page.getByLabel("Font files").setInputFiles([
      ttf("fernqy.ttf", ownTypeface("caveat/Caveat-Regular.ttf", "Caveat", "Fernqy")),
      ttf(
        "closed.ttf",
        ownTypeface("caveat/Caveat-Bold.ttf", "Caveat", "Closed", (table) => table("OS/2").bytes.writeUInt16BE(2, 8)),
      ),
      ttf("damaged.ttf", damaged),
    ]);
    const refused = page.getByRole("alert");
    await expect(refused).toContainText("“closed.ttf” does not allow it to be embedded");
    await expect(refused).toContainText("“damaged.ttf” is damaged");
    const own = page.getByRole("region", { name: "Your fonts" });
    await expect(own.getByRole("listitem").filter({ hasText: "fernqy.ttf" })).toContainText("Fernqy Regular");
    await expect(own.getByRole("button", { name: /^Remove / })).toHaveCount(1);
    await page.getByLabel("Font name in documents").fill("House Sans");
    await page.getByRole("button", { name: "Add", exact: true }).click();
    await page.getByLabel("House Sans is printed with").selectOption("Arimo");
    await expect(page.getByRole("row", { name: /House Sans/ })).toContainText("chosen here");
  });

  const designId = await test.step("the document comes over whole", async () => {
    await page.goto("/designs");
    await page.getByRole("button", { name: "New design" }).first().click();
    await page.getByLabel("Document", { exact: true }).setInputFiles({
      name: "news.docx",
      mimeType: "application/vnd.openxmlformats-officedocument.wordprocessingml.document",
      buffer: await newsletter({ face: "Fernqy", other: "House Sans" }),
    });
    await page.waitForURL(/\/designs\/document\//);
    await expect(page.getByRole("region", { name: "Imported" })).toContainText("1 text box, 1 footnote, text in columns");
    const different = page.getByRole("region", { name: "Looks different" });
    await expect(different).toContainText("House Sans is replaced with Arimo");
    await expect(different).not.toContainText("Fernqy");
    await expect(page.getByLabel("Field for {{First name}}")).toHaveValue("=First name");
    await page.getByRole("button", { name: "Create letter" }).click();
    await page.waitForURL(/\/designs\/\d+$/);
    return Number(/(\d+)$/.exec(page.url())[1]);
  });

  await test.step("a footnote and a box are put in, and what was done is undone", async () => {
    const writing = page.getByRole("textbox", { name: "Letter" });
    await writing.getByText("Whoever comes on a Sunday").click();
    await page.keyboard.press("End");
    const insert = page.getByRole("button", { name: "Insert a box, columns, or a footnote" });
    await insert.click();
    await page.getByRole("button", { name: "Footnote", exact: true }).click();
    await page.getByLabel("Text of the footnote").fill("Ask for {First name} at the gate.");
    await writing.getByText("Yours, the garden").click();
    await insert.click();
    await page.getByRole("button", { name: "Text box", exact: true }).click();
    await page.keyboard.type("Come by any day.");
    await page.getByLabel("Position of the box").selectOption("left, text wraps around it");
    await expect(writing.locator(".letter-box")).toHaveCount(2);
    await page.getByRole("button", { name: "Remove the box, keep its text" }).click();
    await expect(writing.locator(".letter-box")).toHaveCount(1);
    await page.getByRole("button", { name: "Undo (Ctrl Z)" }).click();
    await expect(writing.locator(".letter-box")).toHaveCount(2);
    // A page that lies follows, with a table in which one cell has a line of its own.
    await writing.getByText("Yours, the garden").click();
    await page.keyboard.press("End");
    await page.getByRole("button", { name: "Page break (Ctrl Enter)" }).click();
    await page.keyboard.type("All beds, from end to end.");
    await writing.locator(".page-break").click();
    await page.getByLabel("Different page layout from here on").check();
    await expect(page.getByRole("region", { name: "Page break" }).getByLabel("Orientation")).toHaveValue("landscape");
    await expect(writing.locator(".page-break")).toHaveAttribute("data-says", "next page, US Letter, 8½ × 11 in, landscape");
    await writing.getByText("All beds, from end to end.").click();
    await page.keyboard.press("End");
    await page.getByRole("button", { name: "Table", exact: true }).click();
    await page.keyboard.type("Roses");
    await page.getByRole("button", { name: "Lines and position of text in the cell" }).click();
    await page.getByLabel("Line at the bottom").check();
    await page.getByLabel("Line width").fill("3");
    await page.keyboard.press("Escape");
    await expect(page.getByText("Version 1, saved")).toBeVisible();
    await expect
      .poll(async () => JSON.stringify((await (await page.request.get(`/api/designs/${designId}`)).json()).document))
      .toMatch(/Come by any day\..*"bottom":\{"color":"#000000","width":3\}|Come by any day\..*"bottom":\{"width":3,"color":"#000000"\}/);
  });

  const dropId = await (
    await page.request.post("/api/drops", { data: { name: "News", listId, designIds: [designId], campaignName: "Spring" } })
  ).json();
  await expect.poll(async () => (await (await page.request.get(`/api/drops/${dropId}`)).json()).checking).toBe(false);
  const { rows } = await (await page.request.get(`/api/drops/${dropId}/recipients?limit=5`)).json();

  await test.step("the finished page has all of it, for each recipient", async () => {
    for (const [i, name] of ["Ana", "Luis"].entries()) {
      const path = info.outputPath(`${name}.pdf`);
      const proof = await page.request.get(`/api/drops/${dropId}/recipients/${rows[i].id}/proof.pdf`);
      writeFileSync(path, await proof.body());
      const { pages } = await readPdf(path);
      expect(pages).toHaveLength(2);
      expect(pages[1]).toContain("All beds, from end to end.");
      expect(pages[0]).toContain(`Fernquay News for ${name}`);
      expect(pages[0]).toContain("Open daily from nine to five.");
      expect(pages[0]).toContain("Come by any day.");
      expect(pages[0]).toMatch(
        new RegExp(`1 ?\\s*Counted in ${name === "Ana" ? "Salem" : "Bend"}\\. 2 ?\\s*Ask for ${name} at the gate\\.$`),
      );
      const written = readFileSync(path, "latin1");
      expect(written).toContain("+Fernqy-Regular");
      expect([...written.matchAll(/MediaBox ?\[ ?0 0 (\d+) (\d+)/g)].map((m) => m.slice(1).join(" "))).toEqual(["612 792", "792 612"]);
    }
  });

  await test.step("one recipient's letter is changed and taken along as a DOCX", async () => {
    await page.goto(`/drops/${dropId}/proof/letter/${rows[0].id}/${designId}`);
    const save = page.getByRole("button", { name: "Save for this recipient" });
    await page.getByRole("textbox", { name: "Letter" }).getByText("Yours, the garden").click();
    await page.keyboard.press("End");
    await page.keyboard.type(" and the fig");
    await save.click();
    await page.waitForURL(/\/proof\?piece=/);
    await page.goto(`/drops/${dropId}/proof/letter/${rows[0].id}/${designId}`);
    const [download] = await Promise.all([page.waitForEvent("download"), page.getByRole("link", { name: "DOCX" }).click()]);
    expect(download.suggestedFilename()).toBe("0001 news.docx");
    const zip = unzipSync(readFileSync(await download.path()));
    const text = strFromU8(zip["word/document.xml"]);
    expect(text).toContain("Yours, the garden and the fig");
    expect(text).toContain('<w:cols w:num="2"');
    expect(text).toContain("<w:txbxContent>");
    expect(text).toContain('<w:pgSz w:w="15840" w:h="12240" w:orient="landscape"/>');
    expect(text).toContain('<w:bottom w:val="single" w:sz="24"');
    expect(strFromU8(zip["word/footnotes.xml"])).toContain("Counted in Salem.");
  });

  await test.step("the typeface stays while a letter uses it", async () => {
    await page.goto("/settings/typefaces");
    await page.getByRole("button", { name: "Remove Fernqy Regular" }).click();
    await expect(page.getByText("Fernqy is used in “news”")).toBeVisible();
  });
});
