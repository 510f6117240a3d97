import { writeFileSync } from "node:fs";
import { soundDialog } from "./accessible.mjs";
import { bringInQuietly, checked, expect, interceptable, makeDrop, pageText, readPdf, test, tray } from "./desk.mjs";

const text = (t) => ({ type: "paragraph", content: [{ type: "text", text: t }] });
const ledger = async (page, dropId) => (await (await page.request.get(`/api/ledger.csv?dropId=${dropId}`)).text()).trim().split("\r\n");

test("what may have gone out stays in doubt through a crash and a cancel, in every place, until somebody settles it @alone", async ({
  page,
  server,
}) => {
  await interceptable(page);
  const post = async (path, data) => (await page.request.post(path, { data })).json();
  const get = async (path) => (await page.request.get(path)).json();
  const people = Array.from(
    { length: 6 },
    (_, i) => `Given${i + 1},Family${i + 1},${i + 1} Quay Road,Fernquay,97412,${i === 1 ? "member1" : `member${i + 1}`}@example.org`,
  );
  const listId = await bringInQuietly(page, "Members.csv", `First,Last,Street,City,ZIP,Email\r\n${people.join("\r\n")}\r\n`);
  await page.request.put("/api/settings/organization", {
    data: {
      name: "Fernquay Botanic Garden",
      locale: "en-US",
      currency: "USD",
      countryLine: "Abroad",
      postalAddress: "14 Quay Road\nFernquay OR 97412",
      publicAddress: "",
    },
  });
  const letter = await post("/api/designs", { name: "Letter", listId, document: { content: [text("Dear {First} {Last},")] } });
  const email = await post("/api/designs", {
    name: "Note",
    listId,
    document: {
      kind: "email",
      fromName: "Garden",
      fromAddress: "office@example.org",
      subject: "A note, {First}",
      unsubscribe: false,
      content: [text("Dear {First},")],
    },
  });
  const dropId = await post("/api/drops", { name: "Notice", listId, designIds: [letter, email], campaignName: "Spring" });
  await page.request.put(`/api/drops/${dropId}/channels`, { data: { by: "Address", columnId: null } });
  const checked = () => expect.poll(async () => (await get(`/api/drops/${dropId}`)).checking).toBe(false);
  await checked();

  await test.step("an address that two people share is named before anything is sent", async () => {
    await page.goto(`/drops/${dropId}/produce`);
    await page.getByRole("button", { name: "Send email" }).click();
    await expect(page.getByRole("note", { name: "Addresses that get more than one" })).toContainText(
      "member1@example.org: 0001 Family1, Given1; 0002 Family2, Given2",
    );
    await page.getByRole("button", { name: "Send 6 emails" }).click();
    await expect(page.getByRole("dialog").getByRole("note")).toContainText("1 address gets more than one message");
    for (let i = 1; i <= 6; i++) await post("/api/post-office/behaviors", { kind: "slow", address: `member${i}@example.org`, times: 9 });
    await page.getByRole("dialog").getByRole("button", { name: "Send to 6 people" }).click();
    await page.waitForURL(/\/produce\/\d+$/);
  });
  const run = Number(/produce\/(\d+)$/.exec(page.url())[1]);
  await expect.poll(async () => (await get(`/api/runs/${run}/detail`)).mails.handing, { intervals: [50] }).toBeGreaterThan(0);
  await server.crash();
  await page.goto(`/drops/${dropId}/produce/${run}`);
  await expect(page.getByTestId("run-state")).toContainText("paused");
  const { mails } = await get(`/api/runs/${run}/detail`);
  expect(mails.doubt).toBeGreaterThan(0);
  const waiting = 6 - mails.doubt - mails.sent;

  await test.step("canceling says what stays, and nobody in doubt is Ready after it", async () => {
    await page.getByRole("button", { name: "Cancel…" }).click();
    const under = page.getByRole("list", { name: "Work in progress" });
    await expect(under).toContainText(
      mails.doubt === 1 ? "1 message is in doubt and stays in doubt" : `${mails.doubt} messages are in doubt and stay in doubt`,
    );
    await soundDialog(page);
    await page.getByRole("button", { name: "Cancel run 1" }).click();
    await expect(page.getByTestId("run-state")).toContainText("canceled");
    await expect.poll(async () => (await get(`/api/drops/${dropId}`)).trays.inDoubt).toBe(mails.doubt);
  });

  await test.step("the plan leaves them out, on paper as by email", async () => {
    await page.goto(`/drops/${dropId}/produce`);
    await page.getByRole("button", { name: "Send email" }).click();
    const out = page.getByRole("table", { name: "Excluded" });
    await expect(out).toContainText(new RegExp(`In doubt: may have been sent in run 1\\s*${mails.doubt}`));
    await out.getByRole("link", { name: "resolve them" }).click();
    await page.waitForURL(/inDoubt=1/);
  });

  await test.step("Today, the ledger, and its file say it", async () => {
    await page.goto(`/drops/${dropId}/ledger`);
    await expect(page.getByRole("status").filter({ hasText: "in doubt" })).toBeVisible();
    await page.getByRole("button", { name: "Show only these" }).click();
    await expect(page.getByTestId("ledger-row")).toHaveCount(mails.doubt);
    expect((await ledger(page, dropId)).filter((l) => l.includes("May have been sent in run 1")).length).toBe(mails.doubt);
    await page.getByRole("link", { name: "Today" }).click();
    await page.getByRole("link", { name: /in doubt and may have been sent/ }).click();
    await page.waitForURL(/inDoubt=1/);
  });

  await test.step("at the bench each is settled, and moves where the answer says", async () => {
    const box = page.getByRole("group", { name: "In doubt", exact: true });
    // The next person arrives late, as on a busy server: the answer must not reach whoever is still shown.
    await page.route(/\/api\/drops\/\d+\/recipients\/\d+$/, async (route) => {
      await new Promise((done) => setTimeout(done, 700));
      await route.continue();
    });
    for (let left = mails.doubt; left > 0; left--) {
      await expect(page.getByRole("button", { name: `In doubt ${left}` })).toBeVisible();
      await box.getByRole("button", { name: left === mails.doubt ? "Mark as sent" : "Mark as not sent" }).click();
      if (left > 1) await expect(page.getByRole("button", { name: `In doubt ${left - 1}` })).toBeVisible();
    }
    await expect(page.getByText("No pieces are in doubt.")).toBeVisible();
    await page.unrouteAll({ behavior: "wait" });
    await checked();
    await expect(tray(page, "Mailed")).toHaveText(String(mails.sent + 1));
    await expect(tray(page, "Ready")).toHaveText(String(waiting + mails.doubt - 1));
    const events = await get(`/api/drops/${dropId}/events`);
    expect(events.filter((e) => e.kind === "InDoubt")).toHaveLength(mails.doubt);
    expect(events.filter((e) => e.kind === "DoubtSettled")).toHaveLength(mails.doubt);
  });
});

