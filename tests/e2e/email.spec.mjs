import { spawnSync } from "node:child_process";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { connect } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { createInterface } from "node:readline";
import PostalMime from "postal-mime";
import { soundDialog } from "./accessible.mjs";
import { bringInQuietly, expect, readPdf, test, tray } from "./desk.mjs";

const number = (i) => `F-${String(i).padStart(3, "0")}`;
const list = (people, emailed) =>
  "First,Last,Street,City,ZIP,Email,Member no.\r\n" +
  Array.from(
    { length: people },
    (_, i) =>
      `Given${i + 1},Family${i + 1},${i + 1} Quay Road,Fernquay,97412,${i < emailed ? `member${i + 1}@example.org` : ""},${number(i + 1)}\r\n`,
  ).join("");
const text = (t) => ({ type: "paragraph", content: [{ type: "text", text: t }] });

/** A letter and an email that attaches it, in one drop; answers the drop's and the email's ids. */
async function letterAndEmail(page, listId) {
  const post = async (path, data) => (await page.request.post(path, { data })).json();
  const letter = await post("/api/designs", {
    name: "Letter",
    listId,
    document: { content: [text("Dear {First} {Last},"), text("your number is {Member no.}.")] },
  });
  return { letter };
}

test("three hundred people, two hundred by email with their own locked letter and the rest on paper, through everything that can happen to a run @alone", async ({
  page,
  server,
}) => {
  const get = async (path) => (await page.request.get(path)).json();
  const tell = (data) => page.request.post("/api/post-office/behaviors", { data });
  const listId = await bringInQuietly(page, "Members.csv", list(300, 200));
  const { letter } = await letterAndEmail(page, listId);

  await test.step("the sender's address is set, for the foot", async () => {
    await page.goto("/settings");
    await page.getByLabel("Name", { exact: true }).fill("Fernquay Botanic Garden");
    await page.getByLabel("Postal address").fill("14 Quay Road\nFernquay OR 97412");
    // Without it no mail program is told of a link that it could not reach.
    await page.getByLabel("Public address").fill("https://mail.example.org");
    await page.getByRole("button", { name: "Save" }).click();
    await expect(page.getByText("Saved. Pieces with numbers or dates are being checked again.")).toBeVisible();
  });

  let email = 0;
  await test.step("an email is written, with fields in its subject, and the letter attached", async () => {
    await page.goto("/designs");
    await page.getByRole("button", { name: "New design" }).click();
    await page.getByText("Email", { exact: true }).click();
    await page.getByLabel("Name", { exact: true }).fill("Your letter, by email");
    await page.getByRole("button", { name: "Create design" }).click();
    await page.waitForURL(/\/designs\/\d+$/);
    email = Number(/designs\/(\d+)$/.exec(page.url())[1]);
    await page.getByLabel("Sender address", { exact: true }).fill("office@example.org");
    await page.getByLabel("Subject").fill("Your letter, {First}");
    const body = page.getByRole("textbox", { name: "Email", exact: true });
    await body.click();
    await page.keyboard.press("Control+End");
    await page.keyboard.type("Your letter is attached; it opens with your number.");
    await page.getByLabel("Attach a design").selectOption(String(letter));
    await page.getByLabel("File name").fill("Letter to {Last}");
    await page.getByLabel("Attachment password").fill("{Member no.}");
    await expect(page.getByTestId("mail-subject")).toHaveText("Your letter, Given1");
    await expect(page.frameLocator('iframe[title="Email body"]').locator("body")).toContainText("Your letter is attached");
    await expect(page.getByTestId("save-state")).toContainText("saved");
  });

  const dropId = await (
    await page.request.post("/api/drops", { data: { name: "Letters", listId, designIds: [letter, email], campaignName: "Renewal" } })
  ).json();
  const checked = () => expect.poll(async () => (await get(`/api/drops/${dropId}`)).checking).toBe(false);
  await checked();

  await test.step("who has an address gets it by email, the rest on paper", async () => {
    await page.goto(`/drops/${dropId}/who`);
    await page.getByLabel("Channel rule").selectOption("Address");
    await expect(page.getByRole("table", { name: "Recipients by channel" })).toContainText(/Paper\s*100/);
    await expect(page.getByRole("table", { name: "Recipients by channel" })).toContainText(/Email\s*200/);
    await checked();
    await page.goto(`/drops/${dropId}/proof`);
    await expect(page.getByTestId("mail-subject")).toHaveText("Your letter, Given1");
    await expect(page.getByRole("article", { name: "Email" })).toContainText("Letter to Family1.pdf");
    await page.getByRole("button", { name: "Text", exact: true }).click();
    await expect(page.getByLabel("Plain text of the email")).toContainText("14 Quay Road");
    await page.getByRole("button", { name: "phone" }).click();
    await expect(page.getByTestId("page-text")).toContainText("your number is F-001.");
    // One who has no address goes on paper, and by hand another way can be chosen and taken back.
    await page.keyboard.press("End");
    await expect(page.getByRole("complementary", { name: "This recipient" })).toContainText("Paper (by rule)");
    await expect(page.getByRole("article", { name: "Email" })).toHaveCount(0);
    await page.getByLabel("Channel", { exact: true }).selectOption("Email");
    await expect(page.getByRole("note")).toContainText("Email is blank, so no email can be sent.");
    await page.getByRole("button", { name: "Undo", exact: true }).first().click();
    await expect(page.getByRole("note")).toHaveCount(0);
  });

  await test.step("one of them is sent to oneself, as a test", async () => {
    await page.keyboard.press("Home");
    await page.getByRole("button", { name: "Send test to me" }).click();
    await page.getByLabel("To", { exact: true }).fill("me@example.org");
    await soundDialog(page);
    await page.getByRole("button", { name: "Send test", exact: true }).click();
    await expect(page.getByText("Sent the test to me@example.org.")).toBeVisible();
    await expect(tray(page, "Mailed")).toHaveText("0");
  });

  await test.step("the post office is told to have a bad day", async () => {
    await page.goto("/devices");
    await page.getByRole("button", { name: /^Practice post office/ }).click();
    const say = async (what, address, times) => {
      await page.getByLabel("Behavior", { exact: true }).selectOption(what);
      await page.getByRole("textbox", { name: "Address", exact: true }).fill(address);
      await page.getByLabel("Number of times").fill(times);
      await page.getByRole("button", { name: "Add behavior" }).click();
      await expect(page.getByRole("list", { name: "Active behaviors" })).toContainText(address);
    };
    await say("refuse", "member7@example.org", "");
    await say("later", "member9@example.org", "1");
    await say("drop after", "member11@example.org", "1");
    await tell({ kind: "slow", address: "*", times: 3 });
  });

  const run = await test.step("it is scheduled, after one question that names the people", async () => {
    await page.goto(`/drops/${dropId}/produce`);
    await page.getByRole("button", { name: "Send email" }).click();
    await expect(page.getByTestId("mail-sample")).toHaveCount(3);
    await expect(page.getByTestId("mail-sample").first()).toContainText("Letter to Family1.pdf");
    await expect(page.getByRole("table", { name: "Excluded" })).toContainText(/Sent on paper\s*100/);
    const soon = new Date(Date.now() + 4000);
    const local = new Date(soon.getTime() - soon.getTimezoneOffset() * 60_000).toISOString().slice(0, 19);
    await page.getByLabel("Send time").fill(local);
    await page.getByRole("button", { name: "Schedule 200 emails" }).click();
    await expect(page.getByRole("dialog")).toContainText(
      "200 people get “Your letter, Given1” (or similar) from Fernquay Botanic Garden <office@example.org>, through Practice post office",
    );
    await soundDialog(page);
    await page.getByRole("dialog").getByRole("button", { name: "Schedule to 200 people" }).click();
    await page.waitForURL(/\/produce\/\d+$/);
    const id = Number(/produce\/(\d+)$/.exec(page.url())[1]);
    // The moment may be past by the time the page is looked at: what was scheduled stands with the run.
    const { notBefore } = await (await page.request.get(`/api/runs/${id}`)).json();
    expect(Math.floor(new Date(notBefore).getTime() / 1000)).toBe(Math.floor(soon.getTime() / 1000));
    return id;
  });

  await test.step("its time comes, and it is paused", async () => {
    await expect(page.getByTestId("run-state")).toHaveText("sending");
    await page.getByRole("button", { name: "Pause" }).click();
    await expect(page.getByTestId("run-state")).toContainText("paused");
    // What was in the air is finished, and then its work ends, so that nothing can follow.
    await expect.poll(async () => (await get("/api/jobs")).filter((j) => j.kind === "send" && j.state === "running").length).toBe(0);
    const { handing, waiting, later } = (await get(`/api/runs/${run}/detail`)).mails;
    expect(handing).toBe(0);
    expect(waiting + later).toBeGreaterThan(0);
  });

  await test.step("it goes on, the power fails, and it goes on again by itself", async () => {
    // The last ones take so long that the power fails while they are in the air, whatever else the machine does.
    for (let i = 190; i < 202; i++) await tell({ kind: "slow", address: `member${i}@example.org`, times: 1 });
    await page.getByRole("button", { name: "Resume" }).click();
    await expect
      .poll(
        async () => {
          const m = (await get(`/api/runs/${run}/detail`)).mails;
          return m.handing > 1 && m.sent > 150;
        },
        { intervals: [100] },
      )
      .toBe(true);
    await server.crash();
    await page.goto(`/drops/${dropId}/produce/${run}`);
    await expect(page.getByTestId("run-state")).toContainText("paused");
    await expect(page.getByRole("status").filter({ hasText: "in doubt" }).first()).toBeVisible();
    await expect(page.getByRole("region", { name: "Run history" })).toContainText("when the server stopped");
  });

  const inbox = async () => (await get("/api/post-office/messages?limit=1000")).rows;
  await test.step("of each in doubt somebody looks in the inbox, and says what they see", async () => {
    const there = new Set((await inbox()).map((m) => m.recipients));
    await page.getByRole("button", { name: /^in doubt/ }).click();
    const { doubt } = (await get(`/api/runs/${run}/detail`)).mails;
    expect(doubt).toBeGreaterThan(1);
    for (let left = doubt; left > 0; left--) {
      await expect(page.getByTestId("run-piece")).toHaveCount(left);
      const row = page.getByTestId("run-piece").first();
      const address = /member\d+@example\.org/.exec(await row.textContent())[0];
      await row.getByRole("button", { name: there.has(address) ? "Mark as sent" : "Mark as not sent" }).click();
      await expect(page.getByTestId("run-piece").filter({ hasText: address })).toHaveCount(0);
    }
    // What was not sent is tried again when somebody lets the run go on; where nothing is left, it is done by itself.
    await expect.poll(async () => (await get(`/api/runs/${run}`)).state).toMatch(/paused|done/);
    if ((await get(`/api/runs/${run}`)).state === "paused") await page.getByRole("button", { name: "Resume" }).click();
    await expect(page.getByTestId("run-state")).toHaveText("done");
    await page.getByRole("button", { name: /^rejected/i }).click();
    await expect(page.getByTestId("run-piece")).toHaveCount(1);
    await expect(page.getByTestId("run-piece")).toContainText("550 5.1.1 No such mailbox here");
  });

  await test.step("one comes back with a report, and is suppressed", async () => {
    await page.goto("/devices/post-office");
    await page.getByLabel("Search messages").fill("member13@example.org");
    await expect(page.getByRole("region", { name: "Message", exact: true })).toContainText("Your letter, Given13");
    await expect(page.frameLocator('iframe[title="Message body"]').locator("body")).toContainText("Your letter is attached");
    await page.getByRole("button", { name: "source" }).click();
    await expect(page.getByLabel("Message source")).toContainText("List-Unsubscribe-Post: List-Unsubscribe=One-Click");
    await page.getByRole("button", { name: "Return as undeliverable" }).click();
    await expect(page.getByText("Sent a delivery report to the sender.")).toBeVisible();
    await page.goto(`/drops/${dropId}/ledger`);
    const back = page.getByRole("region", { name: "Returned email" });
    await expect(back).toContainText("0013 member13@example.org");
    await back.getByRole("button", { name: "Suppress it" }).click();
    await expect(back).toContainText("suppressed");
    await page.goto(`/drops/${dropId}/proof`);
    for (const [name, n] of [
      ["Mailed", "198"],
      ["Returned", "1"],
      ["NeedsReview", "1"],
      ["Ready", "100"],
    ])
      await expect(tray(page, name)).toHaveText(n);
  });

  await test.step("inbox, trays and ledger agree to the person, and nobody has it twice", async () => {
    const got = (await inbox()).filter((m) => /^member\d+@/.test(m.recipients));
    expect(got.map((m) => m.recipients).sort()).toEqual(
      Array.from({ length: 200 }, (_, i) => `member${i + 1}@example.org`)
        .filter((a) => a !== "member7@example.org")
        .sort(),
    );
    const ledger = (await (await page.request.get(`/api/ledger.csv?dropId=${dropId}`)).text()).trim().split("\r\n").slice(1);
    expect(ledger).toHaveLength(300);
    const mailed = ledger.filter((l) => l.includes(",Mailed,1,") && l.includes(",Email,")).map((l) => /member\d+@example\.org/.exec(l)[0]);
    expect(mailed.sort()).toEqual(
      got
        .map((m) => m.recipients)
        .filter((a) => a !== "member13@example.org")
        .sort(),
    );
    expect(ledger.filter((l) => l.includes(",Paper,") && l.includes(",Ready,"))).toHaveLength(100);
    const folder = mkdtempSync(join(tmpdir(), "mail-"));
    const ids = new Set();
    for (const m of got) {
      const parsed = await new PostalMime().parse(await (await page.request.get(`/api/post-office/messages/${m.id}/source.eml`)).body());
      const i = Number(/member(\d+)@/.exec(m.recipients)[1]);
      expect([parsed.subject, parsed.to[0].address, parsed.to[0].name, parsed.from.address]).toEqual([
        `Your letter, Given${i}`,
        `member${i}@example.org`,
        `Given${i} Family${i}`,
        "office@example.org",
      ]);
      expect(parsed.html).toContain(`Dear Given${i}`);
      expect(parsed.text).toContain("Unsubscribe: https://mail.example.org/unsubscribe/");
      expect(parsed.attachments.map((a) => [a.filename, a.mimeType])).toEqual([[`Letter to Family${i}.pdf`, "application/pdf"]]);
      ids.add(parsed.messageId);
      if (i % 40 !== 1) continue;
      const path = join(folder, `${i}.pdf`);
      writeFileSync(path, Buffer.from(parsed.attachments[0].content));
      expect(spawnSync("qpdf", ["--check", "--password=F-999", path]).status).toBe(2);
      const open = join(folder, `${i}-open.pdf`);
      expect(spawnSync("qpdf", ["--decrypt", `--password=${number(i)}`, path, open]).status).toBe(0);
      expect((await readPdf(open)).pages[0]).toContain(`Dear Given${i} Family${i}, your number is ${number(i)}.`);
    }
    expect(ids.size).toBe(199);
    rmSync(folder, { recursive: true });
    const own = (await inbox()).filter((m) => m.recipients === "me@example.org");
    expect(own.map((m) => m.subject)).toEqual(["[Test] Your letter, Given1"]);
  });

  await test.step("the rest is made on paper", async () => {
    await page.goto(`/drops/${dropId}/produce`);
    await expect(page.getByRole("table", { name: "Excluded" })).toContainText(/Sent by email\s*200/);
    await page.getByRole("button", { name: /^Produce 100 letters$/ }).click();
    await expect(page.getByRole("article", { name: "Run 2" })).toContainText("100 waiting to be mailed");
  });
});

