// From a key to the finished page that shows it, in a letter of three pages: measured in the browser, beside the bare time that the
// same browser needs to draw the same three pages from bytes it has already. Run by ./bandeja bench typing.
import { join } from "node:path";
import { launchOptions, root, startAlone } from "../tests/e2e/server.mjs";

const { chromium } = await import(join(root, "tests/e2e/node_modules/@playwright/test/index.mjs"));
// The first keys are typed while the server is still compiling itself.
const keys = 60, warm = 25;
const server = await startAlone({ demo: true });
const browser = await chromium.launch(launchOptions);
try {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.addInitScript(() => localStorage.setItem("bandeja.person", "Marisol Quint"));
  const text = (t) => ({ type: "paragraph", content: [{ type: "text", text: t }] });
  const sentence = "The glasshouse is quieter without you; in nine years you have walked the riverside path with us. ";
  const content = [text("Dear {First},"), text("here"), ...Array.from({ length: 18 }, (_, i) => text(`${i}. ${sentence.repeat(4)}`)), text("{Amount due | money} by {Renewal date | date long}")];
  const id = await (await page.request.post(`${server.url}/api/designs`, { data: { name: "Typing", listId: 1, document: { maxPages: null, content } } })).json();
  await page.goto(`${server.url}/designs/${id}`);
  await page.getByTestId("page-text").filter({ hasText: "17." }).waitFor({ state: "attached" });
  const pages = await page.locator('section[aria-label="Finished page"] canvas').count();
  if (pages !== 3) throw new Error(`${pages} pages`);
  const letter = page.getByLabel("Letter", { exact: true });
  await letter.locator("p").nth(1).click();
  await page.keyboard.press("End");
  await page.evaluate(() => {
    const state = { times: [], started: 0 };
    window.measured = state;
    document.addEventListener("keydown", () => (state.started = performance.now()), true);
    const holder = document.querySelector('section[aria-label="Finished page"] canvas').parentElement;
    let first = holder.firstChild;
    // The page that is typed on is the first one: a new canvas in its place shows the key.
    new MutationObserver(() => {
      if (holder.firstChild === first) return;
      first = holder.firstChild;
      if (!state.started) return;
      state.times.push(performance.now() - state.started);
      state.started = 0;
    }).observe(holder, { childList: true });
  });
  let typed = "here";
  for (let i = 0; i < keys + warm; i++) {
    const key = "abcdefgh-"[i % 9];
    typed += key;
    await page.keyboard.press(key);
    await page.waitForFunction((n) => window.measured.times.length > n, i);
    await page.getByTestId("page-text").filter({ hasText: typed.slice(-6) }).waitFor({ state: "attached" });
    await page.waitForTimeout(60);
  }
  const times = (await page.evaluate(() => window.measured.times)).slice(warm).sort((a, b) => a - b);
  const at = (share) => times[Math.min(times.length - 1, Math.floor(times.length * share))];
  const [half, most] = [at(0.5), at(0.95)];
  console.log(`a key to the finished page, three pages · median ${half.toFixed(0)} ms · 95th percentile ${most.toFixed(0)} ms · ${(most / half).toFixed(2)}× the median · under 150 ms · ${most < 150 ? "met" : "missed"}`);
} finally {
  await browser.close();
  await server.stop();
}
