import { bringInQuietly, expect, test } from "./desk.mjs";

const rows = "No.,First,Last,Email\r\nF-1,Ana,Okafor,ana@example.org\r\nF-2,Bo,Lind,bo@example.org\r\n";
const p = (text) => ({ type: "paragraph", content: [{ type: "text", text }] });
const stored = async (page, id) => (await (await page.request.get(`/api/designs/${id}`)).json()).document;

test("in a letter one writes at once, finds, replaces with fields, and undoes; a table keeps the text's tools", async ({ page }) => {
  const listId = await bringInQuietly(page, "people.csv", rows);
  const made = await page.request.post("/api/designs", {
    data: {
      name: "Letter",
      listId,
      document: { content: [p("Dear friend,"), p("The Garden and its garden gate. Gardens close at six.")] },
    },
  });
  const id = await made.json();
  await page.goto(`/designs/${id}`);
  const letter = page.getByLabel("Letter", { exact: true });
  await expect(letter).toBeFocused();
  await page.keyboard.type("Hello! ");
  await expect(letter).toContainText("Hello! Dear friend,");

  await page.keyboard.press("Control+f");
  const bar = page.getByRole("search", { name: "Find and replace" });
  await expect(bar.getByLabel("Find", { exact: true })).toBeFocused();
  await page.keyboard.type("garden");
  await expect(bar.getByRole("status")).toHaveText("3");
  await page.keyboard.press("Enter");
  await page.keyboard.press("Enter");
  await expect(bar.getByRole("status")).toHaveText("2 of 3");
  await bar.getByLabel("Match case").check();
  await expect(bar.getByRole("status")).toHaveText("1 of 1");
  await bar.getByLabel("Match case").uncheck();
  await bar.getByLabel("Whole words").check();
  await expect(bar.getByRole("status")).toHaveText("2 of 2");
  await bar.getByLabel("Replace with").fill("{Last} house");
  await bar.getByRole("button", { name: "Replace all" }).click();
  await expect(page.getByText("Replaced 2 matches.")).toBeVisible();
  await expect(bar.getByRole("status")).toHaveText("No matches");
  await expect.poll(async () => JSON.stringify((await stored(page, id)).content).match(/"source":"Last"/g)?.length).toBe(2);
  await expect(page.getByTestId("page-text")).toContainText("The Okafor house and its Okafor house gate. Gardens close at six.");
  await bar.getByLabel("Find", { exact: true }).press("Escape");
  await expect(bar).toBeHidden();
  await expect(letter).toBeFocused();
  await page.keyboard.press("Control+z");
  await expect(letter).toContainText("The Garden and its garden gate.");

  // Escape leaves the text, so that the page's keys hold: V shows values.
  await page.keyboard.press("Escape");
  await expect(letter).not.toBeFocused();
  await page.keyboard.press("v");
  await expect(page.getByRole("button", { name: "Show field names" })).toBeVisible();

  await letter.click();
  await page.keyboard.press("Control+End");
  await page.getByRole("button", { name: "Table", exact: true }).click();
  await expect(page.getByRole("group", { name: "Table" }).getByRole("button", { name: "Row below" })).toBeVisible();
  await page.getByRole("button", { name: "Centered" }).click();
  await expect.poll(async () => JSON.stringify((await stored(page, id)).content)).toContain('"textAlign":"center"');
});

