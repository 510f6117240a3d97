// What the tests share: a desk with a name, a server for each test, the texts of a PDF's pages, and a few short ways.
import { test as base, expect } from "@playwright/test";
import { readFileSync } from "node:fs";
import { join } from "node:path";
import { root, startAlone, startServer } from "./server.mjs";

const pdfjs = await import(join(root, "web/node_modules/pdfjs-dist/legacy/build/pdf.mjs"));

export const test = base.extend({
  demo: [false, { option: true }],
  // Tests with the tag @alone have the server as it is shipped, in a process of its own: they kill it, or show it as a user has it.
  server: async ({ demo }, use, info) => {
    const server = await (info.tags.includes("@alone") ? startAlone : startServer)({ demo });
    await use(server);
    await server.stop();
  },
  baseURL: async ({ server }, use) => use(server.url),
  page: async ({ page, server }, use) => {
    const wrong = [];
    page.on("pageerror", (e) => wrong.push(e.message));
    // A server that a test has killed does not answer for a moment: the browser says so, too.
    page.on(
      "console",
      (m) =>
        m.type() === "error" &&
        !/status of (4\d\d|503)/.test(m.text()) &&
        !(server.crashed && /net::ERR_/.test(m.text())) &&
        wrong.push(m.text().slice(0, 400)),
    );
    // The frames with messages in them are shut off: they have no storage.
    await page.addInitScript(() => self === top && localStorage.setItem("bandeja.person", "Marisol Quint"));
    await use(page);
    expect(wrong, `errors in the browser; the server logged: ${await server.log()}`).toEqual([]);
  },
});

export { expect };

/** The text of each page of a PDF, and its outline. */
export async function readPdf(path) {
  const document = await pdfjs.getDocument({ data: new Uint8Array(readFileSync(path)), useSystemFonts: false, verbosity: 0 }).promise;
  const pages = [];
  for (let n = 1; n <= document.numPages; n++) {
    const content = await (await document.getPage(n)).getTextContent();
    pages.push(
      content.items
        .map((i) => i.str + (i.hasEOL ? "\n" : ""))
        .join("")
        .replace(/[ \n]+/g, " "),
    );
  }
  const outline = ((await document.getOutline()) ?? []).map((o) => o.title);
  const { info } = await document.getMetadata();
  return { pages, outline, title: info.Title };
}

/** The fields of a file with their values, as another program reads them. */
export async function fieldsOf(path) {
  const document = await pdfjs.getDocument({ data: new Uint8Array(readFileSync(path)), verbosity: 0 }).promise;
  const values = {};
  for (let n = 1; n <= document.numPages; n++)
    for (const a of await (await document.getPage(n)).getAnnotations())
      if (a.subtype === "Widget") {
        if (a.radioButton && a.fieldValue !== a.buttonValue) values[a.fieldName] ??= a.fieldValue ?? "";
        else values[a.fieldName] = Array.isArray(a.fieldValue) ? (a.fieldValue[0] ?? "") : (a.fieldValue ?? "");
      }
  return values;
}

/** The lines of each page of a PDF, from top to bottom. */
export async function pdfLines(path) {
  const document = await pdfjs.getDocument({ data: new Uint8Array(readFileSync(path)), useSystemFonts: false, verbosity: 0 }).promise;
  const pages = [];
  for (let n = 1; n <= document.numPages; n++) {
    const { items } = await (await document.getPage(n)).getTextContent();
    const lines = new Map();
    for (const i of items) {
      const y = Math.round(i.transform[5]);
      lines.set(y, (lines.get(y) ?? "") + i.str);
    }
    pages.push([...lines].sort((a, b) => b[0] - a[0]).map(([, text]) => text));
  }
  return pages;
}

export const file = (name, text) => ({ name, mimeType: "text/csv", buffer: Buffer.isBuffer(text) ? text : Buffer.from(text, "utf8") });

export async function bringIn(page, name, text) {
  await page.goto("/lists/new");
  await page.getByLabel("List file").setInputFiles(file(name, text));
  await page.getByRole("button", { name: /^Import \d/ }).click();
  await page.waitForURL(/\/lists\/\d+$/);
}

/** The same by the API, where the test is about something else; answers the list's id. */
export async function bringInQuietly(page, name, text) {
  const post = async (path, body) =>
    (
      await page.request.post(
        path,
        body instanceof Buffer ? { data: body, headers: { "Content-Type": "application/octet-stream" } } : { data: body },
      )
    ).json();
  const { id } = await post(`/api/uploads?name=${encodeURIComponent(name)}`, Buffer.from(text, "utf8"));
  const look = await post(`/api/uploads/${id}/look`, {});
  const columns = look.columns.map((c, position) => ({ ...c, position }));
  const { sheet, headingRow, encoding, delimiter } = look;
  const { jobId } = await post(`/api/uploads/${id}/list`, {
    name: name.replace(/\.csv$/, ""),
    width: columns.length,
    columns,
    options: { sheet, headingRow, encoding, delimiter },
  });
  let job;
  await expect.poll(async () => (job = await (await page.request.get(`/api/jobs/${jobId}`)).json()).state).toBe("done");
  return JSON.parse(job.message).listId;
}

