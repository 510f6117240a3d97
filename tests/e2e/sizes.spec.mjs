import { atRest, expect, test } from "./desk.mjs";
import { misfits } from "./measure.mjs";
import { uploaded, views } from "./views.mjs";

test.use({ demo: true });

// A small laptop, a laptop enlarged to 150 %, a large screen, and a tablet held upright.
for (const [width, height] of [
  [1024, 700],
  [853, 533],
  [1920, 1080],
  [768, 1024],
])
  test(`nothing overlaps, is cut, or scrolls sideways at ${width} by ${height}`, async ({ page }) => {
    test.slow();
    await page.setViewportSize({ width, height });
    const upload = await uploaded(page);
    for (const view of views) {
      await page.goto(view.replace("/document/?", `/document/${upload}?`));
      await expect(page.getByRole("heading").first()).toBeVisible();
      await atRest(page);
      expect(await page.evaluate(misfits), view).toEqual([]);
    }
  });

test("the bench in a narrow window is two panes and a drawer", async ({ page }) => {
  await page.setViewportSize({ width: 1024, height: 700 });
  await page.goto("/drops/3/proof");
  const person = page.getByRole("complementary", { name: "This recipient" });
  await expect(page.getByRole("region", { name: "Package" })).toBeVisible();
  await expect(person).toBeHidden();
  await page.getByRole("button", { name: "This recipient" }).click();
  await expect(person).toBeVisible();
  await page.getByRole("button", { name: "This recipient" }).press("Escape");
  await expect(person).toBeHidden();
  // A key that leads into the pane opens it.
  await page.getByRole("button", { name: /^Needs review/ }).click();
  await atRest(page);
  await page.keyboard.press("f");
  await expect(person).toBeVisible();
});
