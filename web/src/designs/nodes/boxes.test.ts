import { describe, expect, it } from "vitest";
import { noteBlocks, noteText, placeStyle } from "./boxes";

describe("what a footnote says", () => {
  it("is a line for each paragraph, with fields in braces", () => {
    expect(
      noteText([
        {
          type: "paragraph",
          content: [
            { type: "text", text: "See " },
            { type: "field", attrs: { source: "Page" } },
          ],
        },
        { type: "paragraph" },
        { type: "paragraph", content: [{ type: "text", text: "end" }] },
      ]),
    ).toBe("See {Page}\n\nend");
  });
  it("keeps the look of its first paragraph when it is written anew", () => {
    const was = [{ type: "paragraph", attrs: { spaceAfter: 2 }, content: [{ type: "text", text: "a", marks: [{ type: "italic" }] }] }];
    expect(noteBlocks("b\n", was)).toEqual([
      { type: "paragraph", attrs: { spaceAfter: 2 }, content: [{ type: "text", text: "b", marks: [{ type: "italic" }] }] },
      { type: "paragraph", attrs: { spaceAfter: 2 } },
    ]);
  });
});

describe("where a box stands", () => {
  it("is a side, a place of the page, or a line of its own", () => {
    expect(placeStyle({ place: "left", gap: 4 })).toBe("float:left;margin:0 4mm 2mm 0");
    expect(placeStyle({ place: "page", x: 10, y: 20 })).toContain("left:calc(10mm - var(--margin-left))");
    expect(placeStyle({ place: null, align: "center" })).toContain("margin:0 auto var(--space-after) auto");
    expect(placeStyle({ place: null, align: "right" })).toContain("margin:0 0 var(--space-after) auto");
  });
});
