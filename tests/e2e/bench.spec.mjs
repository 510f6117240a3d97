import { expect, makeDrop, pageText, test, tray } from "./desk.mjs";

const rows = (n) =>
  "First,Last,City,ZIP\r\n" +
  Array.from(
    { length: n },
    (_, i) => `${i % 10 === 9 ? "" : `Given${i + 1}`},Family${String(i + 1).padStart(4, "0")},Fernquay,0${1000 + (i % 9000)}\r\n`,
  ).join("");

test("everything at the bench has a key, and the page follows without a flash", async ({ page }) => {
  await makeDrop(page, { rows: rows(200), letter: ["Dear {First} {Last},", "{City} {ZIP}"] });
  await pageText(page, "Family0010");
  await page.keyboard.press("0");
  await pageText(page, "Family0001");
  // From now on the paper must never be empty.
  await page.evaluate(() => {
    window.empty = 0;
    const watch = () => {
      if (document.querySelectorAll('[aria-label="Pages"] canvas').length === 0) window.empty++;
      requestAnimationFrame(watch);
    };
    watch();
  });
  for (let i = 2; i <= 6; i++) {
    await page.keyboard.press("ArrowDown");
    await pageText(page, `Dear Given${i} Family000${i},`);
  }
  await page.keyboard.press("End");
  await pageText(page, "Family0200");
  await page.keyboard.press("Home");
  await pageText(page, "Family0001");
  expect(await page.evaluate(() => window.empty)).toBe(0);

  await page.keyboard.press("Shift+ArrowDown");
  await page.keyboard.press("Shift+ArrowDown");
  await expect(page.getByText("3 selected")).toBeVisible();
  await page.keyboard.press("h");
  await page.getByRole("button", { name: "Already responded" }).click();
  await page.keyboard.press("Enter");
  await page
    .getByRole("button", { name: "Hold", exact: true })
    .last()
    .click()
    .catch(() => {});
  await expect(tray(page, "Held")).toHaveText("3");
  await page.keyboard.press("u");
  await expect(tray(page, "Held")).toHaveText("0");

  await page.keyboard.press("1");
  await expect(tray(page, "NeedsReview")).toHaveText("20");
  await pageText(page, "Family0010");
  await page.keyboard.press("a");
  await expect(tray(page, "NeedsReview")).toHaveText("19");
  await pageText(page, "Family0020");
  await page.keyboard.press("Shift+a");
  await expect(tray(page, "NeedsReview")).toHaveText("0");
  await expect(page.getByText("No issues are left.")).toBeVisible();
  await page.keyboard.press("Control+z");
  await expect(tray(page, "NeedsReview")).toHaveText("19");

  await page.keyboard.press("3");
  await page.keyboard.press("0");
  await page.keyboard.press("Control+a");
  await expect(page.getByText("200 selected")).toBeVisible();
  await page.keyboard.press("Escape");
  await page.keyboard.press("/");
  await page.keyboard.type("0042");
  await pageText(page, "Family0042");
  await page.keyboard.press("Enter");
  await page.keyboard.press("?");
  await expect(page.getByRole("heading", { name: "Keyboard shortcuts" })).toBeVisible();
  await page.keyboard.press("Escape");
  await expect(page.getByRole("heading", { name: "Keyboard shortcuts" })).toBeHidden();
  await page.keyboard.press("Control+k");
  await page.getByPlaceholder("Type part of a name").fill("settings");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: "Settings" })).toBeVisible();
});

test("what goes wrong on a page is seen: too long for its page, a character no face has", async ({ page }) => {
  const long = "walks the riverside path with us ".repeat(150);
  await makeDrop(page, {
    name: "Overflow",
    rows: `Name,Note\r\nAna,short\r\nPer,${long}\r\nᚠᚢᚦ,short\r\n`,
    letter: ["Dear {Name},", "{Note}"],
  });
  await expect(tray(page, "NeedsReview")).toHaveText("2");
  await expect(page.getByRole("note")).toContainText("The letter is 2 pages long. The limit is 1 page.");
  await expect(page.getByText("Notice · 2 pages").or(page.getByText("Overflow · 2 pages"))).toBeVisible();
  await page.keyboard.press("ArrowDown");
  await expect(page.getByRole("note")).toContainText("No available font has the characters");
  await page.getByRole("button", { name: "Accept as is" }).click();
  await expect(tray(page, "NeedsReview")).toHaveText("1");
});

test("a made piece that is corrected is told and can be made again", async ({ page }) => {
  const { dropId } = await makeDrop(page, {
    name: "Again",
    rows: "First,Last\r\nAna,Okafor\r\nPer,Lindqvist\r\n",
    letter: ["Dear {First},"],
  });
  await page.goto(`/drops/${dropId}/produce`);
  await page.getByRole("button", { name: "Produce 2 letters" }).click();
  await expect(page.getByRole("link", { name: /^PDF,/ })).toBeVisible();
  await page.goto(`/drops/${dropId}/proof`);
  await pageText(page, "Dear Ana,");
  await page.keyboard.press("f");
  await page.getByLabel("First", { exact: true }).fill("Anna");
  await page.keyboard.press("Enter");
  // The pages show what was made, and beside them stands what changed.
  await expect(page.getByLabel("Data changed after this was produced")).toContainText("Ana → Anna");
  await pageText(page, "Dear Ana,");
  await page.getByRole("button", { name: "Move back to Ready" }).click();
  await pageText(page, "Dear Anna,");
  await expect(tray(page, "Ready")).toHaveText("1");
  await expect(tray(page, "Produced")).toHaveText("1");
  await page.goto(`/drops/${dropId}/produce`);
  await expect(page.getByRole("button", { name: "Produce 1 letter" })).toBeEnabled();
  await page.getByRole("combobox", { name: "Recipients", exact: true }).selectOption("pieces");
  await page.getByLabel("Piece numbers").fill("9-3");
  await expect(page.getByRole("alert")).toContainText("is backward");
});

test("the bench offers a tour once; it is walked by keys, stopped, and found again in the help", async ({ page }) => {
  const { dropId } = await makeDrop(page, { name: "Tour", rows: "First,Last\r\nAna,Okafor\r\nBo,Lind\r\n", letter: ["Dear {First},"] });
  await page.goto(`/drops/${dropId}/proof`);
  await pageText(page, "Dear Ana,");
  await page.getByRole("button", { name: "Start tour" }).click();
  const card = page.getByRole("dialog", { name: /^Tour/ });
  await expect(card).toHaveAccessibleName("Tour, 1 of 6: Trays");
  await expect(card.getByRole("button", { name: "Next" })).toBeFocused();
  await page.keyboard.press("Enter");
  await page.keyboard.press("ArrowRight");
  await expect(card).toHaveAccessibleName("Tour, 3 of 6: The real piece");
  // The bench's own keys wait.
  await page.keyboard.press("h");
  await expect(page.getByRole("dialog", { name: /^Hold/ })).toHaveCount(0);
  await page.keyboard.press("Escape");
  await expect(card).toHaveCount(0);
  await page.reload();
  await pageText(page, "Dear Ana,");
  await expect(page.getByRole("button", { name: "Start tour" })).toHaveCount(0);
  await page.keyboard.press("?");
  await page.getByRole("button", { name: "Take the tour of the bench" }).click();
  await expect(card.getByRole("button", { name: "Next" })).toBeFocused();
  for (let i = 1; i < 6; i++) await page.keyboard.press("Enter");
  await expect(card).toHaveAccessibleName("Tour, 6 of 6: The next step");
  await page.keyboard.press("Enter");
  await expect(card).toHaveCount(0);
});
