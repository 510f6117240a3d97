import type { JSONContent } from "@tiptap/core";
import type { Schema } from "../api/client";
import { withChips } from "../designs/letter";

export type BoxUse = "text" | "delivery" | "return" | "indicia" | "teaser" | "endorsement" | "number" | "picture" | "barcode";

/** A box on an envelope or a label; measures in millimetres. */
export interface Box {
  id: string;
  use: BoxUse;
  x: number;
  y: number;
  width: number;
  height: number;
  valign?: "top" | "middle" | "bottom";
  padding?: number;
  /** The type size down to which its text may shrink, points; null for not at all. */
  smallest?: number | null;
  border?: { width: number; color: string; radius: number } | null;
  shade?: string | null;
  content: JSONContent[];
}

/** An own stock of labels, millimetres. */
export interface OwnStock {
  sheetWidth: number;
  sheetHeight: number;
  columns: number;
  rows: number;
  labelWidth: number;
  labelHeight: number;
  left: number;
  top: number;
  pitchX: number;
  pitchY: number;
  corner: "square" | "rounded" | "round";
  radius: number;
  inches: boolean;
}

export interface Window {
  x: number;
  y: number;
  width: number;
  height: number;
  fold: "thirds" | "half" | "flat";
  shift: number;
}

/** An envelope or a label sheet in its stored form; docs/letter-format.md describes it. */
export interface Surface {
  kind: "envelope" | "labels";
  type: { family: string; size: number; lineSpacing: number };
  boxes: Box[];
  format?: string;
  width?: number;
  height?: number;
  orientation?: "landscape" | "portrait";
  window?: Window | null;
  zones?: string | null;
  stock?: string | OwnStock;
  fill?: "rows" | "columns";
  copies?: number;
  copiesBy?: string | null;
  blankBetween?: string | null;
}

export const useNames: Record<BoxUse, string> = {
  text: "Text",
  delivery: "Delivery address",
  return: "Return address",
  indicia: "Indicia",
  teaser: "Teaser line",
  endorsement: "Endorsement",
  number: "Piece number",
  picture: "Picture",
  barcode: "Barcode",
};

export const text = (t: string): JSONContent => ({ type: "text", text: t });
export const field = (source: string, size?: number): JSONContent => ({
  type: "field",
  attrs: { source },
  ...(size ? { marks: [{ type: "textStyle", attrs: { fontSize: `${size}pt` } }] } : {}),
});
export const paragraph = (content: JSONContent[], attrs: Record<string, unknown> = {}): JSONContent => ({
  type: "paragraph",
  attrs,
  content,
});
const sized = (t: string, size: number): JSONContent => ({ ...text(t), marks: [{ type: "textStyle", attrs: { fontSize: `${size}pt` } }] });

let counter = 0;
/** An id that no other box of the design has. */
export function newId(boxes: Box[]) {
  for (;;) {
    const id = `b${++counter}`;
    if (!boxes.some((b) => b.id === id)) return id;
  }
}

/** A box after a change; a barcode is as large as its box, but for the one whose measures its standard sets. */
export function changed(box: Box, part: Partial<Box>): Box {
  const next = { ...box, ...part };
  const [code] = next.content;
  if (code?.type !== "barcode") return next;
  const inner = (mm: number) => Math.max(3, Math.round((mm - 2 * (next.padding ?? 0)) * 10) / 10);
  return { ...next, content: [{ ...code, attrs: { ...code.attrs, width: inner(next.width), height: inner(next.height) } }] };
}

