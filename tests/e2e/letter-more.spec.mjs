import { atRest, bringInQuietly, expect, inMillimeters, interceptable, pageText, saveElsewhere, test } from "./desk.mjs";
import { join } from "node:path";
import { root } from "./server.mjs";

const rows =
  "First,Last,Amount due,Renewal date\r\nAna,Okafor,64.00,2027-02-28\r\nPer,,1250.5,2027-03-31\r\nBeatriz Concepción,de la Cruz y Villanueva,28,2027-04-30\r\n";

/** Makes a letter by the API and opens it. */
async function write(page, content, { list = rows, name = "Notice", ...more } = {}) {
  const listId = await bringInQuietly(page, `${name}.csv`, list);
  const id = await (await page.request.post("/api/designs", { data: { name, listId, document: { content, ...more } } })).json();
  await page.goto(`/designs/${id}`);
  const letter = page.getByLabel("Letter", { exact: true });
  await expect(letter).toBeVisible();
  return { letter, id, listId };
}
const p = (text) => ({ type: "paragraph", content: [{ type: "text", text }] });
const saved = (page) => expect(page.getByTestId("save-state")).toHaveText(/^Version \d+, saved$/);
const stored = async (page, id) => (await (await page.request.get(`/api/designs/${id}`)).json()).document;

