import { readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { corpus, linesOf, longLetter } from "./corpus.mjs";
import { bringInQuietly, expect, pdfLines, test } from "./desk.mjs";
import { root } from "./server.mjs";

test("documents of three other writers come over with their structure and placeholders", async ({ page }) => {
  expect(corpus.length).toBeGreaterThan(40);
  const list = await bringInQuietly(page, "Members.csv", "First name,Last name,City,ZIP,Level\r\nAna,Okafor,Salem,97301,Patron\r\n");
  for (const one of corpus)
    await test.step(one.name, async () => {
      const upload = await (await page.request.post(`/api/documents?name=${one.file}`, { data: await one.make() })).json();
      const answer = await page.request.post(`/api/documents/${upload.id}/look`, { data: { listId: list } });
      const look = await answer.json();
      expect(answer.status(), `${one.name}: ${look.detail ?? ""}`).toBe(200);
      expect(linesOf(look.letter.content), one.name).toEqual(one.lines);
      const checks = one.check?.(look) ?? [];
      expect(checks, `${one.name}: ${JSON.stringify(look.letter)}`).toEqual(checks.map(() => true));
    });
});

test("lines break where an independent renderer of the same file breaks them", async ({ page, browser }, info) => {
  const list = await bringInQuietly(page, "Members.csv", "First name,City\r\nAna,Salem\r\n");
  const file = await longLetter();
  const upload = await (await page.request.post("/api/documents?name=long.docx", { data: file })).json();
  const design = await (await page.request.post(`/api/documents/${upload.id}/letter`, { data: { name: "Long", listId: list } })).json();
  const drop = await (
    await page.request.post("/api/drops", { data: { name: "Long", listId: list, designIds: [design], campaignName: "Spring" } })
  ).json();
  await expect.poll(async () => (await (await page.request.get(`/api/drops/${drop}`)).json()).checking).toBe(false);
  const rows = await (await page.request.get(`/api/drops/${drop}/recipients?limit=1`)).json();
  const proof = await page.request.get(`/api/drops/${drop}/recipients/${rows.rows[0].id}/proof.pdf`);
  const path = info.outputPath("proof.pdf");
  writeFileSync(path, await proof.body());
  const ours = (await pdfLines(path)).flat();

  // The renderer sets the face that the document names; here it is the one that is as wide.
  const other = await browser.newPage();
  await other.setContent("<div id=paper></div>");
  const font = (cut) => `data:font/ttf;base64,${readFileSync(join(root, `assets/fonts/carlito/Carlito-${cut}.ttf`)).toString("base64")}`;
  await other.addStyleTag({
    content: `@font-face{font-family:Calibri;src:url(${font("Regular")})} @font-face{font-family:Calibri;font-weight:700;src:url(${font("Bold")})}`,
  });
  for (const script of ["jszip/dist/jszip.min.js", "docx-preview/dist/docx-preview.min.js"])
    await other.addScriptTag({ path: join(root, "tests/e2e/node_modules", script) });
  const theirs = await other.evaluate(
    async (bytes) => {
      await globalThis.docx.renderAsync(new Uint8Array(bytes), document.getElementById("paper"));
      await document.fonts.load("11pt Calibri");
      await document.fonts.load("700 11pt Calibri");
      await document.fonts.ready;
      const lines = [];
      for (const p of document.querySelectorAll("#paper section article p")) {
        let top = -1e9;
        const walker = document.createTreeWalker(p, NodeFilter.SHOW_TEXT);
        while (walker.nextNode()) {
          const range = document.createRange();
          for (let i = 0; i < walker.currentNode.data.length; i++) {
            range.setStart(walker.currentNode, i);
            range.setEnd(walker.currentNode, i + 1);
            const box = range.getBoundingClientRect();
            if (box.width === 0) continue;
            if (box.bottom - top > 12) {
              lines.push("");
              top = box.bottom;
            }
            lines[lines.length - 1] += walker.currentNode.data[i];
          }
        }
      }
      return lines.map((l) => l.trim());
    },
    [...file],
  );
  expect(theirs.length).toBeGreaterThan(40);
  expect(
    ours.map((l) => l.trim()).filter((l) => theirs.includes(l)).length / theirs.length,
    `${ours.join("\n")}\n---\n${theirs.join("\n")}`,
  ).toBeGreaterThan(0.97);
});
