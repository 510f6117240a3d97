import type { JSONContent } from "@tiptap/core";

export type Sheet = "letter" | "legal" | "a4" | "a5" | "custom";

export interface WatermarkSetting {
  text: string;
  angle: number;
  size: number;
  strength: number;
  color: string;
}

/** A letter in its stored form; docs/letter-format.md describes it. */
export interface Letter {
  page: {
    sheet: Sheet;
    orientation?: "portrait" | "landscape";
    width?: number;
    height?: number;
    margins: { top: number; right: number; bottom: number; left: number };
  };
  type: { family: string; size: number; lineSpacing: number; spaceAfter: number };
  maxPages: number | null;
  content: JSONContent[];
  header: JSONContent[];
  footer: JSONContent[];
  firstDiffers: boolean;
  firstHeader: JSONContent[];
  firstFooter: JSONContent[];
  /** Pages with even numbers have a header and footer of their own. */
  evenDiffers: boolean;
  evenHeader: JSONContent[];
  evenFooter: JSONContent[];
  edge: number;
  /** On which pages: all, the first alone, or a PDF's first page behind the first and its second behind those that follow. */
  background: { asset: string; pages: "all" | "first" | "follow" } | null;
  watermark: WatermarkSetting | null;
  /** Left out of the package for a recipient for whom it prints nothing. */
  omitWhenEmpty: boolean;
}

/** The parts of a letter that are written: the text and what stands above and below it. */
export type Band = "content" | "header" | "footer" | "firstHeader" | "firstFooter" | "evenHeader" | "evenFooter";

/**
 * Fields and brackets that stand in the text as they are typed, in letters made by scripts or brought from elsewhere, become chips. Texts
 * without a letter are left out: the editor takes none, and would show nothing of the whole letter.
 */
export function withChips(nodes: JSONContent[]): JSONContent[] {
  return nodes.flatMap((node): JSONContent[] => {
    if (node.type === "text" && !node.text) return [];
    if (node.content) return [{ ...node, content: withChips(node.content) }];
    if (node.type !== "text" || !node.text?.includes("{")) return [node];
    return node.text.split(/((?<!\\)\{[^{}]+\})/).flatMap((part): JSONContent[] => {
      if (part === "") return [];
      const source = /^\{([^{}]+)\}$/.exec(part)?.[1]?.trim();
      const marks = node.marks ? { marks: node.marks } : {};
      return source ? [{ type: isMarker(source) ? "marker" : "field", attrs: { source }, ...marks }] : [{ ...node, text: part }];
    });
  });
}

/** True where what stands between two braces is a bracket and no field. */
export const isMarker = (text: string) => /^\s*(when\b|or when\b|each\b|otherwise\s*$|end\s*$)/i.test(text);

/** A stored letter with what it leaves open filled in, as the server's reader does: letters made by scripts may say little. */
export function completeLetter(stored: unknown): Letter {
  const d = (stored ?? {}) as Partial<Letter>;
  return {
    page: { sheet: "letter", ...d.page, margins: { top: 25, right: 25, bottom: 25, left: 25, ...d.page?.margins } },
    type: { family: "Source Serif 4", size: 11, lineSpacing: 1.35, spaceAfter: 8, ...d.type },
    maxPages: d.maxPages ?? null,
    content: withChips(d.content ?? []),
    header: withChips(d.header ?? []),
    footer: withChips(d.footer ?? []),
    firstDiffers: d.firstDiffers ?? false,
    firstHeader: withChips(d.firstHeader ?? []),
    firstFooter: withChips(d.firstFooter ?? []),
    evenDiffers: d.evenDiffers ?? false,
    evenHeader: withChips(d.evenHeader ?? []),
    evenFooter: withChips(d.evenFooter ?? []),
    edge: d.edge ?? 12,
    background: d.background ?? null,
    watermark: d.watermark ?? null,
    omitWhenEmpty: d.omitWhenEmpty ?? false,
  };
}

/** Sheets in millimetres, portrait. */
export const sheets: Record<Exclude<Sheet, "custom">, { name: string; width: number; height: number }> = {
  letter: { name: "US Letter, 8½ × 11 in", width: 215.9, height: 279.4 },
  legal: { name: "US Legal, 8½ × 14 in", width: 215.9, height: 355.6 },
  a4: { name: "A4, 210 × 297 mm", width: 210, height: 297 },
  a5: { name: "A5, 148 × 210 mm", width: 148, height: 210 },
};

export const millimetre = 96 / 25.4;

/** The sheet's size in millimetres as it is held. */
export function sheetSize(page: Letter["page"]) {
  const s = page.sheet === "custom" ? { width: page.width ?? 210, height: page.height ?? 297 } : sheets[page.sheet];
  return page.orientation === "landscape" ? { width: s.height, height: s.width } : { width: s.width, height: s.height };
}

/** The sheet's size in CSS pixels at full size (96 to the inch). */
export function sheetPixels(page: Letter["page"]) {
  const s = sheetSize(page);
  return { width: s.width * millimetre, height: s.height * millimetre };
}

/** How a letter's paper looks on the screen: its size, margins and type; with headers or footers the text begins farther in. */
export const paperStyle = (
  letter: Letter,
  zoom: number,
  top = `${letter.page.margins.top}mm`,
  bottom = `${letter.page.margins.bottom}mm`,
) => {
  const sheet = sheetPixels(letter.page);
  return {
    zoom,
    width: sheet.width,
    minHeight: sheet.height,
    padding: `${top} ${letter.page.margins.right}mm ${bottom} ${letter.page.margins.left}mm`,
    fontFamily: `"${letter.type.family}", "Amiri", "Noto Serif Hebrew", "Noto Sans Thai", "Noto Sans Devanagari", "Noto Sans SC", "Noto Sans TC", "Noto Sans JP", "Noto Sans KR", "Noto Emoji"`,
    fontSize: `${letter.type.size}pt`,
    lineHeight: letter.type.lineSpacing,
    "--space-after": `${letter.type.spaceAfter}pt`,
    "--margin-left": `${letter.page.margins.left}mm`,
    "--margin-top": top,
  };
};

export interface UsedField {
  source: string;
  /** The detail rows that *each* around the field goes over. */
  within: string | null;
}

/** All fields of a letter in their order, each with the rows it is printed for. */
export function fieldsOf(letter: Letter): UsedField[] {
  const found: UsedField[] = [];
  const rowsOf = (bracket: unknown) => /^\s*each\s+`?([^`]+?)`?\s*$/i.exec(typeof bracket === "string" ? bracket : "")?.[1] ?? null;
  const walk = (nodes: JSONContent[], within: string | null) => {
    let rows = within;
    for (const node of nodes) {
      if (node.type === "marker") {
        const source = String(node.attrs?.source ?? "");
        if (rowsOf(source)) rows = rowsOf(source);
        else if (/^end$/i.test(source)) rows = within;
      }
      if (node.type === "field") found.push({ source: String(node.attrs?.source ?? ""), within: rows });
      const inner =
        node.type === "each" ? String(node.attrs?.rows ?? "") : node.type === "tableRow" ? (rowsOf(node.attrs?.bracket) ?? rows) : rows;
      if (node.content) walk(node.content, inner);
    }
  };
  for (const band of [
    letter.firstHeader,
    letter.evenHeader,
    letter.header,
    letter.content,
    letter.firstFooter,
    letter.evenFooter,
    letter.footer,
  ])
    walk(band, null);
  return found;
}