test("text from elsewhere comes in clean, and what is typed can be formatted in every way", async ({ page }) => {
  await inMillimeters(page);
  const { letter, id } = await write(page, [p("start")]);
  await letter.press("Control+End");
  await test.step("paste", async () => {
    await letter.evaluate((e) => {
      const data = new DataTransfer();
      data.setData(
        "text/html",
        `<html><head><style>p{color:red}</style></head><body><!--StartFragment--><p class=MsoNormal style='margin:0;font-family:"Comic"'><b style="mso-bidi-font-weight:normal">Bold</b> and <span style='font-style:italic;color:red'>slanted</span> <a href="javascript:x()">bad</a> <a href="https://fernquay.example">good</a><o:p></o:p></p>
         <p style='mso-list:l0 level1 lfo1'><span style='mso-list:Ignore'>1.<span>&nbsp; </span></span>first</p><p style='mso-list:l0 level1 lfo1'><span style='mso-list:Ignore'>2.</span>second {First}</p>
         <table border=1 style="width:400pt"><tr><td colspan=2 style="background:yellow"><p>wide</p></td></tr><tr><td>a</td><td>b</td></tr></table><script>alert(1)</script><img src="http://outside.example/x.png"></body></html>`,
      );
      e.dispatchEvent(new ClipboardEvent("paste", { clipboardData: data, bubbles: true, cancelable: true }));
    });
    await expect(letter.locator("ol > li")).toHaveCount(2);
    await expect(letter.locator(".chip")).toHaveText(["First"]);
    await expect(letter.locator("td[colspan='2']")).toHaveText("wide");
    await pageText(page, "second Ana");
    await saved(page);
    const text = JSON.stringify(await stored(page, id));
    expect(text).not.toMatch(/Comic|color|yellow|javascript|outside|Mso|alert/);
    expect(text).toContain('"marks":[{"type":"bold"}],"text":"Bold"');
    expect(text).toContain('"type":"link"');
  });

  await test.step("kinds of paragraph, lists, scripts, color, rule, spacing, link", async () => {
    await page.locator(".letter-page").click({ position: { x: 200, y: 550 } });
    await page.getByLabel("Paragraph style").selectOption("2");
    await page.keyboard.type("What is ready");
    await page.keyboard.press("Enter");
    await page.getByRole("button", { name: "Bulleted list" }).click();
    await page.keyboard.type("seeds");
    await page.keyboard.press("Enter");
    await page.keyboard.press("Tab");
    await page.keyboard.type("of CO");
    await page.getByRole("button", { name: "Subscript" }).click();
    await page.keyboard.type("2");
    await page.keyboard.press("Enter");
    await page.keyboard.press("Enter");
    await page.keyboard.press("Enter");
    await page.getByRole("button", { name: "Strikethrough" }).click();
    await page.keyboard.type("gone");
    await page.getByRole("button", { name: "Strikethrough" }).click();
    await page.getByLabel("Color of the text").click();
    await page.getByLabel("#a63a2b").click();
    await page.keyboard.type(" red");
    await page.getByLabel("Spacing", { exact: true }).click();
    await page.getByLabel("Line spacing").fill("2");
    await page.keyboard.press("Escape");
    await page.getByRole("button", { name: "Block quote" }).click();
    await page.keyboard.press("Shift+Home");
    await page.getByLabel("Link", { exact: true }).click();
    await page.getByLabel("Link address").fill("fernquay.example/renew?n={Piece number}");
    await page.getByRole("dialog", { name: "Link" }).getByRole("button", { name: "Apply" }).click();
    await pageText(page, "gone red");
    await saved(page);
    const blocks = (await stored(page, id)).content;
    const types = JSON.stringify(blocks);
    for (const part of [
      '"heading"',
      '"level":2',
      '"bulletList"',
      '"subscript"',
      '"strike"',
      '"#a63a2b"',
      '"lineSpacing":2',
      '"blockquote"',
      "https://fernquay.example/renew?n={Piece number}",
    ])
      expect(types).toContain(part);
  });

  await test.step("indents and tab stops on the ruler", async () => {
    const ruler = page.getByTestId("ruler");
    const box = await ruler.boundingBox();
    await ruler.click({ position: { x: box.width / 2, y: 9 } });
    await expect(page.getByRole("slider", { name: "Tab stop, left" })).toHaveCount(1);
    await page.getByRole("slider", { name: "Tab stop, left" }).dblclick();
    await expect(page.getByRole("slider", { name: "Tab stop, right" })).toHaveCount(1);
    await page.getByLabel("Spacing", { exact: true }).click();
    await page.getByLabel("Indent left").fill("3");
    await page.keyboard.press("Escape");
    await expect.poll(async () => JSON.stringify((await stored(page, id)).content)).toMatch(/"indent":3/);
    expect(JSON.stringify((await stored(page, id)).content)).toMatch(/"kind":"right"/);
    // A tab in the text goes to the stop, whatever the page is drawn at: what follows ends there, also when it grows.
    const beyond = () =>
      page.evaluate(() => {
        const p = document.querySelector(".ProseMirror p[data-tabs]");
        const box = p.getBoundingClientRect();
        const range = document.createRange();
        range.setStartAfter(p.querySelector(".tab-gap"));
        range.setEndAfter(p.lastChild);
        const stop = JSON.parse(p.dataset.tabs)[0].at * (96 / 25.4) * (box.width / p.offsetWidth);
        return Math.abs(range.getBoundingClientRect().right - box.left - stop);
      });
    await page.locator(".ProseMirror p[data-tabs]").first().click();
    await page.keyboard.press("Home");
    await page.keyboard.press("Shift+End");
    await page.keyboard.type("Due");
    await page.keyboard.press("Tab");
    await page.keyboard.type("$12");
    await expect.poll(beyond).toBeLessThan(1.5);
    await page.keyboard.type(".50 in all");
    await expect.poll(beyond).toBeLessThan(1.5);
    await page.getByRole("slider", { name: "Tab stop, right" }).focus();
    await page.keyboard.press("Delete");
    await expect(page.getByRole("slider", { name: /Tab stop/ })).toHaveCount(0);
  });
});

