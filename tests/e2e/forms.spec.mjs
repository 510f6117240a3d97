import { spawnSync } from "node:child_process";
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { soundDialog } from "./accessible.mjs";
import { bringInQuietly, checked, expect, fieldsOf, pageText, readPdf, test, tray } from "./desk.mjs";
import { nursery, pledge, visitor } from "./forms.mjs";

const count = 200;
const levels = ["Friend", "Household", "Patron", "Benefactor"];
const pad = (n) => String(n).padStart(3, "0");
/** People whose cells are blank here and there; the family name of the seventh is missing. */
const people = Array.from({ length: count }, (_, i) => ({
  Phone: i % 5 === 3 ? "" : `(541) 555-0${pad(i)}`,
  Level: levels[i % 4],
  Code: `c${pad(i)}`,
  ZIP: i % 3 === 0 ? "02139" : "97412",
  State: i % 3 === 0 ? "MA" : "OR",
  Last: i === 6 ? "" : `Family${pad(i)}`,
  First: `Given${pad(i)}`,
  Street: `${i + 1} Kelp Avenue`,
  Unit: i % 4 === 0 ? `Apt ${i}` : "",
  City: i % 3 === 0 ? "Cambridge" : "Fernquay",
  Since: i % 6 === 0 ? "" : String(2000 + (i % 20)),
  Renewal: `2027-02-${String((i % 28) + 1).padStart(2, "0")}`,
  Due: i % 7 === 0 ? "" : String(40 + i),
  News: i % 2 === 0 ? "yes" : "no",
  Plants: i % 10 === 0 ? "tomatoes, basil, and a row of beans along the fence so that they climb" : "",
}));
const csv = [
  Object.keys(people[0]).join(","),
  ...people.map((p) =>
    Object.values(p)
      .map((v) => (v.includes(",") ? `"${v}"` : v))
      .join(","),
  ),
].join("\r\n");

