import { expect, test, tray } from "./desk.mjs";

test.use({ demo: true });

test("today leads to what waits, and each place of a drop shows its own state", async ({ page }) => {
  await page.goto("/");
  await expect(page.getByRole("link", { name: "22 recipients need review" })).toBeVisible();
  await expect(page.getByRole("link", { name: "247 produced pieces are not marked as mailed" })).toBeVisible();
  await expect(page.getByRole("link", { name: /^Pull 3 pieces from the trays: \d{4}, \d{4}, \d{4}$/ })).toBeVisible();
  await page.getByRole("link", { name: "22 recipients need review" }).click();
  await expect(tray(page, "NeedsReview")).toHaveText("22");
  const counts = await Promise.all(
    ["NeedsReview", "Ready", "Held", "Produced", "Mailed", "Returned"].map(async (t) =>
      Number((await tray(page, t).textContent()).replace(",", "")),
    ),
  );
  expect(counts.reduce((a, b) => a + b)).toBe(1250);
  const places = page.getByRole("navigation", { name: "Drop sections" });
  await expect(places).toContainText("22 to review");
  await expect(places).toContainText("115 mailed");

  await places.getByRole("link", { name: /^Who/ }).click();
  const gate = page.getByRole("row").filter({ hasText: "renewed at the gate" });
  await expect(gate).toContainText("14");
  // Who left is one line for each reason, on whatever days they left.
  await expect(page.getByRole("row").filter({ hasText: "Left the campaign: paid" })).toHaveCount(1);
  await gate.getByRole("button", { name: "Release 14 recipients" }).click();
  await expect(page.getByText("renewed at the gate")).toHaveCount(0);
  await page.getByRole("button", { name: "Undo" }).first().click();
  await expect(page.getByRole("row").filter({ hasText: "renewed at the gate" })).toContainText("14");

  await places.getByRole("link", { name: /^What/ }).click();
  await expect(page.getByTestId("page-text")).toContainText("Your membership ends on");
  await expect(page.getByRole("row").filter({ hasText: "produced" })).toBeVisible();

  await page.getByTitle("Edit name and mail date").click();
  await page.getByRole("textbox", { name: "Mail date" }).fill("2027-03-12");
  await page.getByRole("button", { name: "Save" }).click();
  await expect(page.getByTitle("Edit name and mail date")).toContainText("Mar 12");

  await places.getByRole("link", { name: /^Produce/ }).click();
  await expect(page.getByText(/ \+ \d+ = 1,250 on the list\./)).toBeVisible();
});

test("every move of a recipient has a cause on their page", async ({ page }) => {
  await page.goto("/lists/1");
  await page.getByLabel("Search", { exact: true }).fill("F-00412");
  await expect(page.getByRole("gridcell", { name: "F-00412" })).toBeVisible();
  await page.keyboard.press("Escape");
  await page.getByLabel("Search", { exact: true }).fill("F-00412");
  await expect(page.getByText("1 of 1,250")).toBeVisible();
  await page.getByTitle("Open recipient").first().click();
  await expect(page.getByRole("heading", { name: "Okafor, Ana" })).toBeVisible();
  await expect(page.getByText("Produced in run 1")).toBeVisible();
  await page.getByTitle("Edit this value").filter({ hasText: "98412" }).click();
  await page.getByLabel("ZIP", { exact: true }).fill("97412");
  await page.keyboard.press("Enter");
  await expect(page.getByText("ZIP: 98412 → 97412")).toBeVisible();
  await expect(page.getByText("Corrected ZIP: 97412").first()).toBeVisible();
});

test("settings change how money prints, and the desk keeps its light", async ({ page }) => {
  await page.goto("/settings");
  await page.getByLabel("Number and date format").selectOption("de-DE");
  await page.getByLabel("Currency").fill("EUR");
  await page.getByRole("button", { name: "Save" }).click();
  await expect(page.getByText("are being checked again")).toBeVisible();
  await page.goto("/designs/3");
  await expect(page.getByTestId("page-text")).toContainText("64 €");
  await page.goto("/settings");
  await page.getByLabel("Theme").selectOption("Dark");
  await page.reload();
  expect(await page.evaluate(() => document.documentElement.dataset.theme)).toBe("bandeja-night");
});