test("tabs at the edge, after a wrapped line, and at a decimal sign stand still at every width", async ({ page }) => {
  const tabbed = (text, ...tabs) => ({ ...p(text), attrs: { tabs } });
  const margins = { top: 20, right: 28, bottom: 20, left: 28 };
  const edge = { at: 159.9, kind: "right", leader: "dots" };
  const long = "This line goes on until it has to wrap, and in the next line there is a tab after all that was said before it: ";
  const { letter } = await write(
    page,
    [
      p("One line"),
      tabbed("Piece 1\tpage 1", edge),
      tabbed(`${long}\tyonder`, edge),
      tabbed("Total\tsum 12.50", { at: 80, kind: "decimal" }),
      { ...tabbed("Middle\tstart", { at: 40, kind: "left" }), attrs: { align: "center", tabs: [{ at: 40, kind: "left" }] } },
      tabbed("\tx\ty ", { at: 60, kind: "center" }, edge),
    ],
    { name: "Tabs", page: { sheet: "letter", orientation: "portrait", margins } },
  );
  const millimeters = (n, find) =>
    letter.evaluate(
      (e, [at, text]) => {
        const box = e.children[at];
        const { left, width } = box.getBoundingClientRect();
        const walk = document.createTreeWalker(box, NodeFilter.SHOW_TEXT);
        while (walk.nextNode()) {
          const found = walk.currentNode.data.indexOf(text);
          if (found < 0) continue;
          const range = document.createRange();
          range.setStart(walk.currentNode, found);
          range.setEnd(walk.currentNode, found + text.length);
          const place = range.getBoundingClientRect();
          return [(place.left - left) / width, (place.right - left) / width].map((v) => v * 159.9);
        }
      },
      [n, find],
    );
  const near = (value, mm) => expect(Math.abs(value - mm), `${value} is ${mm} mm`).toBeLessThan(0.5);
  for (const width of [1280, 1024, 1083, 1147, 1399, 1611, 1920]) {
    await page.setViewportSize({ width, height: 700 });
    // Ends only if gaps do not chase themselves.
    await atRest(page);
    const lines = await letter.evaluate((e) => [...e.children].map((c) => Math.round(c.offsetHeight / e.children[0].offsetHeight)));
    expect(lines, `at ${width}`).toEqual([1, 1, 2, 1, 1, 1]);
    near((await millimeters(1, "page 1"))[1], 159.9);
    near((await millimeters(2, "yonder"))[1], 159.9);
    near((await millimeters(3, "."))[0], 80);
    near((await millimeters(4, "Middle"))[0], 0);
    near((await millimeters(4, "start"))[0], 40);
    const [left, right] = await millimeters(5, "x");
    near((left + right) / 2, 60);
    near((await millimeters(5, "y"))[1], 159.9);
  }
});

test("brackets in a line, values in the letter, where a field is, the longest, one with blanks, any by search", async ({ page }) => {
  const { letter, id } = await write(page, [p("Dear {First}, you owe much this year."), p("Your number is {Last}.")], { name: "Brackets" });
  await test.step("a part of a line", async () => {
    await letter.locator("p").first().click();
    await letter.evaluate((e) => {
      const text = e.editor.state.doc.firstChild.textContent;
      const at = e.editor.state.doc.firstChild.content.size - text.length + text.indexOf("much") + 1;
      e.editor
        .chain()
        .focus()
        .setTextSelection({ from: at, to: at + 5 })
        .run();
    });
    await page.getByRole("button", { name: "When", exact: true }).click();
    await page.getByLabel("Condition or repeat as text").fill("when Amount due > 1000");
    await page.keyboard.press("Enter");
    await expect(letter.locator(".marker")).toHaveText(["when Amount due > 1000", "end"]);
    await pageText(page, "you owe this year.");
    await page.getByLabel("Next recipient").click();
    await pageText(page, "you owe much this year.");
    await letter.locator(".marker").first().click();
    await page.getByLabel("Condition or repeat as text").fill("when Amuont due > 1000");
    await page.keyboard.press("Enter");
    await expect(page.getByLabel("Condition or repeat", { exact: true })).toContainText("did you mean “Amount due”?");
    await page.getByRole("button", { name: "Remove" }).click();
    await expect(letter.locator(".marker")).toHaveCount(0);
  });

  await test.step("values instead of names", async () => {
    await page.getByRole("button", { name: "Show field values" }).click();
    await expect(letter.locator(".value-chip").first()).toHaveText("Per");
    await page.getByRole("button", { name: "Show field names" }).click();
  });

  await test.step("where each field is", async () => {
    await page.getByRole("tab", { name: /^Used/ }).click();
    await page.getByRole("list", { name: "Used fields" }).getByRole("button", { name: /Last/ }).click();
    await expect(letter.locator(".chip.is-selected")).toHaveText("Last");
    await page.getByRole("tab", { name: "Fields", exact: true }).click();
  });

  await test.step("a selected word becomes the field it is the value of", async () => {
    await letter.locator("p").nth(1).click();
    await page.keyboard.press("End");
    await page.keyboard.type(" Per");
    for (let i = 0; i < 3; i++) await page.keyboard.press("Shift+ArrowLeft");
    await expect(page.getByText("to replace Per.")).toBeVisible();
    await page.getByRole("button", { name: /^First/ }).click();
    await expect(letter.locator("p").nth(1).locator(".chip")).toHaveText(["Last", "First"]);
  });

  await test.step("which recipient", async () => {
    await page.getByRole("button", { name: "longest" }).click();
    await pageText(page, "Dear Beatriz Concepción,");
    await page.getByRole("button", { name: "blanks" }).click();
    await pageText(page, "Dear Per,");
    await expect(page.getByRole("list", { name: "Issues" })).toContainText("Last is blank. Location: paragraph 2.");
    await page.getByRole("button", { name: "Search recipients" }).last().click();
    await page.getByLabel("Search recipients").fill("okaf");
    await page.getByRole("list", { name: "Search results" }).getByRole("button").first().click();
    await pageText(page, "Dear Ana,");
  });
  await saved(page);
  expect(JSON.stringify(await stored(page, id))).toContain("First");
});