test("a column that is printed is not removed, renamed, or retyped without saying what it takes along", async ({ page }) => {
  const { listId, dropId } = await makeDrop(page, {
    name: "Plants",
    rows: "First,Plant\r\nAna,fern\r\nBea,fig\r\n",
    letter: ["Dear {First},", "your {Plant} thrives."],
  });
  await pageText(page, "your fern thrives.");
  const menu = async (column, item) => {
    await page
      .getByRole("columnheader", { name: new RegExp(column) })
      .getByRole("button")
      .last()
      .click();
    await page.getByRole("menuitem", { name: item }).click();
  };
  await page.goto(`/lists/${listId}`);
  await menu("Plant", "Remove Plant…");
  const uses = page.getByRole("dialog");
  await expect(uses).toContainText("Drops that print it are checked again");
  for (const name of ["Designs", "Drops"]) await expect(uses).toContainText(name);
  await soundDialog(page);
  await uses.getByRole("button", { name: "Cancel" }).click();
  await menu("Plant", "Remove Plant…");
  await page.getByRole("button", { name: "Remove Plant", exact: true }).click();
  await expect.poll(async () => (await (await page.request.get(`/api/lists/${listId}`)).json()).columns.length).toBe(1);

  await page.goto(`/drops/${dropId}/produce`);
  const mistake = page.getByRole("alert").filter({ hasText: "Nothing is produced with a broken field" });
  await expect(mistake).toContainText("Plant");
  await expect(page.getByRole("button", { name: /^Make|No recipients to produce/ })).toBeDisabled();
  expect((await page.request.post(`/api/drops/${dropId}/runs`, { data: { output: "one" } })).status()).toBe(409);

  // Undo brings the column back, and with it everything that uses it.
  await page.goto(`/lists/${listId}`);
  await page.getByRole("grid").focus();
  await page.keyboard.press("Control+z");
  await expect.poll(async () => (await (await page.request.get(`/api/lists/${listId}`)).json()).columns.length).toBe(2);
  await menu("Plant", "Edit column…");
  await page.getByLabel("Heading").fill("Gift");
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(page.getByRole("alert").filter({ hasText: "this column" })).toContainText("A new heading changes there, too");
  await page.getByRole("button", { name: "Change it anyway" }).click();
  await expect
    .poll(async () => (await (await page.request.get(`/api/lists/${listId}`)).json()).columns.map((c) => c.name))
    .toContain("Gift");
  // The bench opens at the tray that needs somebody: that is known once the pieces are checked again.
  await checked(page, dropId);
  await page.goto(`/drops/${dropId}/proof`);
  await pageText(page, "your fern thrives.");
});

