import { describe, expect, it } from "vitest";
import { count, day, many, pieceNumber, series, size } from "./words";

describe("words and figures", () => {
  it("are counted as Americans write them", () => {
    expect(count(1257)).toBe("1,257");
    expect([many(1, "recipient"), many(0, "recipient"), many(12500, "copy", "copies")]).toEqual([
      "1 recipient",
      "0 recipients",
      "12,500 copies",
    ]);
  });
  it("stand in a series", () =>
    expect([series(["a name"]), series(["a name", "a list"]), series(["a name", "a list", "a design"])]).toEqual([
      "a name",
      "a name and a list",
      "a name, a list, and a design",
    ]));
  it("have piece numbers of four digits or more", () => expect([pieceNumber(7), pieceNumber(12345)]).toEqual(["0007", "12345"]));
  it("never call a file nothing", () =>
    expect([size(0), size(900), size(1 << 20), size(1.5 * (1 << 20))]).toEqual(["1 KB", "1 KB", "1.0 MB", "1.5 MB"]));
  it("keep a day what it is, in any time zone", () => {
    expect(day("2027-03-12")).toBe("Mar 12, 2027");
    expect(day(null)).toBe("");
  });
});
