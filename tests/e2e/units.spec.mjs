import { bringInQuietly, expect, test } from "./desk.mjs";

const rows = "First,Last,Street,City,State,ZIP\r\nAna,Okafor,1 Quay Road,Fernquay,OR,97412\r\n";
const design = async (page, id) => (await page.request.get(`/api/designs/${id}`)).json();

test("lengths, paper, the clock, and today follow the organization", async ({ page }) => {
  const listId = await bringInQuietly(page, "people.csv", rows);
  await page.goto("/setup");
  await page.getByLabel("Organization name").fill("Fernquay Garden");
  await page.getByLabel("Country").selectOption({ label: "United States" });
  // A zone whose day is not the server's: there it is tomorrow already, or still today.
  await page.getByLabel("Time zone").selectOption("Pacific/Kiritimati");
  await page.getByRole("button", { name: "Save and continue" }).click();
  await expect(page.getByLabel("Signer’s name")).toBeVisible();

  await test.step("today is the organization's", async () => {
    const there = () => new Intl.DateTimeFormat("en-CA", { timeZone: "Pacific/Kiritimati" }).format(new Date());
    const before = there();
    const { today } = await (await page.request.get("/api/settings")).json();
    // The day may end between two looks.
    expect([before, there()]).toContain(today);
    await page.goto("/");
    const words = new Date(`${today}T00:00:00Z`).toLocaleDateString("en-US", {
      timeZone: "UTC",
      weekday: "long",
      month: "long",
      day: "numeric",
    });
    await expect(page.getByText(words).first()).toBeVisible();
  });

  const id = await test.step("in inches: margins, indents, boxes of an envelope", async () => {
    const made = await page.request.post("/api/designs", {
      data: { name: "Letter", listId, document: { content: [{ type: "paragraph", content: [{ type: "text", text: "Dear {First}," }] }] } },
    });
    const opened = await made.json();
    await page.goto(`/designs/${opened}`);
    await page.getByRole("button", { name: "Page", exact: true }).click();
    const left = page.getByLabel("Left margin");
    await left.fill("0.75");
    await expect(left).toHaveValue("0.75");
    await left.press("ArrowUp");
    await expect(left).toHaveValue("0.8125");
    await left.fill("1.25");
    await page.getByRole("button", { name: "Apply", exact: true }).click();
    await expect.poll(async () => (await design(page, opened)).document.page?.margins.left).toBeCloseTo(31.75, 3);
    return opened;
  });

  await test.step("prices weigh paper by its basis weight", async () => {
    await page.goto("/settings/prices");
    const weight = page.getByLabel("Basis weight in pounds").first();
    await weight.fill("20");
    await page.getByRole("button", { name: "Save" }).click();
    await expect
      .poll(async () => Math.round((await (await page.request.get("/api/settings/prices")).json()).papers[0].gramsPerSquareMetre))
      .toBe(75);
  });

  await test.step("in millimeters, and with the clock of its country", async () => {
    await page.goto("/settings");
    await page.getByLabel("Units").selectOption("Millimeters");
    await page.getByLabel("Number and date format").selectOption("de-DE");
    await page.getByRole("button", { name: "Save" }).first().click();
    await expect(page.getByText("Saved.")).toBeVisible();
    await page.goto(`/designs/${id}`);
    await page.getByRole("button", { name: "Page", exact: true }).click();
    await expect(page.getByLabel("Left margin")).toHaveValue("31.75");
    await page.goto("/settings/prices");
    await expect(page.getByLabel("Grams per square meter").first()).toHaveValue("75.2");
  });
});

test("an envelope's boxes are set in inches and stored in millimeters", async ({ page }) => {
  await bringInQuietly(page, "people.csv", rows);
  await page.goto("/designs");
  await page.getByRole("button", { name: "New design" }).first().click();
  await page.getByText("Envelope", { exact: true }).click();
  await page.getByRole("dialog").getByLabel("Name").fill("Our No. 10");
  await page.getByRole("button", { name: "Create design" }).click();
  await page.waitForURL(/\/designs\/\d+$/);
  await page.getByRole("button", { name: "Add box" }).click();
  await page.getByRole("button", { name: "Teaser line" }).click();
  await expect(page.getByText("9.5 × 4.13 in").first()).toBeVisible();
  const left = page.getByLabel("Left", { exact: true });
  await left.fill("4.25");
  await expect
    .poll(async () => {
      const [only] = await (await page.request.get("/api/designs")).json();
      return (await design(page, only.id)).document.boxes.map((b) => Math.round(b.x * 100) / 100);
    })
    .toContain(107.95);
});

test("what is begun blank has the sizes of the organization's country", async ({ page }) => {
  await bringInQuietly(page, "people.csv", rows);
  const { organization } = await (await page.request.get("/api/settings")).json();
  const put = await page.request.put("/api/settings/organization", {
    data: { ...organization, name: "Kiefernhof", country: "DE", locale: "de-DE", postalAddress: "Am Anger 3\n01067 Dresden" },
  });
  expect(put.ok()).toBe(true);
  const begin = async (kind) => {
    await page.goto("/designs");
    await page.getByRole("button", { name: "New design" }).first().click();
    const dialog = page.getByRole("dialog", { name: "New design" });
    await dialog.getByText(kind, { exact: true }).click();
    await dialog.getByLabel("Name", { exact: true }).fill(kind);
    await dialog.getByRole("button", { name: "Create design" }).click();
    await page.waitForURL(/\/designs\/\d+$/);
    return (await design(page, /\d+$/.exec(page.url())[0])).document;
  };
  expect((await begin("Letter")).page.sheet).toBe("a4");
  expect((await begin("Email")).fromName).toBe("Kiefernhof");

  const envelope = await begin("Envelope");
  expect([envelope.format, envelope.zones]).toEqual(["dl", "UPU"]);
  expect(JSON.stringify(envelope.boxes)).toContain("01067 Dresden");
  await expect(page.getByText("220 × 110 mm").first()).toBeVisible();

  expect((await begin("Label sheet")).stock).toBe("a4-3x7");
  await page.getByRole("button", { name: /3 × 7/ }).click();
  const stock = page.getByRole("dialog", { name: "Label stock" });
  await expect(stock.getByRole("list", { name: "Standard stocks" }).getByRole("button").first()).toContainText("A4");
  await stock.getByRole("button", { name: "Custom size" }).click();
  await expect(stock.getByLabel("Units")).toHaveValue("mm");
  await expect(stock.getByLabel("Label width")).toHaveValue("63.5");
});