test("a condition is picked together, with a date from a calendar, and prints as it says", async ({ page }) => {
  const listId = await bringInQuietly(page, "Renewals.csv", "First,Renewal date\r\nAna,2027-01-10\r\nBea,2027-06-01\r\n");
  const columns = (await (await page.request.get(`/api/lists/${listId}`)).json()).columns;
  if (columns[1].type !== "Date")
    await page.request.patch(`/api/lists/${listId}/columns/${columns[1].id}`, {
      data: { name: null, type: "Date", role: null, expression: null },
    });
  const design = await (
    await page.request.post("/api/designs", {
      data: {
        name: "Renewal",
        listId,
        document: {
          content: [
            text("Dear {First},"),
            { type: "when", content: [{ type: "branch", attrs: { test: "" }, content: [text("It is time to renew.")] }] },
          ],
        },
      },
    })
  ).json();
  await page.goto(`/designs/${design}`);
  await page.getByRole("button", { name: "Build a condition" }).click();
  const dialog = page.getByRole("dialog", { name: "Printed when" });
  await dialog.getByLabel("Column").selectOption("Renewal date");
  await dialog.getByLabel("Comparison").selectOption("Less");
  await dialog.getByLabel("Value").fill("2027-03-01");
  await expect(dialog.getByRole("status")).toHaveText("1 recipient");
  await dialog.getByRole("button", { name: "Apply filter" }).click();
  await expect(page.getByRole("textbox", { name: "Condition" })).toHaveValue(/Renewal date/);
  await expect(page.getByTestId("save-state")).toContainText("saved");
  const dropId = await (
    await page.request.post("/api/drops", { data: { name: "Renew", listId, designIds: [design], campaignName: "Renew" } })
  ).json();
  await expect.poll(async () => (await (await page.request.get(`/api/drops/${dropId}`)).json()).checking).toBe(false);
  await page.goto(`/drops/${dropId}/proof`);
  await pageText(page, "It is time to renew.");
  await page.keyboard.press("2");
  await page.getByRole("option").filter({ hasText: "Bea" }).click();
  await pageText(page, "Dear Bea,");
  await expect(page.getByTestId("page-text")).not.toContainText("It is time to renew.");
});

