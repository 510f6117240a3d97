import { expect, test } from "vitest";
import { changedCells, corrects, followNames, type FoundPiece } from "./returns";

const piece = {
  address: [
    { columnId: 3, name: "Street", role: "Street", value: "1 Quay Road" },
    { columnId: 4, name: "Unit", role: "Unit", value: null },
    { columnId: 5, name: "ZIP", role: "PostalCode", value: "97412" },
  ],
} as unknown as FoundPiece;

test("only what was typed anew is corrected, and a part can be emptied", () => {
  expect(changedCells(piece, {})).toEqual({});
  expect(changedCells(piece, { 3: " 1 Quay Road ", 4: "" })).toEqual({});
  expect(changedCells(piece, { 3: "9 Orchard Terrace", 4: "Apt 4", 5: "" })).toEqual({ 3: "9 Orchard Terrace", 4: "Apt 4", 5: "" });
});

test("an address is asked for only where it is corrected", () => {
  const all = Object.keys(followNames) as (keyof typeof followNames)[];
  expect(all.filter(corrects)).toEqual(["correct", "remail"]);
});
