import { chromium } from "playwright";
const [, , port, w, h, theme, ...steps] = process.argv;
const b = await chromium.launch({ executablePath: "/usr/bin/chromium", args: ["--no-sandbox"] });
const c = await b.newContext({ viewport: { width: +w, height: +h } });
const page = await c.newPage();
await page.addInitScript((t) => {
  localStorage.setItem("bandeja.person", "Marisol Quint");
  if (t !== "-") localStorage.setItem("bandeja.theme", t);
}, theme);
let n = 0;
for (const s of steps) {
  const [what, ...rest] = s.split("=>");
  const arg = rest.join("=>");
  if (what === "go") {
    await page.goto(`http://127.0.0.1:${port}${arg}`);
    await page.waitForLoadState("networkidle").catch(() => {});
    await page.waitForTimeout(900);
  } else if (what === "click") {
    await page.getByRole("button", { name: arg }).first().click();
    await page.waitForTimeout(700);
  } else if (what === "text") {
    await page.getByText(arg, { exact: true }).first().click();
    await page.waitForTimeout(700);
  } else if (what === "key") {
    await page.keyboard.press(arg);
    await page.waitForTimeout(700);
  } else if (what === "type") {
    await page.keyboard.type(arg);
  } else if (what === "file") {
    await page.locator("input[type=file]").first().setInputFiles(arg);
    await page.waitForTimeout(2500);
  } else if (what === "shot") {
    await page.screenshot({ path: `/tmp/shots/${arg}.png` });
    console.log(await page.title());
  }
}
await b.close();
