import { chromium } from "playwright";
import { readFileSync } from "node:fs";
import { misfits } from "./measure.mjs";
const src = readFileSync("./looks.spec.mjs", "utf8");
const views = [...src.matchAll(/^  "(\/[^"]*)",/gm)]
  .map((m) => m[1])
  .filter((v) => !v.includes("document"))
  .concat(["/setup"]);
const sizes = process.argv.slice(3).map((s) => s.split("x").map(Number));
const b = await chromium.launch({ executablePath: "/usr/bin/chromium", args: ["--no-sandbox"] });
for (const [w, h] of sizes) {
  const c = await b.newContext({ viewport: { width: w, height: h } });
  const page = await c.newPage();
  await page.addInitScript(() => localStorage.setItem("bandeja.person", "M"));
  for (const v of views) {
    await page.goto(`http://127.0.0.1:${process.argv[2]}${v}`);
    await page.waitForLoadState("networkidle", { timeout: 5000 }).catch(() => {});
    await page.waitForTimeout(250);
    const f = await page.evaluate(misfits);
    if (f.length) console.log(`${w}x${h} ${v}\n   ${f.join("\n   ")}`);
  }
  await c.close();
}
await b.close();
