import { bringInQuietly, checked, expect, held, interceptable, readPdf, test } from "./desk.mjs";

const people = ["Ana Okafor", "Bo Lind", "Cem Tan", "Dot Quint", "Eva Marsh", "Finn Moreau"];
const csv = ["Number,Name,Street,City,State,ZIP", ...people.map((n, i) => `F-${i + 1},${n},${i + 1} Quay Road,Fernquay,OR,97412`)].join(
  "\r\n",
);

test("a tray of returns is entered without the mouse, and what follows is done", async ({ page }) => {
  await interceptable(page);
  const listId = await bringInQuietly(page, "members.csv", csv);
  const post = async (path, data) => (await page.request.post(path, { data })).json();
  const paragraph = (text) => ({ type: "paragraph", content: [{ type: "text", text }] });
  const designId = await post("/api/designs", {
    name: "Notice",
    listId,
    document: {
      content: [
        paragraph("Dear {Name},"),
        paragraph("{Delivery address}"),
        { type: "barcode", attrs: { symbology: "qr", source: "Number", width: 20 } },
      ],
    },
  });
  const drop = async (name) => {
    const id = await post("/api/drops", { name, listId, designIds: [designId], campaignName: "Renewal" });
    await checked(page, id);
    return id;
  };
  const [first, second] = [await drop("First notice"), await drop("Second notice")];
  const view = async (id) => (await page.request.get(`/api/drops/${id}`)).json();
  const mailed = async (id) => {
    const { expected } = await post(`/api/drops/${id}/plan`, { output: "one" }).then((p) => ({ expected: p.pieces ?? p.recipients }));
    const run = await post(`/api/drops/${id}/runs`, { output: "one", expected });
    await expect.poll(async () => (await (await page.request.get(`/api/jobs/${run.jobId}`)).json()).state).toBe("done");
    await post(`/api/runs/${run.id}/mailed`, { date: new Date(Date.now() - 3 * 86_400_000).toISOString().slice(0, 10) });
    return run.id;
  };
  await mailed(first);

  await page.goto("/");
  await page.getByRole("link", { name: "Enter returns" }).click();
  const entry = page.getByLabel("Number or barcode on the piece");
  const entered = page.getByRole("complementary", { name: "Just entered" });
  await expect(entry).toBeFocused();

  await test.step("a number and a key: held everywhere, and on to the next", async () => {
    await page.keyboard.type("1\n");
    await expect(page.getByText("This also affects 1 open drop: Renewal · Second notice.")).toBeVisible();
    await page.keyboard.press("1");
    await expect(entered.getByText("Moved, no new address: held everywhere")).toBeVisible();
    await expect(entry).toBeFocused();
    await expect(entry).toHaveValue("");
    await expect.poll(async () => (await view(second)).trays.held).toBe(1);
  });

  await test.step("what is found for a number that is no longer in the box is not taken for the one that is", async () => {
    const late = await held(page, "**/api/returns/find*");
    await page.keyboard.type("2\n");
    await late.begun;
    await entry.fill("3");
    const answered = page.waitForResponse("**/api/returns/find*");
    late.letGo();
    await (await answered).finished();
    await page.unroute("**/api/returns/find*");
    await entry.press("Enter");
    await expect(page.getByRole("main")).toContainText("Cem Tan");
    await expect(page.getByRole("main")).not.toContainText("Bo Lind");
    await entry.fill("");
  });

  await test.step("what nobody has is said, and typed over", async () => {
    await page.keyboard.type("77\n");
    await expect(page.getByRole("alert")).toContainText("No produced piece has “77”.");
    await page.keyboard.type("1\n");
    await expect(page.getByRole("alert")).toContainText("was already returned: moved, no new address");
    await page.keyboard.press("4");
    await page.keyboard.press("Escape");
    await expect(entry).toBeFocused();
    await expect(page.getByText("1 return entered today")).toBeVisible();
  });

  await test.step("a scanned code, and the new address next to the old one", async () => {
    await page.keyboard.type("F-2\n");
    await expect(page.getByLabel("Address", { exact: true })).toContainText("Bo Lind");
    await page.keyboard.press("2");
    await expect(page.getByLabel("New Street")).toBeFocused();
    await page.keyboard.type("48 Orchard Terrace");
    await page.getByLabel("New ZIP").fill("02139");
    await expect(page.getByText(/02139/).last()).toBeVisible();
    await page.getByLabel("New ZIP").fill("97420");
    await expect(page.getByText("No issues found with this address.")).toBeVisible();
    await page.keyboard.press("Enter");
    await expect(entered.getByText("Moved, new address on the label: corrected, mailed again")).toBeVisible();
    await expect(entry).toBeFocused();
  });

  await test.step("a reason chosen first, and another consequence than the rule has", async () => {
    await page.keyboard.type("3\n");
    await page.getByRole("button", { name: /Refused/ }).click();
    const follows = page.getByRole("group", { name: "What happens next" });
    await follows.getByRole("button", { name: "Record only" }).click();
    await follows.getByRole("button", { name: "Record only Enter" }).click();
    await expect(entered.getByText("Refused: recorded")).toBeVisible();
    await page.keyboard.type("4\n");
    await expect(page.getByLabel("Address", { exact: true })).toContainText("Dot Quint");
    await page.keyboard.press("7");
    await expect(entered.getByText("Deceased: suppressed")).toBeVisible();
    await expect.poll(async () => (await view(second)).trays.held).toBe(2);
  });

  await test.step("the last one is taken back with all that followed", async () => {
    await expect(entry).toBeFocused();
    await page.keyboard.press("Control+z");
    await expect(page.getByText("Undid the return of piece 0004.")).toBeVisible();
    await expect.poll(async () => (await view(second)).trays.held).toBe(1);
    await expect(page.getByText("3 returns entered today")).toBeVisible();
  });

  await test.step("the piece is mailed again to the new address, and counted in the ledger", async () => {
    await entered.getByRole("link", { name: "First notice, mailed again" }).click();
    await page.waitForURL(/\/drops\/\d+\/proof/);
    await page.getByRole("link", { name: /^Produce 1/ }).click();
    await page.getByRole("button", { name: /^Produce 1 / }).click();
    const download = page.waitForEvent("download");
    await page.getByRole("link", { name: /^PDF,/ }).click();
    const { pages } = await readPdf(await (await download).path());
    expect(pages).toHaveLength(1);
    for (const text of ["Bo Lind", "48 Orchard Terrace", "97420"]) expect(pages[0]).toContain(text);
    expect((await view(first)).trays).toMatchObject({ mailed: 3, returned: 3 });
  });

  await test.step("a rule is changed", async () => {
    await page.goto("/returns");
    await page.getByRole("button", { name: "Rules by reason" }).click();
    await page.getByLabel("Vacant").selectOption("Record only");
    await page.getByRole("button", { name: "Save the rules" }).click();
    await expect(page.getByRole("dialog")).toHaveCount(0);
    await page.getByLabel("Number or barcode on the piece").fill("5");
    await page.keyboard.press("Enter");
    await expect(page.getByRole("button", { name: /Vacant/ })).toContainText("record only");
  });
});
