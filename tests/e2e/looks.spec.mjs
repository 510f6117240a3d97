import AxeBuilder from "@axe-core/playwright";
import { readFileSync } from "node:fs";
import { join } from "node:path";
import { root } from "./server.mjs";
import { atRest, expect, test } from "./desk.mjs";

test.use({ demo: true });

const views = [
  "/",
  "/campaigns",
  "/campaigns/new",
  "/campaigns/plan",
  "/campaigns/1",
  "/campaigns/1/report",
  "/calendar",
  "/responses",
  "/settings/calendar",
  "/settings/contact-limit",
  "/lists",
  "/lists/new",
  "/lists/1",
  "/lists/1?issue=Capitals",
  "/lists/1?pane=duplicates",
  "/lists/1?pane=rows",
  "/lists/1/reload",
  "/lists/1/versions",
  "/suppressions/1",
  "/lists/1/recipients/412",
  "/designs",
  "/designs/3",
  "/designs/6",
  "/designs/7",
  "/designs/8",
  "/drops/3/who",
  "/drops/3/what",
  "/drops/3/proof",
  "/drops/3/proof/set",
  "/drops/3/proof/issues",
  "/drops/3/proof/letter/700/3",
  "/drops/3/produce",
  "/drops/3/produce/4",
  "/returns",
  "/devices?printer=1",
  "/settings/prices",
  "/drops/3/ledger",
  "/drops/5/what",
  "/drops/5/proof",
  "/drops/5/produce",
  "/devices",
  "/devices?account=1",
  "/devices/post-office",
  "/designs/10",
  "/designs/12",
  "/drops/6/what",
  "/drops/6/proof",
  "/drops/6/produce",
  "/drops/6/ledger",
  "/settings",
  "/settings/salutations",
  "/settings/typefaces",
  // A document on its way to a letter; its upload is made below.
  "/designs/document/?list=1",
];

const uploaded = async (page) => {
  const data = readFileSync(join(root, "demo/files/welcome-back.docx"));
  return (await (await page.request.post("/api/documents?name=welcome-back.docx", { data })).json()).id;
};

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
