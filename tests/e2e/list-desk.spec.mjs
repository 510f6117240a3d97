import { readFileSync } from "node:fs";
import { soundDialog } from "./accessible.mjs";
import { bringIn, expect, file, interceptable, test, tray } from "./desk.mjs";

const nasty = [
  "Exported by the old till,,,,,,,,,,",
  "No,Title,First,Last,Street,City,State,Zip,Email,Amount due,Joined",
  "M-01,Ms,ANA,OKAFOR,2291 LANTERN ROW NE,FERNQUAY,OR,97412,ana@example.org,64.00,2019-03-04",
  'M-02,Mr,Luis,Ortega,18 Quay  Road ,Fernquay,Oregon,97412,luis@exmaple.org,"1.250,00",2020-05-06',
  "M-03,,Per,MuÃ±oz,4 Mill Lane,Boston,MA,2139,per@example.com,12.50,2021-02-30",
  "M-04,,Inês & Rui,Sousa,77 Bell Street,Fernquay,OR,97412,ines@example.net,20,2018-01-02",
  "M-05,Dr,Meera,Gupta,9 Tide Street Apt 4,Fernquay,OR,97412,meera@example.org,30,2017-07-08",
  "M-06,,Meera,Gupta,9 Tide St #4,Fernquay,OR,97412-1234,,,2017-07-08",
  "M-07,,Rosa,Ortega,18 Quay Road,Fernquay,OR,97412,rosa@example.org,40,2015-09-10",
  "M-08,,N/A,Whitcombe,5 Gull Walk,Saltmarsh,OR,98412,whit@example.org,50,2014-11-12",
  "M-09,,Heinz,Weiß,6 Abbey Lane,Fernquay,OR,97412,heinz@example.org,60,2013-01-01",
].join("\r\n");

const newer = nasty
  .replace("6 Abbey Lane", "8 Abbey Lane") // changed in the file only
  .replace("M-01,Ms,ANA,OKAFOR", "M-01,Ms,ANNA,OKAFOR") // changed in both
  .replace(/M-08[^\r]*\r\n/, "") // gone
  .concat("\r\nM-10,,Zofia,Nowak,3 Kelp Avenue,Fernquay,OR,97412,zofia@example.org,70,2026-01-01"); // added

