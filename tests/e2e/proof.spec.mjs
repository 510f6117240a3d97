import { soundDialog } from "./accessible.mjs";
import { expect, makeDrop, pageText, readPdf, saveElsewhere, test, tray } from "./desk.mjs";

// Sixty people; the traps stand where nobody looks who steps through the first four.
const person = (i) => ({
  First: "Ana",
  Last: `Family${String(i).padStart(2, "0")}`,
  Street: `${i} Quay Road`,
  City: "Fernquay",
  ZIP: "97412",
  Country: "",
  Amount: "20",
});
const traps = {
  40: { First: "" },
  17: { First: "Bartholomew-Maximilian" },
  33: { Country: "Japan", City: "Kyoto", ZIP: "100-0001" },
  51: { Amount: "250" },
  58: { Last: "שלום" },
};
const heads = ["First", "Last", "Street", "City", "ZIP", "Country", "Amount"];
const rows = [
  heads.join(","),
  ...Array.from({ length: 60 }, (_, n) => ({ ...person(n + 1), ...traps[n + 1] })).map((p) => heads.map((h) => p[h]).join(",")),
].join("\r\n");
const letter = ["Dear {First} {Last},", "{when Amount > 100}Thank you for so large a gift.{end}", "{Delivery address}"];

const member = (page, piece) => page.getByTestId("proof-member").filter({ hasText: piece });

test("each trap is in the proof set with its reason; signed off, and lapsed when the letter changes", async ({ page }) => {
  const { dropId, designId } = await makeDrop(page, { name: "Traps", rows, letter });
  await page.getByRole("link", { name: "Proof set" }).click();
  await expect(page.getByRole("heading", { name: /pieces show everything that can happen in 60 recipients/ })).toBeVisible();
  await expect(member(page, "0040")).toContainText("First is blank");
  await expect(member(page, "0017")).toContainText("longest First");
  await expect(member(page, "0033")).toContainText("Japan");
  await expect(member(page, "0051")).toContainText("“Amount > 100” is met");
  await expect(member(page, "0058")).toContainText("from Noto Serif Hebrew");
  // The real page is drawn, with the broken salutation on it.
  await expect(member(page, "0040").getByTestId("page-text")).toContainText("Dear Family40,");
  await expect(page.getByTestId("longest-piece").getByTestId("page-text")).toContainText("Bartholomew-Maximilian");
  await expect(page.getByText("No recipient has:")).toContainText("no Last");

  const count = await page.getByTestId("proof-member").count();
  expect(count).toBeLessThan(12);
  await expect(page.getByRole("button", { name: /^Sign off/ })).toBeDisabled();
  await test.step("one is wrong, which leads to where it is mended", async () => {
    await member(page, "0040").getByRole("button").click();
    await page.keyboard.press("w");
    await page.getByRole("button", { name: "Salutation" }).click();
    await page.getByRole("button", { name: "Mark as wrong" }).click();
    await expect(page.getByText("wrong, Salutation · Marisol Quint")).toBeVisible();
    await page.getByRole("link", { name: "Fix value on the bench" }).click();
    await pageText(page, "Dear Family40,");
    await page.keyboard.press("f");
    await page.getByLabel("First", { exact: true }).fill("Per");
    await page.keyboard.press("Enter");
    await pageText(page, "Dear Per Family40,");
  });
  await test.step("looked at with the keys alone", async () => {
    await page.getByRole("link", { name: "Proof set" }).click();
    // Nobody is without a first name now, so the set is another. A page that is not drawn yet shows nobody either.
    await expect(member(page, "0017")).toContainText("longest First");
    await expect(page.getByTestId("proof-member").filter({ hasText: "First is blank" })).toHaveCount(0);
    const left = await page.getByTestId("proof-member").count();
    for (let i = 0; i < left; i++) {
      await page.keyboard.press("r");
      await expect(page.getByTestId("proof-progress")).toContainText(`${i + 1} reviewed`);
    }
    await page.getByRole("checkbox", { name: "Require sign-off before any run" }).click();
    await expect(page.getByRole("checkbox", { name: "Require sign-off before any run" })).toBeChecked();
    await page.getByLabel("Note").fill("as agreed");
    await page.getByRole("button", { name: "Sign off 60 recipients" }).click();
    await expect(page.getByRole("status").filter({ hasText: "Signed off by Marisol Quint" })).toContainText("as agreed");
  });
  await test.step("the proofs as a PDF", async () => {
    const download = page.waitForEvent("download");
    await page.getByRole("link", { name: "Download proofs" }).click();
    const pdf = await readPdf(await (await download).path());
    expect(pdf.pages[0]).toContain("Proof of Traps, Traps");
    for (const text of pdf.pages.slice(1)) expect(text).toContain("PROOF");
  });
  await test.step("lapsed by itself", async () => {
    await saveElsewhere(page, designId, {
      page: { sheet: "letter" },
      maxPages: 1,
      content: [...letter, "P.S. The quay is open."].map((t) => ({ type: "paragraph", content: [{ type: "text", text: t }] })),
    });
    await expect(page.getByRole("alert").filter({ hasText: "has lapsed" })).toContainText(
      "Traps is now version 2, but version 1 was signed off.",
    );
    await expect(page.getByTestId("proof-progress")).toContainText("0 reviewed");
    await page.goto(`/drops/${dropId}/produce`);
    await expect(page.getByText("Sign-off has lapsed: Traps is now version 2")).toBeVisible();
    await expect(page.getByRole("button", { name: "Produce 60 letters" })).toBeDisabled();
  });
});

