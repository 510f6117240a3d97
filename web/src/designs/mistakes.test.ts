import { expect, it } from "vitest";
import type { Schema } from "../api/client";
import { mistakesBySource } from "./mistakes";

const mistake = (source: string, position: number, length: number) =>
  ({ source, position, length, message: "wrong" }) as unknown as Schema["FieldMistake"];

it("finds a mistake by what stands between its braces", () => {
  expect([...mistakesBySource([mistake("{Frist}", 0, 7)])]).toEqual([["Frist", "wrong"]]);
  expect([...mistakesBySource([mistake("Dear {Frist", 5, 6)])]).toEqual([["Frist", "wrong"]]);
  expect(mistakesBySource(undefined).size).toBe(0);
});