test("a nasty list is cleaned, chosen, loaded again, and its drop says exactly who and why", async ({ page }) => {
  await interceptable(page);
  await bringIn(page, "till.csv", nasty);
  const grid = page.getByRole("grid");
  const pane = page.getByLabel("List tools");
  const value = async (key, heading) => {
    const list = await (await page.request.get("/api/lists/1")).json();
    const rows = (await (await page.request.get("/api/lists/1/recipients?limit=500")).json()).rows;
    return rows.find((r) => r.values[0] === key)?.values[list.columns.findIndex((c) => c.name === heading)] ?? null;
  };
  const open = async (check) =>
    pane
      .getByRole("button", { name: new RegExp(`^${check}`) })
      .first()
      .click();
  /** Mends all that a check found, and waits until the pane no longer names it: as it goes, the rows below move up. */
  const mend = async (check) => {
    await open(check);
    await pane.getByRole("button", { name: "Fix 1" }).click();
    await expect(pane.getByRole("button", { name: new RegExp(`^${check}`) })).toHaveCount(0);
  };

  await test.step("checks say what is wrong and mend it", async () => {
    await open("All uppercase");
    await expect(grid.getByRole("row")).toHaveCount(2); // the headings and M-01
    await pane.getByRole("button", { name: "Fix 4" }).click();
    await expect(pane.getByRole("button", { name: /^All uppercase/ })).toHaveCount(0);
    await expect.poll(() => value("M-01", "Street")).toBe("2291 Lantern Row NE");
    // With the last of them mended, the table shows everybody again.
    await expect(grid.getByRole("row")).toHaveCount(10);
    expect(await value("M-01", "Last")).toBe("Okafor");
    await mend("Extra spaces");
    await expect.poll(() => value("M-02", "Street")).toBe("18 Quay Road");
    await mend("Garbled characters");
    await expect.poll(() => value("M-03", "Last")).toBe("Muñoz");
    await mend("Postal code too short");
    await expect.poll(() => value("M-03", "Zip")).toBe("02139");
    await mend("Likely email typo");
    await expect.poll(() => value("M-02", "Email")).toBe("luis@example.org");
    await mend("Number written as text");
    await expect.poll(() => value("M-02", "Amount due")).toBe("1250.00");
    await mend("Region spelled out");
    await mend("Placeholder");
    await expect.poll(() => value("M-08", "First")).toBe(null);
    await open("More than one person");
    await expect(pane.getByText("Inês & Rui")).toBeVisible();
    await pane.getByRole("button", { name: "Accept as is" }).click();
    await expect(pane.getByText("More than one person")).toHaveCount(0);
    await open("Invalid date");
    await expect(pane.getByText("2021-02-30")).toBeVisible();
    await pane.getByRole("button", { name: /^Invalid date/ }).click();
  });

  await test.step("a fix is taken back from the log and made again with a key", async () => {
    await pane.getByRole("tab", { name: "Log" }).click();
    await pane.getByRole("button", { name: "Undo: Restored leading zeros for 1 recipient" }).click();
    await expect.poll(() => value("M-03", "Zip")).toBe("2139");
    await grid.focus();
    await page.keyboard.press("Control+y");
    await expect.poll(() => value("M-03", "Zip")).toBe("02139");
    await pane.getByRole("tab", { name: "Checks" }).click();
  });

  await test.step("cells are edited with keys, copied, pasted, and taken back", async () => {
    await grid.getByRole("gridcell", { name: "Luis", exact: true }).click();
    await page.keyboard.press("F2");
    await page.keyboard.press("End");
    await page.keyboard.type("a");
    await page.keyboard.press("Tab");
    await expect.poll(() => value("M-02", "First")).toBe("Luisa");
    await page.keyboard.press("Control+z");
    await expect.poll(() => value("M-02", "First")).toBe("Luis");
    // Typing begins to edit at once; Enter goes on below.
    await grid.getByRole("gridcell", { name: "M-03", exact: true }).click();
    await page.keyboard.press("ArrowRight");
    await page.keyboard.type("Mr");
    await page.keyboard.press("Enter");
    await page.keyboard.type("Ms");
    await page.keyboard.press("Enter");
    await expect.poll(() => value("M-04", "Title")).toBe("Ms");
    expect(await value("M-03", "Title")).toBe("Mr");
    // What a spreadsheet puts on the clipboard is pasted as one act.
    const paste = (text) =>
      grid.evaluate((g, t) => {
        const data = new DataTransfer();
        data.setData("text/plain", t);
        g.dispatchEvent(new ClipboardEvent("paste", { clipboardData: data, bubbles: true, cancelable: true }));
      }, text);
    await grid.getByRole("gridcell", { name: "M-05", exact: true }).click();
    await page.keyboard.press("ArrowRight");
    await paste('Prof.\tMira\r\n\t"Mir""a"\r\n');
    await expect.poll(() => value("M-06", "First")).toBe('Mir"a');
    expect([await value("M-05", "Title"), await value("M-05", "First")]).toEqual(["Prof.", "Mira"]);
    await page.keyboard.press("Control+z");
    await expect.poll(() => value("M-05", "First")).toBe("Meera");
    const copied = () =>
      grid.evaluate((g) => {
        const data = new DataTransfer();
        g.dispatchEvent(new ClipboardEvent("copy", { clipboardData: data, bubbles: true, cancelable: true }));
        return data.getData("text/plain");
      });
    await expect.poll(copied).toBe("Dr");
    await page.keyboard.press("ArrowRight");
    await page.keyboard.press("Shift+ArrowRight");
    await page.keyboard.press("Shift+ArrowDown");
    await expect(page.getByText("2 recipients selected")).toBeVisible();
    await page.keyboard.press("Escape");
  });

  await test.step("a column made here, set for a selection, and one that is computed", async () => {
    await page.getByRole("button", { name: "Add column", exact: true }).click();
    await page.getByLabel("Heading").fill("Mark");
    await page.getByRole("dialog").getByRole("button", { name: "Add column" }).click();
    await expect(page.getByRole("columnheader", { name: /^Mark/ })).toBeVisible();
    await grid.getByRole("gridcell", { name: "M-01", exact: true }).click();
    await page.keyboard.press("Shift+ArrowDown");
    await page.getByRole("button", { name: "Set column value…" }).click();
    await page.getByRole("dialog").getByLabel("Column").selectOption("Mark");
    await soundDialog(page);
    await page.getByRole("dialog").getByLabel("Value").fill("board");
    await page.getByRole("button", { name: "Set value", exact: true }).click();
    await expect.poll(() => value("M-02", "Mark")).toBe("board");

    await page.getByRole("button", { name: "Add column", exact: true }).click();
    await page.getByLabel("Heading").fill("Ask for");
    await page.getByRole("radio", { name: "computed" }).check();
    await page.getByLabel("Formula").fill("round(Amont due * 1.1)");
    await expect(page.getByText("did you mean “Amount due”?")).toBeVisible();
    await page.getByRole("button", { name: "Use Amount due" }).click();
    await expect(page.getByText("Result: Number")).toBeVisible();
    await page.getByRole("dialog").getByRole("button", { name: "Add column" }).click();
    await expect.poll(() => value("M-02", "Ask for")).toBe("1375");
    expect(await value("M-06", "Ask for")).toBe(null);
  });

  await test.step("find and replace shows what it would do", async () => {
    await page.getByRole("button", { name: "Find and replace" }).click();
    await page.getByLabel("Search", { exact: true }).last().fill("fernquay");
    await page.getByRole("textbox", { name: "Replace with" }).fill("Fernquay Bay");
    await expect(page.getByRole("button", { name: "Replace in 7 cells" })).toBeVisible();
    await page.getByLabel("Match case").check();
    await expect(page.getByText("“fernquay” was not found.")).toBeVisible();
    await page.getByRole("button", { name: "Cancel" }).click();
  });

  await test.step("who is there twice is settled, a household gets one piece", async () => {
    await pane.getByRole("tab", { name: "Duplicates" }).click();
    await expect(pane.getByText("Same name and address")).toBeVisible();
    await pane.getByRole("button", { name: "Keep No. 5" }).click();
    await expect.poll(() => value("M-06", "Last")).toBe(null);
    await expect(page.getByText("8 recipients", { exact: true })).toBeVisible();
    await pane.getByRole("button", { name: /^Households/ }).click();
    await pane.getByRole("button", { name: "One piece for all" }).click();
    await expect.poll(() => value("M-02", "Addressed to")).toBe("Luis and Rosa Ortega");
  });

  await test.step("somebody must not be mailed", async () => {
    await page.goto("/lists");
    await page.getByLabel("Suppression list name").fill("Do not mail");
    await page.getByRole("button", { name: "Create suppression list" }).click();
    await page.getByLabel("Email", { exact: true }).fill("HEINZ@example.org");
    await page.getByLabel("Reason").fill("Asked by phone");
    await page.getByRole("button", { name: "Add", exact: true }).click();
    await expect(page.getByRole("cell", { name: "Asked by phone" })).toBeVisible();
    await page.goto("/lists/1");
  });

  await test.step("a segment is picked together, and is the typed filter in another form", async () => {
    await page.getByRole("button", { name: "Build a filter" }).click();
    await page.getByRole("dialog").getByLabel("Column").selectOption("Amount due");
    await page.getByRole("dialog").getByLabel("Comparison").selectOption("AtLeast");
    await page.getByRole("dialog").getByLabel("Value").fill("20");
    await expect(page.getByText("`Amount due` >= 20", { exact: true })).toBeVisible();
    await expect(page.getByRole("dialog").getByText("7 recipients")).toBeVisible();
    await page.getByRole("button", { name: "Apply filter" }).click();
    await expect(page.getByText("7 of 8")).toBeVisible();
    await page.getByRole("button", { name: "Save as a segment" }).click();
    await page.getByRole("textbox", { name: "Name" }).fill("Twenty and more");
    await page.getByRole("button", { name: "Save", exact: true }).click();
    await expect(page.getByLabel("Segment", { exact: true })).toContainText("Twenty and more (7)");
    // Somebody is left out by hand, on top of the filter, while the segment's rows are still on their way as they were before.
    await page.reload();
    await page.route(/recipients\?.*segment=/, async (route) => {
      const before = await route.fetch();
      await new Promise((done) => setTimeout(done, 1_500));
      await route.fulfill({ response: before });
    });
    await page.getByLabel("Segment", { exact: true }).selectOption({ label: "Twenty and more (7)" });
    await page.getByLabel("8 is in the segment").click();
    await expect(page.getByText("Excluded from the segment.")).toBeVisible();
    await expect(page.getByText("6 of 8")).toBeVisible();
    await page.unrouteAll({ behavior: "wait" }); // an answer may still be held back
  });

  await test.step("the list is loaded again; what was mended stays, what changed in both is shown", async () => {
    await page.getByRole("link", { name: "Update from file" }).click();
    await page.getByLabel("List file").setInputFiles(file("till-2.csv", newer));
    await page.getByRole("button", { name: "Compare with list" }).click();
    await expect(page.getByText("matched by key")).toBeVisible();
    await expect(page.getByRole("tab", { name: "Added 1" })).toBeVisible();
    await expect(page.getByRole("tab", { name: "Changed 2" })).toBeVisible();
    await expect(page.getByRole("tab", { name: "Missing from the file 1" })).toBeVisible();
    await expect(page.getByText("1 recipient removed here is in the file and will stay removed.")).toBeVisible();
    await expect(page.getByRole("row").filter({ hasText: "M-01" })).toContainText("was ANA, here Ana, in the file ANNA");
    await page.getByLabel(/^For 1 recipient/).selectOption("here");
    // Nobody is taken off for not being in a file, unless somebody says so.
    await expect(page.getByRole("button", { name: "Apply 3" })).toBeVisible();
    await page.getByLabel("Apply missing recipients").check();
    await page.getByRole("button", { name: "Apply 4" }).click();
    await page.waitForURL(/\/lists\/1$/);
    await expect.poll(() => value("M-09", "Street")).toBe("8 Abbey Lane");
    expect([
      await value("M-01", "First"),
      await value("M-03", "Zip"),
      await value("M-02", "Mark"),
      await value("M-10", "Last"),
      await value("M-08", "Last"),
    ]).toEqual(["Ana", "02139", "board", "Nowak", null]);
    await page.goto("/lists/1/versions");
    await page.getByRole("button", { name: /^Version 1/ }).click();
    await expect(page.getByRole("table", { name: "Version 1" })).toContainText("MuÃ±oz");
    await expect(page.getByRole("table", { name: "Version 1" })).toContainText("Whitcombe");
  });

  await test.step("its drop says exactly who and why", async () => {
    const text = (t) => ({ type: "paragraph", content: [{ type: "text", text: t }] });
    await page.request.post("/api/designs", {
      data: {
        name: "Notice",
        listId: 1,
        document: { page: { sheet: "letter" }, maxPages: 1, content: [text("Dear {Addressed to | else First}, {Ask for | money}.")] },
      },
    });
    await page.goto("/campaigns/new?list=1");
    await page.getByLabel("Segment").selectOption({ index: 1 });
    await page.getByLabel("Campaign name").fill("Spring");
    await page.getByLabel("drop name").fill("First");
    await page.getByRole("button", { name: "Start drop" }).click();
    await page.waitForURL(/\/drops\/1\/proof/);
    await expect.poll(async () => (await (await page.request.get("/api/drops/1")).json()).checking).toBe(false);
    const rows = (await (await page.request.get("/api/drops/1/recipients?limit=100")).json()).rows;
    const why = Object.fromEntries(rows.map((r) => [r.name, r.why ?? r.tray]));
    expect(why).toEqual({
      "Okafor, Ana": "Ready",
      "Ortega, Luis": "Ready",
      "Muñoz, Per": "Held: Not in “Twenty and more”",
      "Sousa, Inês & Rui": "Ready",
      "Gupta, Meera": "Ready",
      "Ortega, Rosa": "Held: Household piece goes to Ortega, Luis",
      "Weiß, Heinz": "Held: Do not mail: Asked by phone",
      "Nowak, Zofia": "Ready",
    });
    await expect(tray(page, "Ready")).toHaveText("5");
    await expect(tray(page, "Held")).toHaveText("3");
    // A value mended afterwards moves them by the same rules.
    await page.goto("/lists/1");
    await grid.getByRole("gridcell", { name: "12.50", exact: true }).click();
    await page.keyboard.type("21");
    await page.keyboard.press("Enter");
    await expect.poll(async () => (await (await page.request.get("/api/drops/1")).json()).trays.ready).toBe(6);
  });

  await test.step("what is taken out is what was shown", async () => {
    await page.getByLabel("Segment", { exact: true }).selectOption({ index: 1 });
    await expect(page.getByText(/\d of 8/)).toBeVisible();
    const shown = (await (await page.request.get("/api/lists/1/recipients?segment=1&limit=100")).json()).rows.map((r) =>
      r.values.map((v) => v ?? ""),
    );
    await page.getByRole("button", { name: "Export" }).click();
    for (const format of ["CSV", "JSON", "XLSX"]) {
      await page.getByRole("radio", { name: format }).check();
      const [download] = await Promise.all([page.waitForEvent("download"), page.getByRole("link", { name: "Download" }).click()]);
      const path = await download.path();
      if (format === "CSV") {
        const lines = readFileSync(path, "utf8")
          .replace(/^\ufeff/, "")
          .trim()
          .split("\r\n")
          .slice(1);
        expect(lines.map((l) => l.split(","))).toEqual(shown);
      } else if (format === "JSON") {
        const headings = (await (await page.request.get("/api/lists/1")).json()).columns.map((c) => c.name);
        expect(
          JSON.parse(readFileSync(path, "utf8"))
            .map((o) => headings.map((h) => String(o[h] ?? "")).join("|"))
            .map((t) => t.replaceAll(".00|", "|")),
        ).toEqual(shown.map((r) => r.join("|").replaceAll(".00|", "|")));
      } else expect(readFileSync(path).subarray(0, 2).toString()).toBe("PK");
      if (format !== "XLSX") await page.getByRole("button", { name: "Export" }).click();
    }
  });
});
