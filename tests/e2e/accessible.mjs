// Holds what a page shows against WCAG 2.2 AA, as far as a program can.
import { expect } from "@playwright/test";
import { readFileSync } from "node:fs";
import { createRequire } from "node:module";

const source = readFileSync(createRequire(import.meta.url).resolve("axe-core/axe.min.js"), "utf8");
const rules = { type: "tag", values: ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa"] };
// By night only the colors are others.
const colors = { type: "rule", values: ["color-contrast"] };

/** What is wrong with the page or with the part that is named, by day and by night; it looks as before when it is done. */
export async function unsound(page, { within = "html", without = [] } = {}) {
  const found = [];
  const before = await page.evaluate(() => document.documentElement.dataset.theme);
  for (const [theme, runOnly] of [
    ["bandeja", rules],
    ["bandeja-night", colors],
  ]) {
    await page.evaluate((t) => (document.documentElement.dataset.theme = t), theme);
    // Colors pass over into each other; animations that follow scrolling never end.
    await page.evaluate(() =>
      Promise.all(
        document
          .getAnimations()
          .filter((a) => a instanceof CSSTransition)
          .map((a) => a.finished.catch(() => undefined)),
      ),
    );
    // Once for each document that is loaded: it is large.
    if (!(await page.evaluate(() => "axe" in self))) await page.evaluate(source);
    const context = { include: [within], exclude: ["canvas", "iframe", ...without] };
    // Frames are left out, and nothing that is asked of a page needs its files read again.
    const options = { runOnly, resultTypes: ["violations"], iframes: false, preload: false };
    const violations = await page.evaluate(async ([c, o]) => (await self.axe.run(c, o)).violations, [context, options]);
    found.push(...violations.map((v) => `${theme}: ${v.id}: ${v.nodes[0]?.html.slice(0, 160)} ${v.nodes[0]?.any[0]?.message ?? ""}`));
  }
  await page.evaluate((t) => (document.documentElement.dataset.theme = t), before);
  return found;
}

/** Holds the dialog that is open against the same. */
export const soundDialog = async (page) => expect(await unsound(page, { within: "dialog[open]" })).toEqual([]);