test("a piece that was made keeps its values: corrected later, its reprint is as it was or with the correction", async ({ page }, info) => {
  const { listId, dropId } = await makeDrop(page, {
    name: "Prizes",
    rows: "First,Prize\r\nAna,a rose\r\nBea,a lily\r\n",
    letter: ["Dear {First},", "you won {Prize}."],
  });
  await page.goto(`/drops/${dropId}/produce`);
  await page.getByRole("button", { name: "Produce 2 letters" }).click();
  await expect(page.getByRole("article", { name: "Run 1" })).toContainText("2 waiting to be mailed");
  const row = (await (await page.request.get(`/api/lists/${listId}/recipients`)).json()).rows[0];
  const column = (await (await page.request.get(`/api/lists/${listId}`)).json()).columns[1].id;
  const stale = await page.request.put(`/api/drops/${dropId}/recipients/${row.id}/values/${column}`, {
    data: { value: "a fig", was: { value: "a thorn" } },
  });
  expect(stale.status()).toBe(412);
  expect(
    (
      await page.request.put(`/api/drops/${dropId}/recipients/${row.id}/values/${column}`, {
        data: { value: "an orchid", was: { value: "a rose" } },
      })
    ).ok(),
  ).toBe(true);

  await page.goto(`/drops/${dropId}/proof?piece=1`);
  await pageText(page, "you won a rose.");
  await expect(page.getByText("As produced in run 1")).toBeVisible();
  await expect(page.getByLabel("Data changed after this was produced")).toContainText("a rose → an orchid");

  await page.goto(`/drops/${dropId}/produce?reprint=1`);
  await expect(page.getByRole("button", { name: "Choose which values it shows" })).toBeDisabled();
  for (const [choice, prize, runs] of [
    ["With corrections made since", "an orchid", 2],
    ["As it was printed", "a rose", 3],
  ]) {
    await page.goto(`/drops/${dropId}/produce?reprint=1`);
    await page.getByLabel(choice).check();
    await page.getByRole("button", { name: "Reprint 1 letter" }).click();
    await expect(page.getByRole("article")).toHaveCount(runs);
    const run = page.getByRole("article").first();
    await expect(run).toContainText(choice.startsWith("With") ? "with corrections" : "reprint of run 1");
    await expect.poll(async () => (await (await page.request.get(`/api/drops/${dropId}/runs`)).json())[0].state).toBe("done");
    const latest = (await (await page.request.get(`/api/drops/${dropId}/runs`)).json())[0];
    const path = info.outputPath("reprint.pdf");
    writeFileSync(path, await (await page.request.get(`/api/runs/${latest.id}/files/${latest.files[0].number}`)).body());
    expect((await readPdf(path)).pages[0]).toContain(`you won ${prize}.`);
  }
});

test("who belongs to a household is said person by person, and whoever is held lets the next one get the piece", async ({ page }) => {
  const { listId, dropId } = await makeDrop(page, {
    name: "Families",
    rows: "First,Last,Street,City,ZIP\r\nAna,Ortega,3 Mill Road,Fernquay,97412\r\nLuis,Ortega,3 Mill Road,Fernquay,97412\r\nRosa,Ortega,3 Mill Road,Fernquay,97412\r\n",
    letter: ["{Salutation}", "{Delivery address}"],
  });
  await page.goto(`/lists/${listId}`);
  const pane = page.getByRole("complementary").last();
  await page.getByRole("tab", { name: "Duplicates" }).click();
  await pane.getByRole("button", { name: /^Households 1/ }).click();
  await pane.getByLabel("Rosa Ortega belongs to the household").uncheck();
  await pane.getByRole("button", { name: "One piece for 2" }).click();
  await expect(pane.locator("strong").filter({ hasText: "Ana and Luis Ortega" })).toBeVisible();
  await expect.poll(async () => (await (await page.request.get(`/api/drops/${dropId}`)).json()).checking).toBe(false);
  await page.goto(`/drops/${dropId}/proof?piece=1`);
  await pageText(page, "Ana and Luis Ortega");
  await expect(tray(page, "Held")).toHaveText("1");
  await page.keyboard.press("h");
  await page.getByLabel("Reason").fill("Asked us to wait");
  await page.getByRole("button", { name: "Hold", exact: true }).last().click();
  await expect
    .poll(async () => (await (await page.request.get(`/api/drops/${dropId}/recipients`)).json()).rows.map((r) => r.tray).join(" "))
    .toBe("Held Ready Ready");
});

test("a segment is never written over by its name alone: what would change is shown first", async ({ page }) => {
  const listId = await bringInQuietly(page, "Towns.csv", "First,City\r\nAna,Fernquay\r\nBea,Fernquay\r\nCal,Quill\r\n");
  await page.request.post(`/api/lists/${listId}/segments`, { data: { name: "Local", filter: 'City = "Fernquay"', sorts: "" } });
  expect(
    (await page.request.post(`/api/lists/${listId}/segments`, { data: { name: "local", filter: 'City = "Quill"', sorts: "" } })).status(),
  ).toBe(409);
  await page.goto(`/lists/${listId}`);
  await page.getByLabel("Filter", { exact: true }).fill('City = "Quill"');
  await page.getByRole("button", { name: "Save as a segment" }).click();
  await page.getByLabel("Name", { exact: true }).fill("local");
  await expect(page.getByRole("alert")).toContainText("It would go from 2 to 1 recipient: 2 leave, 1 join.");
  await page.getByRole("button", { name: "Replace “Local”" }).click();
  await expect
    .poll(async () => (await (await page.request.get(`/api/lists/${listId}/segments`)).json()).map((s) => `${s.name} ${s.recipients}`))
    .toEqual(["Local 1"]);
});

