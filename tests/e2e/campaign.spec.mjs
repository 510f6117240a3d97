import { test as base, expect, bringInQuietly, checked } from "./desk.mjs";
import { startClocked } from "./clock.mjs";

const start = "2027-03-01";
const at = (iso) => new Date(`${iso}T09:00:00Z`);
const iso = (date) => date.toISOString().slice(0, 10);
const plus = (day, n) => iso(new Date(at(day).getTime() + n * 86_400_000));
// Between these days there is no holiday; only weekends keep mail back.
const workday = (day) => ({ 0: plus(day, 1), 6: plus(day, 2) })[at(day).getUTCDay()] ?? day;

const test = base.extend({
  server: async ({}, use) => {
    const server = await startClocked(`${start}T09:00:00Z`);
    await use({ ...server, log: () => "" });
    await server.stop();
  },
});

const names = ["Ana Okafor", "Bo Lind", "Cem Tan", "Dot Quint", "Eli Marsh", "Fay Reyes", "Gus Ito", "Hana Kim"];
const csv = (people) =>
  ["Number,Name,Street,City,State,ZIP", ...people.map((n, i) => `M-${i + 1},${n},${i + 1} Quay Road,Fernquay,OR,97412`)].join("\r\n");

async function post(page, path, data) {
  const answer = await page.request.post(path, { data });
  expect(answer.ok(), `${path}: ${await answer.text()}`).toBe(true);
  const text = await answer.text();
  return text ? JSON.parse(text) : null;
}
const get = async (page, path) => (await page.request.get(path)).json();

const letter = (page, listId, name, text) =>
  post(page, "/api/designs", {
    name,
    listId,
    document: {
      page: { sheet: "letter" },
      maxPages: 1,
      content: [`${text}, {Name}.`, "{Delivery address}"].map((t) => ({ type: "paragraph", content: [{ type: "text", text: t }] })),
    },
  });

/** Produces everyone who is Ready in a drop; answers the run. */
async function produce(page, drop) {
  await checked(page, drop);
  const run = await post(page, `/api/drops/${drop}/runs`, { output: "one" });
  await expect.poll(async () => (await get(page, `/api/jobs/${run.jobId}`)).state).toBe("done");
  return run.id;
}
const mailed = (page, run, date) => post(page, `/api/runs/${run}/mailed`, { date });

/** Adds a recipient to a list by hand. */
async function add(page, list, values) {
  const { columns } = await get(page, `/api/lists/${list}`);
  const row = Object.entries(values).map(([name, value]) => ({ columnId: columns.find((c) => c.name === name).id, value }));
  await post(page, `/api/lists/${list}/recipients`, { rows: [row] });
}

/** Who got what when, as the ledger has it. */
async function ledger(page, campaign) {
  const people = (await get(page, `/api/campaigns/${campaign}/people?limit=500`)).rows;
  return Object.fromEntries(people.map((p) => [p.name, p.soFar.map((s) => `${s.step} ${s.on}`)]));
}

