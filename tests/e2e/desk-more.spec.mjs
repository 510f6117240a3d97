import { soundDialog } from "./accessible.mjs";
import { bringIn, expect, file, test } from "./desk.mjs";

const members = [
  "No,First,Last,City,Zip,Amount due",
  "M-1,Ana,Okafor,Cork,02139,64",
  "M-2,Per,Nowak,Malmö,97412,12.50",
  "M-3,Zoë,Weiß,Cork,97413,64",
  "M-4,Rui,Sousa,Cork,97412,20",
].join("\r\n");

const values = async (page, list = 1) =>
  (await (await page.request.get(`/api/lists/${list}/recipients?limit=500`)).json()).rows.map((r) => r.values);

async function paste(page, text) {
  await page.getByRole("grid").evaluate((g, t) => {
    const data = new DataTransfer();
    data.setData("text/plain", t);
    g.dispatchEvent(new ClipboardEvent("paste", { clipboardData: data, bubbles: true, cancelable: true }));
  }, text);
}

test("ranges are filled, blanked, sorted by several columns, and rows pasted below the last are new recipients", async ({ page }) => {
  await bringIn(page, "members.csv", members);
  const cell = (name) => page.getByRole("grid").getByRole("gridcell", { name, exact: true });
  const column = async (n) => (await values(page)).map((v) => v[n]);

  await cell("Malmö").click();
  await page.keyboard.press("Shift+ArrowDown");
  await page.keyboard.press("Shift+ArrowDown");
  await expect(page.getByText("3 recipients selected")).toBeVisible();
  await paste(page, "Dublin");
  await expect.poll(() => column(3)).toEqual(["Cork", "Dublin", "Dublin", "Dublin"]);
  await page.keyboard.press("Delete");
  await expect.poll(() => column(3)).toEqual(["Cork", null, null, null]);
  await page.keyboard.press("Control+z");
  await page.keyboard.press("Control+z");
  await expect.poll(() => column(3)).toEqual(["Cork", "Malmö", "Cork", "Cork"]);
  await page.keyboard.press("Control+y");
  await expect.poll(() => column(3)).toEqual(["Cork", "Dublin", "Dublin", "Dublin"]);
  await page.keyboard.press("Control+z");

  // Two rows from the last one on: the first lands on it, the second is somebody new.
  await cell("M-4").click();
  await paste(page, "M-4\tRui\tSilva\r\nM-5\tMei\tWang\r\n");
  await expect
    .poll(() => values(page).then((v) => v.map((r) => `${r[0]} ${r[2]}`)))
    .toEqual(["M-1 Okafor", "M-2 Nowak", "M-3 Weiß", "M-4 Silva", "M-5 Wang"]);
  await expect(page.getByText("5 recipients", { exact: true })).toBeVisible();

  // What does not fit is kept among many, and refused alone.
  await cell("12.50").click();
  await page.keyboard.type("soon");
  await page.keyboard.press("Enter");
  await expect(page.getByText("Amount due takes a number")).toBeVisible();
  await page.getByRole("button", { name: "Dismiss" }).first().click();

  await page.getByTitle("Sort by Amount due").click();
  await page.getByTitle("Sort by Last").click({ modifiers: ["Shift"] });
  await expect(page.getByRole("columnheader", { name: /^Last(?! mailed)/ })).toHaveAttribute("aria-sort", "ascending");
  await expect(page.getByRole("rowheader")).toHaveText(["2", "4", "1", "3", "5"]);
  await page.getByTitle("Sort by Last").click({ modifiers: ["Shift"] });
  await expect(page.getByRole("rowheader")).toHaveText(["2", "4", "3", "1", "5"]);
  await page.getByTitle("Clear sort").click();
  await expect(page.getByRole("rowheader")).toHaveText(["1", "2", "3", "4", "5"]);

  await cell("M-2").click();
  await page.keyboard.press("Shift+Space");
  await page.keyboard.press("Control+a");
  await expect(page.getByText("5 recipients selected")).toBeVisible();
  await page.getByRole("button", { name: "Remove from list…" }).click();
  await page.getByLabel("Reason").fill("wrong list");
  await page.getByRole("button", { name: "Remove", exact: true }).click();
  await expect(page.getByText("0 recipients", { exact: true })).toBeVisible();
  await page.getByRole("button", { name: "Undo" }).first().click();
  await expect(page.getByText("5 recipients", { exact: true })).toBeVisible();
});

