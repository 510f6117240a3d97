import { expect, interceptable, makeDrop, pageText, readPdf, test, tray } from "./desk.mjs";

const rows = (n) =>
  "First,Last,City\r\n" +
  Array.from({ length: n }, (_, i) => `Given${i + 1},Family${String(i + 1).padStart(5, "0")},Fernquay\r\n`).join("");

test("a long run shows its progress wherever one is, can be cancelled, and tells when the next is done", async ({ page }) => {
  const { dropId } = await makeDrop(page, {
    name: "Long",
    rows: rows(12_000),
    letter: ["Dear {First} {Last},", "{First} and {Last} walk the riverside path; ".repeat(60)],
  });
  await page.goto(`/drops/${dropId}/produce`);
  await page.getByRole("button", { name: "Produce 12,000 letters" }).click();
  const run = page.getByRole("article", { name: "Run 1" });
  await expect(run.getByRole("progressbar")).toBeVisible();
  await page.getByRole("link", { name: "Lists" }).click();
  await expect(page.getByText("Run 1 of Long, Long").first()).toBeVisible();
  // The run's own page, which has a button of this name too, may stay until the next page has come.
  await page.getByRole("region", { name: "Tasks in progress" }).getByRole("button", { name: "Cancel…" }).click();
  await expect(page.getByRole("list", { name: "Work in progress" })).toContainText(
    "12,000 pieces will not be produced; the recipients are Ready again.",
  );
  await page.getByRole("button", { name: "Cancel run 1" }).click();
  await expect(page.getByText("was canceled.")).toBeVisible();
  await page.goto(`/drops/${dropId}/produce`);
  await expect(run).toContainText("canceled; nothing was produced");
  await page.getByRole("combobox", { name: "Recipients", exact: true }).selectOption("pieces");
  await page.getByLabel("Piece numbers").fill("1-40");
  await page.getByRole("button", { name: "Produce 40 letters" }).click();
  await page.getByRole("link", { name: "Today" }).click();
  await expect(page.getByText("Run 2 of Long, Long is done.")).toBeVisible();
  await page.getByRole("button", { name: "Show" }).click();
  await expect(page.getByRole("article", { name: "Run 2" })).toContainText("40 waiting to be mailed");
});

test("the selected at the bench are what is made, in the order of their piece numbers", async ({ page }) => {
  const { dropId } = await makeDrop(page, { name: "Chosen", rows: rows(30), letter: ["Dear {Last},"] });
  await pageText(page, "Family00001");
  for (const name of ["Family00007", "Family00003"]) {
    await page.getByLabel("Search recipients").fill(name);
    await pageText(page, name);
    await page.getByLabel("Search recipients").press("Enter");
    await page.keyboard.press("Space");
    await page.keyboard.press("/");
    await page.keyboard.press("Escape");
  }
  await expect(page.getByText("2 selected")).toBeVisible();
  await page.getByRole("link", { name: /^Produce 30/ }).click();
  await expect(page.getByRole("combobox", { name: "Recipients", exact: true })).toHaveValue("selected");
  await expect(page.getByText("2 + 28 = 30 on the list.")).toBeVisible();
  await page.getByRole("button", { name: "Produce 2 letters" }).click();
  const download = page.waitForEvent("download");
  await page.getByRole("link", { name: /^PDF,/ }).click();
  const made = await download;
  expect(made.suggestedFilename()).toBe("chosen-chosen-run-1.pdf");
  const pdf = await readPdf(await made.path());
  expect(pdf.outline).toEqual(["0003 Family00003, Given3", "0007 Family00007, Given7"]);
  expect(pdf.title).toBe("Chosen, Chosen, run 1");
  await page.getByRole("button", { name: "Move 2 back to Ready" }).click();
  const why = page.getByRole("dialog", { name: "Move 2 pieces of run 1 back to Ready" });
  await why.getByRole("button", { name: "wrong version" }).click();
  await why.getByRole("button", { name: "Move back to Ready", exact: true }).click();
  await expect(page.getByText("2 moved back to Ready")).toBeVisible();
  await page.goto(`/drops/${dropId}/proof`);
  await expect(tray(page, "Ready")).toHaveText("30");
});

test("who may be one person is told before a run, compared, and told no more", async ({ page }) => {
  const rows = "First,Last,Street,City,State,ZIP\r\nAna,Okafor,9 Quay Road,Fernquay,OR,97412\r\nBo,Lind,2 Tide St,Fernquay,OR,97412\r\n";
  const { listId, dropId } = await makeDrop(page, {
    name: "Twice",
    rows: `${rows}ANA,Okafor,9 Quay Rd,Fernquay,OR,97412\r\n`,
    letter: ["Dear {First},"],
  });
  await page.goto(`/drops/${dropId}/produce`);
  const note = page.getByRole("note", { name: "Possible duplicates" });
  await expect(note).toContainText("1 pair of recipients may be the same person and gets two pieces");
  await expect(note).toContainText("0001 Okafor, Ana and 0003 Okafor, ANA");
  await page.goto(`/drops/${dropId}/who`);
  await expect(note).toContainText("1 pair of recipients on the list may be the same person.");
  // In a narrow window the pairs are in a drawer: whoever was led to them finds it open.
  await page.setViewportSize({ width: 1000, height: 640 });
  await note.getByRole("link", { name: "Compare them" }).click();
  await page.waitForURL(/pane=duplicates/);
  await page.getByRole("button", { name: "Keep No. 1" }).click();
  await expect(page.getByText("No duplicates found.")).toBeVisible();
  expect((await (await page.request.get(`/api/lists/${listId}`)).json()).recipients).toBe(2);
  await page.goto(`/drops/${dropId}/produce`);
  await expect(page.getByRole("button", { name: "Produce 2 letters" })).toBeEnabled();
  await expect(note).toHaveCount(0);
});

