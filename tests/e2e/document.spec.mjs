import { strFromU8, unzipSync } from "fflate";
import { mkdtempSync, readFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { bringInQuietly, checked, expect, pageText, readPdf, test } from "./desk.mjs";
import { renewalLetter } from "./documents.mjs";

const members = [
  "No.,First,Last,Street,City,State,ZIP,Level,Amount due,Renewal date",
  "F-1,Ana,Okafor,2291 Lantern Row,Alder Point,OR,97412,Patron,1250.5,2027-02-28",
  "F-2,Luis,Ortega,14 Quay Road,Fernquay,OR,97412,Friend,64,2027-03-31",
  "F-3,Mary,Halloway,3 Mill Lane,Fernquay,OR,97412,Patron,12,2027-04-30",
  "F-4,Per,Lindqvist,8 Bell Street,Fernquay,OR,97412,Friend,28,2027-05-31",
].join("\r\n");
const visits = ["No.,Day,Guests", "F-1,2026-05-01,2", "F-1,2026-08-12,4", "F-2,2026-06-03,1", "F-4,2026-07-04,3"].join("\r\n");

const docx = (buffer, name = "renewal-2027.docx") => ({
  name,
  mimeType: "application/vnd.openxmlformats-officedocument.wordprocessingml.document",
  buffer,
});

/** The text of a document's paragraphs, and how they are written. */
function readDocx(bytes) {
  const xml = strFromU8(unzipSync(bytes)["word/document.xml"]);
  const texts = [...xml.matchAll(/<w:p>.*?<\/w:p>|<w:p [^>]*>.*?<\/w:p>/gs)]
    .map(([p]) => [...p.matchAll(/<w:t[^>]*>([^<]*)<\/w:t>|(<w:tab\/>)/g)].map((m) => (m[2] ? "\t" : m[1])).join(""))
    .filter((t) => t !== "");
  return { xml, texts };
}

test("a word processor's letter becomes a letter: matched, proofed, and produced as PDF and as a DOCX each", async ({ page }) => {
  const listId = await bringInQuietly(page, "members.csv", members);
  await page.goto(`/lists/${listId}/details/new`);
  await page.getByLabel("List file").setInputFiles({ name: "visits.csv", mimeType: "text/csv", buffer: Buffer.from(visits) });
  await page.getByRole("button", { name: "Import rows" }).click();
  await page.waitForURL(/pane=rows/);
  const original = await renewalLetter();

  await test.step("dropped in, its placeholders are found and most of them matched", async () => {
    await page.goto("/designs");
    await page.getByRole("button", { name: "New design" }).first().click();
    await page.getByLabel("Document", { exact: true }).setInputFiles(docx(original));
    await page.waitForURL(/\/designs\/document\//);
    const table = page.getByRole("table", { name: "Placeholders" });
    await expect(table.getByLabel("Field for {{FName}}")).toHaveValue("=First");
    await expect(table.getByLabel("Field for «Level»")).toHaveValue("=Level");
    await expect(table.locator("tr", { hasText: "MERGEFIELD Amount" })).toContainText("$1,250.50");
    await expect(table.locator("tr", { hasText: "#if Level" })).toContainText("2 of 4");
    await expect(page.getByRole("region", { name: "Looks different" })).toContainText("Calibri is replaced with Carlito");
    // Brackets stand around other things, too: they are offered, not taken.
    await expect(table).not.toContainText("[Signer]");
    await page.getByRole("button", { name: "[ ]" }).click();
    await expect(page.getByTestId("open-placeholders")).toHaveText("2 not matched");
  });

  await test.step("what is open is settled: a text, an expression, and the sample address", async () => {
    await page.getByLabel("Field for [Signer]").selectOption("Fixed text…");
    await page.getByLabel("Text", { exact: true }).fill("Marisol Quint");
    await page.keyboard.press("Enter");
    await page.getByLabel("Field for [Region Mgr]").selectOption("Expression…");
    await page.getByLabel("Expression", { exact: true }).fill('City & " office"');
    await page.keyboard.press("Enter");
    await page.getByLabel(/^Field for Jordan Sample/).selectOption("Delivery address");
    await expect(page.getByTestId("open-placeholders")).toHaveText("all matched");
    // A condition leads to its place in the letter.
    await page.getByRole("table", { name: "Placeholders" }).getByText("{{#if Level").click();
    await expect(page.locator(".bracket-head").first()).toBeInViewport();
    await page.getByRole("button", { name: "Preview", exact: true }).click();
    await expect(page.getByText("Preview for Okafor, Ana")).toBeVisible();
    await pageText(page, "$1,250.50 is due by February 28, 2027");
  });

  const designId = await test.step("it becomes a letter", async () => {
    await page.getByLabel("letter name").fill("Renewal 2027");
    await page.getByRole("button", { name: "Create letter" }).click();
    await page.waitForURL(/\/designs\/\d+$/);
    await pageText(page, "As a patron you are invited");
    await page.getByLabel("Next recipient").click();
    expect(await pageText(page, "Dear Luis,")).not.toContain("As a patron");
    await page.getByLabel("Previous recipient").click();
    return Number(/designs\/(\d+)$/.exec(page.url())[1]);
  });

  await test.step("its file can be had as it came, and a newer one replaces it with the answers kept", async () => {
    await page.getByRole("button", { name: "File", exact: true }).click();
    const dialog = page.getByRole("dialog", { name: "Source file" });
    await expect(dialog).toContainText("Version 1 was imported from renewal-2027.docx");
    const download = page.waitForEvent("download");
    await dialog.getByRole("link", { name: "Download" }).click();
    expect(readFileSync(await (await download).path()).equals(original)).toBe(true);
    await dialog
      .getByLabel("Document", { exact: true })
      .setInputFiles(docx(await renewalLetter({ closing: "With kind regards," }), "renewal-2027b.docx"));
    await page.waitForURL(/design=/);
    await expect(page.getByTestId("open-placeholders")).toHaveText("all matched");
    await expect(page.getByRole("region", { name: "Changes" })).toContainText("With warmkind regards,");
    await page.getByRole("button", { name: "Save as version 2" }).click();
    await page.waitForURL(new RegExp(`/designs/${designId}$`));
    await expect(page.getByTestId("save-state")).toContainText("Version 2");
  });

  const dropId = await (
    await page.request.post("/api/drops", { data: { name: "Renewal", listId, designIds: [designId], campaignName: "Renewal 2027" } })
  ).json();
  await checked(page, dropId);
  const folder = mkdtempSync(join(tmpdir(), "bandeja-docx-"));
  const make = async (output, save) => {
    await page.goto(`/drops/${dropId}/produce${output === "One PDF" ? "" : "?reprint=1-4"}`);
    await page.getByRole("button", { name: output, exact: true }).click();
    if (output !== "One PDF") {
      const asWere = page.getByLabel(/as they were/i);
      if (await asWere.count()) await asWere.check();
    }
    await page.getByRole("button", { name: /^(Make|Produce|Reprint)/ }).click();
    const link = page.getByRole("link", { name: output === "One PDF" ? /PDF,/ : /ZIP,/ }).first();
    await expect(link).toBeVisible({ timeout: 60_000 });
    const download = page.waitForEvent("download");
    await link.click();
    const path = join(folder, save);
    await (await download).saveAs(path);
    return path;
  };

  await test.step("produced as one PDF, it says to each of the four what it should", async () => {
    const { pages } = await readPdf(await make("One PDF", "letters.pdf"));
    expect(pages).toHaveLength(12);
    const [ana, luis, mary, per] = [0, 3, 6, 9].map((n) => pages[n]);
    expect(ana).toContain("Ana Okafor 2291 Lantern Row Alder Point OR 97412");
    expect(ana).toContain("Your level is Patron, and $1,250.50 is due by February 28, 2027.");
    expect(ana).toMatch(
      /As a patron you are invited.*1\. Look at your visits\. a\) Those of this year\. b\) Those of last year\. 2\. Renew\./,
    );
    expect(ana).toMatch(/Visit Guests May 1, 2026 2 Aug 12, 2026 4/);
    expect(luis).not.toContain("As a patron");
    expect(luis).toContain("$64.00 is due by March 31, 2027");
    expect(mary).toContain("As a patron");
    expect(per).toMatch(/Jul 4, 2026 3/);
    expect(ana).toContain("Page 1 of 3");
    expect(pages[1]).toContain("Fernquay Botanic Garden");
    expect(pages[1]).toContain("Second page for Ana Okafor.");
    expect(pages[2]).toMatch(/With kind regards,\s*Marisol Quint\s+Alder Point office/);
  });

  await test.step("produced as a DOCX each, the same is there as text that can be edited", async () => {
    const zip = unzipSync(readFileSync(await make("DOCX per recipient", "letters.zip")));
    const names = Object.keys(zip);
    expect(names).toHaveLength(4);
    expect(names.every((n) => n.endsWith(".docx"))).toBe(true);
    const letters = names.map((n) => readDocx(zip[n]));
    const ana = letters.find((l) => l.texts.includes("Second page for Ana Okafor."));
    expect(ana.texts).toEqual(
      expect.arrayContaining([
        "Dear Ana,",
        "Your level is Patron, and $1,250.50 is due by February 28, 2027.",
        "As a patron you are invited to the evening in the glasshouse.",
        "Look at your visits.",
        "May 1, 2026",
        "With kind regards,",
      ]),
    );
    expect(ana.xml).toContain("<w:tblHeader/>");
    expect(ana.xml).toMatch(/<w:numPr>/);
    expect(ana.xml).toContain('<w:pStyle w:val="Heading1"/>');
    for (const [name, level, amount] of [
      ["Luis", "Friend", "$64.00"],
      ["Mary", "Patron", "$12.00"],
      ["Per", "Friend", "$28.00"],
    ]) {
      const one = letters.find((l) => l.texts.includes(`Dear ${name},`));
      expect(one.texts.some((t) => t.startsWith(`Your level is ${level}, and ${amount}`))).toBe(true);
      expect(one.texts.includes("As a patron you are invited to the evening in the glasshouse.")).toBe(level === "Patron");
    }
  });
});

test("what cannot be read says why and what to do, and nothing is stored", async ({ page }) => {
  await page.goto("/designs");
  await page.getByRole("button", { name: "New design" }).first().click();
  const dialog = page.getByRole("dialog", { name: "New design" });
  const bring = (name, text) => dialog.getByLabel("Document", { exact: true }).setInputFiles(docx(Buffer.from(text), name));
  await bring("old.docx", "\xd0\xcf\x11\xe0\xa1\xb1\x1a\xe1".padEnd(600, "x"));
  await expect(dialog.getByRole("alert")).toContainText(/not a word processor document|old binary format/);
  await bring("letter.docx", "{\\rtf1 hello}");
  await expect(dialog.getByRole("alert")).toContainText("Save it as DOCX");
  await bring("letter.docx", "PK\u0003\u0004 broken");
  await expect(dialog.getByRole("alert")).toContainText("damaged");
  expect(await (await page.request.get("/api/designs")).json()).toEqual([]);
});
