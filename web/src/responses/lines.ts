import type { Schema } from "../api/client";

type Line = Schema["ResponseLine"];

/** A date as people write it in the United States, or as ISO 8601; null where it is none. */
export function readDate(text: string): string | null {
  const iso = /^(\d{4})-(\d{1,2})-(\d{1,2})$/.exec(text);
  const us = /^(\d{1,2})\/(\d{1,2})\/(\d{4})$/.exec(text);
  const parts = iso ? [iso[1], iso[2], iso[3]] : us ? [us[3], us[1], us[2]] : null;
  if (!parts) return null;
  const [y, m, d] = parts.map(Number) as [number, number, number];
  const date = new Date(Date.UTC(y, m - 1, d));
  return date.getUTCMonth() === m - 1 && date.getUTCDate() === d ? date.toISOString().slice(0, 10) : null;
}

/** An amount as people write it; null where it is none. */
export function readAmount(text: string): number | null {
  const plain = text.replace(/[$\s,]/g, "");
  return /^\d+(\.\d{1,2})?$/.test(plain) ? Number(plain) : null;
}

/** Divides a line at tabs, semicolons, or commas; what stands in quotation marks stays together. */
export function cells(line: string): string[] {
  const divider = line.includes("\t") ? "\t" : line.includes(";") ? ";" : ",";
  const out: string[] = [];
  let [cell, quoted] = ["", false];
  for (let i = 0; i < line.length; i++) {
    const ch = line[i];
    if (ch === '"') {
      if (quoted && line[i + 1] === '"') {
        cell += '"';
        i++;
      } else quoted = !quoted;
    } else if (ch === divider && !quoted) {
      out.push(cell.trim());
      cell = "";
    } else cell += ch;
  }
  return [...out, cell.trim()];
}

/**
 * Responses as they are pasted from a spreadsheet or a file: the number first, then in any order a date, an amount, a note. A first line
 * without a digit is headings.
 */
export function readLines(text: string): { lines: Line[]; problems: string[] } {
  const lines: Line[] = [];
  const problems: string[] = [];
  text
    .replace(/^\uFEFF/, "")
    .split(/\r?\n/)
    .forEach((raw, i) => {
      if (raw.trim() === "" || (i === 0 && !/\d/.test(raw))) return;
      const [code = "", ...rest] = cells(raw);
      if (code === "" || code.length > 200) {
        problems.push(`Line ${i + 1} does not begin with a number.`);
        return;
      }
      const line: Line = { code, on: null, amount: null, kind: null, note: null };
      for (const cell of rest) {
        if (cell === "") continue;
        const [date, amount] = [readDate(cell), readAmount(cell)];
        if (date && !line.on) line.on = date;
        else if (amount !== null && line.amount === null) line.amount = amount;
        else if (/^\d{1,2}[./-]\d{1,2}[./-]\d{2,4}$/.test(cell))
          problems.push(`Line ${i + 1}: “${cell}” is not a date such as 11/27/2026.`);
        else line.note = line.note ? `${line.note}, ${cell}` : cell.slice(0, 500);
      }
      lines.push(line);
    });
  return { lines, problems };
}
