import AxeBuilder from "@axe-core/playwright";
import { expect, test } from "./desk.mjs";

test.use({ demo: true });

const views = ["/", "/campaigns", "/campaigns/new", "/lists", "/lists/new", "/lists/1", "/lists/1?doubt=Capitals", "/lists/1?pane=twins", "/lists/1?pane=rows", "/lists/1/reload", "/lists/1/versions", "/suppressions/1", "/lists/1/recipients/412", "/designs", "/designs/3", "/designs/6", "/drops/3/who", "/drops/3/what", "/drops/3/proof", "/drops/3/produce", "/drops/3/ledger", "/settings"];

for (const theme of ["bandeja", "bandeja-night"])
  test(`every view of the demo is sound by WCAG 2.2 AA and fits the window, ${theme}`, async ({ page }) => {
    test.setTimeout(200_000);
    await page.addInitScript((t) => localStorage.setItem("bandeja.theme", t), theme);
    for (const view of views) {
      await page.goto(view);
      await expect(page.getByRole("heading").first()).toBeVisible();
      await page.waitForTimeout(300);
      // By night only the colours are others.
      const all = new AxeBuilder({ page }).options({ resultTypes: ["violations"] });
      const axe = theme === "bandeja" ? all.withTags(["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa"]) : all.withRules(["color-contrast"]);
      const { violations } = await axe.exclude("canvas").exclude(".letter-page").analyze();
      expect(violations.map((v) => `${view}: ${v.id}: ${v.nodes[0]?.html.slice(0, 160)} ${v.nodes[0]?.any[0]?.message ?? ""}`)).toEqual([]);
      const spill = await page.evaluate(() => [document.documentElement.scrollWidth - window.innerWidth, document.documentElement.scrollHeight - window.innerHeight]);
      expect(spill, view).toEqual([0, 0]);
    }
  });

test("a person's name is asked once", async ({ browser, server }) => {
  const context = await browser.newContext();
  const page = await context.newPage();
  await page.goto(server.url);
  await page.getByLabel("Your name").fill("Tomás Reyes");
  await page.getByRole("button", { name: "Begin" }).click();
  await expect(page.getByRole("heading", { name: "Today" })).toBeVisible();
  await page.reload();
  await expect(page.getByRole("heading", { name: "Today" })).toBeVisible();
  await context.close();
});
