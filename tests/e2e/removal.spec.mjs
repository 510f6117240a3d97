import { expect, test } from "./desk.mjs";

test.use({ demo: true });

const get = async (page, path) => (await page.request.get(path)).json();

test("a drop that was only planned is removed, what was produced stays, and the people of a list are erased for good", async ({ page }) => {
  const campaigns = await get(page, "/api/campaigns");
  const drops = campaigns.flatMap((c) => c.drops);
  const planned = [];
  for (const drop of drops) if ((await get(page, `/api/drops/${drop.id}/removal`)).refusal === null) planned.push(drop);
  const produced = drops.find((d) => d.name === "First notice");

  // What was produced stays: the dialog says why and offers no way.
  await page.goto(`/drops/${produced.id}`);
  await page.getByTitle("Edit name and mail date").click();
  await page.getByRole("button", { name: "Remove this drop…" }).click();
  const refused = page.getByRole("dialog", { name: /cannot be removed/ });
  await expect(refused).toContainText("stays in the ledger");
  await expect(refused.getByRole("button", { name: "Remove the drop" })).toHaveCount(0);
  await page.keyboard.press("Escape");
  await expect(refused).toHaveCount(0);

  // A drop that was only planned says what goes with it, and goes.
  await page.goto(`/drops/${planned[0].id}`);
  await page.getByTitle("Edit name and mail date").click();
  await page.getByRole("button", { name: "Remove this drop…" }).click();
  const question = page.getByRole("dialog", { name: `Remove ${planned[0].name}?` });
  await expect(question.getByRole("list", { name: "What this affects" })).toContainText("on the list");
  await question.getByRole("button", { name: "Remove the drop" }).click();
  await expect(page).toHaveURL(/\/campaigns$/);
  await expect(page.getByText(`Removed ${planned[0].name}.`)).toBeVisible();
  expect((await page.request.get(`/api/drops/${planned[0].id}`)).status()).toBe(404);

  // A design that is used says where.
  await page.goto("/designs");
  await page
    .getByRole("button", { name: /^Remove / })
    .first()
    .click();
  await expect(page.getByRole("dialog")).toContainText(/cannot be removed|is used in/);
  await page.getByRole("button", { name: "Close", exact: true }).click();

  // The people of a list are erased only when its name is typed.
  const list = (await get(page, "/api/lists")).find((l) => l.id === produced.listId) ?? (await get(page, "/api/lists"))[0];
  await page.goto(`/lists/${list.id}`);
  // Nobody is erased while the list is being checked.
  await expect.poll(async () => (await get(page, `/api/lists/${list.id}`)).checking).toBe(false);
  await page.getByRole("button", { name: "Remove this list" }).click();
  const dialog = page.getByRole("dialog", { name: `${list.name} cannot be removed` });
  await expect(dialog).toContainText("You can erase its recipients instead");
  const erase = dialog.getByRole("button", { name: "Erase recipients" });
  await expect(erase).toBeDisabled();
  await dialog.getByRole("textbox").fill(list.name);
  await erase.click();
  await expect(page.getByText("The recipients of this list were erased")).toBeVisible();
  await expect(page).toHaveURL(/\/lists$/);
  const after = await get(page, `/api/lists/${list.id}/recipients`);
  expect(after.total).toBe(0);
  const mailed = (await get(page, "/api/campaigns")).flatMap((c) => c.drops).find((d) => d.id === produced.id);
  expect(mailed.trays.mailed).toBe(produced.trays.mailed);
});
