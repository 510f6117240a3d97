import { expect, test } from "vitest";
import { moveOf } from "./moves";
import { sorted, sortText } from "./sorting";
import { rangeOf, within } from "./useSelection";

const place = { column: 2, columns: 5, rows: 100, page: 20 };
const press = (key: string, more: Partial<{ ctrl: boolean; shift: boolean }> = {}, at = place) =>
  moveOf({ key, ctrl: false, shift: false, ...more }, at);

test("arrows go by one, with Ctrl to the edge", () => {
  expect(press("ArrowDown")).toEqual([1, 0]);
  expect(press("ArrowDown", { ctrl: true })).toEqual([100, 0]);
  expect(press("ArrowLeft", { ctrl: true })).toEqual([0, -5]);
  expect(press("PageUp")).toEqual([-20, 0]);
});

test("Home and End stay in the row, with Ctrl they go to the corners", () => {
  expect(press("Home")).toEqual([0, -5]);
  expect(press("End", { ctrl: true })).toEqual([100, 5]);
});

test("Tab leaves the table at its edges, so that nobody is caught in it", () => {
  expect(press("Tab")).toEqual([0, 1]);
  expect(press("Tab", { shift: true })).toEqual([0, -1]);
  expect(press("Tab", {}, { ...place, column: 4 })).toBeNull();
  expect(press("Tab", { shift: true }, { ...place, column: 0 })).toBeNull();
});

test("what is no move is left to others", () => {
  for (const key of ["a", "Enter", "Escape", " "]) expect(press(key)).toBeNull();
});

test("a heading sorts upward, downward, and not at all", () => {
  const up = sorted([], 7, false);
  expect(up).toEqual([{ column: 7, descending: false }]);
  const down = sorted(up, 7, false);
  expect(down).toEqual([{ column: 7, descending: true }]);
  expect(sorted(down, 7, false)).toEqual([]);
});

test("with more, the columns before it stay in front and keep their place", () => {
  const two = sorted(sorted([], 7, false), 8, true);
  expect(sortText(two)).toBe("7,8");
  expect(sortText(sorted(two, 7, true))).toBe("-7,8");
  expect(sortText(sorted(sorted(two, 7, true), 7, true))).toBe("8");
  expect(sortText(sorted(two, 9, false))).toBe("9");
  expect(sortText([])).toBeUndefined();
});

test("a range is the same from whichever corner it was pulled, and a cell stays in the table", () => {
  const range = { top: 1, bottom: 4, left: 2, right: 3 };
  expect(rangeOf({ row: 1, column: 3 }, { row: 4, column: 2 })).toEqual(range);
  expect(rangeOf({ row: 4, column: 2 }, { row: 1, column: 3 })).toEqual(range);
  expect(within({ row: 500, column: -3 }, 10, 4)).toEqual({ row: 9, column: 0 });
  expect(within({ row: 3, column: 3 }, 0, 0)).toEqual({ row: 0, column: 0 });
});
