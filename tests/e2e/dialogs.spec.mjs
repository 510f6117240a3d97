import { soundDialog } from "./accessible.mjs";
import { expect, test } from "./desk.mjs";

test.use({ demo: true });

/** Where each dialog is opened, and how: by a button of the page, or by an action that is found by its name (Ctrl K). */
const dialogs = [
  ["/designs", "New design", { button: "New design" }],
  ["/designs", "Design details", { button: "Edit details of Second notice" }],
  ["/designs/3", "Versions", { button: "Versions" }],
  ["/designs/3", "Page setup", { button: "Page" }],
  ["/designs/3", "Source file", { button: "File" }],
  ["/designs/3", "Choose columns for fields", { action: "Choose columns for fields" }],
  ["/designs/7", "Envelope setup", { button: "No. 10" }],
  ["/lists/1", "Show columns", { button: "Columns" }],
  ["/lists/1", "Find and replace", { action: "Find and replace" }],
  ["/lists/1", /^Export /, { button: "Export" }],
  ["/lists/1", "Add column", { action: "Add column" }],
  ["/drops/1/what", "Edit package", { button: "Edit package" }],
  ["/drops/1/proof", "Name and mail date", { button: /^Mail date/ }],
  ["/calendar", "Subscribe to this calendar", { button: "Subscribe…" }],
  ["/responses", "Import responses", { button: "Import many…" }],
  ["/returns", "Rules by reason", { button: "Rules by reason" }],
  ["/returns", "Import returns or corrected addresses", { button: "Import many…" }],
  ["/campaigns/1", /^New step/, { button: "Add a step" }],
  ["/campaigns/1", "Save as pattern", { button: "Save as pattern" }],
  ["/campaigns/1", / leaves /, { button: /^Leave…: / }],
  ["/designs", /^Remove .*\?$|cannot be removed$/, { button: "Remove Second notice" }],
  ["/designs/3", "Signature", { button: "Snippets", then: /^Signature/ }],
  ["/designs/8", "Label stock", { action: "Choose label stock" }],
  ["/lists/1", "Only recipients with", { button: "Build a filter" }],
  ["/lists/1", "Save as a segment", { filter: 'City = "Fernquay"', button: "Save as a segment" }],
  ["/lists/1", /^Edit column/, { button: "Last column menu", then: "Edit column…" }],
  ["/lists/1/recipients/412", /^Write to /, { button: "Write to them" }],
  ["/lists/1/recipients/412", /^The same person as /, { button: "Add a match…" }],
  ["/", /^Postpone: /, { button: "Later…" }],
  ["/devices?printer=1", /^Output stack/, { button: "View output stack" }],
  ["/lists/1", /^Members.* cannot be removed/, { button: "Remove this list" }],
  ["/lists/1", "Remove Last?", { button: "Last column menu", then: "Remove Last…" }],
  ["/lists/1/recipients/5", "Remove Plot application.pdf?", { button: "Remove…" }],
  ["/lists/1/recipients/5", "Plot application.pdf", { button: /Plot application/ }],
  ["/drops/1/ledger", /^Undo mailing/, { button: "Undo mailing of run 1…" }],
  ["/drops/1/proof", /^Hold /, { button: /^Hold/ }],
  ["/", "Search pages and actions", { keys: "Control+k" }],
];

// In two halves, so that two workers share them; a view's dialogs are all in one of them.
const shownIn = [...new Set(dialogs.map(([view]) => view))];
for (const half of [0, 1])
  test(`dialogs are sound by WCAG 2.2 AA, by day and by night, and Escape closes each and gives the focus back, ${half + 1} of 2`, async ({
    page,
  }) => {
    await page.addInitScript(() => self === top && localStorage.setItem("bandeja.theme", "bandeja"));
    const mine = dialogs.filter(([view]) => shownIn.indexOf(view) % 2 === half);
    let shown;
    for (const [view, name, how] of mine.sort((a, b) => shownIn.indexOf(a[0]) - shownIn.indexOf(b[0])))
      await test.step(`${name}`, async () => {
        // A view stays open for all of its dialogs: each leaves it as it was.
        if (view !== shown) {
          await page.goto(view);
          await expect(page.getByRole("heading").first()).toBeVisible();
          shown = view;
        }
        if (how.filter) await page.getByLabel("Filter", { exact: true }).fill(how.filter);
        if (how.button) {
          await page.getByRole("button", { name: how.button, exact: true }).first().click();
          if (how.then) await page.getByText(how.then).first().click();
        } else if (how.action) {
          await page.keyboard.press("Escape");
          await page.keyboard.press("Control+k");
          await page.keyboard.type(how.action);
          await page.getByRole("dialog").getByRole("option", { name: how.action }).first().click();
        } else await page.keyboard.press(how.keys);
        const dialog = page.getByRole("dialog", { name });
        await expect(dialog).toBeVisible();
        // What has the keys is within.
        expect(await dialog.evaluate((d) => d.contains(document.activeElement))).toBe(true);
        await soundDialog(page);
        await page.keyboard.press("Escape");
        await expect(dialog).toBeHidden();
        if (how.button && !how.then) await expect(page.getByRole("button", { name: how.button, exact: true }).first()).toBeFocused();
      });
  });
