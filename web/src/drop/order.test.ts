import { expect, test } from "vitest";
import { first, orderOf, type Form } from "./order";

const designs = [
  { designId: 1, name: "Letter", kind: "letter" as const },
  { designId: 2, name: "Labels", kind: "labels" as const },
];
const order = (form: Partial<Form>, selected: number[] = []) =>
  orderOf({ ...first, ...form }, { package: designs as never, selected: new Set(selected), printer: 7, account: 3 });

test("each output has its own settings and no others", () => {
  expect(order({ output: "parts", partOf: 20 })).toMatchObject({ output: "parts", partOf: 20, printerId: 7 });
  expect(order({ output: "one" })).not.toHaveProperty("partOf");
  expect(order({ output: "print", copies: 2 })).toMatchObject({ copies: 2, breakSheets: true });
  expect(order({ output: "print", batchOf: 0 })).toMatchObject({ breakSheets: false });
  expect(order({ output: "print", locked: true, open: "x" })).not.toHaveProperty("passwords");
  expect(Object.keys(order({ output: "mbox" })).sort()).toEqual(["output", "pieces", "recipients", "segmentId", "sort"]);
  expect(order({ output: "email", at: "2027-03-01T09:00:00" })).toMatchObject({
    accountId: 3,
    notBefore: new Date("2027-03-01T09:00:00").toISOString(),
  });
});

test("of pieces, the selected, and a segment only what was chosen is ordered", () => {
  const form = { pieces: "1-5", segment: 9 };
  expect(order({ ...form, who: "ready" }, [4])).toMatchObject({ pieces: null, recipients: null, segmentId: null });
  expect(order({ ...form, who: "pieces" }, [4])).toMatchObject({ pieces: "1-5", recipients: null, segmentId: null });
  expect(order({ ...form, who: "selected" }, [4])).toMatchObject({ pieces: null, recipients: [4], segmentId: null });
  expect(order({ ...form, who: "segment" }, [4])).toMatchObject({ pieces: null, recipients: null, segmentId: 9 });
});

test("only a reprint chooses designs and values, and only files for each have passwords by recipient", () => {
  expect(order({ who: "reprint", pieces: "3", leave: [1], corrected: true })).toMatchObject({
    reprints: true,
    designs: [2],
    corrected: true,
  });
  expect(order({ leave: [1], corrected: true })).toMatchObject({ reprints: false, designs: null, corrected: null });
  const locked = { locked: true, open: "{ZIP}", openBy: true };
  expect(order({ ...locked, output: "each" })).toMatchObject({ passwords: { open: "{ZIP}", openBy: true } });
  expect(order({ ...locked, output: "one" })).toMatchObject({ passwords: { openBy: false } });
  expect(order({ ...locked, output: "each", who: "reprint" })).toMatchObject({ passwords: null });
});

test("a sheet begins where it was picked, and only a sheet of labels", () => {
  const starts = { 1: { start: 5, spoiled: [] }, 2: { start: 4, spoiled: [6] } };
  expect(order({ starts })).toMatchObject({ sheets: [{ designId: 2, start: 4, spoiled: [6] }] });
});
