import { spawnSync } from "node:child_process";
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { soundDialog } from "./accessible.mjs";
import { expect, makeDrop, readPdf, test, tray } from "./desk.mjs";

const rows = (n) =>
  "First,Last,Code\r\n" +
  Array.from({ length: n }, (_, i) => `Given${i + 1},Family${String(i + 1).padStart(3, "0")},code-${i + 1}\r\n`).join("");

/** The good and the spoiled sheets of the practice printer, in the order in which they came out, as texts. */
async function sheets(page, printer) {
  const get = async (path) => (await page.request.get(path)).json();
  const { sheets: stack } = await get(`/api/printers/${printer}/practice/stack?limit=500`);
  const folder = mkdtempSync(join(tmpdir(), "sheets-"));
  const files = new Map();
  for (const s of stack) {
    if (files.has(s.jobId)) continue;
    const path = join(folder, `${s.jobId}.pdf`);
    writeFileSync(path, await (await page.request.get(`/api/practice-jobs/${s.jobId}/file`)).body());
    files.set(s.jobId, (await readPdf(path)).pages);
  }
  rmSync(folder, { recursive: true });
  return stack.reverse().map((s) => ({ text: files.get(s.jobId)[s.firstPage - 1], spoiled: s.spoiled }));
}

const given = (s) => Number(/Dear Given(\d+),/.exec(s.text)?.[1] ?? 0);

