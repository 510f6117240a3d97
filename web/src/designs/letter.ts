import type { JSONContent } from "@tiptap/core";

export type Sheet = "letter" | "legal" | "a4" | "a5";

/** A letter in its stored form; docs/letter-format.md describes it. */
export interface Letter {
  page: { sheet: Sheet; orientation?: "portrait" | "landscape"; margins: { top: number; right: number; bottom: number; left: number } };
  type: { family: string; size: number; lineSpacing: number; spaceAfter: number };
  maxPages: number | null;
  content: JSONContent[];
}

/** A stored letter with what it leaves open filled in, as the server's reader does: letters made by scripts may say little. */
export function completeLetter(stored: unknown): Letter {
  const d = (stored ?? {}) as Partial<Letter>;
  return {
    page: { sheet: "letter", ...d.page, margins: { top: 25, right: 25, bottom: 25, left: 25, ...d.page?.margins } },
    type: { family: "Source Serif 4", size: 11, lineSpacing: 1.35, spaceAfter: 8, ...d.type },
    maxPages: d.maxPages ?? null,
    content: d.content ?? [],
  };
}

/** Sheets in millimetres, portrait. */
export const sheets: Record<Sheet, { name: string; width: number; height: number }> = {
  letter: { name: "US Letter, 8½ × 11 in", width: 215.9, height: 279.4 },
  legal: { name: "US Legal, 8½ × 14 in", width: 215.9, height: 355.6 },
  a4: { name: "A4, 210 × 297 mm", width: 210, height: 297 },
  a5: { name: "A5, 148 × 210 mm", width: 148, height: 210 },
};

/** The sheet's size in CSS pixels at full size (96 to the inch). */
export function sheetPixels(page: Letter["page"]) {
  const s = sheets[page.sheet];
  const [width, height] = page.orientation === "landscape" ? [s.height, s.width] : [s.width, s.height];
  return { width: (width * 96) / 25.4, height: (height * 96) / 25.4 };
}