test("a letter goes to another list, survives a renamed column, and the library keeps it", async ({ page }) => {
  const { id, listId } = await write(page, [p("Dear {First}, {Amount due | money} by {Renewal date | date long}.")], { name: "Library" });
  await test.step("another list: matched by role, settled by picking, remembered", async () => {
    await bringInQuietly(page, "other.csv", "Given name,Surname,Balance,Ends\r\nMeera,Rao,12.5,2027-05-01\r\n");
    await page.goto(`/designs/${id}`);
    await page.getByLabel("Preview list").selectOption({ label: "other" });
    const dialog = page.getByLabel("Choose columns for fields");
    await expect(dialog.getByLabel("Column for First")).toContainText("Given name");
    await expect(dialog.getByLabel("Column for First")).not.toHaveValue("");
    await expect(dialog.getByLabel("Column for Amount due")).toHaveValue("");
    await dialog.getByLabel("Column for Amount due").selectOption({ label: "Balance (12.5)" });
    await dialog.getByLabel("Column for Renewal date").selectOption({ label: "Ends (2027-05-01)" });
    await dialog.getByRole("button", { name: "Done" }).click();
    await pageText(page, "Dear Meera, $12.50 by May 1, 2027.");
    await page.getByLabel("Preview list").selectOption({ label: "Library" });
    await pageText(page, "Dear Ana, $64.00 by February 28, 2027.");
    await page.getByLabel("Preview list").selectOption({ label: "other" });
    await pageText(page, "Dear Meera, $12.50 by May 1, 2027.");
    await page.getByLabel("Preview list").selectOption({ label: "Library" });
    await pageText(page, "Dear Ana,");
  });

  await test.step("a renamed column goes on being meant, also where another gets its name", async () => {
    const columns = (await (await page.request.get(`/api/lists/${listId}`)).json()).columns;
    const of = (name) => columns.find((c) => c.name === name).id;
    await page.request.patch(`/api/lists/${listId}/columns/${of("First")}`, { data: { name: "Called" } });
    await page.request.patch(`/api/lists/${listId}/columns/${of("Last")}`, { data: { name: "First" } });
    await page.reload();
    await pageText(page, "Dear Ana, $64.00");
  });

  await test.step("described, tagged, duplicated, archived; versions held against each other", async () => {
    await page.getByLabel("Letter", { exact: true }).press("Control+End");
    await page.keyboard.type(" Thank you.");
    await saved(page);
    await saveElsewhere(page, id, { content: [p("Dear {First}, {Amount due | money} is due."), p("New.")] }, "Tom");
    await page.reload();
    await page.getByRole("button", { name: "Versions" }).click();
    await page.getByLabel("Compare with").selectOption({ label: "version 2" });
    const differences = page.getByRole("region", { name: "Differences" });
    await expect(differences.locator("ins").first()).toBeVisible();
    await expect(differences.locator("del", { hasText: "Thank" })).toHaveCount(1);
    await expect(differences.locator("ins", { hasText: "New." })).toHaveCount(1);
    await page.getByRole("button", { name: "Close", exact: true }).click();
    await page.goto("/designs");
    await page.getByLabel("Edit details of Library").click();
    await page.getByLabel("Description").fill("For the spring");
    await page.getByLabel("Tags").fill("spring, renewal");
    await page.getByRole("button", { name: "Save", exact: true }).click();
    await page.getByRole("button", { name: "renewal", exact: true }).click();
    await expect(page.getByRole("row")).toHaveCount(2);
    await expect(page.getByRole("row").nth(1).locator("canvas")).toBeVisible();
    await page.getByLabel("Duplicate Library").click();
    await expect(page.getByRole("link", { name: "Library (copy)", exact: true })).toBeVisible();
    await page.getByLabel("Archive Library", { exact: true }).click();
    await expect(page.getByRole("link", { name: "Library", exact: true })).toHaveCount(0);
    await page.getByRole("button", { name: "1 archived design" }).click();
    await page.getByLabel("Restore: Library").click();
    await page.getByRole("button", { name: "0 archived designs" }).click();
    await expect(page.getByRole("link", { name: "Library", exact: true })).toBeVisible();
  });
});