test("printed with a jam and a crash in the middle, three reprinted, two pulled out, the rest mailed: all tell the same story @alone", async ({
  page,
  server,
}) => {
  const { dropId } = await makeDrop(page, { name: "Paper", rows: rows(40), letter: ["Dear {First},"] });
  const printer = (await (await page.request.get("/api/printers")).json()).find((p) => p.kind === "practice").id;
  await page.goto(`/devices?printer=${printer}`);
  await page.getByLabel("Sheets per minute").fill("700");
  await page.getByRole("button", { name: "Apply", exact: true }).click();
  await expect(page.getByRole("button", { name: "Apply", exact: true })).toHaveCount(0);

  await test.step("begin to print", async () => {
    await page.goto(`/drops/${dropId}/produce`);
    await page.getByRole("button", { name: "Print", exact: true }).click();
    await page.getByLabel("Batch size").fill("15");
    await page.getByRole("button", { name: "Print 40 letters" }).click();
    // It asks once, and says what goes onto paper.
    await expect(page.getByRole("dialog")).toContainText("43 of Letter paper");
    await soundDialog(page);
    await page.getByRole("dialog").getByRole("button", { name: "Print 40 letters" }).click();
    await page.waitForURL(/\/produce\/\d+$/);
    await expect(page.getByRole("list", { name: "Batches" })).toContainText("0001 to 0015");
    await expect.poll(async () => (await (await page.request.get(`/api/drops/${dropId}`)).json()).trays.produced).toBeGreaterThan(3);
  });
  const run = Number(/produce\/(\d+)$/.exec(page.url())[1]);
  await test.step("a jam, and the power fails", async () => {
    await page.request.post(`/api/printers/${printer}/practice/jam`, { data: {} });
    await expect(page.getByRole("status").filter({ hasText: "A sheet jammed" })).toBeVisible();
    await server.crash();
    await page.goto(`/drops/${dropId}/produce/${run}`);
    await expect(page.getByTestId("run-state")).toHaveText("printing");
    await page.getByRole("link", { name: "Open printer" }).click();
    await page.getByRole("button", { name: "Remove jammed sheet" }).click();
    await page.goto(`/drops/${dropId}/produce/${run}`);
    await expect(page.getByTestId("run-state")).toHaveText("done");
    await expect(page.getByRole("region", { name: "Run history" })).toContainText(
      /Piece 00\d\d of Paper jammed and is printed again|A separator sheet jammed and will print again/,
    );
    await expect(page.getByTestId("run-piece").first()).toContainText("printed");
  });
  await test.step("three are reprinted by their numbers", async () => {
    await page.getByLabel("Search pieces in this run").fill("6");
    await page.getByTestId("run-piece").first().hover();
    await page.getByRole("link", { name: "Reprint" }).click();
    await expect(page.getByRole("combobox", { name: "Recipients", exact: true })).toHaveValue("reprint");
    await page.getByLabel("Piece numbers").fill("6-8");
    await page.getByRole("button", { name: "Print", exact: true }).click();
    await page.getByLabel("Batch size").fill("0");
    await page.getByRole("button", { name: "Reprint 3 letters" }).click();
    await soundDialog(page);
    await page.getByRole("dialog").getByRole("button", { name: "Reprint 3 letters" }).click();
    await expect(page.getByTestId("run-state")).toHaveText("done");
  });
  await test.step("two are pulled out, the rest is mailed", async () => {
    await page.goto(`/drops/${dropId}/ledger`);
    await page.getByRole("combobox", { name: "Pieces" }).selectOption("without");
    await page.getByLabel("Piece numbers").fill("11, 12");
    await page.getByRole("button", { name: "Mark as mailed" }).click();
    await expect(page.getByText("No produced pieces are waiting.")).toBeVisible();
  });
  await test.step("the stack, the ledger and the trays agree to the piece", async () => {
    const all = await sheets(page, printer);
    const breaks = all.filter((s) => !s.spoiled && s.text.includes("batch"));
    expect(breaks).toHaveLength(3);
    const good = all.filter((s) => !s.spoiled && !s.text.includes("batch")).map(given);
    expect(good).toEqual([...Array.from({ length: 40 }, (_, i) => i + 1), 6, 7, 8]);
    const jammed = all.filter((s) => s.spoiled);
    expect(jammed).toHaveLength(1);
    const ledger = (await (await page.request.get(`/api/ledger.csv?dropId=${dropId}`)).text())
      .trim()
      .split("\r\n")
      .slice(1)
      .map((l) => l.match(/("([^"]*)"|[^,]*)(,|$)/g).map((x) => x.replace(/,$/, "").replace(/"/g, "")));
    const [piece, state, by, again] = [2, 9, 10, 12];
    expect(ledger.map((l) => l[state])).toEqual(Array.from({ length: 40 }, (_, i) => ([11, 12].includes(i + 1) ? "Held" : "Mailed")));
    expect(ledger.every((l) => l[by] === "1")).toBe(true);
    expect(ledger.filter((l) => l[again] === "2").map((l) => Number(l[piece]))).toEqual([6, 7, 8]);
    const events = await (await page.request.get(`/api/drops/${dropId}/events`)).json();
    expect(events.filter((e) => e.kind === "Produced")).toHaveLength(40);
    expect(
      events
        .filter((e) => e.kind === "Reprinted")
        .map((e) => e.pieceNumber)
        .sort((a, b) => a - b),
    ).toEqual([6, 7, 8]);
    await page.goto(`/drops/${dropId}/proof`);
    await expect(tray(page, "Mailed")).toHaveText("38");
    await expect(tray(page, "Held")).toHaveText("2");
    await page.goto(`/devices?printer=${printer}`);
    await page.getByRole("button", { name: "View output stack" }).click();
    await expect(page.getByRole("region", { name: "Sheet", exact: true }).getByTestId("page-text")).toContainText("Dear Given8,");
  });
  await test.step("a mailing that undone is taken back, with the reason", async () => {
    await page.goto(`/drops/${dropId}/ledger`);
    await page.getByRole("button", { name: "Undo mailing of run 1…" }).click();
    await page.getByRole("button", { name: "Mail is still here" }).click();
    await page.getByRole("dialog").getByRole("button", { name: "Undo mailing" }).click();
    await expect(page.getByRole("list", { name: "History" })).toContainText("undone: Mail is still here");
    await page.goto(`/drops/${dropId}/proof`);
    await expect(tray(page, "Produced")).toHaveText("38");
  });
});