test("a hostile message shows its text and runs nothing; a refused account says at which step", async ({ page }) => {
  const listId = await bringInQuietly(page, "Few.csv", list(1, 1));
  const { letter } = await letterAndEmail(page, listId);
  const link = 'https://example.org/"><script>window.top.hacked=1</script>';
  const document = {
    kind: "email",
    subject: "<script>alert(1)</script>",
    fromAddress: "office@example.org",
    unsubscribe: false,
    content: [
      text("</td></table><script>window.top.hacked = 1</script><img src=http://127.0.0.1:1/x.png>"),
      { type: "paragraph", content: [{ type: "text", text: "here", marks: [{ type: "link", attrs: { href: link } }] }] },
    ],
  };
  const email = await (await page.request.post("/api/designs", { data: { name: "Hostile", listId, document } })).json();
  const dropId = await (
    await page.request.post("/api/drops", { data: { name: "Hostile", listId, designIds: [letter, email], campaignName: "Renewal" } })
  ).json();
  await expect.poll(async () => (await (await page.request.get(`/api/drops/${dropId}`)).json()).checking).toBe(false);
  await page.goto(`/drops/${dropId}/proof`);
  await expect(page.frameLocator('iframe[title="Email body"]').locator("body")).toContainText("<script>window.top.hacked = 1</script>");
  expect(await page.evaluate(() => window.hacked)).toBeUndefined();
  expect(await page.locator('iframe[title="Email body"]').getAttribute("sandbox")).toBe("");
  await page.goto("/devices?account=0");
  await page.getByLabel("account name").fill("Nobody answers");
  await page.getByLabel("Mail server").fill("127.0.0.1");
  await page.getByLabel("Port").fill("1");
  await page.getByRole("button", { name: "Save" }).click();
  const trial = page.getByRole("region", { name: "Test account" });
  await trial.getByLabel("from").fill("office@example.org");
  await trial.getByLabel("to", { exact: true }).fill("me@example.org");
  await trial.getByRole("button", { name: "Run test" }).click();
  const steps = page.getByRole("list", { name: "Test steps" }).getByRole("listitem");
  await expect(steps).toHaveCount(9);
  await expect(steps.nth(1)).toContainText("The server is not responding on this port.");
  expect(await steps.evaluateAll((all) => all.map((s) => s.dataset.state))).toEqual(["right", "wrong", ...Array(7).fill("Not tested")]);
  await expect(steps.nth(6)).toContainText("The DNS cannot be reached from this server");
});

