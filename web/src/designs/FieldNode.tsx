import { mergeAttributes, Node } from "@tiptap/core";
import { NodeViewWrapper, ReactNodeViewRenderer, type NodeViewProps } from "@tiptap/react";
import { createContext, useContext } from "react";
import { readField } from "./fieldSource";

/** Messages for fields that the list cannot fill, by their source. */
export const Mistakes = createContext<ReadonlyMap<string, string>>(new Map());

function Chip({ node, selected }: NodeViewProps) {
  const source = String(node.attrs.source);
  const wrong = useContext(Mistakes).get(source);
  const field = readField(source);
  const has = (mark: string) => node.marks.some((m) => m.type.name === mark);
  return (
    <NodeViewWrapper
      as="span"
      className={`chip ${selected ? "is-selected" : ""} ${has("bold") ? "strong-chip" : ""} ${has("italic") ? "slanted-chip" : ""} ${has("underline") ? "lined-chip" : ""}`}
      data-wrong={wrong ? "true" : undefined}
      data-source={source}
      title={wrong ?? `{${source}}`}
    >
      {field.expression}
      {field.formats.length > 0 && <small>{field.formats.join(" ")}</small>}
    </NodeViewWrapper>
  );
}

/** A field in the text: one thing that is stepped over, deleted and formatted as a whole. */
export const FieldNode = Node.create({
  name: "field",
  group: "inline",
  inline: true,
  atom: true,
  selectable: true,
  draggable: true,
  addAttributes() {
    return { source: { default: "", parseHTML: (e) => e.getAttribute("data-source"), renderHTML: (a) => ({ "data-source": String(a.source) }) } };
  },
  parseHTML() {
    return [{ tag: "span[data-source]" }];
  },
  renderHTML({ HTMLAttributes, node }) {
    return ["span", mergeAttributes({ class: "chip" }, HTMLAttributes), `{${String(node.attrs.source)}}`];
  },
  renderText({ node }) {
    return `{${String(node.attrs.source)}}`;
  },
  addNodeView() {
    return ReactNodeViewRenderer(Chip, { as: "span", attrs: { style: "display: inline" } });
  },
});
