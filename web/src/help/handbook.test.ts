import { expect, test } from "vitest";
import { chapterOf, handbook, search } from "./handbook";

test("every page has a chapter that is there", async () => {
  const chapters = await handbook();
  expect(chapters.length).toBeGreaterThan(10);
  expect(chapters.at(-1)?.id).toBe("glossary");
  for (const c of chapters) expect(c.title).not.toBe("");
  const ids = chapters.map((c) => c.id);
  for (const path of [
    "/",
    "/lists/3",
    "/designs/1",
    "/drops/2/proof",
    "/drops/2/proof/set",
    "/drops/2/produce/1",
    "/returns",
    "/settings/prices",
  ])
    expect(ids).toContain(chapterOf(path));
  expect(chapterOf("/drops/7/ledger")).toBe("09-ledger-returns");
  expect(chapterOf("/nowhere")).toBe("01-first-mailing");
});

test("what is searched for is found by all its words, terms first", async () => {
  const chapters = await handbook();
  const found = search(chapters, "piece NUMBER");
  expect(found.length).toBeGreaterThan(1);
  expect(found[0]?.chapter.id).toBe("glossary");
  for (const f of found) expect(f.text.toLowerCase()).toContain("number");
  expect(search(chapters, "  ")).toEqual([]);
  expect(search(chapters, "zebra crossing")).toEqual([]);
});
