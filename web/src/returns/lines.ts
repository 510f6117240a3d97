import type { Schema } from "../api/client";
import { cells, readDate } from "../responses/lines";

type Line = Schema["ReturnLine"];

/** What a column of the file holds, by a word of its heading; the first that is met counts. */
const headings: [RegExp, keyof Line][] = [
  [/zip|postal|postcode/i, "postalCode"],
  [/reason|why|endorsement/i, "reason"],
  [/date|returned on|came back/i, "on"],
  [/apt|unit|suite|line 2|address 2|street 2/i, "street2"],
  [/street|address|line 1/i, "street"],
  [/city|town/i, "city"],
  [/state|region|province/i, "region"],
  [/number|piece|member|code|barcode|\bid\b|\bno\b/i, "code"],
];

export const columnNames: Record<keyof Line, string> = {
  code: "number",
  reason: "reason",
  on: "date",
  street: "street",
  street2: "second address line",
  city: "city",
  region: "state",
  postalCode: "ZIP code",
};

/**
 * Returns and corrected addresses as they are pasted from a spreadsheet or a file. The first row has the headings, by which the columns
 * are known; a column with the number is needed, and one with the reason or the street.
 */
export function readReturns(text: string): { lines: Line[]; columns: (keyof Line)[]; problems: string[] } {
  const rows = text
    .replace(/^\uFEFF/, "")
    .split(/\r?\n/)
    .map((raw, i) => ({ raw, number: i + 1 }))
    .filter((r) => r.raw.trim() !== "");
  const first = rows[0];
  if (!first) return { lines: [], columns: [], problems: [] };
  const taken = new Set<keyof Line>();
  const columns = cells(first.raw).map((heading) => {
    const known = headings.find(([word, field]) => !taken.has(field) && word.test(heading))?.[1] ?? null;
    if (known) taken.add(known);
    return known;
  });
  if (!taken.has("code") || (!taken.has("reason") && !taken.has("street")))
    return {
      lines: [],
      columns: [...taken],
      problems: [
        "The first row must name the columns: the number, and the reason or the new address. Example: Number, Reason, Street, City, State, ZIP.",
      ],
    };
  const problems: string[] = [];
  const lines = rows.slice(1).flatMap(({ raw, number }) => {
    const line: Line = { code: "", reason: null, on: null, street: null, street2: null, city: null, region: null, postalCode: null };
    cells(raw).forEach((cell, i) => {
      const field = columns[i];
      if (!field || cell === "") return;
      if (field === "on") {
        line.on = readDate(cell);
        if (!line.on) problems.push(`Line ${number}: “${cell}” is not a date such as 11/27/2026.`);
      } else line[field] = cell.slice(0, 500);
    });
    if (line.code !== "") return [line];
    problems.push(`Line ${number} has no number.`);
    return [];
  });
  return { lines, columns: [...taken], problems };
}
