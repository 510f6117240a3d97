import { expect, test } from "vitest";
import { readAmount, readDate, readLines } from "./lines";

test("dates and amounts are read as people write them, and nothing else is", () => {
  expect(readDate("11/5/2026")).toBe("2026-11-05");
  expect(readDate("2026-11-05")).toBe("2026-11-05");
  expect(readDate("2/30/2026")).toBeNull();
  expect(readDate("5.11.2026")).toBeNull();
  expect(readAmount("$1,250.50")).toBe(1250.5);
  expect(readAmount("-5")).toBeNull();
  expect(readAmount("12.345")).toBeNull();
});

test("pasted rows give responses; headings, blank lines, and a byte order mark are passed over", () => {
  const { lines, problems } = readLines(
    '\uFEFFNumber\tDate\tAmount\r\nF-12\t11/5/2026\t$64.00\r\n\r\n0044,,25,"at the gate, cash"\nF-7;2026-11-06\n',
  );
  expect(problems).toEqual([]);
  expect(lines.map((l) => [l.code, l.on, l.amount, l.note])).toEqual([
    ["F-12", "2026-11-05", 64, null],
    ["0044", null, 25, "at the gate, cash"],
    ["F-7", "2026-11-06", null, null],
  ]);
});

test("what cannot be read is said with its line", () => {
  const { lines, problems } = readLines("F-1,31/12/2026\n,5\n");
  expect(lines).toHaveLength(1);
  expect(problems).toEqual(["Line 1: “31/12/2026” is not a date such as 11/27/2026.", "Line 2 does not begin with a number."]);
});