test("a pair that is told apart is told no more before a run, without a reload", async ({ page }) => {
  const rows = "First,Last,Street,City,State,ZIP\r\nAna,Okafor,9 Quay Road,Fernquay,OR,97412\r\nANA,Okafor,9 Quay Rd,Fernquay,OR,97412\r\n";
  const { dropId } = await makeDrop(page, { name: "Apart", rows, letter: ["Dear {First},"] });
  await page.goto(`/drops/${dropId}/produce`);
  const note = page.getByRole("note", { name: "Possible duplicates" });
  await note.getByRole("link", { name: "Compare them" }).click();
  await page.getByRole("button", { name: "Not duplicates" }).click();
  await expect(page.getByText("No duplicates found.")).toBeVisible();
  await page.goBack();
  await expect(page.getByRole("button", { name: "Produce 2 letters" })).toBeEnabled();
  await expect(note).toHaveCount(0);
});

test("what the list's checks found in what is printed is told before a run, and no more once it is settled", async ({ page }) => {
  const { listId, dropId } = await makeDrop(page, {
    name: "Told",
    rows: "First,Last,Street,City,State,ZIP\r\nAna,Okafor,9 Quay Road,Fernquay,OR,9741\r\nBo,LIND,2 Tide St,Fernquay,OR,97412\r\n",
    letter: ["{Delivery address}", "Dear {First},"],
  });
  // Told at the bench as well, where the value stands.
  await expect(page.getByLabel("Issues, values and history")).toContainText("“9741” is not a postal code of the United States.");
  const note = page.getByRole("note", { name: "List issues" });
  for (const place of ["who", "produce"]) {
    await page.goto(`/drops/${dropId}/${place}`);
    await expect(note).toContainText("2 ready recipients have open list issues in values that their pieces print");
    await expect(note).toContainText("Invalid postal code: “9741” (0001)");
  }
  await note.getByRole("link", { name: "All uppercase or all lowercase" }).click();
  await page.waitForURL(/pane=checks&issue=Capitals/);
  await page.getByRole("button", { name: "Fix 1" }).click();
  await expect.poll(async () => (await (await page.request.get(`/api/lists/${listId}`)).json()).issueCells).toBe(1);
  await page.goBack();
  await expect(note).toContainText("1 ready recipient has open list issues in values that their piece prints");
  await page.request.post(`/api/lists/${listId}/checks/PostalCodeMalformed/leave`, { data: {} });
  await expect(note).toHaveCount(0);
  await expect(page.getByRole("button", { name: "Produce 2 letters" })).toBeEnabled();
});

test("a run can be started while its numbers are read anew; when they have changed by then, that is said", async ({ page }) => {
  await interceptable(page);
  const { dropId } = await makeDrop(page, { name: "Pressed", rows: rows(3), letter: ["Dear {First},"] });
  const recipients = (await (await page.request.get(`/api/drops/${dropId}/recipients`)).json()).rows.map((r) => r.id);
  await page.goto(`/drops/${dropId}/produce`);
  const start = page.getByRole("button", { name: "Produce 3 letters" });
  await expect(start).toBeEnabled();
  // From here on no plan is answered before the test says so.
  let answer;
  const answered = new Promise((resolve) => (answer = resolve));
  await page.route("**/plan", async (route) => {
    await answered;
    await route.continue();
  });
  const elsewhere = async (act) => {
    const asked = page.waitForRequest((r) => r.url().endsWith("/plan"));
    await page.request.post(`/api/drops/${dropId}/${act}`, { data: { recipients: recipients.slice(2), reason: "Asked us to wait" } });
    await asked;
  };
  await elsewhere("hold");
  await start.click();
  await expect(page.getByText("The run would now have 2 pieces, not 3, because something changed.")).toBeVisible();
  await expect(page.getByText("No runs yet.")).toBeVisible();
  await elsewhere("release");
  let begun = 0;
  page.on("request", (r) => r.method() === "POST" && r.url().endsWith("/runs") && begun++);
  await start.dblclick();
  await expect(page.getByRole("link", { name: /^PDF,/ })).toBeVisible();
  expect(begun).toBe(1);
  answer();
  await expect(page.getByRole("button", { name: "No recipients to produce" })).toBeVisible();
});