test("issues are worked off kind by kind", async ({ page }) => {
  await makeDrop(page, {
    name: "Kinds",
    rows: "First,Last,Amount\r\nAna,Okafor,5\r\n,Marsh,5\r\n,Quint,5\r\n,Reyes,n/a\r\n",
    letter: ["Dear {First},", "{Amount | money}"],
  });
  await page.getByRole("link", { name: /kinds? of issues/ }).click();
  const blank = page.getByTestId("issue-group").filter({ hasText: "First is blank" });
  await expect(blank).toContainText("3");
  await blank.getByRole("button", { name: "Fix 3…" }).click();
  await page.getByLabel("First", { exact: true }).fill("Friend");
  await soundDialog(page);
  await page.getByRole("button", { name: "Fix 3 recipients" }).click();
  await expect(blank).toHaveCount(0);
  await page.keyboard.press("u");
  await expect(blank).toContainText("3");
  await blank.getByRole("button", { name: "Accept as is" }).click();
  await expect(blank.getByRole("button", { name: "Fix" })).toHaveCount(0);
  const odd = page.getByTestId("issue-group").filter({ hasText: "Amount has the wrong type of value" });
  await odd.getByRole("button", { name: "Hold 1…" }).click();
  await page.getByRole("button", { name: "Check with the office" }).click();
  await soundDialog(page);
  await page.locator("dialog").getByRole("button", { name: "Hold", exact: true }).click();
  await expect(odd.getByRole("button", { name: /^Hold/ })).toHaveCount(0);
  await odd.getByRole("link", { name: "View" }).click();
  await expect(tray(page, "Held")).toHaveText("1");
  await expect(tray(page, "Ready")).toHaveText("3");
  await pageText(page, "Dear");
});

test("a letter is changed for one alone, and settled when the design changes", async ({ page }) => {
  const { dropId, designId } = await makeDrop(page, {
    name: "Alone",
    rows: "First,Last\r\nAna,Okafor\r\nPer,Lindqvist\r\nBea,Marsh\r\n",
    letter: ["Dear {First},", "The plant fair is on the quay.", "With warm regards,"],
  });
  await pageText(page, "Dear Ana,");
  await page.keyboard.press("ArrowDown");
  await pageText(page, "Dear Per,");
  await page.keyboard.press("e");
  const writing = page.getByLabel("Letter", { exact: true });
  await expect(writing).toBeVisible();
  await expect(page.getByRole("button", { name: "Save for this recipient" })).toBeDisabled();
  await writing.getByText("The plant fair is on the quay.").click();
  await page.keyboard.press("End");
  await page.keyboard.press("Enter");
  await page.keyboard.type("Your fern has flowered!");
  await pageText(page, "Your fern has flowered!");
  await page.getByRole("button", { name: "Save for this recipient" }).click();
  await expect(page.getByText("Changed for this recipient only").first()).toBeVisible();
  await pageText(page, "Your fern has flowered!");

  await saveElsewhere(page, designId, {
    page: { sheet: "letter" },
    maxPages: 1,
    content: ["Dear {First},", "The plant fair is on the quay.", "With warm regards,", "P.S. Bring a bag."].map((t) => ({
      type: "paragraph",
      content: [{ type: "text", text: t }],
    })),
  });
  await expect(tray(page, "NeedsReview")).toHaveText("1");
  await page.getByRole("button", { name: "Resolve" }).click();
  await expect(page.getByRole("alert")).toContainText("The standard letter is now version 2");
  await page.getByRole("button", { name: "Apply change to version 2" }).click();
  await expect(tray(page, "NeedsReview")).toHaveText("0");
  await page.goto(`/drops/${dropId}/produce`);
  await page.getByRole("button", { name: "Produce 3 letters" }).click();
  const download = page.waitForEvent("download");
  await page.getByRole("link", { name: /^PDF,/ }).click();
  const pdf = await readPdf(await (await download).path());
  expect(pdf.pages.map((t) => t.includes("flowered"))).toEqual([false, true, false]);
  for (const text of pdf.pages) expect(text).toContain("Bring a bag.");
});
