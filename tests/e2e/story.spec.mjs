import { readFileSync } from "node:fs";
import { soundDialog } from "./accessible.mjs";
import { expect, file, pageText, readPdf, test, tray } from "./desk.mjs";

// Two lines of title above the headings, semicolons, leading zeros, a blank given name, a name that needs care.
const people = [
  ["M-001", "Ana", "Okafor", "2291 Lantern Row", "Alder Point", "97412", "64.00"],
  ["M-002", "", "Lindqvist", "Ekgatan 4", "Malmö", "21119", "96.00"],
  ["M-003", "Inês", "Gonçalves", "9 Gull Walk", "Saltmarsh", "02139", "1250.50"],
  ["M-004", "Declan", "O'Neill", "3 Abbey Lane", "Cork", "00501", "28.00"],
  ["M-005", "Ελένη", "Παπαδοπούλου", "12 Quay Road", "Fernquay", "97412", "64.00"],
  ["M-006", "", "Quint", "14 Quay Road", "Fernquay", "97412", "64.00"],
];
const csv = [
  "Friends of the garden;;;;;;",
  "exported for the spring letter;;;;;;",
  ";;;;;;",
  "Member No.;First;Last;Street;City;ZIP;Amount due",
  ...people.map((p) => p.join(";")),
].join("\r\n");