test("each gets the file that their number names, and whoever has none is shown before anything is sent", async ({ page }) => {
  const get = async (path) => (await page.request.get(path)).json();
  const listId = await bringInQuietly(page, "Certificates.csv", list(3, 3));
  const document = {
    kind: "email",
    subject: "Your certificate, {First}",
    fromAddress: "office@example.org",
    unsubscribe: false,
    content: [text("It is attached.")],
  };
  const email = await (await page.request.post("/api/designs", { data: { name: "Certificate", listId, document } })).json();
  await page.goto(`/designs/${email}`);
  await page.getByRole("button", { name: "Personal file" }).click();
  await page.getByLabel("New folder name").fill("Certificates 2027");
  await page.getByRole("button", { name: "Create folder" }).click();
  const files = [1, 3].map((i) => ({ name: `${number(i)}.pdf`, mimeType: "application/pdf", buffer: Buffer.from(`certificate ${i}`) }));
  await page.getByRole("button", { name: "Add files" }).waitFor();
  await page.getByLabel("Files in the folder").setInputFiles(files);
  await expect(page.getByText("Added 2 files to Certificates 2027.")).toBeVisible();
  await page.getByLabel("What names the file").fill('Member no. & ".pdf"');
  await expect(page.getByText("F-001.pdf")).toBeVisible();
  await expect(page.getByTestId("save-state")).toContainText("saved");

  const dropId = await (
    await page.request.post("/api/drops", { data: { name: "Certificates", listId, designIds: [email], campaignName: "Course" } })
  ).json();
  await expect.poll(async () => (await get(`/api/drops/${dropId}`)).checking).toBe(false);
  await page.goto(`/drops/${dropId}/proof`);
  await expect(tray(page, "Ready")).toHaveText("2");
  await tray(page, "NeedsReview").click();
  await expect(page.getByText("The file “F-002.pdf” is not in the attachment folder.").first()).toBeVisible();

  const account = (await get("/api/mail-accounts")).find((a) => a.kind === "practice").id;
  await page.request.post(`/api/drops/${dropId}/runs`, { data: { output: "email", accountId: account } });
  const inbox = async () => (await get("/api/post-office/messages?limit=1000")).rows;
  await expect.poll(async () => (await inbox()).length).toBe(2);
  for (const m of await inbox()) {
    const message = await new PostalMime().parse(await (await page.request.get(`/api/post-office/messages/${m.id}/source.eml`)).body());
    const i = /member(\d+)@/.exec(message.to[0].address)[1];
    expect(message.attachments.map((a) => [a.filename, Buffer.from(a.content).toString()])).toEqual([
      [`${number(i)}.pdf`, `certificate ${i}`],
    ]);
  }
});

