// @vitest-environment jsdom
import { act, cleanup, renderHook } from "@testing-library/react";
import { useState } from "react";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { useSteps } from "./useSteps";

const open = () =>
  renderHook(() => {
    const [document, write] = useState("a");
    return { document, steps: useSteps(document, write) };
  }).result;

beforeEach(() => void vi.useFakeTimers());

afterEach(() => {
  cleanup();
  vi.useRealTimers();
});

test("each change is a step; back and forward go through them, and a new change ends the way forward", () => {
  const it = open();
  expect([it.current.steps.canUndo, it.current.steps.canRedo]).toEqual([false, false]);
  for (const next of ["b", "c", "d"]) act(() => it.current.steps.set(next));
  act(() => it.current.steps.undo());
  act(() => it.current.steps.undo());
  expect([it.current.document, it.current.steps.canUndo, it.current.steps.canRedo]).toEqual(["b", true, true]);
  act(() => it.current.steps.redo());
  expect(it.current.document).toBe("c");
  act(() => it.current.steps.set("e"));
  expect(it.current.steps.canRedo).toBe(false);
  for (const before of ["c", "b", "a", "a"]) {
    act(() => it.current.steps.undo());
    expect(it.current.document).toBe(before);
  }
});

test("typing in one place in one go is one step; a pause, another place, or another change begins the next", () => {
  const it = open();
  const type = (next: string, place: string) => act(() => it.current.steps.set(next, place));
  type("b", "name");
  type("bc", "name");
  type("bcd", "address");
  vi.advanceTimersByTime(2500);
  type("bcde", "address");
  for (const before of ["bcd", "bc", "a"]) {
    act(() => it.current.steps.undo());
    expect(it.current.document).toBe(before);
  }
});

test("what holds a text of its own begins anew with each step back or forward, and with no other change", () => {
  const it = open();
  act(() => it.current.steps.set("b"));
  const before = it.current.steps.epoch;
  act(() => it.current.steps.undo());
  act(() => it.current.steps.redo());
  expect(it.current.steps.epoch).toBe(before + 2);
  act(() => it.current.steps.redo());
  expect(it.current.steps.epoch).toBe(before + 2);
});

test("a hundred steps are kept", () => {
  const it = open();
  for (let i = 0; i < 130; i++) act(() => it.current.steps.set(`${i}`));
  let back = 0;
  while (it.current.steps.canUndo) {
    act(() => it.current.steps.undo());
    back++;
  }
  expect([back, it.current.document]).toEqual([100, "29"]);
});
