import { readFileSync } from "node:fs";
import { join } from "node:path";
import { bringInQuietly, checked, expect, pageText, test } from "./desk.mjs";
import { root } from "./server.mjs";

const heading = "Number,Name,Street,City,State,ZIP,Photo";
const members = [heading, "F-1,Ana Okafor,12 Quay Road,Fernquay,OR,97412,ana.png", "F-2,Bo Lind,2 Elm Street,Fernquay,OR,97412,"].join(
  "\r\n",
);
const donors = [heading, 'D-9,"Okafor, Ana",12 Quay Rd,Fernquay,OR,97412,', "D-8,Cem Tan,7 Elm Street,Fernquay,OR,97412,"].join("\r\n");
const day = (n) => new Date(Date.now() + n * 86_400_000).toISOString().slice(0, 10);

test("one person over two lists: who they are, how much mail they get, and what is kept with them", async ({ page }) => {
  const post = async (path, data) => (await page.request.post(path, { data })).json();
  const get = async (path) => (await page.request.get(path)).json();
  const [m, d] = [await bringInQuietly(page, "members.csv", members), await bringInQuietly(page, "donors.csv", donors)];
  const paragraph = (text) => ({ type: "paragraph", content: [{ type: "text", text }] });
  const drop = async (name, listId, mailDate, content) => {
    const designId = await post("/api/designs", { name, listId, document: { content } });
    const id = await post("/api/drops", { name, listId, designIds: [designId], campaignName: name, mailDate });
    await checked(page, id);
    return id;
  };
  const renewal = await drop("Renewal", m, day(3), [
    paragraph("Dear {Name},"),
    { type: "picture", attrs: { source: "Photo", width: 20, aspect: 1 } },
  ]);
  const appeal = await drop("Appeal", d, day(5), [paragraph("Dear {Name},")]);

  await test.step("a limit is set, and the second piece is held with the reason", async () => {
    await page.goto("/settings");
    await page.getByRole("link", { name: "The most mail a recipient gets" }).click();
    await expect(page.getByText("No limit is set.")).toBeVisible();
    await page.getByRole("button", { name: "Add a limit" }).click();
    await page.getByLabel("How many", { exact: true }).fill("1");
    await page.getByRole("button", { name: "Save the limits" }).click();
    await expect(page.getByText("Contact limits saved.")).toBeVisible();
    await page.goto(`/drops/${appeal}/who`);
    await expect(page.getByText(/Contact limit, 1 piece on paper in 30 days for a person: Renewal · Renewal, planned for/)).toBeVisible();
    expect((await get(`/api/drops/${appeal}`)).trays.held).toBe(1);
  });

  await test.step("the priority decides which of the two goes", async () => {
    await page.getByLabel("Priority").selectOption({ label: "high: before other drops" });
    await expect(page.getByText("No recipients are held.")).toBeVisible();
    await page.goto(`/drops/${renewal}/who`);
    await expect(page.getByText(/Contact limit.*Appeal · Appeal, planned for/)).toBeVisible();
    await page.getByRole("button", { name: "Release 1 recipient" }).click();
    await expect(page.getByText("No recipients are held.")).toBeVisible();
  });

  const ana = (await get(`/api/lists/${m}/recipients?limit=10`)).rows.find((r) => r.values[0] === "F-1").id;
  await test.step("the person's page shows both lists, and a wrong match is taken apart and put back", async () => {
    await page.goto(`/lists/${m}/recipients/${ana}`);
    const others = page.getByRole("list", { name: "On other lists" });
    await expect(others).toContainText("donors");
    await expect(others).toContainText("Same name and address");
    await expect(page.getByRole("table", { name: "Mail history" })).toContainText("Appeal · Appeal");
    await page.getByRole("button", { name: "Mark as a different person" }).click();
    await expect(others).toContainText("marked as a different person");
    await expect(page.getByRole("table", { name: "Mail history" })).not.toContainText("Appeal");
    await others.getByRole("button", { name: "Mark as the same person" }).click();
    await expect(page.getByRole("table", { name: "Mail history" })).toContainText("Appeal · Appeal");
    await page.getByRole("button", { name: "Add a match…" }).click();
    await page.getByLabel("Name or email").fill("tan cem");
    await page.getByRole("list", { name: "Found" }).getByRole("button", { name: "Mark as the same person" }).click();
    await expect(others).toContainText("Cem Tan");
  });

  await test.step("what is noted about her is read on both lists, and can be put back", async () => {
    await page.goto(`/lists/${m}/recipients/${ana}`);
    const notes = page.getByRole("region", { name: "Notes" });
    await notes.getByLabel("New note").fill("Called: prefers email");
    await notes.getByLabel("New note").press("Control+Enter");
    await expect(notes.getByRole("listitem")).toContainText("Called: prefers email");
    await expect(notes.getByLabel("New note")).toHaveValue("");
    const other = (await get(`/api/lists/${d}/recipients?limit=5`)).rows[0].id;
    await page.goto(`/lists/${d}/recipients/${other}`);
    await expect(notes.getByRole("listitem")).toContainText("· members");
    await notes.getByRole("button", { name: "Remove note: Called: prefers email" }).click();
    await expect(notes.getByRole("listitem")).toHaveCount(0);
    await page.getByRole("button", { name: "Undo" }).click();
    await expect(notes.getByRole("listitem")).toContainText("Called: prefers email");
    await page.goto(`/lists/${m}/recipients/${ana}`);
  });

  await test.step("a photo is kept with her, looked at, and printed by its name", async () => {
    const documents = page.getByRole("region", { name: "Documents" });
    await documents
      .getByLabel("Document")
      .setInputFiles({ name: "notes.txt", mimeType: "text/plain", buffer: Buffer.from("not a document") });
    await expect(page.getByText("This file is not a PNG, JPEG, SVG, or PDF.")).toBeVisible();
    const emblem = readFileSync(join(root, "demo/files/emblem.png"));
    await documents.getByLabel("Document").setInputFiles({ name: "ana.png", mimeType: "image/png", buffer: emblem });
    await documents.getByRole("button", { name: "ana.png" }).click();
    await expect(page.getByRole("dialog", { name: "ana.png" }).getByRole("img")).toBeVisible();
    await page.keyboard.press("Escape");
    await page.goto("/");
    await expect(page.getByRole("heading", { name: "Today", exact: true })).toBeVisible();
    await page.keyboard.press("Control+k");
    await expect(page.getByRole("combobox", { name: "Search pages and actions" })).toBeFocused();
    await page.keyboard.type("ana.png");
    await page.getByRole("option", { name: /Okafor/ }).click();
    await expect(page).toHaveURL(new RegExp(`/lists/${m}/recipients/${ana}$`));
    await checked(page, renewal);
    await page.goto(`/drops/${renewal}/proof?piece=1`);
    await pageText(page, "Ana Okafor");
    const proof = await page.request.get(`/api/drops/${renewal}/recipients/${ana}/proof.pdf`);
    expect(Buffer.from(await proof.body()).toString("latin1")).toMatch(/\/Subtype\s*\/Image/);
  });

  await test.step("what came back is imported from a file, and taken back", async () => {
    const { expected } = await post(`/api/drops/${renewal}/plan`, { output: "one" }).then((p) => ({ expected: p.pieces ?? p.recipients }));
    const run = await post(`/api/drops/${renewal}/runs`, { output: "one", expected });
    await expect.poll(async () => (await get(`/api/jobs/${run.jobId}`)).state).toBe("done");
    await post(`/api/runs/${run.id}/mailed`, { date: day(0) });
    await page.goto("/returns");
    await page.getByRole("button", { name: "Import many…" }).click();
    const dialog = page.getByRole("dialog", { name: "Import returns or corrected addresses" });
    await dialog.getByLabel("Paste rows with their headings").fill("0001,moved");
    await expect(dialog.getByRole("alert")).toContainText("The first row must name the columns");
    await dialog.getByLabel("CSV file", { exact: true }).setInputFiles({
      name: "back.csv",
      mimeType: "text/csv",
      buffer: Buffer.from("Number,Reason,Street,City,State,ZIP\nF-1,new address,9 Hill Avenue,Alder Point,OR,01234\nF-99,vacant,,,,\n"),
    });
    await dialog.getByRole("button", { name: "Import 2 rows" }).click();
    await expect(dialog.getByRole("status")).toContainText("1 return was recorded, and 1 address was corrected.");
    await expect(dialog.getByRole("list", { name: "Not recorded" })).toContainText(
      "Row 2, F-99: no recipient of this drop has this number.",
    );
    const values = async () => (await get(`/api/lists/${m}/recipients/${ana}`)).values;
    expect(await values()).toEqual(expect.arrayContaining(["9 Hill Avenue", "Alder Point", "01234"]));
    await dialog.getByRole("button", { name: "Undo these returns" }).click();
    await expect.poll(values).toContain("12 Quay Road");
  });
});
