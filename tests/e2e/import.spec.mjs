import { join } from "node:path";
import { bringIn, checked, expect, file, interceptable, pageText, pdfLines, test } from "./desk.mjs";
import { root } from "./server.mjs";

const choose = async (page, f) => {
  await page.goto("/lists/new");
  await page.getByLabel("List file").setInputFiles(f);
};

test("a workbook with a title above its headings and a hidden sheet is read as the sheet shows it", async ({ page }) => {
  await choose(page, join(root, "demo/files/neighbors.xlsx"));
  await expect(page.getByText("in row 4.")).toBeVisible();
  await expect(page.getByLabel("Sheet")).toHaveValue("Households");
  await expect(page.getByRole("option", { name: "Lookup (hidden)" })).toBeAttached();
  await expect(page.getByLabel("Type of Zip Code")).toHaveValue("Text");
  await expect(page.getByLabel("Type of Built")).toHaveValue("Date");
  await expect(page.getByText("02139").first()).toBeVisible();
  await page.getByLabel("Sheet").selectOption("Lookup");
  await expect(page.getByRole("cell", { name: "owner" })).toBeVisible();
  await page.getByLabel("Sheet").selectOption("Households");
  await page.getByLabel("No headings").check();
  await expect(page.getByLabel("Type of Column 1")).toBeVisible();
  await page.getByRole("row").filter({ hasText: "Zip Code" }).click();
  await expect(page.getByLabel("Type of Zip Code")).toBeVisible();
  await page.getByRole("checkbox", { name: "Tenant" }).uncheck();
  await page.getByRole("button", { name: /^Import \d/ }).click();
  await page.waitForURL(/\/lists\/\d+$/);
  // The import, which counts them too, stays until the list is there.
  await expect(page.getByLabel("Search", { exact: true })).toBeVisible();
  await expect(page.getByText("148 recipients", { exact: true })).toBeVisible();
  await page.getByLabel("Search", { exact: true }).fill("02139");
  await expect(page.getByText("4 of 148")).toBeVisible();
});

test("what cannot be read is told in a sentence, and nothing is stored", async ({ page }) => {
  await interceptable(page);
  const before = (await (await page.request.get("/api/lists")).json()).length;
  await choose(page, file("letter.csv", "%PDF-1.7 not a list"));
  await expect(page.getByRole("alert")).toHaveText(
    "“letter.csv” is a PDF, not a list. A list can come in as CSV, XLSX, ODS, a table in a DOCX, JSON or JSON Lines, vCards, or an SQLite database.",
  );
  await choose(page, file("empty.csv", ""));
  await expect(page.getByRole("alert")).toContainText("is empty");
  await choose(page, file("headings.csv", "First name,Last name,ZIP\r\n"));
  await expect(page.getByRole("alert")).toContainText("no recipients below it");
  await expect(page.getByRole("button", { name: /^Import/ })).toBeDisabled();
  const broken = "Name,Note\r\n" + "Ana,ok\r\n".repeat(3000) + 'Per,"never closed\r\n' + "Ana,ok\r\n".repeat(100);
  // The whole file is looked at before anything is stored.
  await choose(page, file("broken.csv", broken));
  await expect(page.getByRole("alert")).toContainText("Row 3,002: a cell starts with a quotation mark that is never closed");
  await page.route("**/api/settings", async (route) => {
    const answer = await route.fetch();
    await route.fulfill({ json: { ...(await answer.json()), maxUpload: 50_000 } });
  });
  let sent = 0;
  page.on("request", (r) => (sent += r.url().includes("/api/uploads") ? 1 : 0));
  await choose(page, file("large.csv", "x".repeat(60_000)));
  await expect(page.getByRole("alert")).toContainText("Split the file and import the parts.");
  expect(sent).toBe(0);
  expect(await (await page.request.get("/api/lists")).json()).toHaveLength(before);
});

