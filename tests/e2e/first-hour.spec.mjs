import { soundDialog } from "./accessible.mjs";
import { expect, file, interceptable, readPdf, test, tray } from "./desk.mjs";

// Forty people of a made-up library, with headings as an office has them.
const heads = ["Card no.", "First name", "Last name", "Street", "City", "State", "ZIP", "Email"];
const people = Array.from({ length: 40 }, (_, i) => [
  `L-${100 + i}`,
  ["Ada", "Bo", "Cem", "Dot"][i % 4],
  `Reader${String(i + 1).padStart(2, "0")}`,
  `${i + 1} Mill Lane`,
  "Quillport",
  "ME",
  "04032",
  `reader${i + 1}@example.org`,
]);
const csv = [heads, ...people].map((r) => r.join(",")).join("\r\n");

async function checkPdf(path) {
  const { pages } = await readPdf(path);
  expect(pages).toHaveLength(40);
  for (const [i, page] of pages.entries()) {
    expect(page).toContain(`Reader${String(i + 1).padStart(2, "0")}`);
    expect(page).toContain("Quillport Library");
    expect(page).toContain("04032");
    expect(page).not.toMatch(/Your organization|Your name|\{/);
  }
}

test("a first mailing by mouse, from an empty server: set up, import, choose a design, review, produce, mark as mailed @alone", async ({
  page,
}) => {
  await page.goto("/");
  await page.getByRole("link", { name: "Set up your organization" }).click();
  await page.getByLabel("Organization name").fill("Quillport Library");
  await page.getByLabel("Return address").fill("2 Harbor Street\nQuillport ME 04032");
  await page.getByLabel("Country").selectOption({ label: "United States" });
  await expect(page.getByText("Uses US Letter paper, inches, and USD.")).toBeVisible();
  await page.getByRole("button", { name: "Save and continue" }).click();
  await page.getByLabel("Signer’s name").fill("Ines Marlow");
  await page.getByRole("button", { name: "Save and continue" }).click();
  await page.getByRole("checkbox", { name: /^Thank-you/ }).check();
  await page.getByRole("button", { name: "Create 2 designs" }).click();
  await expect(page.getByText("Setup is done. Created 2 designs.")).toBeVisible();
  // Today says what comes next.
  await page.getByRole("link", { name: "Import list" }).click();
  await page.getByLabel("List file").setInputFiles(file("readers.csv", csv));
  await page.getByRole("button", { name: "Import 40 recipients" }).click();
  await page.waitForURL(/\/lists\/1$/);
  await page.getByRole("link", { name: "Today" }).click();
  await page.getByRole("link", { name: "Start drop" }).click();
  await page.getByLabel("Campaign name").fill("Summer");
  await page.getByLabel("Drop name").fill("Welcome");
  // A letter written on the way leads back, and everything is as it was.
  await page.getByRole("button", { name: "Write letter" }).click();
  await page.waitForURL(/\/designs\/\d+\?drop$/);
  await page.getByRole("link", { name: "Back to your drop" }).click();
  await expect(page.getByLabel("Campaign name")).toHaveValue("Summer");
  await expect(page.getByLabel("Drop name")).toHaveValue("Welcome");
  await expect(page.getByLabel("Welcome, letter")).toBeChecked();
  await page.getByLabel("Welcome, letter").uncheck();
  await page.getByLabel("Formal letter, letter").check();
  await page.getByRole("button", { name: "Start drop" }).click();
  await expect(tray(page, "Ready")).toHaveText("40");
  await expect(page).toHaveTitle("Welcome · Proof · Summer · Bandeja");
  await page.getByRole("link", { name: "Produce 40…" }).click();
  await page.getByRole("button", { name: "Produce 40 letters" }).click();
  const link = page.getByRole("link", { name: /^PDF,/ });
  await link.waitFor();
  const [download] = await Promise.all([page.waitForEvent("download"), link.click()]);
  await checkPdf(await download.path());
  // The drop offers the one next step, and no button produces nothing.
  await expect(page.getByRole("link", { name: /Produce 0/ })).toHaveCount(0);
  await page.getByRole("link", { name: "Mark 40 as mailed…" }).click();
  await page.getByRole("button", { name: "Mark as mailed" }).click();
  await expect(page.getByText("No produced pieces are waiting.")).toBeVisible();
  await expect(page.getByRole("link", { name: "Enter returns" })).toBeVisible();
});

test("a first mailing by keyboard alone takes at most sixty keystrokes besides typing text", async ({ page }) => {
  let pressed = 0;
  const press = async (key) => {
    pressed++;
    await page.keyboard.press(key);
  };
  const type = (text) => page.keyboard.type(text);
  const find = async (text) => {
    await press("Control+k");
    await expect(page.getByRole("combobox", { name: "Search pages and actions" })).toBeFocused();
    await type(text);
    await expect(page.getByRole("dialog").getByRole("option").first()).toContainText(new RegExp(text, "i"));
    await press("Enter");
  };
  await page.request.put("/api/settings/organization", {
    data: {
      name: "Quillport Library",
      locale: "en-US",
      currency: "USD",
      postalAddress: "2 Harbor Street\nQuillport ME 04032",
      signer: "Ines Marlow",
    },
  });
  await page.goto("/");
  await expect(page.getByRole("heading", { name: "Today", exact: true })).toBeVisible();
  // Asked for before the page is: keys and the browser's tools take different ways, so that the key could come first otherwise.
  const chooser = page.waitForEvent("filechooser");
  await find("Import list");
  await expect(page.getByRole("button", { name: "Choose a file" })).toBeFocused();
  await press("Enter");
  await (await chooser).setFiles(file("readers.csv", csv));
  await expect(page.getByLabel("List name")).toBeFocused();
  await expect(page.getByRole("button", { name: "Import 40 recipients" })).toBeEnabled();
  await press("Enter");
  await page.waitForURL(/\/lists\/1$/);
  await expect(page.getByRole("grid")).toBeVisible();
  await find("Designs");
  await expect(page.getByRole("heading", { name: "No designs yet" })).toBeVisible();
  await press("n");
  const dialog = page.getByRole("dialog", { name: "New design" });
  await expect(dialog.getByLabel("Name", { exact: true })).toBeFocused();
  await expect(dialog.getByRole("radio", { name: /^Formal letter/ })).toBeAttached();
  await press("Tab");
  await press("Tab");
  await expect(dialog.getByRole("radio", { name: /^Empty design/ })).toBeFocused();
  await press("ArrowRight");
  await expect(dialog.getByRole("radio", { name: /^Formal letter/ })).toBeChecked();
  await press("Enter");
  await page.waitForURL(/\/designs\/\d+/);
  await expect(page.getByLabel("Letter", { exact: true })).toContainText("Quillport Library");
  await find("Start drop");
  await expect(page.getByLabel("Campaign name")).toBeFocused();
  await type("Summer");
  await press("Tab");
  await type("Welcome");
  await expect(page.getByRole("button", { name: "Start drop" })).toBeEnabled();
  await press("Enter");
  await expect(tray(page, "Ready")).toHaveText("40");
  await press("n");
  await expect(page.getByRole("button", { name: "Produce 40 letters" })).toBeEnabled();
  await press("Control+Enter");
  await expect(page.getByRole("link", { name: /^PDF,/ })).toBeVisible();
  await expect(page.getByRole("link", { name: "Mark 40 as mailed…" })).toBeVisible();
  await press("n");
  await expect(page.getByRole("button", { name: "Mark as mailed" })).toBeFocused();
  await press("Enter");
  await expect(tray(page, "Mailed").or(page.getByText("No produced pieces are waiting.")).first()).toBeVisible();
  const run = (await (await page.request.get("/api/drops/1/runs")).json())[0];
  const path = `/api/runs/${run.id}/files/1`;
  const { writeFileSync, mkdtempSync } = await import("node:fs");
  const { join } = await import("node:path");
  const { tmpdir } = await import("node:os");
  const kept = join(mkdtempSync(join(tmpdir(), "bandeja-first-")), "letters.pdf");
  writeFileSync(kept, await (await page.request.get(path)).body());
  await checkPdf(kept);
  expect(pressed).toBeLessThanOrEqual(60);
});

test("the sample garden is tried, reviewed, and removed with everything done with it", async ({ page }) => {
  await page.goto("/");
  await page.getByRole("button", { name: "Try the sample garden" }).click();
  await page.waitForURL(/\/drops\/\d+\/proof$/);
  await expect(page.getByTestId("tray-sum")).toHaveText("= 40");
  await expect(page.getByTestId("page-text")).toContainText("Sample garden");
  await expect(tray(page, "NeedsReview")).not.toHaveText("0");
  await page.getByRole("link", { name: /^Produce \d+…/ }).click();
  await page.getByRole("button", { name: /^Produce \d+ letters/ }).click();
  await page.getByRole("link", { name: /^PDF,/ }).waitFor();
  await page.getByRole("link", { name: "Today" }).click();
  const note = page.getByRole("note", { name: "Sample garden" });
  await note.getByRole("button", { name: "Remove sample…" }).click();
  const dialog = page.getByRole("dialog", { name: "Remove the sample garden?" });
  await expect(dialog).toContainText("You cannot undo this.");
  await soundDialog(page);
  await page.keyboard.press("Escape");
  await expect(dialog).toHaveCount(0);
  await note.getByRole("button", { name: "Remove sample…" }).click();
  await dialog.getByRole("button", { name: "Remove the sample garden" }).click();
  await expect(page.getByRole("heading", { name: "Start with a list" })).toBeVisible();
  expect(await (await page.request.get("/api/lists")).json()).toEqual([]);
  expect(await (await page.request.get("/api/campaigns")).json()).toEqual([]);
});

test("what is loaded before the first view stays small, and addresses that lead nowhere say so", async ({ page }) => {
  await page.goto("/");
  await expect(page.getByRole("heading", { name: "Start with a list" })).toBeVisible();
  const scripts = await page.evaluate(() =>
    performance
      .getEntriesByType("resource")
      .filter((r) => r.name.endsWith(".js"))
      .map((r) => ({ name: r.name, sent: r.encodedBodySize, whole: r.decodedBodySize })),
  );
  const sent = scripts.reduce((sum, s) => sum + s.sent, 0);
  expect(sent).toBeGreaterThan(20_000);
  expect(sent, JSON.stringify(scripts)).toBeLessThan(250 * 1024);
  // Compressed: what came over is far less than what it says.
  expect(sent * 2).toBeLessThan(scripts.reduce((sum, s) => sum + s.whole, 0));
  await page.goto("/somewhere/else");
  await expect(page.getByRole("alert")).toContainText("There is nothing at the address /somewhere/else");
  await page.goto("/lists/77");
  await expect(page.getByRole("heading", { name: "This list was not found" })).toBeVisible();
  await expect(page).toHaveTitle("This list was not found · Bandeja");
  await page.getByRole("link", { name: "Go to Lists" }).click();
  await expect(page.getByRole("heading", { name: "Lists", exact: true })).toBeVisible();
});

test("help opens for the page, is searched, and closes; the lost server is announced", async ({ page, context, server }) => {
  await page.goto("/lists");
  await expect(page.getByRole("heading", { name: "Lists", exact: true })).toBeVisible();
  await page.keyboard.press("?");
  const help = page.getByRole("complementary", { name: "Help" });
  await expect(help.getByRole("heading", { name: "Suppression lists" })).toBeVisible();
  await help.getByLabel("Search help").fill("indicia");
  await expect(help.getByRole("list", { name: "Search results" })).toContainText("postage was paid with a permit");
  await help.getByLabel("Search help").fill("zzz");
  await expect(help).toContainText("Nothing in the handbook matches “zzz”.");
  await page.keyboard.press("Escape");
  await expect(help).toHaveCount(0);
  // Without the stream of changes what is shown may be out of date; the browser says that it is gone, too.
  server.crashed = true;
  await context.route("**/api/events", (route) => route.abort());
  await page.reload();
  const alert = page.getByRole("alert").filter({ hasText: "The server is not responding" });
  await expect(alert).toBeVisible();
  await context.unroute("**/api/events");
  await expect(alert).toHaveCount(0);
});

test("reduced motion and more contrast are followed", async ({ page }) => {
  await page.emulateMedia({ reducedMotion: "reduce", contrast: "more" });
  await page.goto("/lists");
  await expect(page.getByRole("heading", { name: "Lists", exact: true })).toBeVisible();
  const [still, ink, faint] = await page.evaluate(() => {
    const kind = document.querySelector(".text-faint");
    return [
      getComputedStyle(document.querySelector(".btn")).transitionDuration,
      getComputedStyle(document.body).color,
      getComputedStyle(kind).color,
    ];
  });
  for (const duration of still.split(",")) expect(parseFloat(duration)).toBeLessThan(0.001);
  expect(faint).toBe(ink);
});

test("in setup a skipped step changes nothing, and trying again after a failure makes no second copy", async ({ page }) => {
  await interceptable(page);
  await page.goto("/setup");
  await page.getByLabel("Organization name").fill("Tern Island Ferry");
  await page.getByRole("button", { name: "Save and continue" }).click();
  await page.getByLabel("Signer’s name").fill("Nobody Yet");
  await page.getByRole("button", { name: "Skip this step" }).click();
  await page.getByRole("checkbox", { name: /^Thank-you/ }).check();
  let asked = 0;
  await page.route("**/api/designs", (route) =>
    route.request().method() === "POST" && ++asked === 2 ? route.fulfill({ status: 503, body: "" }) : route.continue(),
  );
  await page.getByRole("button", { name: "Create 2 designs" }).click();
  // One of the two is done, and only the other is left to create.
  await page.getByRole("button", { name: "Create 1 design" }).click();
  await expect(page.getByText("Setup is done. Created 1 design.")).toBeVisible();
  const designs = await (await page.request.get("/api/designs")).json();
  expect(designs).toHaveLength(2);
  const { organization } = await (await page.request.get("/api/settings")).json();
  expect(organization.name).toBe("Tern Island Ferry");
  expect(organization.signer).toBe("");
});