test("sixty days of a renewal in three steps: people respond, move, are pulled, join; each gets what the rules say", async ({
  page,
  server,
}) => {
  let today = start;
  const go = async (day) => {
    const days = (at(day) - at(today)) / 86_400_000;
    today = iso(await server.forward(days));
    expect(today).toBe(day);
    await page.clock.setFixedTime(at(day));
  };
  await page.clock.setFixedTime(at(start));
  const list = await bringInQuietly(page, "members.csv", csv(names));
  for (const name of ["First notice", "Second notice", "Last call"]) await letter(page, list, name, name);

  await test.step("planned on the screen, with what each step comes to before it is added", async () => {
    await page.goto("/campaigns/plan");
    await page.getByLabel("campaign name").fill("Renewal");
    await page.getByRole("button", { name: "Plan campaign" }).click();
    await page.waitForURL(/\/campaigns\/\d+$/);
    for (const [i, name] of ["First notice", "Second notice", "Last call"].entries()) {
      await page
        .getByRole("button", { name: i === 0 ? "Add the first step" : "Add a step" })
        .first()
        .click();
      await page.getByLabel("Name", { exact: true }).fill(name);
      await page.getByRole("checkbox", { name: new RegExp(`^${name},`) }).check();
      const day = ["Mar 1, 2027", "Mar 22, 2027", "Apr 12, 2027"][i];
      await expect(page.getByRole("status", { name: "What this changes" })).toContainText(`“${name}” is mailed ${day} to 8 recipients.`);
      await page.getByRole("button", { name: "Add step" }).click();
      await expect(page.getByTestId("step")).toHaveCount(i + 1);
    }
    await expect(page.getByTestId("step").nth(1).getByTestId("step-Ready")).toContainText("8");
  });
  const campaign = Number(/campaigns\/(\d+)/.exec(page.url())[1]);
  const steps = (await get(page, `/api/campaigns/${campaign}`)).steps;
  const [first, second, last] = steps.map((s) => s.dropIds[0]);
  // The 21st is a Sunday, and so is the 11th of April.
  expect(steps.map((s) => s.mailOn)).toEqual(["2027-03-01", "2027-03-22", "2027-04-12"]);

  await test.step("today leads to the first notice; it is produced and marked as mailed", async () => {
    await page.goto("/");
    const line = page.getByTestId("work").filter({ hasText: "First notice" });
    await expect(page.getByRole("region", { name: "Overdue" }).getByTestId("work")).toContainText("8 recipients are ready to be produced");
    await line.getByRole("button", { name: "Produce…" }).click();
    await page.getByRole("button", { name: "Produce 8 letters" }).click();
    await expect(page.getByRole("link", { name: /PDF,/ })).toBeVisible();
    await page.getByRole("link", { name: "Mark as mailed…" }).click();
    await page.getByRole("button", { name: "Mark as mailed" }).click();
    await expect(page.getByText(/Marked as mailed on Mar 1, 2027/)).toBeVisible();
    expect((await get(page, `/api/campaigns/${campaign}`)).steps[1].mailOn).toBe("2027-03-22");
  });

  await go("2027-03-05");
  await test.step("one pays: entered by the number on the reply, and out of the campaign", async () => {
    await page.goto("/responses");
    await page.getByLabel("Number").fill("M-1");
    await page.keyboard.press("Enter");
    await expect(page.getByTestId("responder")).toContainText("Counts for Renewal · First notice.");
    await page.getByLabel("Amount").fill("64");
    await page.keyboard.press("Enter");
    await expect(page.getByText("Recorded the response of Ana Okafor.")).toBeVisible();
    await page.getByLabel("Number").fill("M-99");
    await page.keyboard.press("Enter");
    await expect(page.getByRole("alert")).toContainText("No recipient or mailed piece has the number “M-99”");
  });
  await test.step("one comes back from the post, one leaves by hand and comes back, one is added to the list", async () => {
    await page.goto("/returns");
    await page.getByLabel("Number or barcode on the piece").fill("2");
    await page.keyboard.press("Enter");
    await expect(page.getByText("Bo Lind").first()).toBeVisible();
    await page.keyboard.press("6");
    await expect(page.getByRole("complementary", { name: "Just entered" })).toContainText("Bo Lind");
    await page.goto(`/campaigns/${campaign}`);
    const leave = async (name) => {
      await page.getByRole("button", { name: `Leave…: ${name}` }).click();
      await page.getByLabel("Note").fill("renewed at the gate");
      await page.getByRole("button", { name: "Leave the campaign" }).click();
      await expect(page.getByTestId("campaign-person").filter({ hasText: name })).toContainText("left Mar 5: renewed at the gate");
    };
    await leave("Cem Tan");
    await leave("Dot Quint");
    await page.getByRole("button", { name: "Undo: Dot Quint left" }).click();
    await expect(page.getByTestId("campaign-person").filter({ hasText: "Dot Quint" })).toContainText("Second notice");
    await expect(page.getByRole("complementary", { name: "Left the campaign" })).toContainText("Left the campaign: 3");
    await add(page, list, { Number: "M-9", Name: "Ida Novak", Street: "9 Quay Road", City: "Fernquay", State: "OR", ZIP: "97412" });
  });

  await go("2027-03-19");
  let run;
  await test.step("who pays after the second notice was produced is named on Today, and pulled", async () => {
    await expect.poll(async () => (await get(page, `/api/drops/${second}`)).trays.ready).toBe(6);
    run = await produce(page, second);
    const eli = (await get(page, "/api/responses/find?code=M-5"))[0];
    await post(page, "/api/responses", { listId: list, recipientId: eli.recipientId, amount: 40 });
    await page.goto("/");
    const line = page.getByTestId("work").filter({ hasText: "Pull 1 piece from the trays: 0005" });
    await line.getByRole("button", { name: "Pulled" }).click();
    await expect(line).toHaveCount(0);
    await expect(page.getByTestId("work").filter({ hasText: "5 produced pieces are not marked as mailed" })).toBeVisible();
  });
  await test.step("the calendar shows the dates and moves the last call by a key", async () => {
    await page.goto("/calendar");
    await page.getByRole("button", { name: "Next month" }).click();
    const day = page.locator("[data-day='2027-04-12']");
    await day.getByRole("button", { name: /Last call/ }).click();
    await page.keyboard.press("ArrowRight");
    await expect(page.locator("[data-day='2027-04-13']").getByRole("button", { name: /Last call/ })).toBeVisible();
    await page.getByRole("button", { name: "Undo" }).click();
    await expect(day.getByRole("button", { name: /Last call/ })).toBeVisible();
  });

  await go("2027-03-24");
  await test.step("the second notice is mailed two days late, and the last call keeps the day it was given", async () => {
    await mailed(page, run, today);
    // Moved on the calendar and moved back, the step has a date of its own.
    const { steps } = await get(page, `/api/campaigns/${campaign}`);
    expect([steps[1].mailed, steps[2].mailOn]).toEqual([true, "2027-04-12"]);
  });

  await go("2027-04-12");
  await mailed(page, await produce(page, last), today);
  await go("2027-04-29");
  await test.step("in the end everybody got exactly what the rules say", async () => {
    const [one, two, three] = ["2027-03-01", "2027-03-24", "2027-04-12"];
    const all = [`First notice ${one}`, `Second notice ${two}`, `Last call ${three}`];
    expect(await ledger(page, campaign)).toEqual({
      "Ana Okafor": all.slice(0, 1),
      "Bo Lind": all.slice(0, 1),
      "Cem Tan": all.slice(0, 1),
      "Dot Quint": all,
      "Eli Marsh": all.slice(0, 1),
      "Fay Reyes": all,
      "Gus Ito": all,
      "Hana Kim": all,
      "Ida Novak": all.slice(1),
    });
  });
  await test.step("the report's figures are those of the ledger", async () => {
    await page.goto(`/campaigns/${campaign}/report`);
    await expect(page.getByTestId("report-step")).toHaveCount(4);
    const rows = await page
      .getByTestId("report-step")
      .evaluateAll((all) => all.map((r) => [...r.cells].slice(0, 5).map((c) => c.textContent)));
    const recounted = [];
    for (const drop of [first, second, last]) {
      const { rows } = await get(page, `/api/drops/${drop}/recipients?limit=100`);
      const out = rows.filter((r) => r.tray === "Mailed" || r.tray === "Returned");
      recounted.push([String(out.length), String(rows.filter((r) => r.tray === "Returned").length)]);
    }
    expect(rows.slice(0, 3).map((r) => r.slice(1, 3))).toEqual(recounted);
    expect(rows.map((r) => r.slice(3))).toEqual([
      ["2", "25.0%"],
      ["0", "0.0%"],
      ["0", "0.0%"],
      ["2", "11.1%"],
    ]);
    await expect(page.getByText("2 of 9 recipients who were mailed responded, 22.2%.")).toBeVisible();
    await page.getByRole("button", { name: "table" }).click();
    await expect(page.getByRole("table", { name: "Responded, by days since mailing" })).toContainText("First notice");
    const ics = await (await page.request.get("/api/calendar.ics")).text();
    expect(ics).toContain("SUMMARY:Renewal: Last call");
    expect(ics).toContain("DTSTART;VALUE=DATE:20270412");
  });
});