test("a mistake in a letter is marked where it stands, also in plain text, and keeps every run from beginning", async ({ page }) => {
  const { designId, dropId } = await makeDrop(page, {
    name: "Broken",
    rows: "First,Amount due\r\nAna,5\r\n",
    letter: ["Dear {First},", "you owe {Amount due", "and {when Amount due > 3}more."],
  });
  const alert = page.getByRole("alert").filter({ hasText: "Nothing is produced with a broken field" });
  await expect(alert).toContainText("Broken");
  await expect(page.getByRole("note").first()).toContainText("Broken");
  await expect(page.getByRole("button", { name: "Accept as is" })).toHaveCount(0);
  const text = await pageText(page, "Dear Ana,");
  for (const never of ["{", "}", "when"]) expect(text).not.toContain(never);
  const refused = await page.request.post(`/api/drops/${dropId}/runs`, { data: { output: "one" } });
  expect(refused.status()).toBe(409);
  expect((await refused.json()).detail).toContain("has a mistake");
  await page.goto(`/designs/${designId}`);
  await expect(page.locator(".plain-mistake")).toContainText("{Amount due");
  await expect(page.locator(".plain-mistake")).toHaveAttribute("title", /clos/);
  await expect(page.locator('[data-wrong="true"]')).toHaveCount(1);
});

test("a drop and a design wait until it is known to whom they go, and nothing of another list is chosen for them", async ({ page }) => {
  await interceptable(page);
  const listId = await bringInQuietly(page, "Towns.csv", "First,City\r\nAna,Fernquay\r\nBea,Fernquay\r\nCal,Quill\r\n");
  const post = async (path, data) => (await page.request.post(path, { data })).json();
  const get = async (path) => (await page.request.get(path)).json();
  await post(`/api/lists/${listId}/segments`, { name: "Local", filter: 'City = "Fernquay"', sorts: "" });
  const [segment] = await get(`/api/lists/${listId}/segments`);
  await post("/api/designs", { name: "Notice", listId, document: { content: [text("Dear {First},")] } });
  /** Keeps the browser's question from being answered, until it is let go. */
  const keepBack = async (path) => {
    let letGo;
    const wait = new Promise((go) => (letGo = go));
    await page.route(path, async (route) => {
      await wait;
      await route.continue();
    });
    return letGo;
  };

  let letGo = await keepBack(`**/api/lists/${listId}/segments`);
  await page.goto(`/campaigns/new?list=${listId}&segment=${segment.id}`);
  await page.getByLabel("Campaign name").fill("Spring");
  await page.getByLabel("drop name").fill("First");
  await expect(page.getByLabel("Notice")).toBeChecked();
  await expect(page.getByRole("button", { name: "Start drop" })).toBeDisabled();
  letGo();
  await page.getByRole("button", { name: "Start drop" }).click();
  await page.waitForURL(/\/drops\/1\/proof/);
  await checked(page, 1);
  expect((await get("/api/drops/1")).trays).toMatchObject({ ready: 2, held: 1 });

  await page.unrouteAll();
  const otherId = await bringInQuietly(page, "Others.csv", "First,City\r\nDee,Quill\r\n");
  await page.goto(`/campaigns/new?list=${otherId}`);
  const design = page.getByRole("checkbox", { name: /^Notice/ });
  await expect(page.getByText("Uses another list")).toBeVisible();
  await expect(design).not.toBeChecked();
  await expect(page.getByText("Needs a campaign name, a drop name, and a design.")).toBeVisible();
  await page.getByLabel("Campaign name").fill("Summer");
  await page.getByLabel("drop name").fill("Second");
  await expect(page.getByText("Needs a design.")).toBeVisible();
  await design.check();
  await expect(page.getByRole("button", { name: "Start drop" })).toBeEnabled();
  await expect(page.getByText(/^Needs a/)).toHaveCount(0);

  letGo = await keepBack("**/api/lists");
  await page.goto("/designs?new");
  await page.getByLabel("Name", { exact: true }).fill("Second notice");
  await expect(page.getByRole("button", { name: "Create design", exact: true })).toBeDisabled();
  letGo();
  await page.getByRole("button", { name: "Create design", exact: true }).click();
  await page.waitForURL(/\/designs\/\d+$/);
  expect((await get(page.url().replace(/.*(\/designs\/\d+)$/, "/api$1"))).listId).toBe(otherId);
});