test("a coordinator does a small mailing from the file to the ledger @alone", async ({ page }) => {
  await test.step("bring the list in", async () => {
    await page.goto("/");
    await page.getByRole("link", { name: "Import list" }).click();
    await page.getByLabel("List file").setInputFiles(file("friends.csv", csv));
    await expect(page.getByText("in row 4.")).toBeVisible();
    await expect(page.getByLabel("Type of ZIP")).toHaveValue("Text");
    await expect(page.getByLabel("Type of Amount due")).toHaveValue("Number");
    await expect(page.getByLabel("Role of First")).toHaveValue("GivenName");
    await page.getByLabel("list name").fill("Friends");
    await page.getByRole("button", { name: /^Import \d/ }).click();
    await page.waitForURL(/\/lists\/\d+$/);
    await expect(page.getByRole("gridcell", { name: "02139" })).toBeVisible();
    await expect(page.getByRole("gridcell", { name: "00501" })).toBeVisible();
    await page.getByLabel("Search", { exact: true }).fill("ines");
    await expect(page.getByText("1 of 6")).toBeVisible();
    await page.getByLabel("Search", { exact: true }).fill("");
    await page.getByLabel("Filter", { exact: true }).fill("Amount due > 90");
    await expect(page.getByText("2 of 6")).toBeVisible();
    await page.getByLabel("Filter", { exact: true }).fill("Amont due > 90");
    await expect(page.getByText("did you mean “Amount due”?")).toBeVisible();
    await page.getByLabel("Filter", { exact: true }).fill("");
    await page.getByTitle("Sort by Amount due").click();
    await expect(page.getByRole("row").nth(1)).toContainText("O'Neill");
  });

  await test.step("write the letter", async () => {
    await page.getByRole("link", { name: "Designs" }).click();
    await page.getByRole("button", { name: "New design" }).first().click();
    await page.getByLabel("Name", { exact: true }).fill("Spring letter");
    await page.getByRole("button", { name: "Create design", exact: true }).click();
    const letter = page.getByLabel("Letter", { exact: true });
    await letter.click();
    await page.keyboard.type("Dear {fir");
    await expect(page.getByRole("listbox", { name: "Fields" })).toBeVisible();
    await page.keyboard.press("Enter");
    await page.keyboard.type(",");
    await page.keyboard.press("Enter");
    await page.keyboard.type("{Member No.}, {ZIP}: you owe ");
    await page.keyboard.press("Control+b");
    await page.keyboard.type("{Amount due | money}");
    await page.keyboard.press("Control+b");
    await page.keyboard.type(" this spring.");
    await expect(letter.locator(".chip")).toHaveCount(4);
    await pageText(page, "M-001, 97412: you owe $64.00 this spring.");
    await expect(page.getByTestId("save-state")).toHaveText("Version 1, saved");
    await page.getByLabel("Next recipient").click();
    await expect(page.getByLabel("Preview pages").getByText("First is blank.")).toBeVisible();
  });

  await test.step("make a drop; the bench opens", async () => {
    await page.getByRole("link", { name: "Start drop" }).click();
    await page.getByLabel("Campaign name").fill("Spring");
    await page.getByLabel("drop name").fill("First letter");
    await page.getByRole("button", { name: "Start drop" }).click();
    await page.waitForURL(/\/drops\/\d+\/proof$/);
    await expect(tray(page, "NeedsReview")).toHaveText("2");
    await expect(tray(page, "Ready")).toHaveText("4");
    await expect(page.getByTestId("tray-sum")).toHaveText("= 6");
  });

  await test.step("correct one, accept one, hold one", async () => {
    await page.keyboard.press("1");
    await pageText(page, "M-002");
    await page.keyboard.press("f");
    await page.getByLabel("First", { exact: true }).fill("Per");
    await page.keyboard.press("Enter");
    await expect(tray(page, "NeedsReview")).toHaveText("1");
    await pageText(page, "M-006");
    await page.getByRole("button", { name: "Accept as is" }).click();
    await expect(tray(page, "NeedsReview")).toHaveText("0");
    await page.keyboard.press("0");
    await page.getByLabel("Search recipients").fill("neill");
    await pageText(page, "M-004");
    await page.getByLabel("Search recipients").press("Enter");
    await page.keyboard.press("h");
    await page.getByLabel("Reason").fill("Asked us to wait");
    await page.keyboard.press("Enter");
    await expect(tray(page, "Held")).toHaveText("1");
    await expect(tray(page, "Ready")).toHaveText("5");
  });

  await test.step("produce", async () => {
    await page.getByRole("link", { name: /^Produce 5/ }).click();
    await expect(page.getByRole("table", { name: "Excluded" })).toContainText("Held: Asked us to wait");
    await expect(page.getByText("5 + 1 = 6 on the list.")).toBeVisible();
    await page.getByRole("button", { name: "Produce 5 letters" }).click();
    const download = page.waitForEvent("download");
    await page.getByRole("link", { name: /^PDF,/ }).click();
    const pdf = await readPdf(await (await download).path());
    expect(pdf.pages).toHaveLength(5);
    expect(pdf.outline).toEqual([
      "0001 Okafor, Ana",
      "0002 Lindqvist, Per",
      "0003 Gonçalves, Inês",
      "0005 Παπαδοπούλου, Ελένη",
      "0006 Quint",
    ]);
    const made = [0, 1, 2, 4, 5].map((i) => people[i]);
    const money = (n) => `$${Number(n).toLocaleString("en-US", { minimumFractionDigits: 2 })}`;
    pdf.pages.forEach((text, i) => {
      const [no, first, , , , zip, due] = made[i];
      const given = no === "M-002" ? "Per" : first;
      // A blank leaves no gap before the comma.
      expect(text).toContain(given ? `Dear ${given},` : "Dear, ");
      expect(text).toContain(`${no}, ${zip}: you owe ${money(due)} this spring.`);
    });
    expect(pdf.pages.join()).not.toContain("Declan");
    await page.getByRole("link", { name: "Proof", exact: false }).first().click();
    await expect(tray(page, "Produced")).toHaveText("5");
    await expect(tray(page, "Mailed")).toHaveText("0");
  });

  await test.step("record: some, then the rest; the second run is empty", async () => {
    await page.getByRole("link", { name: /^Ledger/ }).click();
    await page.getByRole("combobox", { name: "Pieces" }).selectOption("pieces");
    await page.getByLabel("Piece numbers").fill("1-3");
    await page.getByRole("button", { name: "Mark as mailed" }).click();
    await expect(page.getByText("2 waiting")).toBeVisible();
    await page.getByRole("combobox", { name: "Pieces" }).selectOption("all");
    await page.getByRole("button", { name: "Mark as mailed" }).click();
    await expect(page.getByText("No produced pieces are waiting.")).toBeVisible();
    await page.getByRole("link", { name: "Produce", exact: false }).first().click();
    await expect(page.getByRole("button", { name: "No recipients to produce" })).toBeDisabled();
    await expect(page.getByRole("table", { name: "Excluded" })).toContainText("Already mailed");
    await page.getByRole("link", { name: /^Ledger/ }).click();
    await page.getByTestId("ledger-row").filter({ hasText: "0003" }).getByRole("button", { name: "Record return…" }).click();
    await page.getByRole("button", { name: "Moved, left no address" }).click();
    await soundDialog(page);
    await page.getByRole("dialog").getByRole("button", { name: "Record return" }).click();
    await expect(page.getByTestId("ledger-row").filter({ hasText: "0003" })).toContainText("Returned: Moved, left no address");
  });

  await test.step("the ledger, the recipient and the list know it", async () => {
    const csvFile = page.waitForEvent("download");
    await page.getByRole("link", { name: "Export CSV" }).click();
    const ledger = readFileSync(await (await csvFile).path(), "utf8")
      .trim()
      .split("\r\n");
    expect(ledger).toHaveLength(7);
    expect(ledger[2]).toContain('0002,M-002,"Lindqvist, Per"');
    expect(ledger[3]).toMatch(/Returned.*Moved, left no address/);
    expect(ledger[4]).toMatch(/Held.*Asked us to wait/);
    await page.getByRole("link", { name: "Lindqvist, Per" }).click();
    await expect(page.getByRole("table", { name: "Mail history" })).toContainText("Spring letter, piece 0002");
    await expect(page.getByText("First: blank → Per")).toBeVisible();
    await page.getByRole("link", { name: "Friends" }).click();
    await expect(page.getByRole("row").filter({ hasText: "M-002" })).toContainText("First letter, Spring");
    await expect(page.getByRole("row").filter({ hasText: "M-004" })).not.toContainText("Spring");
  });
});