test("sixty days one by one: each has a clock, what is due is collected, held against a model", async ({ page, server }) => {
  let today = start;
  const list = await bringInQuietly(page, "guests.csv", csv(names.slice(0, 3)));
  const [welcome, visit] = [await letter(page, list, "Welcome", "Welcome"), await letter(page, list, "Visit", "Come and see")];
  await page.clock.setFixedTime(at(start));
  await page.goto("/campaigns/plan");
  await page.getByLabel("campaign name").fill("New guests");
  await page.getByRole("radio", { name: "One by one" }).check();
  await page.getByLabel("Who enters").selectOption("Everyone");
  await page.getByRole("button", { name: "Plan campaign" }).click();
  await page.waitForURL(/\/campaigns\/\d+$/);
  const campaign = Number(/campaigns\/(\d+)/.exec(page.url())[1]);
  const step = (name, design, timing) =>
    post(page, `/api/campaigns/${campaign}/steps`, {
      campaignId: campaign,
      step: {
        name,
        designIds: [design],
        timing: { on: null, unit: "Days", readyDays: 0, weekday: null, ...timing },
        who: "Everyone",
        segmentId: null,
        condition: "",
      },
    });
  await step("Welcome", welcome, { after: 2 });
  await step("Visit", visit, { after: 10, weekday: "Tuesday" });

  // The rules once more, in a few lines: when each is due from what they got.
  const people = new Map(names.slice(0, 3).map((n) => [n, { from: start, got: [], left: false }]));
  const due = (p) => {
    if (p.left || p.got.length === 2) return null;
    if (p.got.length === 0) return workday(plus(p.from, 2));
    let day = plus(p.got[0].slice(-10), 10);
    while (at(day).getUTCDay() !== 2) day = plus(day, 1);
    return day;
  };
  const ids = async () =>
    Object.fromEntries((await get(page, `/api/campaigns/${campaign}/people?limit=500`)).rows.map((p) => [p.name, p.recipientId]));
  for (let day = 0; day < 60; day++) {
    if (day === 9 || day === 20) {
      const name = names[day === 9 ? 3 : 4];
      await add(page, list, { Number: `M-${day}`, Name: name, ZIP: "97412" });
      people.set(name, { from: today, got: [], left: false });
      await expect.poll(async () => Object.keys(await ids())).toContain(name);
    }
    if (day === 6) {
      // Bo has the welcome, and answers before the visit.
      await post(page, "/api/responses", { listId: list, recipientId: (await ids())["Bo Lind"], campaignId: campaign });
      people.get("Bo Lind").left = true;
    }
    const now = [...people].filter(([, p]) => due(p) !== null && due(p) <= today);
    const next = ([, p]) => ["Welcome", "Visit"][p.got.length];
    for (const [name, of] of ["Welcome", "Visit"].map((n) => [n, now.filter((p) => next(p) === n)]).filter(([, of]) => of.length)) {
      let drop;
      await expect
        .poll(async () => {
          const { steps } = await get(page, `/api/campaigns/${campaign}`);
          drop = steps.find((s) => s.name === name).dropIds[0];
          return drop ? (await get(page, `/api/drops/${drop}`)).trays.ready + (await get(page, `/api/drops/${drop}`)).trays.needsReview : 0;
        })
        .toBe(of.length);
      await checked(page, drop);
      // Some have no address: that is said, and accepted as it is.
      for (const issue of (await get(page, `/api/drops/${drop}`)).issues.filter((i) => i.open))
        await post(page, `/api/drops/${drop}/accept`, { alike: issue.alike, recipient: null });
      await mailed(page, await produce(page, drop), today);
      for (const [, p] of of) p.got.push(`${name} ${today}`);
    }
    today = iso(await server.forward(1));
  }
  expect(await ledger(page, campaign)).toEqual(Object.fromEntries([...people].map(([n, p]) => [n, p.got])));
  await page.clock.setFixedTime(at(today));
  await page.goto(`/campaigns/${campaign}`);
  await expect(page.getByTestId("campaign-person").filter({ hasText: "Bo Lind" })).toContainText("left Mar 7: responded");
  await page.getByRole("link", { name: "Bo Lind" }).click();
  await expect(page.getByRole("list", { name: "Campaigns" })).toContainText("New guests");
});