/** Has lengths shown in millimeters, where a test types some. */
export const inMillimeters = async (page) => {
  const { organization } = await (await page.request.get("/api/settings")).json();
  await page.request.put("/api/settings/organization", { data: { ...organization, units: "Millimeters" } });
};

/** Waits until the pieces of a drop are checked after what was changed last. */
export const checked = (page, dropId) =>
  expect.poll(async () => (await (await page.request.get(`/api/drops/${dropId}`)).json()).checking).toBe(false);

export const tray = (page, name) => page.getByTestId(`tray-${name}`);

/** Waits until the page of the recipient at the cursor is shown, and gives its text. */
export async function pageText(page, containing) {
  // Read once: the page may be drawn anew between two readings.
  let text = "";
  await expect
    .poll(async () => (text = (await page.getByTestId("page-text").textContent()) ?? "").replace(/\s+/g, " "))
    .toContain(containing);
  return text;
}

/** Makes a list, a letter and a drop by the API, and opens the bench. */
export async function makeDrop(page, { rows, letter, name = "Notice" }) {
  const listId = await bringInQuietly(page, `${name}.csv`, rows);
  const text = (t) => ({ type: "paragraph", content: [{ type: "text", text: t }] });
  const designId = await (
    await page.request.post("/api/designs", {
      data: { name, listId, document: { page: { sheet: "letter" }, maxPages: 1, content: letter.map(text) } },
    })
  ).json();
  const dropId = await (
    await page.request.post("/api/drops", { data: { name, listId, designIds: [designId], campaignName: name } })
  ).json();
  await checked(page, dropId);
  await page.goto(`/drops/${dropId}/proof`);
  return { listId, designId, dropId };
}

/** Saves a design from elsewhere, on top of what is newest, as another person would. */
export async function saveElsewhere(page, id, document, person = "Tom%C3%A1s") {
  const newest = await (await page.request.get(`/api/designs/${id}`)).json();
  const answer = await page.request.put(`/api/designs/${id}/document`, {
    headers: { "X-Person": person },
    data: { basedOn: newest.version, revision: newest.revision, document },
  });
  expect(answer.ok(), await answer.text()).toBe(true);
}

/** Ends after so many frames were drawn: what the page does at once or in a moment is done then. */
export const frames = (page, n) =>
  page.evaluate(async (left) => {
    for (; left > 0; left--) await new Promise((drawn) => requestAnimationFrame(drawn));
  }, n);

/** Longer than any page of the tests needs on a machine many times slower: a page that is not at rest by then never will be. */
const restless = 240_000;

/** Ends when nothing on the page has changed for a while and no font is on its way; else says what goes on changing. */
export async function atRest(page) {
  const rested = page.evaluate(async () => {
    const rest = (window.rest = { waitsFor: "fonts", changes: 0, last: [] });
    await document.fonts.ready;
    rest.waitsFor = "changes to end";
    await new Promise((resolve) => {
      let observer;
      const end = () => {
        observer.disconnect();
        resolve();
      };
      let timer = setTimeout(end, 300);
      observer = new MutationObserver((changes) => {
        clearTimeout(timer);
        timer = setTimeout(end, 300);
        rest.changes += changes.length;
        rest.last = changes.slice(-3).map((c) => {
          const at = c.target instanceof Element ? c.target : c.target.parentElement;
          return `${c.type} ${c.attributeName ?? ""} ${at?.outerHTML.slice(0, 200) ?? c.target.nodeName}`;
        });
      });
      observer.observe(document.body, { subtree: true, childList: true, attributes: true, characterData: true });
    });
  });
  let late;
  const limit = new Promise((resolve) => (late = setTimeout(resolve, restless, "late")));
  const first = await Promise.race([rested, limit]).finally(() => clearTimeout(late));
  if (first !== "late") return;
  rested.catch(() => undefined);
  const state = page.evaluate(() => ({
    ...window.rest,
    fonts: [...document.fonts].filter((f) => f.status === "loading").map((f) => `${f.family} ${f.weight} ${f.style}`),
    seen: document.visibilityState,
  }));
  const silent = new Promise((resolve) => setTimeout(resolve, 10_000, "the page does not answer"));
  throw new Error(`${page.url()} does not come to rest: ${JSON.stringify(await Promise.race([state, silent]))}`);
}

/** Before a page is opened whose requests are stopped later: the browser begins to look at requests only some time after it is told to,
 *  and one that is sent meanwhile gets through. From here on it always looks. */
export const interceptable = (page) => page.route("**/nothing-is-asked-here", (route) => route.continue());

/** Holds what is asked of an address until it is let go; says when it has been asked for. */
export async function held(page, address) {
  let letGo = () => {};
  const free = new Promise((done) => (letGo = done));
  let asked = () => {};
  const begun = new Promise((done) => (asked = done));
  await page.route(address, async (route) => {
    asked();
    await free;
    await route.continue();
  });
  return { begun, letGo };
}