test("the table stays fluid with a hundred thousand rows, and keeps widths and columns", async ({ page }) => {
  const lines = ["No.,First,Last,City,ZIP,Amount due"];
  for (let i = 1; i <= 100_000; i++)
    lines.push(`${String(i).padStart(6, "0")},Given${i % 977},Family${i % 7919},Fernquay,0${1000 + (i % 9000)},${(i * 37) % 1000}.50`);
  await bringIn(page, "large.csv", lines.join("\r\n"));
  await expect(page.getByText("100,000 recipients", { exact: true })).toBeVisible();
  await expect(page.getByRole("gridcell", { name: "000001" })).toBeVisible();
  const grid = page.getByRole("grid");
  await grid.evaluate((g) => g.scrollTo(0, g.scrollHeight / 2));
  await expect(page.getByRole("gridcell", { name: /^0500\d\d$/ }).first()).toBeVisible();
  await grid.evaluate((g) => g.scrollTo(0, g.scrollHeight));
  await expect(page.getByRole("gridcell", { name: "100000", exact: true }).first()).toBeVisible();
  // Only what is seen is in the page.
  expect(await page.getByRole("row").count()).toBeLessThan(80);
  await page.getByTitle("Sort by Amount due").click();
  await grid.evaluate((g) => g.scrollTo(0, 0));
  await expect(page.getByRole("row").nth(1)).toContainText("0.50");
  await page.getByLabel("Filter", { exact: true }).fill('Amount due > 999 and Last starts with "Family1"');
  await expect(page.getByText(/^\d+ of 100,000$/)).toBeVisible();
  const edge = page.getByLabel("Width of First");
  const before = Number(await edge.getAttribute("aria-valuenow"));
  await edge.press("ArrowRight");
  await expect(edge).toHaveAttribute("aria-valuenow", String(before + 12));
  await page.getByRole("button", { name: "Columns" }).click();
  await page.getByRole("checkbox", { name: /^City/ }).uncheck();
  await page.keyboard.press("Escape");
  await expect(page.getByTitle("Sort by City")).toHaveCount(0);
  await page.reload();
  await expect(page.getByTitle("Sort by First")).toBeVisible();
  await expect(page.getByTitle("Sort by City")).toHaveCount(0);
  await expect(page.getByLabel("Width of First")).toHaveAttribute("aria-valuenow", String(before + 12));
});

test("the time of an appointment is not lost: it has a column of its own, also when a newer file comes", async ({ page }) => {
  const appointments = (time) =>
    `Chart no.,Patient,Appt Date,Noted\r\nP-1,Ana Okafor,${time},2026-11-03 08:01:07\r\nP-2,Per Nowak,1/15/2027,2026-11-03 08:02:44\r\n`;
  await choose(page, file("appointments.csv", appointments("1/14/2027 9:30 AM")));
  await expect(page.getByText("“Appt Date” has times of day, such as 9:30 AM.")).toBeVisible();
  await expect(page.getByLabel("Keep the times of Appt Date")).toBeChecked();
  await expect(page.getByLabel("Keep the times of Noted")).not.toBeChecked();
  await page.getByRole("button", { name: "Import 2 recipients" }).click();
  await page.waitForURL(/\/lists\/\d+$/);
  const listId = Number(page.url().split("/").at(-1));
  const get = async (path) => (await page.request.get(path)).json();
  expect((await get(`/api/lists/${listId}`)).columns.map((c) => c.name)).toEqual([
    "Chart no.",
    "Patient",
    "Appt Date",
    "Noted",
    "Appt time",
  ]);
  const line = '{Appt Date | date "EEEE, MMMM d"}{when Appt time is not blank} at {Appt time}{end}.';
  const document = { page: { sheet: "letter" }, maxPages: 1, content: [{ type: "paragraph", content: [{ type: "text", text: line }] }] };
  const design = await (await page.request.post("/api/designs", { data: { name: "Reminder", listId, document } })).json();
  const dropId = await (
    await page.request.post("/api/drops", { data: { name: "Reminder", listId, designIds: [design], campaignName: "Recall" } })
  ).json();
  await checked(page, dropId);
  await page.goto(`/drops/${dropId}/proof`);
  await pageText(page, "Thursday, January 14 at 9:30 AM.");
  await page.keyboard.press("ArrowDown");
  await pageText(page, "Friday, January 15.");

  await page.goto(`/lists/${listId}/reload`);
  await page.getByLabel("List file").setInputFiles(file("appointments.csv", appointments("1/14/2027 10:15 AM")));
  await expect(page.getByLabel("Keep the times of Appt Date")).toBeChecked();
  await expect(page.getByLabel("Keep the times of Noted")).not.toBeChecked();
  await expect(page.getByText("Missing from this file")).toHaveCount(0);
  await page.getByLabel("Keep the times of Noted").check();
  await page.getByRole("button", { name: "Compare with list" }).click();
  await expect(page.getByText("New columns: Noted time.")).toBeVisible();
  await expect(page.getByText("10:15 AM").first()).toBeVisible();
  await page.getByRole("button", { name: "Apply 2", exact: true }).click();
  await page.waitForURL(/\/lists\/\d+$/);
  const { rows } = await get(`/api/lists/${listId}/recipients`);
  expect(rows.map((r) => r.values.slice(4))).toEqual([
    ["10:15 AM", "8:01:07 AM"],
    [null, "8:02:44 AM"],
  ]);
});

