import AxeBuilder from "@axe-core/playwright";
import { atRest, expect, test } from "./desk.mjs";
import { uploaded, views } from "./views.mjs";

test.use({ demo: true });

// In two halves, so that two workers share them.
for (const half of [0, 1])
  test(`views of the demo are sound by WCAG 2.2 AA and fit the window, by day and by night, ${half + 1} of 2`, async ({ page }) => {
    await page.addInitScript(() => self === top && localStorage.setItem("bandeja.theme", "bandeja"));
    for (const view of views.filter((_, i) => i % 2 === half)) {
      await page.goto(view.includes("/document/") ? view.replace("/?", `/${await uploaded(page)}?`) : view);
      await expect(page.getByRole("heading").first()).toBeVisible();
      await atRest(page);
      const spill = await page.evaluate(() => [
        document.documentElement.scrollWidth - window.innerWidth,
        document.documentElement.scrollHeight - window.innerHeight,
      ]);
      expect(spill, view).toEqual([0, 0]);
      const found = async (axe) =>
        (await axe.exclude("canvas").exclude("iframe").exclude(".letter-page").analyze()).violations.map(
          (v) => `${view}: ${v.id}: ${v.nodes[0]?.html.slice(0, 160)} ${v.nodes[0]?.any[0]?.message ?? ""}`,
        );
      const axe = () => new AxeBuilder({ page }).options({ resultTypes: ["violations"] });
      expect(await found(axe().withTags(["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa"]))).toEqual([]);
      // By night only the colours are others.
      await page.evaluate(() => (document.documentElement.dataset.theme = "bandeja-night"));
      // Colors pass over into each other.
      await page.evaluate(() => Promise.all(document.getAnimations().map((a) => a.finished.catch(() => undefined))));
      expect(await found(axe().withRules(["color-contrast"])), "by night").toEqual([]);
    }
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