/** What a box of a use begins with, on a piece of a size; the organization's postal address is where pieces come back to. */
export function newBox(
  use: BoxUse,
  boxes: Box[],
  size: { width: number; height: number },
  kind: Surface["kind"],
  { postalAddress, american }: { postalAddress: string; american: boolean },
): Box {
  const { width: w, height: h } = size;
  const at = (x: number, y: number, width: number, height: number, content: JSONContent[], more: Partial<Box> = {}): Box => ({
    id: newId(boxes),
    use,
    x: Math.max(0, Math.round(Math.min(x, w - 5) * 10) / 10),
    y: Math.max(0, Math.round(Math.min(y, h - 3) * 10) / 10),
    width: Math.round(Math.min(width, w) * 10) / 10,
    height: Math.round(Math.min(height, h) * 10) / 10,
    content,
    ...more,
  });
  switch (use) {
    case "delivery":
      return kind === "envelope"
        ? at(w * 0.44, h * 0.45, Math.min(105, w * 0.5), 28, [paragraph([field("Delivery address")])], { smallest: 8 })
        : at(0, 0, w, h, [paragraph([field("Delivery address")])], { padding: 3, valign: "middle", smallest: 7 });
    case "return":
      return at(10, 8, Math.min(75, w * 0.4), 20, [
        paragraph([field("Sender", 9)]),
        ...(postalAddress.trim() || `Your street\n${american ? "Your city, state, and ZIP Code" : "Your postal code and city"}`)
          .split("\n")
          .map((line) => paragraph([sized(line.trim(), 9)])),
      ]);
    case "indicia":
      return at(
        w - 36,
        8,
        28,
        21,
        ["First-Class Mail", "Postage paid", "Your city and state", "Permit no."].map((t) =>
          paragraph([sized(t, 7.5)], { textAlign: "center" }),
        ),
        { border: { width: 0.75, color: "#000000", radius: 0 }, padding: 1, valign: "middle" },
      );
    case "teaser":
      return at(10, h * 0.5, 70, 12, [
        paragraph([{ ...sized("Your teaser line", 13), marks: [{ type: "bold" }, { type: "textStyle", attrs: { fontSize: "13pt" } }] }]),
      ]);
    case "endorsement":
      return at(10, 30, 70, 5, [paragraph([sized("Return Service Requested", 8)])]);
    case "number":
      return kind === "envelope"
        ? at(10, h - 9, 20, 4, [paragraph([field("Piece number", 6.5)])])
        : at(w - 13, h - 4.5, 11, 3, [paragraph([field("Piece number", 5.5)], { textAlign: "right" })]);
    case "picture":
      return at(10, 8, 20, 20, []);
    case "barcode":
      return kind === "envelope"
        ? at(w - 100, h - 11, 84, 6, [{ type: "barcode", attrs: { symbology: "imb", barcodeId: "00", service: "040", mailer: "" } }])
        : at(w - h * 0.9, h * 0.05, h * 0.85, h * 0.85, [
            {
              type: "barcode",
              attrs: { symbology: "qr", source: "Piece number", width: Math.round(h * 8.5) / 10, height: Math.round(h * 8.5) / 10 },
            },
          ]);
    default:
      return at(10, h * 0.5, Math.min(60, w - 10), Math.min(12, h), [paragraph([])]);
  }
}

/** A stored surface with what it leaves open filled in. */
export function completeSurface(stored: unknown): Surface {
  const d = (stored ?? {}) as Partial<Surface>;
  const kind = d.kind === "labels" ? "labels" : "envelope";
  return {
    ...(kind === "labels"
      ? { fill: "rows" as const, copies: 1, copiesBy: null, blankBetween: null }
      : { format: "no10", orientation: "landscape" as const, window: null, zones: "US" }),
    ...d,
    kind,
    type: { family: "Source Sans 3", size: 10, lineSpacing: 1.2, ...d.type },
    boxes: (d.boxes ?? []).map((b, i) => ({ ...b, id: b.id || `box${i + 1}`, use: b.use ?? "text", content: withChips(b.content ?? []) })),
  };
}

/** How large the piece is, millimetres. */
export function surfaceSize(
  s: Surface,
  envelopes: Schema["EnvelopeView"][],
  stocks: Schema["StockView"][],
): { width: number; height: number } {
  if (s.kind === "labels") {
    const stock = stockOf(s, stocks);
    return stock ? { width: stock.labelWidth, height: stock.labelHeight } : { width: 66.675, height: 25.4 };
  }
  const known = envelopes.find((e) => e.id === s.format);
  const size =
    s.format === "custom" || !known ? { width: s.width ?? 241.3, height: s.height ?? 104.8 } : { width: known.width, height: known.height };
  return s.orientation === "portrait" ? { width: Math.min(size.width, size.height), height: Math.max(size.width, size.height) } : size;
}

/** The measures of a design's stock. */
export const stockOf = (s: Surface, stocks: Schema["StockView"][]): OwnStock | undefined =>
  typeof s.stock === "object" ? s.stock : (stocks.find((k) => k.id === s.stock) as OwnStock | undefined);