test("a roll of owners is split by its own order, and mail goes to their address and not to the property’s", async ({ page }) => {
  const roll = [
    "APN,Owner name,Situs addr,Situs ZIP,Mail addr,Mail city st zip",
    '012-1,Okafor Ana M & Luis TR,1 Maple St,97412,PO Box 88,"Linden Bay, OR, 97420"',
    "012-2,de la Cruz Maria,2 Maple St,97412,9 Rue de Bac,75007 Paris France",
    "012-3,Harbor View LLC,3 Maple St,97412,3 Maple St,Fernquay OR 97412",
    "012-4,Lind Robert J Jr,4 Maple St,97412,4 Maple St,Fernquay OR 97412",
  ].join("\r\n");
  await choose(page, file("farm.csv", roll));
  await page
    .getByRole("columnheader", { name: /Owner name/ })
    .getByRole("button", { name: "Will be split" })
    .click();
  const split = page.getByRole("dialog", { name: "Split Owner name" });
  const okafor = split.getByRole("row", { name: /^Okafor Ana M & Luis TR/ });
  await expect(okafor.getByRole("cell")).toHaveText(["Okafor Ana M & Luis TR", "·", "Ana M", "Okafor", "·", "Luis", "Okafor", "·"]);
  await split.getByLabel("Names are written").selectOption("given name first");
  await expect(okafor.getByRole("cell", { name: "Okafor Ana", exact: true })).toBeVisible();
  await split.getByLabel("Names are written").selectOption("family name first, without a comma");
  await split.getByRole("button", { name: "Split", exact: true }).click();
  // The city line is divided, too: postal codes are checked, and can be sorted by.
  await page
    .getByRole("columnheader", { name: /Mail city st zip/ })
    .getByRole("button", { name: "Will be split" })
    .click();
  const city = page.getByRole("dialog", { name: "Split Mail city st zip" });
  await expect(city.getByRole("row", { name: /^Linden Bay/ }).getByRole("cell")).toHaveText([
    "Linden Bay, OR, 97420",
    "Linden Bay",
    "OR",
    "97420",
    "·",
  ]);
  await city.getByRole("button", { name: "Split", exact: true }).click();
  await page.getByRole("button", { name: "Import 4 recipients" }).click();
  await page.waitForURL(/\/lists\/\d+$/);
  const listId = Number(page.url().split("/").at(-1));
  const text = (line) => ({ type: "paragraph", content: [{ type: "text", text: line }] });
  const document = { page: { sheet: "letter" }, maxPages: 1, content: [text("{Delivery address}"), text("{Salutation}")] };
  const design = await (await page.request.post("/api/designs", { data: { name: "Offer", listId, document } })).json();
  const dropId = await (
    await page.request.post("/api/drops", { data: { name: "Offer", listId, designIds: [design], campaignName: "Farm" } })
  ).json();
  await checked(page, dropId);
  await page.goto(`/drops/${dropId}/proof`);
  await pageText(page, "Ana M and Luis Okafor PO Box 88 Linden Bay OR 97420 Dear Ana M and Luis,");
  await page.keyboard.press("ArrowDown");
  await pageText(page, "Maria de la Cruz 9 Rue de Bac 75007 PARIS FRANCE Dear Maria,");
  await page.keyboard.press("ArrowDown");
  await pageText(page, "Harbor View LLC 3 Maple St Fernquay OR 97412");
  await page.keyboard.press("ArrowDown");
  await pageText(page, "Robert J Lind Jr 4 Maple St Fernquay OR 97412 Dear Robert J,");
});