/** Hands a message to the practice post office, as a mail server elsewhere would (RFC 5321). */
async function arrives(port, to, message) {
  const line = connect(port, "127.0.0.1");
  const answers = createInterface({ input: line })[Symbol.asyncIterator]();
  const said = async (code) => {
    for (;;) {
      const { value } = await answers.next();
      expect(value.slice(0, 3)).toBe(code);
      if (value[3] !== "-") return;
    }
  };
  await said("220");
  for (const [command, code] of [
    ["EHLO elsewhere.example", "250"],
    ["MAIL FROM:<>", "250"],
    [`RCPT TO:<${to}>`, "250"],
    ["DATA", "354"],
    [`${message.join("\r\n")}\r\n.`, "250"],
    ["QUIT", "221"],
  ]) {
    line.write(`${command}\r\n`);
    await said(code);
  }
  line.end();
}

test("what comes back is read from the mailbox, and moves whoever it is about to Returned, in whatever form it comes", async ({ page }) => {
  const get = async (path) => (await page.request.get(path)).json();
  const listId = await bringInQuietly(page, "Few.csv", list(3, 3));
  const document = {
    kind: "email",
    subject: "Opening hours",
    fromAddress: "office@example.org",
    unsubscribe: false,
    content: [text("Dear {First},")],
  };
  const email = await (await page.request.post("/api/designs", { data: { name: "Hours", listId, document } })).json();
  const dropId = await (
    await page.request.post("/api/drops", { data: { name: "Hours", listId, designIds: [email], campaignName: "Visits" } })
  ).json();
  await expect.poll(async () => (await get(`/api/drops/${dropId}`)).checking).toBe(false);
  const account = (await get("/api/mail-accounts")).find((a) => a.kind === "practice").id;
  await page.goto(`/devices?account=${account}`);
  const mailbox = page.getByRole("region", { name: "Bounce mailbox" });
  await mailbox.getByLabel("A return address for each message").check();
  await mailbox.getByRole("button", { name: "Save mailbox" }).click();
  await expect(mailbox.getByRole("alert")).toContainText("Enter the return address");
  await mailbox.getByLabel("Return address", { exact: true }).fill("bounces@example.org");
  await mailbox.getByRole("button", { name: "Save mailbox" }).click();
  await expect(page.getByText("Saved. The mailbox is read from now on.")).toBeVisible();

  await page.request.post(`/api/drops/${dropId}/runs`, { data: { output: "email", accountId: account } });
  const inbox = async () => (await get("/api/post-office/messages?limit=100")).rows;
  await expect.poll(async () => (await inbox()).length).toBe(3);
  const back = (await inbox()).find((m) => m.recipients === "member2@example.org").sender;
  expect(back).toMatch(/^bounces\+.+@example\.org$/);
  const { port } = await get("/api/post-office");
  await arrives(port, back, [
    "From: Postmaster <postmaster@elsewhere.example>",
    `To: ${back}`,
    "Subject: Mail could not be delivered",
    "",
    "No such person.",
  ]);
  await page.goto(`/drops/${dropId}/proof`);
  await expect(tray(page, "Returned")).toHaveText("1");
  await tray(page, "Returned").click();
  await expect(page.getByRole("complementary", { name: "This recipient" })).toContainText(
    "email to member2@example.org: Mail could not be delivered",
  );
  await page.goto(`/devices?account=${account}`);
  await expect(mailbox.getByRole("status")).toContainText("1 message so far, 1 report among them.");
  await mailbox.getByRole("button", { name: "Read now" }).click();
  await expect(page.getByText("Nothing new in the mailbox.")).toBeVisible();
});
