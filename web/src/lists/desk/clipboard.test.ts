import { describe, expect, it } from "vitest";
import { fromClipboard, toClipboard } from "./clipboard";

describe("cells on the clipboard", () => {
  it("come back as they went, whatever is in them", () => {
    const rows = [
      ["Ana", "", "x\ty"],
      ['say "hello"', "two\nlines", "carriage\r\nreturn"],
      ["", "", '"'],
    ];
    expect(fromClipboard(toClipboard(rows))).toEqual(rows);
  });

  it("come back for any cells made of the signs that matter", () => {
    const signs = ["a", '"', "\t", "\n", "\r\n", " ", "é"];
    let seed = 7;
    const next = (n: number) => (seed = (seed * 1103515245 + 12345) % 2147483648) % n;
    for (let round = 0; round < 300; round++) {
      const rows = Array.from({ length: 1 + next(4) }, () =>
        Array.from({ length: 2 + next(3) }, () => Array.from({ length: next(6) }, () => signs[next(signs.length)]).join("")),
      );
      // The last row is told from a line end by what stands in it.
      (rows[rows.length - 1] as string[])[0] = "end";
      expect(fromClipboard(toClipboard(rows))).toEqual(rows);
    }
  });

  it("take a blank for an empty text", () => expect(toClipboard([[null, "b"]])).toBe("\tb"));

  it.each([
    [
      "a\tb\r\nc\td\r\n",
      [
        ["a", "b"],
        ["c", "d"],
      ],
    ],
    ["a\rb", [["a"], ["b"]]],
    ["one", [["one"]]],
    ["", []],
    ["\n", [[""]]],
    ['a "quoted" word\tb', [['a "quoted" word', "b"]]],
    ['"not closed\tb', [["not closed\tb"]]],
  ])("are read from %j", (text, rows) => expect(fromClipboard(text)).toEqual(rows));
});