test("amounts print as the file has them, and otherwise when the column is told to", async ({ page }) => {
  await interceptable(page);
  await choose(
    page,
    file("gifts.csv", 'First,Last,Gift,Share,Since\r\nAna,Okafor,"$1,250.00",12.5%,2019\r\nPer,Lindqvist,$40.50,5%,2021\r\n'),
  );
  await expect(page.getByLabel("How Gift prints")).toHaveValue("money");
  await expect(page.getByLabel("How Share prints")).toHaveValue("percent");
  await expect(page.getByLabel("How Since prints")).toHaveValue("");
  await page.getByRole("button", { name: "Import 2 recipients" }).click();
  await page.waitForURL(/\/lists\/\d+$/);
  const listId = Number(page.url().split("/").at(-1));
  const line = "Your gift of {Gift} (${Gift * 2} doubled, {Share}% of all) since {Since}.";
  const document = { page: { sheet: "letter" }, maxPages: 1, content: [{ type: "paragraph", content: [{ type: "text", text: line }] }] };
  const design = await page.request.post("/api/designs", { data: { name: "Thanks", listId, document } });
  const drop = await page.request.post("/api/drops", {
    data: { name: "Thanks", listId, designIds: [await design.json()], campaignName: "Thanks" },
  });
  const dropId = await drop.json();
  await checked(page, dropId);
  await page.goto(`/drops/${dropId}/proof`);
  await pageText(page, "Your gift of $1,250.00 ($2,500.00 doubled, 12.5% of all) since 2019.");
  await page.goto(`/lists/${listId}`);
  // What uses the column is not known yet when the change is saved: it is waited for.
  let know;
  const known = new Promise((resolve) => (know = resolve));
  await page.route(/\/columns\/\d+\/uses$/, async (route) => {
    await known;
    await route.continue();
  });
  await page.getByRole("button", { name: "Gift column menu" }).click();
  await page.getByRole("menuitem", { name: "Edit column…" }).click();
  const dialog = page.getByRole("dialog");
  await expect(dialog.getByLabel("How Gift prints")).toHaveValue("money");
  await dialog.getByLabel("How Gift prints").selectOption({ label: "prints 1,250" });
  await dialog.getByRole("button", { name: "Save" }).click();
  await expect(dialog).toBeVisible();
  know();
  // The letter prints it: that is said once before it changes.
  await dialog.getByRole("button", { name: "Change it anyway" }).click();
  await expect(dialog).toBeHidden();
  await page.goto(`/drops/${dropId}/proof`);
  await pageText(page, "Your gift of 1,250 ($2,500 doubled, 12.5% of all) since 2019.");
  await page.goto(`/drops/${dropId}/produce`);
  await page.getByRole("button", { name: "Produce 2 letters" }).click();
  const download = page.waitForEvent("download");
  await page.getByRole("link", { name: /^PDF,/ }).click();
  const [, second] = await pdfLines(await (await download).path());
  expect(second.join(" ")).toContain("Your gift of 40.5 ($81 doubled, 5% of all) since 2021.");
});
