import { expect, it } from "vitest";
import type { Schema } from "../api/client";
import { mistakesBySource, offersBySource } from "./mistakes";

const mistake = (source: string, position: number, length: number, offer: string | null = null) =>
  ({ source, position, length, message: "wrong", suggestion: null, offer, block: 0 }) satisfies Schema["FieldMistake"];

it("finds a mistake by what stands between its braces", () => {
  expect([...mistakesBySource([mistake("{Frist}", 0, 7)])]).toEqual([["Frist", "wrong"]]);
  expect([...mistakesBySource([mistake("Dear {Frist", 5, 6)])]).toEqual([["Frist", "wrong"]]);
  expect(mistakesBySource(undefined).size).toBe(0);
});

it("knows what a field was probably meant to be, where anybody knows", () => {
  expect([...offersBySource([mistake("Frist | upper", 0, 5, "First | upper"), mistake("Wholly unlike", 0, 13)])]).toEqual([
    ["Frist | upper", "First | upper"],
  ]);
});
