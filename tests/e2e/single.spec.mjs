import { expect, readPdf, test } from "./desk.mjs";

test.use({ demo: true });

test("from the list to paper in four acts: one letter to one person, recorded like every other", async ({ page }) => {
  await page.goto("/lists/1");
  await page.getByLabel("Search", { exact: true }).fill("F-00412");
  await expect(page.getByText("1 of 1,250")).toBeVisible();
  await page.getByTitle("Open recipient").first().click();
  await test.step("write to them: an empty letter with their address and salutation", async () => {
    await page.getByRole("button", { name: "Write to them" }).click();
    await page.getByRole("button", { name: "Write an empty letter" }).click();
    await page.waitForURL(/\/proof\/letter\//);
    const last = page.locator(".ProseMirror p").last();
    await last.click();
    await page.keyboard.type("Your key to the fern house is at the gate.");
    await expect(page.getByTestId("page-text")).toContainText("fern house");
    await page.getByRole("button", { name: "Save for this recipient" }).click();
    await page.waitForURL(/\/proof(\?|$)/);
  });
  const drop = Number(/drops\/(\d+)/.exec(page.url())[1]);
  await test.step("the page as it will be printed; then paper", async () => {
    await expect(page.getByTestId("page-text")).toContainText("Your key to the fern house is at the gate.");
    await expect(page.getByTestId("tray-Ready")).toHaveText("1");
    await page
      .getByRole("link", { name: /^Produce/ })
      .first()
      .click();
    await page.getByRole("button", { name: "Produce 1 letter" }).click();
    const link = page.getByRole("link", { name: /PDF,/ });
    const download = page.waitForEvent("download");
    await link.click();
    const { pages } = await readPdf(await (await download).path());
    expect(pages).toHaveLength(1);
    expect(pages[0]).toContain("Okafor");
    expect(pages[0]).toContain("fern house");
  });
  await test.step("it stands on their page, and nobody else is in it", async () => {
    const view = await (await page.request.get(`/api/drops/${drop}`)).json();
    expect([view.campaignName, view.trays.onTheList]).toEqual(["Single letters", 1]);
    await page.goto("/lists/1/recipients/412");
    await expect(page.getByRole("table", { name: "Mail history" })).toContainText("Single letters · To Okafor, Ana");
  });
});