test("an application form is filled in for two hundred people, proofed, mended, and produced printed in and fillable", async ({ page }) => {
  const listId = await bringInQuietly(page, "applicants.csv", csv);
  const designId = await test.step("the PDF becomes a form, its fields matched though their order is another", async () => {
    await page.goto("/designs");
    await page.getByRole("button", { name: "New design" }).first().click();
    await page.getByText("Form", { exact: true }).click();
    await page.getByLabel("List for fields").selectOption({ label: `applicants, ${count}` });
    await page.getByLabel("PDF of the form").setInputFiles({ name: "nursery.pdf", mimeType: "application/pdf", buffer: await nursery() });
    await page.waitForURL(/\/designs\/\d+$/);
    const matched = {
      "Family name": "Last",
      "Given name": "First",
      City: "City",
      State: "State",
      ZIP: "ZIP",
      Telephone: "Phone",
      Level: "Level",
    };
    for (const [field, column] of Object.entries(matched))
      await expect(page.getByLabel(`Fills in ${field}`, { exact: true })).toHaveValue(column);
    return Number(/(\d+)$/.exec(page.url())[1]);
  });
  await test.step("the rest is picked once, with text around fields, and a column is dropped onto the page", async () => {
    const pick = (field, column) => page.getByLabel(`Fills in ${field}`, { exact: true }).selectOption(column);
    await pick("Street and number", "Street");
    await pick("Apartment", "Unit");
    await pick("Member since", "Since");
    await pick("Renewal date", "Renewal");
    await pick("Amount due", "Due");
    await pick("Send me the nursery news", "News");
    await pick("What would you like to grow?", "Plants");
    await pick("Member number", "text with fields…");
    await page.getByLabel("Text for Member number").fill("F-{Code | upper}");
    for (const field of ["Email", "Date of birth", "Kind of bed", "I know the rules of the nursery", "Place and date"])
      await pick(field, "leave empty");
    await page.getByLabel("Fills in Name", { exact: true }).selectOption("text with fields…");
    await page.getByLabel("Text for Name", { exact: true }).fill("{First} {Last}");
    await expect(page.getByRole("button", { name: /not matched/ })).toBeHidden();
    await page.getByRole("button", { name: "Page 2" }).click();
    await page.getByRole("tab", { name: "Columns" }).click();
    const target = page.getByTestId("form-page");
    await page
      .getByRole("list", { name: "Columns" })
      .getByText("Piece number")
      .dragTo(target, { targetPosition: { x: 300, y: 400 } });
    await expect(page.getByRole("button", { name: "Text box {Piece number}" })).toBeVisible();
    await page.getByLabel("Page of the box").selectOption("every page");
    await page.getByLabel("Value of the box").fill("Piece {Piece number}, page {Page number}");
    await pageText(page, "Piece 0001, page 2");
    await page.getByRole("button", { name: "Undo" }).click();
    await page.getByRole("button", { name: "Redo" }).click();
    await page.getByRole("button", { name: "Page 1" }).click();
    const shown = await pageText(page, "1 Kelp Avenue");
    for (const text of ["Given000", "1 Kelp Avenue", "Apt 0", "MA", "F-C000", "Piece 0001, page 1"]) expect(shown).toContain(text);
    await expect(page.getByTestId("save-state")).toHaveText(/saved$/);
  });

  const dropId = await (
    await page.request.post("/api/drops", { data: { name: "Plots", listId, designIds: [designId], campaignName: "Nursery" } })
  ).json();
  await checked(page, dropId);
  await test.step("who lacks what the form requires is found, and mended where it is seen", async () => {
    await page.goto(`/drops/${dropId}/proof`);
    await expect(tray(page, "NeedsReview")).toHaveText("1");
    await expect(page.getByRole("note")).toContainText("The form requires “Family name”, and it is blank.");
    await pageText(page, "Given006");
    await page.keyboard.press("f");
    await page.getByLabel("Last", { exact: true }).fill("Family006");
    await page.keyboard.press("Enter");
    await expect(tray(page, "NeedsReview")).toHaveText("0");
  });
  people[6].Last = "Family006";

  const folder = mkdtempSync(join(tmpdir(), "forms-"));
  const make = async () => {
    const download = page.waitForEvent("download");
    await page.getByRole("link", { name: /^(PDF|ZIP),/ }).click();
    return (await download).path();
  };
  try {
    await test.step("printed in, one PDF: every page has its values, and nothing where the list has nothing", async () => {
      await page.goto(`/drops/${dropId}/produce`);
      await page.getByRole("button", { name: `Produce ${count} forms` }).click();
      const path = await make();
      expect(spawnSync("qpdf", ["--check", path]).status).toBe(0);
      const { pages } = await readPdf(path);
      expect(pages).toHaveLength(2 * count);
      for (const [i, p] of people.entries()) {
        const [first, second] = [pages[2 * i], pages[2 * i + 1]];
        for (const v of [p.Last, p.First, p.Street, p.City, p.State, `F-${p.Code.toUpperCase()}`, p.Phone, p.Unit, p.Since, p.Due])
          expect(first, `${i}: ${v}`).toContain(v);
        expect(first.replaceAll(" ", "")).toContain(p.ZIP);
        expect(second).toContain(`${p.First} ${p.Last}`);
        expect(second).toContain(`Piece ${String(i + 1).padStart(4, "0")}, page 2`);
        if (!p.Due) expect(first).not.toMatch(/Amount due 0\b/);
      }
      // The page itself is written once: beyond it a piece takes little.
      expect(readFileSync(path).length / count).toBeLessThan(6000);
      expect(await fieldsOf(path)).toEqual({});
    });

    await test.step("fillable, a PDF each with a password of its own: another program reads every field", async () => {
      await page.goto(`/designs/${designId}`);
      await page.getByRole("button", { name: "fillable", exact: true }).click();
      await expect(page.getByTestId("save-state")).toHaveText(/saved$/);
      const second = await (
        await page.request.post("/api/drops", { data: { name: "Plots again", listId, designIds: [designId], campaignName: "Nursery" } })
      ).json();
      await checked(page, second);
      await page.goto(`/drops/${second}/produce`);
      await page.getByRole("button", { name: "PDF per recipient" }).click();
      await page.getByLabel("File name").fill("{Code}");
      await page.getByRole("checkbox", { name: "Password (AES-256)" }).check();
      await page.getByRole("checkbox", { name: "Different for each recipient" }).first().check();
      await page.getByLabel("Password to open").fill("{Code}-{ZIP}");
      await page.getByRole("button", { name: `Produce ${count} forms` }).click();
      expect(spawnSync("unzip", ["-q", await make(), "-d", folder]).status).toBe(0);
      const [dated] = readdirSync(folder);
      for (const [i, p] of people.entries()) {
        const [path, open] = [join(folder, dated, `${p.Code}.pdf`), join(folder, "open.pdf")];
        expect(spawnSync("qpdf", ["--decrypt", `--password=${p.Code}-${p.ZIP}`, path, open]).status, `${i}`).toBe(0);
        const fields = await fieldsOf(open);
        expect(fields).toMatchObject({
          name_last: p.Last,
          name_first: p.First,
          addr1: p.Street,
          addr2: p.Unit,
          zip: p.ZIP,
          memno: `F-${p.Code.toUpperCase()}`,
          tel: p.Phone,
          level: p.Level,
          due: p.Due,
          wish: p.Plants,
          news: p.News === "yes" ? "Yes" : "Off",
          mail: "",
          office: "plot no.",
          name_full: `${p.First} ${p.Last}`,
        });
      }
      expect(spawnSync("qpdf", ["--check", join(folder, "open.pdf")]).status).toBe(0);
      const seen = spawnSync("pdftotext", ["-layout", join(folder, "open.pdf"), "-"], { encoding: "utf8" }).stdout;
      expect(seen).toContain(people.at(-1).Last);
      expect(seen).toContain("Application for a nursery plot");
    });
  } finally {
    rmSync(folder, { recursive: true });
  }
});

