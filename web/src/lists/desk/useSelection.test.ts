// @vitest-environment jsdom
import { act, cleanup, renderHook } from "@testing-library/react";
import { afterEach, expect, test } from "vitest";
import { useSelection } from "./useSelection";

afterEach(cleanup);

const table = (rows = 10, columns = 4) =>
  renderHook(({ rows, columns }) => useSelection(rows, columns), { initialProps: { rows, columns } });

test("a step goes to a cell of the table, however far it was meant to go", () => {
  const { result } = table();
  act(() => void result.current.to({ row: 99, column: -3 }));
  expect(result.current.focus).toEqual({ row: 9, column: 0 });
  expect(result.current.many).toBe(false);
});

test("pulling goes from where it began, in any direction, and may turn round", () => {
  const { result } = table();
  act(() => void result.current.to({ row: 5, column: 2 }));
  act(() => void result.current.to({ row: 2, column: 3 }, true));
  expect(result.current.range).toEqual({ top: 2, bottom: 5, left: 2, right: 3 });
  act(() => void result.current.to({ row: 8, column: 1 }, true));
  expect(result.current.range).toEqual({ top: 5, bottom: 8, left: 1, right: 2 });
  expect(result.current.within(6, 1)).toBe(true);
  expect(result.current.within(4, 2)).toBe(false);
  act(() => void result.current.to({ row: 0, column: 0 }));
  expect(result.current.many).toBe(false);
});

test("whole rows are all their columns", () => {
  const { result } = table();
  act(() => result.current.rows(3, 6));
  expect(result.current.range).toEqual({ top: 3, bottom: 6, left: 0, right: 3 });
});

test("after rows have gone the cursor is on one that is there", () => {
  const { result, rerender } = table();
  act(() => void result.current.to({ row: 9, column: 3 }));
  rerender({ rows: 4, columns: 2 });
  expect(result.current.focus).toEqual({ row: 3, column: 1 });
});