test("PDF per recipient in a ZIP: names by field, numbered where alike, each with its own password", async ({ page }) => {
  await makeDrop(page, {
    name: "Each",
    rows: "First,Last,Code\r\nAna,Okafor,fern\r\nBea,Okafor,ivy\r\nCem,a/b:c,moss\r\n",
    letter: ["Dear {First},"],
  });
  await page.goto(page.url().replace("/proof", "/produce"));
  await page.getByRole("button", { name: "PDF per recipient" }).click();
  await page.getByLabel("File name").fill("{Lst}");
  await expect(page.getByRole("alert")).toContainText("did you mean");
  await page.getByLabel("File name").fill("{Last}");
  await expect(page.getByTestId("file-names")).toContainText("Okafor.pdf, Okafor (2).pdf, a-b-c.pdf");
  await page.getByRole("checkbox", { name: "Password (AES-256)" }).check();
  await page.getByRole("checkbox", { name: "Different for each recipient" }).first().check();
  await page.getByLabel("Password to open").fill("{Code}");
  await page.getByRole("checkbox", { name: "copying text" }).uncheck();
  await page.getByRole("button", { name: "Produce 3 letters" }).click();
  const download = page.waitForEvent("download");
  await page.getByRole("link", { name: /^ZIP,/ }).click();
  const zip = await (await download).path();
  const folder = mkdtempSync(join(tmpdir(), "zip-"));
  try {
    expect(spawnSync("unzip", ["-q", zip, "-d", folder]).status).toBe(0);
    const [dated] = readdirSync(folder);
    expect(dated).toMatch(/^each-each-\d{4}-\d\d-\d\d-\d{4}$/);
    expect(readdirSync(join(folder, dated)).sort()).toEqual(["Okafor (2).pdf", "Okafor.pdf", "a-b-c.pdf"]);
    for (const [name, password, first] of [
      ["Okafor.pdf", "fern", "Ana"],
      ["Okafor (2).pdf", "ivy", "Bea"],
      ["a-b-c.pdf", "moss", "Cem"],
    ]) {
      const path = join(folder, dated, name);
      const qpdf = (...args) => spawnSync("qpdf", [...args, path], { encoding: "utf8" });
      const check = qpdf("--check", `--password=${password}`);
      expect(check.status, check.stderr).toBe(0);
      expect(check.stdout).toContain("AESv3");
      expect(check.stdout).toContain("extract for any purpose: not allowed");
      expect(qpdf("--check", "--password=wrong").status).toBe(2);
      const open = join(folder, "open.pdf");
      expect(spawnSync("qpdf", ["--decrypt", `--password=${password}`, path, open]).status).toBe(0);
      expect((await readPdf(open)).pages[0]).toContain(`Dear ${first},`);
    }
    // What was typed stands nowhere on the run's page.
    await page.getByRole("link", { name: "Run 1" }).click();
    await expect(page.getByText("Password (AES-256)")).toBeVisible();
    expect(await page.locator("body").innerText()).not.toContain("{Code}");
    expect(readFileSync(zip).includes("fern")).toBe(false);
  } finally {
    rmSync(folder, { recursive: true });
  }
});

test("a printed run is paused and goes on from a piece", async ({ page }) => {
  const { dropId } = await makeDrop(page, { name: "Pause", rows: rows(30), letter: ["Dear {First},"] });
  const printer = (await (await page.request.get("/api/printers")).json()).find((p) => p.kind === "practice").id;
  await page.request.put(`/api/printers/${printer}/practice`, { data: { sheetsAMinute: 900, jamsIn10000: 0 } });
  await page.goto(`/drops/${dropId}/produce`);
  await page.getByRole("button", { name: "Print", exact: true }).click();
  await page.getByLabel("Batch size").fill("0");
  await page.getByRole("button", { name: "Print 30 letters" }).click();
  await page.getByRole("dialog").getByRole("button", { name: "Print 30 letters" }).click();
  await expect.poll(async () => (await (await page.request.get(`/api/drops/${dropId}`)).json()).trays.produced).toBeGreaterThan(4);
  await page.getByRole("button", { name: "Pause" }).first().click();
  await expect(page.getByTestId("run-state")).toContainText("paused");
  await page.getByLabel("Or resume from piece").fill("3");
  await page.request.put(`/api/printers/${printer}/practice`, { data: { sheetsAMinute: 60000, jamsIn10000: 0 } });
  await page.getByRole("button", { name: "Resume from there" }).click();
  await expect(page.getByTestId("run-state")).toHaveText("done");
  await expect(page.getByRole("region", { name: "Run history" })).toContainText(
    "go on from piece 0003: everything from there is printed again",
  );
  const good = (await sheets(page, printer)).map(given);
  const first = good.indexOf(3, 3);
  expect(good.slice(first)).toEqual(Array.from({ length: 28 }, (_, i) => i + 3));
});
