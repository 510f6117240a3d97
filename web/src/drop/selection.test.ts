// @vitest-environment jsdom
import { act, cleanup, renderHook } from "@testing-library/react";
import { afterEach, expect, test } from "vitest";
import { useSelection } from "./selection";

afterEach(cleanup);

test("who is selected is the same in all places of a drop, stays when one leaves, and is of this drop alone", () => {
  const bench = renderHook(() => useSelection(1));
  const produce = renderHook(() => useSelection(1));
  const other = renderHook(() => useSelection(2));
  act(() => bench.result.current[1]([4, 7]));
  expect([...produce.result.current[0]]).toEqual([4, 7]);
  expect(other.result.current[0].size).toBe(0);
  bench.unmount();
  produce.unmount();
  expect([...renderHook(() => useSelection(1)).result.current[0]]).toEqual([4, 7]);
});
