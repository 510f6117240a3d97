import { unsound } from "./accessible.mjs";
import { atRest, expect, test } from "./desk.mjs";
import { misfits } from "./measure.mjs";
import { uploaded, views } from "./views.mjs";

test.use({ demo: true });

// A small laptop, a laptop enlarged to 150 %, a large screen, and a tablet held upright.
const sizes = [
  [1024, 700],
  [853, 533],
  [1920, 1080],
  [768, 1024],
];

// In parts, so that workers share them: each view is opened once, in the first of the sizes or the usual one, and looked at in all.
const parts = 4;
for (let part = 0; part < parts; part++)
  test(`views of the demo fit four windows and are sound by WCAG 2.2 AA by day and by night, ${part + 1} of ${parts}`, async ({ page }) => {
    await page.addInitScript(() => self === top && localStorage.setItem("bandeja.theme", "bandeja"));
    const upload = await uploaded(page);
    for (const [i, view] of views.entries()) {
      if (i % parts !== part) continue;
      // A window may be narrow from the start, or become so: both ways are taken, in turns.
      const usual = [1280, 800];
      const order = i % 8 < 4 ? [usual, ...sizes] : [...sizes, usual];
      for (const [turn, [width, height]] of order.entries()) {
        await page.setViewportSize({ width, height });
        if (turn === 0) {
          await page.goto(view.replace("/document/?", `/document/${upload}?`));
          await expect(page.getByRole("heading").first()).toBeVisible();
        }
        await atRest(page);
        expect(await page.evaluate(misfits), `${view} at ${width} by ${height}`).toEqual([]);
        // Long tables draw the rows in view: one that grows with its rows instead of scrolling draws all of them, however many there are.
        expect(await page.evaluate(() => document.querySelectorAll("*").length), `${view} at ${width}`).toBeLessThan(4000);
        if (width !== usual[0]) continue;
        const spill = await page.evaluate(() => [
          document.documentElement.scrollWidth - window.innerWidth,
          document.documentElement.scrollHeight - window.innerHeight,
        ]);
        expect(spill, view).toEqual([0, 0]);
        expect(await unsound(page, { without: [".letter-page"] }), view).toEqual([]);
      }
    }
  });

test("every month of the calendar is sound, however its weeks lie", async ({ page }) => {
  await page.goto("/calendar");
  const calendar = page.getByRole("region", { name: "Calendar" });
  for (let month = 0; month < 12; month++) {
    const shown = await calendar.getByRole("heading").innerText();
    expect(await unsound(page, { within: "section[aria-label=Calendar]" }), shown).toEqual([]);
    await page.keyboard.press("PageDown");
    await expect(calendar.getByRole("heading")).not.toHaveText(shown);
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

test("a person's name is asked once", async ({ browser, server }) => {
  const context = await browser.newContext();
  const page = await context.newPage();
  await page.goto(server.url);
  await page.getByLabel("Your name").fill("Tomás Reyes");
  await page.getByRole("button", { name: "Continue" }).click();
  await expect(page.getByRole("heading", { name: "Today", exact: true })).toBeVisible();
  await page.reload();
  await expect(page.getByRole("heading", { name: "Today", exact: true })).toBeVisible();
  await context.close();
});