test("what was typed is never lost: the server away, the browser closed, a second tab", async ({ page, context }) => {
  await interceptable(page);
  const { letter, id } = await write(page, [p("one")], { name: "Kept" });
  await test.step("the server is away for a while", async () => {
    await page.route("**/api/designs/*/document", (route) => route.fulfill({ status: 503, body: "" }));
    await letter.press("Control+End");
    await page.keyboard.type(" two");
    await expect(page.getByRole("alert")).toContainText("kept in this browser");
    await page.unroute("**/api/designs/*/document");
    await page.getByRole("button", { name: "Try now" }).click();
    await saved(page);
    expect(JSON.stringify(await stored(page, id))).toContain("one two");
  });

  await test.step("the browser is closed before it could be saved", async () => {
    await page.route("**/api/designs/*/document", (route) => route.fulfill({ status: 503, body: "" }));
    await letter.press("Control+End");
    await page.keyboard.type(" three");
    await expect(page.getByRole("alert")).toContainText("kept in this browser");
    // Not even the last word on leaving gets through.
    await page.evaluate(() => (window.fetch = () => Promise.reject(new Error("away"))));
    await page.reload();
    await expect(page.getByText("were not saved")).toBeVisible();
    await page.unroute("**/api/designs/*/document");
    await page.getByRole("button", { name: "Restore changes" }).click();
    await expect(letter).toContainText("one two three");
    await expect.poll(async () => JSON.stringify(await stored(page, id))).toContain("one two three");
    await page.reload();
    await expect(letter).toContainText("one two three");
    await expect(page.getByText("were not saved")).toHaveCount(0);
  });

  await test.step("a second tab looks only, until one says so", async () => {
    const second = await context.newPage();
    await second.goto(page.url());
    await expect(second.getByRole("alert")).toContainText("edited in another tab");
    await expect(second.getByLabel("Letter", { exact: true })).toHaveAttribute("contenteditable", "false");
    // Until it has what the server has, nothing can be typed into it that would be gone then.
    const there = second.getByLabel("Letter", { exact: true });
    let arrive;
    const arrived = new Promise((resolve) => (arrive = resolve));
    await second.route(`**/api/designs/${id}`, async (route) => {
      await arrived;
      await route.continue();
    });
    await second.getByRole("button", { name: "Edit here instead" }).click();
    await expect(page.getByRole("alert")).toContainText("now being edited in another tab");
    await expect(letter).toHaveAttribute("contenteditable", "false");
    await expect(there).toHaveAttribute("contenteditable", "false");
    arrive();
    await expect(there).toHaveAttribute("contenteditable", "true");
    await there.press("Control+End");
    await second.keyboard.type(" four");
    await expect.poll(async () => JSON.stringify(await stored(page, id))).toContain("three four");
    await second.close();
  });
});

