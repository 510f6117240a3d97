import { mergeAttributes, Node } from "@tiptap/core";
import { NodeViewWrapper, ReactNodeViewRenderer, type NodeViewProps } from "@tiptap/react";
import { createContext, useContext } from "react";
import { readField } from "../fieldSource";

/** How chips show themselves, and what is wrong with some. */
export interface ChipView {
  /** Messages for fields that the list cannot fill, by their source. */
  mistakes: ReadonlyMap<string, string>;
  /** What fields come to for the recipient that is shown, by their source. */
  values: ReadonlyMap<string, string>;
  mode: "names" | "values";
}

export const Chips = createContext<ChipView>({ mistakes: new Map(), values: new Map(), mode: "names" });

/** Formatting that a chip carries, as classes. */
export const markClasses = (marks: readonly { type: { name: string } }[]) =>
  marks
    .map((m) => ({ bold: "strong-chip", italic: "slanted-chip", underline: "lined-chip", strike: "struck-chip" })[m.type.name] ?? "")
    .join(" ");

function Chip({ node, selected }: NodeViewProps) {
  const source = String(node.attrs.source);
  const { mistakes, values, mode } = useContext(Chips);
  const wrong = mistakes.get(source);
  const field = readField(source);
  const value = values.get(source);
  const showsValue = mode === "values" && value !== undefined && !wrong;
  return (
    <NodeViewWrapper
      as="span"
      className={`${showsValue ? "value-chip" : "chip"} ${selected ? "is-selected" : ""} ${markClasses(node.marks)}`}
      data-wrong={wrong ? "true" : undefined}
      data-source={source}
      title={wrong ?? `{${source}}${value ? `: ${value}` : ""}`}
    >
      {showsValue ? value || "blank" : field.expression}
      {!showsValue && field.formats.length > 0 && <small>{field.formats.join(" ")}</small>}
    </NodeViewWrapper>
  );
}

const source = {
  default: "",
  parseHTML: (e: HTMLElement) => e.getAttribute("data-source"),
  renderHTML: (a: Record<string, unknown>) => ({ "data-source": String(a.source) }),
};

/** A field in the text: one thing that is stepped over, deleted and formatted as a whole. */
export const FieldNode = Node.create({
  name: "field",
  group: "inline",
  inline: true,
  atom: true,
  selectable: true,
  draggable: true,
  addAttributes: () => ({ source }),
  parseHTML: () => [{ tag: "span[data-source]:not([data-marker])" }],
  renderHTML: ({ HTMLAttributes, node }) => ["span", mergeAttributes({ class: "chip" }, HTMLAttributes), `{${String(node.attrs.source)}}`],
  renderText: ({ node }) => `{${String(node.attrs.source)}}`,
  addNodeView: () => ReactNodeViewRenderer(Chip, { as: "span", attrs: { style: "display: inline" } }),
});

function Marker({ node, selected }: NodeViewProps) {
  const text = String(node.attrs.source);
  const { mistakes } = useContext(Chips);
  const kind = /^\s*(each)\b/i.test(text) ? "each" : "when";
  const closing = /^\s*end\s*$/i.test(text);
  return (
    <NodeViewWrapper
      as="span"
      className={`marker marker-${kind} ${closing ? "marker-end" : ""} ${selected ? "is-selected" : ""}`}
      data-wrong={mistakes.has(text) ? "true" : undefined}
      data-source={text}
      title={mistakes.get(text) ?? `{${text}}`}
    >
      {closing ? "end" : text}
    </NodeViewWrapper>
  );
}

/** A bracket of *when* or *each* within a line: its beginning, a turn, or its end. */
export const MarkerNode = Node.create({
  name: "marker",
  group: "inline",
  inline: true,
  atom: true,
  selectable: true,
  draggable: true,
  addAttributes: () => ({ source }),
  parseHTML: () => [{ tag: "span[data-marker]", priority: 60 }],
  renderHTML: ({ HTMLAttributes, node }) => [
    "span",
    mergeAttributes({ class: "marker", "data-marker": "" }, HTMLAttributes),
    `{${String(node.attrs.source)}}`,
  ],
  renderText: ({ node }) => `{${String(node.attrs.source)}}`,
  addNodeView: () => ReactNodeViewRenderer(Marker, { as: "span", attrs: { style: "display: inline" } }),
});
