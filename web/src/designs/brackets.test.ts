import { expect, test } from "vitest";
import { markersOf } from "./brackets";

const line = (...texts: string[]) => texts.map((text, i) => ({ from: 10 * (i + 1), text }));

test("a marker belongs to what opens and what closes it, with the branches between", () => {
  const markers = line("when Tier is Member", "or when Tier is Patron", "otherwise", "end");
  for (const at of [10, 20, 30, 40]) expect(markersOf(markers, at)).toEqual([10, 20, 30, 40]);
});

test("of brackets in one another each has its own end", () => {
  const markers = line("when a", "each Payments", "end", "otherwise", "end");
  expect(markersOf(markers, 20)).toEqual([20, 30]);
  expect(markersOf(markers, 50)).toEqual([10, 40, 50]);
});

test("a marker that belongs to none is taken out alone", () => {
  expect(markersOf(line("end", "when a"), 10)).toEqual([10]);
  expect(markersOf(line("when a"), 10)).toEqual([10]);
  expect(markersOf([], 10)).toEqual([10]);
});