test("pictures as drawings, in the line, at a place; a PDF as letterhead; page size and signature", async ({ page }) => {
  await inMillimeters(page);
  const { letter, id } = await write(page, [p("Dear {First},")], { name: "Pictures" });
  await letter.press("Control+End");
  await page.getByLabel("Picture file").setInputFiles({
    name: "leaf.svg",
    mimeType: "image/svg+xml",
    buffer: Buffer.from(
      '<svg xmlns="http://www.w3.org/2000/svg" width="60" height="30" onload="x()"><script>x()</script><rect width="60" height="30" fill="#1e5b4a"/></svg>',
    ),
  });
  await letter.locator(".letter-picture img").click();
  await page.getByLabel("Picture position").selectOption({ label: "At a fixed position on the page" });
  await page.getByLabel("From the left edge").fill("150");
  await page.getByLabel("From the top edge").fill("12");
  await expect(letter.locator(".placed-picture img")).toBeVisible();
  const asset = /pictures\/(\w+)/.exec(await letter.locator("img").getAttribute("src"))[1];
  const drawing = await (await page.request.get(`/api/pictures/${asset}`)).text();
  expect(drawing).not.toMatch(/script|onload/);
  await letter.locator("p").first().click();
  await page.keyboard.press("End");
  await page.getByLabel("Picture file").setInputFiles(join(root, "demo/files/emblem.png"));
  await letter.locator(".letter-picture img").click();
  await page.getByLabel("Picture position").selectOption({ label: "In line with text" });
  await expect(letter.locator(".inline-picture img")).toBeVisible();
  await letter.press("Control+End");
  await page.getByLabel("Snippets").click();
  await page
    .getByRole("dialog", { name: "Snippets" })
    .getByRole("button", { name: /^Signature/ })
    .click();
  await page.getByLabel("Signer’s name").fill("Marisol Quint");
  await page.getByLabel("Job title").fill("Keeper of Members");
  await page.getByRole("button", { name: "Insert", exact: true }).click();
  await pageText(page, "Keeper of Members");
  const firstPage = await (await page.request.get(`/api/designs/${id}/first-page`)).body();
  await page.getByRole("button", { name: "Page", exact: true }).click();
  await page.getByLabel("Paper size").selectOption("custom");
  await page.getByLabel("Width", { exact: true }).fill("160");
  await page.getByLabel("Height", { exact: true }).fill("220");
  await page.getByLabel("Background file").setInputFiles({ name: "paper.pdf", mimeType: "application/pdf", buffer: firstPage });
  await expect(page.getByText("paper.pdf")).toBeVisible();
  await page.getByRole("button", { name: "Apply", exact: true }).click();
  await saved(page);
  const document = await stored(page, id);
  expect(document.page).toMatchObject({ sheet: "custom", width: 160, height: 220 });
  expect(document.background.asset).toBeTruthy();
  expect(JSON.stringify(document.content)).toMatch(/"place":"page".*"x":150|"x":150.*"place":"page"/);
  expect(JSON.stringify(document.content)).toContain("inlinePicture");
  // The letterhead's text is on the page twice now: as the background and as the letter itself.
  await expect.poll(async () => ((await page.getByTestId("page-text").textContent()) ?? "").split("Dear Ana,").length).toBe(3);
});

test("quotes and dashes become typographic and undo brings them back; placeholders of elsewhere become fields, lost pictures are told", async ({
  page,
}) => {
  const { letter, id } = await write(page, [p("start")]);
  await letter.press("Control+End");
  await page.keyboard.press("Enter");
  await page.keyboard.type('She said "it\'s on" -- ');
  await expect(letter).toContainText("She said “it’s on” — ");
  await page.keyboard.type("so'");
  await expect(letter).toContainText("so’");
  await page.keyboard.press("Control+z");
  await expect(letter).toContainText("so'");
  // Within a field that is typed, quotes are the field language's.
  await page.keyboard.type(' {First | else "friend"}');
  await expect(letter.locator(".chip")).toHaveCount(1);
  const paste = (type, text) =>
    letter.evaluate(
      (e, [kind, words]) => {
        const data = new DataTransfer();
        data.setData(kind, words);
        e.dispatchEvent(new ClipboardEvent("paste", { clipboardData: data, bubbles: true, cancelable: true }));
      },
      [type, text],
    );
  await paste("text/plain", " for «Last», {{ amount_due }}, and «bonjour» ");
  await expect(letter.locator(".chip")).toHaveCount(3);
  await expect(letter).toContainText("«bonjour»");
  await pageText(page, "Okafor");
  await paste("text/html", '<p>seen <img src="http://outside.example/x.png"> there</p>');
  await expect(page.getByText("1 picture in the pasted text was not kept.")).toBeVisible();
  await saved(page);
  const text = JSON.stringify(await stored(page, id));
  for (const source of ["Last", "Amount due"]) expect(text).toContain(`"source":"${source}"`);
  expect(text).toContain('First | else \\"friend\\"');
  expect(await letter.getAttribute("lang")).toBe("en-US");
});
