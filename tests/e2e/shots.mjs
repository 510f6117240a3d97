// Remakes docs/screenshots from the demo's world: one picture of each main view.
import { chromium } from "@playwright/test";
import { mkdirSync } from "node:fs";
import { join } from "node:path";
import { launchOptions, root, startAlone } from "./server.mjs";

const folder = join(root, "docs/screenshots");
mkdirSync(folder, { recursive: true });
const server = await startAlone({ demo: true });
const browser = await chromium.launch(launchOptions);
try {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  // As generous as the tests' limits: on a busy machine a view can take longer than half a minute.
  page.setDefaultTimeout(120_000);
  await page.addInitScript(() => {
    localStorage.setItem("bandeja.person", "Marisol Quint");
    localStorage.setItem("bandeja.tour.bench", "seen");
  });
  // A picture is taken once nothing that was asked for is still on its way; the stream of events never ends.
  let asked = 0;
  const counts = (request) => !request.url().includes("/api/events");
  page.on("request", (r) => counts(r) && asked++);
  for (const end of ["requestfinished", "requestfailed"]) page.on(end, (r) => counts(r) && asked--);
  const quiet = async () => {
    for (let still = 0; still < 8; still = asked > 0 ? 0 : still + 1) await page.waitForTimeout(150);
  };
  const shot = async (name, path, prepare) => {
    asked = 0;
    await page.goto(server.url + path);
    await quiet();
    await prepare?.();
    await quiet();
    await page.screenshot({ path: join(folder, `${name}.png`) });
    console.log(`docs/screenshots/${name}.png`);
  };
  await shot("today", "/");
  await shot("campaign", "/campaigns/1");
  await shot("start", "/designs?new", async () => {
    await page.getByLabel("List for fields").selectOption({ label: "Members, spring 2027, 1,250" });
    await page.getByRole("radio", { name: /^Formal letter/ }).check({ force: true });
    await page.waitForTimeout(2500);
  });
  await shot("report", "/campaigns/1/report", () => page.getByRole("combobox", { name: "By" }).selectOption({ label: "Level" }));
  await shot("person", "/lists/1/recipients/412");
  await shot("bench", "/drops/3/proof", async () => {
    for (let i = 0; i < 3; i++) await page.keyboard.press("ArrowDown");
    await page.waitForTimeout(900);
  });
  await shot("letter", "/designs/3", async () => {
    await page.locator(".chip", { hasText: "Amount due" }).first().click();
    await page.waitForTimeout(600);
  });
  await shot("email", "/designs/10", async () => {
    for (let i = 0; i < 2; i++) {
      await page.getByRole("button", { name: "Next recipient" }).click();
      await page.waitForTimeout(700);
    }
  });
  await shot("envelope", "/designs/7", () => page.getByRole("button", { name: "Delivery address box" }).click());
  await shot("form", "/designs/12", async () => {
    await page.waitForTimeout(1500);
    await page.getByRole("button", { name: "Field Member number" }).click();
    await page.waitForTimeout(800);
  });
  await shot("package", "/drops/5/proof", async () => {
    await page.keyboard.press("0");
    await page.keyboard.press("ArrowDown");
    await page.waitForTimeout(1200);
  });
  await shot("devices", "/devices?printer=1");
  await shot("list", "/lists/1", () => page.waitForTimeout(2500));
  await shot("import", "/lists/new", async () => {
    await page.getByLabel("List file").setInputFiles(join(root, "demo/files/neighbors.xlsx"));
    await page.waitForTimeout(1200);
  });
  await shot("returns", "/returns", async () => {
    await page.keyboard.type("13\n");
    await page.getByText("Reason for return").waitFor();
    await page.keyboard.press("2");
    await page.keyboard.type("48 Orchard Terrace");
    await page.getByText("No issues found with this address.").waitFor();
  });
  await shot("proof-set", "/drops/3/proof/set", () => page.waitForTimeout(2500));
  await shot("produce", "/drops/3/produce", async () => {
    await page.getByLabel("Postage", { exact: true }).selectOption("Presorted letters");
    await page.getByRole("button", { name: "Print", exact: true }).click();
    await page.waitForTimeout(900);
  });
  await shot("ledger", "/drops/3/ledger");
  await shot("document", "/designs?new", async () => {
    await page.getByLabel("List for fields").selectOption({ label: "Members, spring 2027, 1,250" });
    await page.getByLabel("Document", { exact: true }).setInputFiles(join(root, "demo/files/welcome-back.docx"));
    await page.getByRole("table", { name: "Placeholders" }).waitFor();
    await page.waitForTimeout(1500);
  });
} finally {
  await browser.close();
  await server.stop();
}