test("forms of other writers are read, and a newer file keeps what was answered", async ({ page }, info) => {
  const listId = await bringInQuietly(
    page,
    "donors.csv",
    "Full name,Amount,Paid on,Gift is for\r\nAna Okafor,1234.5,2027-03-02,Nursery\r\n",
  );
  const start = async (name, data) =>
    (
      await page.request.post(`/api/designs/form?name=${name}&file=${name}.pdf&listId=${listId}`, {
        data,
        headers: { "Content-Type": "application/octet-stream" },
      })
    ).json();
  const document = async (id) => (await (await page.request.get(`/api/designs/${id}`)).json()).document;

  const pledgeId = await start("pledge", await pledge());
  const card = await document(pledgeId);
  expect(card.facts.fields.map((f) => [f.name, f.kind, f.label, f.format ?? ""])).toEqual([
    ["pledge.name", "text", "Your name", ""],
    ["pledge.amount", "text", "Amount", "number 2 1 before $"],
    ["pledge.date", "text", "Paid on", "date mm/dd/yyyy"],
    ["pledge.for", "choice", "Gift is for", ""],
    ["pledge.note", "text", "Note", ""],
  ]);
  expect(card.answers).toMatchObject({ "pledge.amount": "{Amount}", "pledge.date": "{Paid on}", "pledge.for": "{`Gift is for`}" });
  await page.goto(`/designs/${pledgeId}`);
  await page.getByLabel("Fills in Your name").selectOption("Full name");
  const text = await pageText(page, "Ana Okafor");
  for (const value of ["$1234.50", "03/02/2027", "Nursery"]) expect(text).toContain(value);
  await expect(page.getByText("2 fields have a script. It is not run")).toBeVisible();
  await expect(page.getByTestId("save-state")).toHaveText(/saved$/);
  await page.getByLabel("Newer PDF").setInputFiles({ name: "pledge-2.pdf", mimeType: "application/pdf", buffer: await pledge() });
  await expect(page.getByTestId("save-state")).toHaveText(/Version 2, saved/);
  await expect(page.getByLabel("Fills in Your name")).toHaveValue("Full name");
  const original = await page.request.get(`/api/pictures/${card.asset}`);
  const path = info.outputPath("original.pdf");
  writeFileSync(path, await original.body());
  expect(await fieldsOf(path)).toMatchObject({ "pledge.name": "" });

  const guest = await document(await start("visitor", visitor()));
  expect(guest.facts.fields.map((f) => [f.name, f.kind, f.comb ?? false])).toEqual([
    ["guest", "text", false],
    ["by", "choice", false],
    ["dog", "check", false],
    ["seat", "text", true],
  ]);

  const refused = await page.request.post(`/api/designs/form?name=x&file=x.pdf`, {
    data: Buffer.from("not a pdf"),
    headers: { "Content-Type": "application/octet-stream" },
  });
  expect(refused.status()).toBe(422);
  expect(await refused.text()).toContain("This file is not a PDF");
});