test("a column is renamed, gets another type and role, is divided, hidden and removed, and each can be taken back", async ({ page }) => {
  await bringIn(
    page,
    "people.csv",
    'Who,Since,Town\r\nDr. Ana de la Cruz,3/31/2019,"Fernquay, OR 97412"\r\n"Nowak, Per",soon,"Boston, MA 02139"\r\nZoë Weiß,4/1/2020,"Cork T12 X4P8"\r\n',
  );
  const columns = async () => (await (await page.request.get("/api/lists/1")).json()).columns;
  const menu = async (name, item) => {
    await page.getByRole("button", { name: `${name} column menu`, exact: true }).click();
    await page.getByRole("menuitem", { name: item }).click();
  };
  await menu("Since", "Edit column…");
  await page.getByLabel("Heading").fill("Member since");
  await page.getByRole("dialog").getByLabel("Type").selectOption("Date");
  await page.getByRole("button", { name: "Save" }).click();
  await expect.poll(async () => (await values(page)).map((v) => v[1])).toEqual(["2019-03-31", "soon", "2020-04-01"]);
  await page.getByRole("button", { name: /^Invalid date/ }).click();
  await expect(page.getByText("1 of 3")).toBeVisible();
  await page.getByRole("button", { name: /^Invalid date/ }).click();

  await menu("Who", "Split full names…");
  await expect(page.getByRole("dialog").getByRole("cell", { name: "de la Cruz", exact: true })).toBeVisible();
  await soundDialog(page);
  await page.getByRole("button", { name: "Split", exact: true }).click();
  await expect
    .poll(async () => (await values(page)).map((v) => v.slice(3).join("|")))
    .toEqual(["Fernquay|OR|97412|Dr.|Ana|de la Cruz", "Boston|MA|02139||Per|Nowak", "Cork||T12 X4P8||Zoë|Weiß"]);
  expect((await columns()).slice(3).map((c) => c.role)).toEqual(["City", "Region", "PostalCode", "Title", "GivenName", "FamilyName"]);

  await menu("Town", "Remove Town…");
  await page.getByRole("button", { name: "Remove Town", exact: true }).click();
  await expect(page.getByRole("dialog")).toHaveCount(0);
  await expect.poll(async () => (await columns()).length).toBe(8);
  await page.getByRole("grid").focus();
  await page.keyboard.press("Control+z");
  await expect.poll(async () => (await columns()).map((c) => c.name)).toContain("Town");
  expect((await values(page))[2][2]).toBe("Cork T12 X4P8");
  await menu("Town", "Hide column");
  await expect(page.getByTitle("Sort by Town")).toHaveCount(0);
  await page.getByRole("tab", { name: "Log" }).click();
  await page.getByRole("button", { name: "Renamed Since to Member since", exact: true }).click();
  await expect(page.getByLabel("List tools").getByText("2019-03-31")).toBeVisible();
  await page.getByRole("button", { name: "Undo: Renamed Since to Member since" }).click();
  await expect.poll(async () => (await values(page)).map((v) => v[1])).toEqual(["3/31/2019", "soon", "4/1/2020"]);
});

