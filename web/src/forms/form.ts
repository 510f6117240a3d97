import { builtIns } from "../designs/FieldsPane";
import { many } from "../ui/words";

export type FormFieldKind = "text" | "check" | "radio" | "choice" | "other";
export type MarkShape = "check" | "cross" | "circle" | "square" | "diamond" | "star";

/** Where a field stands, points from the page's left and top edges. */
export interface FormWidget {
  page: number;
  x: number;
  y: number;
  width: number;
  height: number;
  on?: string;
  label?: string;
}

export interface FormField {
  name: string;
  kind: FormFieldKind;
  label: string;
  widgets: FormWidget[];
  tooltip?: string;
  maxLength?: number;
  comb?: boolean;
  multiline?: boolean;
  required?: boolean;
  readOnly?: boolean;
  editable?: boolean;
  format?: string;
  calculated?: boolean;
  initial?: string;
  options?: { value: string; label: string }[];
}

export interface FormPageFacts {
  width: number;
  height: number;
  across?: number[];
  down?: number[];
}

export type FormBoxUse = "text" | "cells" | "mark" | "picture" | "barcode";

/** A box that was placed on the form; millimetres. */
export interface FormBox {
  id: string;
  /** From 1; 0 for every page. */
  page: number;
  use: FormBoxUse;
  x: number;
  y: number;
  width: number;
  height: number;
  value: string;
  family: string;
  size: number;
  bold: boolean;
  italic: boolean;
  color: string;
  align: "left" | "center" | "right";
  valign: "top" | "middle" | "bottom";
  wraps: boolean;
  smallest: number;
  cells: number;
  mark: MarkShape;
  symbology: "qr" | "code128" | "dataMatrix";
  picture: string | null;
}

/** A form in its stored form; docs/forms.md describes it. */
export interface Form {
  kind: "form";
  asset: string;
  file: string;
  facts: { pages: FormPageFacts[]; fields: FormField[]; notes: string[] };
  answers: Record<string, string>;
  boxes: FormBox[];
  output: "printed" | "fillable" | "readonly";
  /** For whom it goes into the package; null for everyone. */
  when: string | null;
  /** The name, with fields, of a document kept with each recipient that goes in place of the file; null for the file. */
  own: string | null;
}

/** A stored form with all that it leaves open: scripts write only what differs. */
export const completeForm = (stored: unknown): Form => {
  const form = stored as Partial<Form> & Pick<Form, "asset" | "facts">;
  return {
    kind: "form",
    asset: form.asset,
    file: form.file ?? "form.pdf",
    facts: { ...form.facts, notes: form.facts.notes ?? [] },
    answers: { ...form.answers },
    boxes: (form.boxes ?? []).map((b: Partial<FormBox>) => ({
      ...newBox(b.use ?? "text", b.page ?? 1, b.x ?? 0, b.y ?? 0, b.value ?? ""),
      ...b,
    })),
    output: form.output ?? "printed",
    when: form.when ?? null,
    own: form.own ?? null,
  };
};

export const millimetres = (points: number) => (points * 25.4) / 72;
export const points = (mm: number) => (mm * 72) / 25.4;
export const round = (mm: number) => Math.round(mm * 10) / 10;

const sizes: Record<FormBoxUse, [number, number]> = {
  text: [60, 6],
  cells: [40, 7],
  mark: [4, 4],
  picture: [30, 30],
  barcode: [22, 22],
};

export function newBox(use: FormBoxUse, page: number, x: number, y: number, value = ""): FormBox {
  const [width, height] = sizes[use];
  return {
    id: `b${crypto.randomUUID().slice(0, 8)}`,
    page,
    use,
    x: round(x),
    y: round(y),
    width,
    height,
    value,
    family: "Arimo",
    size: 10,
    bold: false,
    italic: false,
    color: "#000000",
    align: "left",
    valign: "middle",
    wraps: false,
    smallest: 7,
    cells: 5,
    mark: "check",
    symbology: "qr",
    picture: null,
  };
}

export const useNames: Record<FormBoxUse, string> = {
  text: "Text",
  cells: "Cells",
  mark: "Mark",
  picture: "Picture",
  barcode: "Barcode",
};

/** Text that fills something in with a column or another field. A heading can hold words that mean something in an expression. */
export const fieldText = (name: string) =>
  builtIns.some((b) => b.name === name) || /^\p{L}[\p{L}\p{N}]*$/u.test(name) ? `{${name}}` : `{\`${name}\`}`;

/** The one field that a text consists of; null where it is more, or less. */
export const onlyField = (text: string) => {
  const name = /^\{\s*(?:`([^`]+)`|([^{}|`]+?))\s*\}$/.exec(text);
  return name ? (name[1] ?? name[2] ?? null) : null;
};

/** True for a field that somebody should decide about. */
export const isOpen = (form: Form, field: FormField) =>
  field.kind !== "other" && !field.readOnly && !field.initial && form.answers[field.name] === undefined;

/** What a field takes, in a word or two. */
export const fieldHint = (f: FormField) =>
  [
    f.comb && f.maxLength ? `${f.maxLength} cells` : f.maxLength ? `up to ${f.maxLength} characters` : null,
    f.kind === "check" && f.widgets.length === 1 ? "check box" : null,
    f.kind === "check" && f.widgets.length > 1 ? `${f.widgets.length} check boxes` : null,
    f.kind === "radio" ? many(f.widgets.length, "choice", "choices") : null,
    f.kind === "choice" ? many(f.options?.length ?? 0, "choice", "choices") : null,
    f.multiline ? "several lines" : null,
    f.required ? "required" : null,
    f.readOnly ? "read-only" : null,
    f.calculated ? "calculated" : null,
  ]
    .filter(Boolean)
    .join(", ");

/** What a field's answer can be, where the form offers values. */
export const offered = (f: FormField): string[] =>
  f.kind === "choice"
    ? (f.options ?? []).map((o) => o.label || o.value)
    : f.kind === "radio" || (f.kind === "check" && f.widgets.length > 1)
      ? f.widgets.map((w) => w.label ?? w.on ?? "").filter(Boolean)
      : [];

/** What becomes of the fields in the finished file. */
export const fieldOutputs = [
  ["printed", "printed in"],
  ["fillable", "fillable"],
  ["readonly", "read-only"],
] as const;