/** A page as poppler draws it, in gray: its width, and a byte for each dot. */
function drawn(path, page, password = "") {
  const out = spawnSync("pdftoppm", ["-r", "72", "-gray", "-f", `${page}`, "-l", `${page}`, "-upw", password, path], {
    maxBuffer: 1 << 26,
  }).stdout;
  const [head, width] = /^P5\s+(\d+)\s+\d+\s+\d+\s/.exec(out.subarray(0, 40).toString("latin1"));
  return { width: Number(width), dots: out.subarray(head.length) };
}

test("a locked form is asked for its password, changed for one alone, and keeps its fields where a run says so", async ({ page }) => {
  const donors = [
    ["Ana Okafor", "1234.5", "2027-03-02", "Nursery"],
    ["Bo Lindqvist", "20", "2027-04-11", "Library"],
    ["Mai Nguyễn", "", "2027-05-01", "Glasshouse"],
  ];
  const rows = ["Your name,Amount,Paid on,Gift is for", ...donors.map((d) => d.join(","))].join("\r\n");
  const listId = await bringInQuietly(page, "pledges.csv", rows);
  const original = await pledge("moss & fern ü");
  const folder = mkdtempSync(join(tmpdir(), "locked-"));
  const plain = join(folder, "original.pdf");
  writeFileSync(plain, original);
  try {
    await page.goto("/designs");
    await page.getByRole("button", { name: "New design" }).first().click();
    await page.getByText("Form", { exact: true }).click();
    await page.getByLabel("PDF of the form").setInputFiles({ name: "pledge.pdf", mimeType: "application/pdf", buffer: original });
    const dialog = page.getByRole("dialog", { name: "Password of pledge.pdf" });
    await expect(dialog.getByText("This PDF opens only with a password.")).toBeVisible();
    await dialog.getByLabel("Password").fill("moss");
    await page.keyboard.press("Enter");
    await expect(dialog.getByText("That password does not open this PDF.")).toBeVisible();
    await soundDialog(page);
    await dialog.getByLabel("Password").fill("moss & fern ü");
    await page.keyboard.press("Enter");
    await page.waitForURL(/\/designs\/\d+$/);
    const designId = Number(/(\d+)$/.exec(page.url())[1]);
    await pageText(page, "Ana Okafor");
    const kept = await page.request.get(
      `/api/pictures/${(await (await page.request.get(`/api/designs/${designId}`)).json()).document.asset}`,
    );
    expect(Buffer.compare(await kept.body(), original)).toBe(0);

    const dropId = await (
      await page.request.post("/api/drops", { data: { name: "Cards", listId, designIds: [designId], campaignName: "Pledges" } })
    ).json();
    await checked(page, dropId);
    await page.goto(`/drops/${dropId}/proof`);
    await pageText(page, "Ana Okafor");
    await page.keyboard.press("ArrowDown");
    await pageText(page, "Bo Lindqvist");
    await page.keyboard.press("e");
    await expect(page.getByRole("button", { name: "Save for this recipient" })).toBeDisabled();
    await page.getByLabel("Fills in Note").selectOption("text with fields…");
    await page.getByLabel("Text for Note").fill("Please call {Your name} first");
    await pageText(page, "Please call Bo Lindqvist first");
    await page.getByRole("button", { name: "Save for this recipient" }).click();
    await expect(page.getByText("Changed for this recipient only").first()).toBeVisible();
    await pageText(page, "Please call Bo Lindqvist first");

    const make = async (how) => {
      await page.goto(`/drops/${dropId}/produce`);
      await how();
      await page.getByRole("button", { name: /^Produce 3 / }).click();
      const download = page.waitForEvent("download");
      await page
        .getByRole("link", { name: /^(PDF|ZIP),/ })
        .first()
        .click();
      return (await download).path();
    };
    await test.step("a PDF each with fillable fields, though the form prints them in", async () => {
      const zip = await make(async () => {
        await page.getByRole("button", { name: "PDF per recipient" }).click();
        await page.getByLabel("Form fields").selectOption("fillable");
        await page.getByLabel("File name").fill("{Your name}");
      });
      expect(spawnSync("unzip", ["-q", zip, "-d", folder]).status).toBe(0);
      const dated = join(
        folder,
        readdirSync(folder).find((n) => n !== "original.pdf"),
      );
      for (const [name, amount, paid, gift] of donors) {
        const fields = await fieldsOf(join(dated, `${name}.pdf`));
        expect(fields).toEqual({
          "pledge.name": name,
          "pledge.amount": amount ? `$${Number(amount).toFixed(2)}` : "",
          "pledge.date": paid.replace(/(\d+)-(\d+)-(\d+)/, "$2/$3/$1"),
          "pledge.for": gift,
          "pledge.note": name.startsWith("Bo") ? "Please call Bo Lindqvist first" : "",
        });
      }
    });
    await test.step("printed in, nothing outside the fields is another than in the original", async () => {
      const second = await (
        await page.request.post("/api/drops", { data: { name: "Again", listId, designIds: [designId], campaignName: "Pledges" } })
      ).json();
      await checked(page, second);
      await page.goto(`/drops/${second}/produce`);
      await page.getByRole("button", { name: /^Produce 3 / }).click();
      const download = page.waitForEvent("download");
      await page.getByRole("link", { name: /^PDF,/ }).click();
      const made = await (await download).path();
      const { document } = await (await page.request.get(`/api/designs/${designId}`)).json();
      const boxes = document.facts.fields.flatMap((f) => f.widgets);
      const inside = (x, y) => boxes.some((b) => x >= b.x - 2 && x <= b.x + b.width + 2 && y >= b.y - 2 && y <= b.y + b.height + 2);
      const before = drawn(plain, 1, "moss & fern ü");
      expect(before.dots.some((d) => d < 128)).toBe(true);
      for (let n = 1; n <= donors.length; n++) {
        const after = drawn(made, n);
        expect(after.dots.length).toBe(before.dots.length);
        const other = [...after.dots].filter((d, i) => {
          const [x, y] = [i % after.width, Math.floor(i / after.width)];
          return !inside(x, y) && Math.abs(d - before.dots[i]) > 3;
        });
        expect(other).toEqual([]);
        expect([...after.dots].some((d, i) => inside(i % after.width, Math.floor(i / after.width)) && d < 128)).toBe(true);
      }
    });
  } finally {
    rmSync(folder, { recursive: true });
  }
});