test("lists come in from JSON, vCards and pasted rows, and are typed by hand", async ({ page }) => {
  await page.goto("/lists/new");
  await page.getByLabel("List file").setInputFiles({
    name: "people.json",
    mimeType: "application/json",
    buffer: Buffer.from('[{"first":"Ana","zip":"02139"},{"first":"Per","address":{"city":"Malmö"}}]'),
  });
  await expect(page.getByText("Some objects lack some keys").or(page.getByText("address city")).first()).toBeVisible();
  await page.getByRole("button", { name: /^Import \d/ }).click();
  await page.waitForURL(/\/lists\/1$/);
  expect(await values(page)).toEqual([
    ["Ana", "02139", null],
    ["Per", null, "Malmö"],
  ]);

  await page.goto("/lists/new");
  await page
    .getByLabel("List file")
    .setInputFiles(
      file("people.vcf", "BEGIN:VCARD\r\nVERSION:3.0\r\nN:Okafor;Ana;;;\r\nADR:;;9 Tide St;Fernquay;OR;97412;\r\nEND:VCARD\r\n"),
    );
  await page.getByRole("button", { name: /^Import \d/ }).click();
  await page.waitForURL(/\/lists\/2$/);
  expect(await values(page, 2)).toEqual([["Ana", "Okafor", "9 Tide St", "Fernquay", "OR", "97412"]]);

  await page.goto("/lists/new");
  // The page listens once it is there.
  await expect(page.getByRole("button", { name: "Choose a file" })).toBeFocused();
  await page.evaluate(() => {
    const data = new DataTransfer();
    data.setData("text/plain", 'First\tLast\tZip\r\nAna\tOkafor\t02139\r\n"Per\r\nOlof"\tNowak\t97412\r\n');
    window.dispatchEvent(new ClipboardEvent("paste", { clipboardData: data }));
  });
  await page.getByRole("button", { name: /^Import \d/ }).click();
  await page.waitForURL(/\/lists\/3$/);
  expect(await values(page, 3)).toEqual([
    ["Ana", "Okafor", "02139"],
    ["Per\r\nOlof", "Nowak", "97412"],
  ]);

  await page.goto("/lists/new");
  await page.getByLabel("List name").fill("Seed names");
  await page.getByRole("button", { name: "Create list" }).click();
  await page.waitForURL(/\/lists\/4$/);
  await expect(page.getByText("The list is empty.")).toBeVisible();
  await page.getByRole("button", { name: "Add recipient" }).click();
  await expect(page.getByText("1 recipient", { exact: true })).toBeVisible();
  await expect(page.getByRole("grid")).toBeFocused();
  await page.keyboard.type("Ms");
  await page.keyboard.press("Tab");
  await page.keyboard.type("Mei");
  await page.keyboard.press("Tab");
  await expect.poll(async () => (await values(page, 4))[0].slice(0, 2)).toEqual(["Ms", "Mei"]);

  await page.goto("/lists/new");
  await page.getByLabel("List file").setInputFiles(file("broken.json", '{"first": "Ana"}'));
  await expect(page.getByRole("alert")).toContainText("without an array of objects in it");
});

test("detail rows are tied, counted and summed up; entries of a suppression list hold and let go", async ({ page }) => {
  await bringIn(page, "members.csv", members);
  await page.getByRole("tab", { name: "Detail rows" }).click();
  await page.getByRole("link", { name: "Import rows" }).click();
  await page
    .getByLabel("List file")
    .setInputFiles(file("gifts.csv", "No,Gift date,Amount\r\nM-1,2020-01-02,25\r\nm-1,2021-01-02,75\r\nM-9,2021-01-02,5\r\n"));
  await expect(page.getByText("Used in fields, such as sum(Gifts.Amount)")).toBeVisible();
  await page.getByRole("button", { name: "Import rows" }).click();
  await page.waitForURL(/pane=rows/);
  await page.getByRole("button", { name: "1 row without a matching recipient" }).click();
  await expect(page.getByText("M-9 · 2021-01-02 · 5")).toBeVisible();
  await page.getByRole("button", { name: "3 recipients have no rows." }).click();
  await expect(page.getByText("3 of 4")).toBeVisible();
  await page.getByLabel("Filter", { exact: true }).fill("sum(Gifts.Amount) >= 100");
  await expect(page.getByText("1 of 4")).toBeVisible();

  const text = (t) => ({ type: "paragraph", content: [{ type: "text", text: t }] });
  await page.request.post("/api/designs", { data: { name: "Notice", listId: 1, document: { content: [text("Dear {First},")] } } });
  await page.request.post("/api/drops", { data: { name: "First", listId: 1, designIds: [1], campaignName: "Spring" } });
  const held = async () =>
    (await (await page.request.get("/api/drops/1/recipients?tray=Held&limit=9")).json()).rows.map((r) => `${r.name}: ${r.why}`);
  await page.goto("/lists");
  await page.getByLabel("Suppression list name").fill("Moved");
  await page.getByRole("button", { name: "Create suppression list" }).click();
  await page.getByRole("button", { name: "Import entries" }).click();
  await page.getByLabel("List file").setInputFiles(file("moved.csv", "No,Reason\r\nM-2,moved to Malmö\r\nM-4,\r\n"));
  await page.getByLabel("Default reason").fill("post came back");
  await page.getByRole("button", { name: "Import entries" }).click();
  await expect(page.getByText("Added 2 entries.")).toBeVisible();
  await expect.poll(held).toEqual(["Nowak, Per: Held: Moved: moved to Malmö", "Sousa, Rui: Held: Moved: post came back"]);
  await page.getByRole("button", { name: "Remove M-4" }).click();
  await expect.poll(held).toEqual(["Nowak, Per: Held: Moved: moved to Malmö"]);
  await page.getByRole("button", { name: "Undo" }).click();
  await expect.poll(held).toHaveLength(2);
});