test("an email has buttons and linked pictures, is measured in pixels, and is shown as wide as on a desk", async ({ page }) => {
  const listId = await bringInQuietly(page, "people.csv", rows);
  const made = await page.request.post("/api/designs", {
    data: {
      name: "Email",
      listId,
      document: { kind: "email", subject: "Renew", fromName: "Garden", fromAddress: "office@example.org", content: [p("Dear {First},")] },
    },
  });
  const id = await made.json();
  await page.goto(`/designs/${id}`);
  const body = page.getByRole("textbox", { name: "Email", exact: true });
  await expect(body).toBeFocused();
  await page.keyboard.press("Control+End");
  await page.keyboard.press("Enter");
  await page.getByRole("button", { name: "Button", exact: true }).click();
  await page.getByLabel("Button text").fill("Renew, {First}");
  await page.getByLabel("Button link").fill("fernquay.example/renew?m={No.}");
  await page.getByRole("button", { name: "#b4541f" }).click();
  await page.getByRole("button", { name: "Insert button" }).click();
  const frame = page.frameLocator('iframe[title="Email body"]');
  const button = frame.getByRole("link", { name: "Renew, Ana" });
  await expect(button).toHaveAttribute("href", "https://fernquay.example/renew?m=F-1");
  await expect(frame.locator('td[bgcolor="#b4541f"]')).toHaveCount(1);

  await page.getByLabel("Picture file").setInputFiles({
    name: "leaf.svg",
    mimeType: "image/svg+xml",
    buffer: Buffer.from(
      '<svg xmlns="http://www.w3.org/2000/svg" width="200" height="100"><rect width="200" height="100" fill="#1d5a44"/></svg>',
    ),
  });
  const picture = page.getByRole("region", { name: "Picture" });
  await body.locator('img[src^="/api/pictures/"]').click();
  await picture.getByLabel("Width").fill("320");
  await picture.getByLabel("Alt text").fill("A leaf");
  await picture.getByLabel("Picture link").fill("fernquay.example/leaf");
  await picture.getByLabel("Picture link").press("Enter");
  await expect(frame.locator('a[href="https://fernquay.example/leaf"] img[alt="A leaf"]')).toHaveAttribute("width", "320");
  await expect(picture.getByRole("option", { name: /fixed position/ })).toHaveCount(0);
  await expect(page.getByLabel("Size").locator("option:checked")).toHaveText("16 px");

  // At a desktop's width the message has its whole 600 pixels, made smaller to fit beside the text.
  const page600 = frame.locator("table.bd-page");
  expect(await page600.evaluate((e) => e.offsetWidth)).toBe(600);
  await page.getByRole("button", { name: "Phone" }).click();
  await expect.poll(async () => page600.evaluate((e) => e.offsetWidth)).toBeLessThan(376);

  await page.getByRole("button", { name: "Text", exact: true }).click();
  await expect(page.getByLabel("Plain text of the email")).toContainText("Renew, Ana: https://fernquay.example/renew?m=F-1");
  await expect(page.getByLabel("Plain text of the email")).toContainText("[A leaf] https://fernquay.example/leaf");
});

test("what is written as elsewhere is put right with one press, and text that only looks like a field is told", async ({ page }) => {
  const listId = await bringInQuietly(page, "owing.csv", "First,Amount due\r\nAna,5\r\nBo,0\r\n");
  const made = await page.request.post("/api/designs", {
    data: { name: "Dues", listId, document: { content: [p("Dear [First name],")] } },
  });
  const id = await made.json();
  await page.goto(`/designs/${id}`);
  const letter = page.getByLabel("Letter", { exact: true });
  await expect(letter).toBeFocused();
  await page.keyboard.press("Control+End");
  await page.keyboard.type(" {if Amount due > 0}you owe {Amount due | currency}.{else}thank you.{endif}");
  await expect(letter.locator('[data-wrong="true"]')).toHaveCount(4);
  const panel = page.getByRole("region", { name: "Field", exact: true });
  for (const [chip, said, use] of [
    ["if Amount due > 0", "A condition begins with “when”", "Use {when Amount due > 0}"],
    ["Amount due", "did you mean “money”?", "Use {Amount due | money}"],
    ["else", "begins with {otherwise}", "Use {otherwise}"],
    ["endif", "ends with {end}", "Use {end}"],
  ]) {
    await letter.locator(".chip", { hasText: new RegExp(`^${chip}`) }).click();
    await expect(panel).toContainText(said);
    await panel.getByRole("button", { name: use }).click();
    await expect(panel.getByRole("button", { name: use })).toHaveCount(0);
  }
  await expect(letter.locator('[data-wrong="true"]')).toHaveCount(0);
  await expect(letter.locator(".marker")).toHaveText(["when Amount due > 0", "otherwise", "end"]);
  await expect(page.getByTestId("page-text")).toContainText("Dear [First name], you owe $5.00.");
  await expect(page.getByText("The letter prints “[First name]” as it is, for every recipient. Make it the field {First}.")).toBeVisible();

  // At the drop nobody is ready until it is a field.
  await expect.poll(async () => JSON.stringify((await stored(page, id)).content)).toContain('"source":"end"');
  const drop = await (
    await page.request.post("/api/drops", { data: { name: "Dues", listId, designIds: [id], campaignName: "Spring" } })
  ).json();
  const trays = async () => (await (await page.request.get(`/api/drops/${drop}`)).json()).trays;
  await expect.poll(trays).toMatchObject({ needsReview: 2, ready: 0 });
  await page.goto(`/drops/${drop}/proof/issues`);
  await expect(page.getByText("Not a field: “[First name]”", { exact: true }).first()).toBeVisible();
  const newest = await (await page.request.get(`/api/designs/${id}`)).json();
  const [before, ...rest] = newest.document.content[0].content;
  expect(before.text).toContain("Dear [First name], ");
  const first = [
    { type: "text", text: "Dear " },
    { type: "field", attrs: { source: "First" } },
    { type: "text", text: ", " },
  ];
  const put = await page.request.put(`/api/designs/${id}/document`, {
    data: {
      basedOn: newest.version,
      revision: newest.revision,
      document: { ...newest.document, content: [{ ...newest.document.content[0], content: [...first, ...rest] }] },
    },
  });
  expect(put.ok()).toBe(true);
  await expect.poll(trays).toMatchObject({ needsReview: 0, ready: 2 });
});
