import { expect, test } from "vitest";
import { decimalSign, gapOf } from "./tabs";

const mm = 96 / 25.4;
const none = { width: 0, sign: null };

test("a tab goes to the next stop that is set, then by half inches, and nowhere where the line ends before", () => {
  const stops = [
    { at: 50, kind: "left" as const },
    { at: 100, kind: "left" as const },
  ];
  expect(gapOf(0, stops, 600, none)).toBeCloseTo(50 * mm);
  expect(gapOf(50 * mm, stops, 600, none)).toBeCloseTo(50 * mm);
  // At 378 px all stops lie behind: the next half inch is at 384.
  expect(gapOf(100 * mm + 0.1, stops, 600, none)).toBeCloseTo(384 - 100 * mm - 0.1);
  expect(gapOf(0, [], 600, none)).toBe(48);
  expect(gapOf(48, [], 600, none)).toBe(48);
  expect(gapOf(590, [], 600, none)).toBeNull();
  expect(gapOf(0, [{ at: 200, kind: "left" }], 600, none)).toBeNull();
  // A stop at the very edge does not go a fraction beyond it.
  expect(gapOf(0, [{ at: 100, kind: "right" }], 100 * mm - 0.3, { width: 60, sign: null })).toBeCloseTo(100 * mm - 60.3);
});

test("what follows ends at a right stop, stands around a centered one, has its sign at a decimal one, and never goes back", () => {
  const after = { width: 60, sign: 40 };
  expect(gapOf(10, [{ at: 100, kind: "right" }], 600, after)).toBeCloseTo(100 * mm - 70);
  expect(gapOf(10, [{ at: 100, kind: "center" }], 600, after)).toBeCloseTo(100 * mm - 40);
  expect(gapOf(10, [{ at: 100, kind: "decimal" }], 600, after)).toBeCloseTo(100 * mm - 50);
  expect(gapOf(10, [{ at: 100, kind: "decimal" }], 600, { width: 60, sign: null })).toBeCloseTo(100 * mm - 70);
  expect(gapOf(10, [{ at: 10, kind: "right" }], 600, { width: 300, sign: null })).toBe(0);
});

test("the decimal sign is the last point or comma that parts no thousands", () => {
  expect(decimalSign("12.50")).toBe(2);
  expect(decimalSign("$1,250.00 and more")).toBe(6);
  expect(decimalSign("1.250,5 €")).toBe(5);
  expect(decimalSign("Total 12.50")).toBe(8);
  expect(decimalSign("No. 7 of 12.50")).toBe(11);
  expect(decimalSign("1,250")).toBeNull();
  expect(decimalSign("a.b")).toBeNull();
  expect(decimalSign("5.")).toBeNull();
  expect(decimalSign("")).toBeNull();
});
