// Around the package: printers, own stocks, ladders of salutations, a barcode in a letter, a window.
import { bringInQuietly, expect, inMillimeters, pageText, test, tray } from "./desk.mjs";

const rows = `Title,First,Last,Street,City,State,Zip,Language
Dr.,Ana,Okafor,14 Quay Road,Fernquay,OR,97412,
,Luis,Ortega,9 Tide Street,Fernquay,OR,97412,es
,,Nair,3 Kiln Lane,Fernquay,OR,97412,
`;
const text = (t) => ({ type: "paragraph", content: [{ type: "text", text: t }] });

test("ladders say who takes which rung, and what is set prints in the letter", async ({ page }) => {
  const listId = await bringInQuietly(page, "Guests.csv", rows);
  const id = await (
    await page.request.post("/api/designs", { data: { name: "Letter", listId, document: { content: [text("{Salutation}")] } } })
  ).json();
  await page.goto("/settings");
  await page.getByRole("link", { name: "Edit rules by language" }).click();
  await expect(page.getByRole("button", { name: "Spanish 1" })).toBeVisible();
  await expect(page.getByLabel("Rule 3", { exact: true })).toHaveValue("Dear {Title} {Family name}");
  const last = page.getByRole("listitem").filter({ has: page.getByLabel("Rule 8", { exact: true }) });
  await last.getByTitle("Show recipients who get this salutation").click();
  await expect(page.getByLabel("Show recipients who get this salutation").getByText("Dear friend,")).toBeVisible();
  await expect(page.getByRole("link", { name: "Nair" })).toBeVisible();
  // A mistake is told at its form and not taken; the right form is counted before it is saved.
  await page.getByLabel("Rule 8", { exact: true }).fill("Dear {Frend}");
  await expect(page.getByRole("alert")).toContainText("rule 8: There is no name part called “Frend”");
  await page.getByLabel("Rule 8", { exact: true }).fill("Dear friend of the garden");
  await expect(page.getByRole("alert")).toBeHidden();
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(page.getByRole("button", { name: "Save", exact: true })).toBeDisabled();
  await page.goto(`/designs/${id}`);
  await pageText(page, "Dear Dr. Okafor,");
  await page.getByRole("button", { name: "Next recipient" }).click();
  await pageText(page, "Hola, Luis:");
  await page.getByRole("button", { name: "Next recipient" }).click();
  await pageText(page, "Dear friend of the garden,");
});

test("a printer's feed, an own stock with its impossible measures, and a barcode put into a letter", async ({ page }) => {
  await inMillimeters(page);
  const listId = await bringInQuietly(page, "Guests.csv", rows);
  await page.goto("/devices");
  await page.getByRole("button", { name: "Add printer" }).first().click();
  await page.getByLabel("printer name").fill("Back office");
  await page.getByLabel("Leading edge").selectOption("long");
  await page.getByLabel("Print offset, down").fill("-2");
  await page.getByRole("button", { name: "Save" }).click();
  await expect(page.getByRole("button", { name: "Back office" })).toBeVisible();
  await expect(page.getByRole("img", { name: "Envelope with its long edge first, printed side up" })).toBeVisible();
  await expect
    .poll(async () => (await (await page.request.get("/api/printers")).json())[0])
    .toMatchObject({ name: "Back office", envelopeEdge: "long", envelopeDown: -2 });

  // Labels by their measures: what cannot be is said, and the drawing follows.
  const labels = await (
    await page.request.post("/api/designs", {
      data: {
        name: "Shelf tags",
        listId,
        document: {
          kind: "labels",
          stock: "a4-2x4",
          boxes: [{ id: "a", use: "text", x: 3, y: 3, width: 80, height: 20, content: [text('{First | else "you"}')] }],
        },
      },
    })
  ).json();
  await page.goto(`/designs/${labels}`);
  await pageText(page, "Ana");
  await page.getByRole("button", { name: "2 × 4 · 99.1 × 67.7 mm" }).click();
  await page.getByRole("button", { name: "Custom size" }).click();
  await page.getByLabel("Label width").fill("120");
  await expect(page.getByLabel("Errors")).toContainText("The columns overlap");
  await expect(page.getByRole("button", { name: "Use this stock" })).toBeDisabled();
  await page.getByLabel("Columns").fill("1");
  await expect(page.getByText("1 × 4 · 120 × 67.7 mm")).toBeVisible();
  await page.getByRole("button", { name: "Use this stock" }).click();
  await expect(page.getByText(/^Print preview, .* · 120 × 67\.7 mm$/)).toBeVisible();
  // A border, taken back with Ctrl Z.
  await page.getByRole("button", { name: "Text box" }).click();
  await page.getByLabel("Border", { exact: true }).check();
  await expect(page.getByLabel("Border thickness")).toBeVisible();
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByLabel("Border thickness")).toBeHidden();
  await page.getByRole("button", { name: "Redo" }).click();
  await expect(page.getByLabel("Border thickness")).toBeVisible();

  const letter = await (
    await page.request.post("/api/designs", {
      data: { name: "Letter", listId, document: { content: [text('Dear {First | else "you"},')] } },
    })
  ).json();
  await page.goto(`/designs/${letter}`);
  await pageText(page, "Dear Ana,");
  await page.getByLabel("Letter", { exact: true }).press("Control+End");
  await page.getByRole("button", { name: "Snippets" }).click();
  await page.getByRole("button", { name: /^Barcode/ }).click();
  await page.locator("[data-node-view-wrapper]", { hasText: "Piece number" }).first().click();
  await page.getByLabel("Barcode type").selectOption("code128");
  await page.getByLabel("Barcode content").fill('"Ł" & Piece number');
  await expect(page.getByLabel("Issues")).toContainText("Code 128 can hold only letters without accents");
  await page.getByLabel("Barcode content").fill("Piece number");
  await expect(page.getByLabel("Issues")).toBeHidden();
  await expect
    .poll(async () => JSON.stringify((await (await page.request.get(`/api/designs/${letter}`)).json()).document))
    .toContain('"symbology":"code128"');

  // The package of a drop is changed where it is shown.
  const drop = await (
    await page.request.post("/api/drops", { data: { name: "Notice", listId, designIds: [letter], campaignName: "Shelf" } })
  ).json();
  await page.goto(`/drops/${drop}/what`);
  await page.getByRole("button", { name: "Edit package" }).click();
  await page.getByLabel("Shelf tags, label sheet").check();
  await page.getByRole("button", { name: "Apply", exact: true }).click();
  await expect(page.getByRole("list", { name: "The package" }).getByRole("button")).toHaveText([/Letter/, /Shelf tags/]);
  await page.goto(`/drops/${drop}/proof`);
  await expect(tray(page, "Ready")).toHaveText("3");
  expect((await pageText(page, "Dear Ana,")).match(/Ana/g)).toHaveLength(2);
});
