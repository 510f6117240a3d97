import { mergeAttributes, Node, type Editor, type JSONContent } from "@tiptap/core";

declare module "@tiptap/core" {
  interface Commands<ReturnType> {
    boxes: {
      /** Puts what is selected, or a new paragraph, into a box or into columns. */
      putInto: (type: "box" | "columns", attributes: Record<string, unknown>) => ReturnType;
      /** Takes away the box or columns around the selection; what stands in them stays. */
      takeOutOf: (type: "box" | "columns") => ReturnType;
      /** Puts a footnote where the cursor is. */
      putFootnote: () => ReturnType;
    };
  }
}

/** The line around a box: points, and a color. */
export interface BoxLine {
  width: number;
  color: string;
}

type Attributes = Record<string, unknown>;

const mm = (value: unknown) => `${Number(value)}mm`;

/** Where a box or a picture stands, as the editor's page shows it. */
export function placeStyle(a: Attributes): string {
  switch (a.place) {
    case "page":
      return `position:absolute;z-index:2;left:calc(${mm(a.x)} - var(--margin-left));top:calc(${mm(a.y)} - var(--margin-top))`;
    case "left":
      return `float:left;margin:0 ${mm(a.gap)} ${mm(Number(a.gap) / 2)} 0`;
    case "right":
      return `float:right;margin:0 0 ${mm(Number(a.gap) / 2)} ${mm(a.gap)}`;
    default:
      return `clear:both;margin:0 ${a.align === "right" ? "0" : "auto"} var(--space-after) ${a.align === "left" ? "0" : "auto"}`;
  }
}

const json = (name: string) => ({
  parseHTML: (e: HTMLElement): unknown => (JSON.parse(e.dataset.attributes ?? "{}") as Attributes)[name],
  renderHTML: () => ({}),
});

const named = (first: Attributes) =>
  Object.fromEntries(Object.entries(first).map(([name, value]) => [name, { default: value, ...json(name) }]));

/** Text in a box: in the text, beside it, or at a place of the page. Millimetres. */
export const BoxNode = Node.create({
  name: "box",
  group: "block",
  content: "block*",
  isolating: true,
  defining: true,
  addAttributes: () =>
    named({ width: 60, height: 0, padding: 2, gap: 3.2, shade: null, border: null, place: null, align: "left", x: 25, y: 25 }),
  parseHTML: () => [{ tag: "div[data-letter-box]" }],
  renderHTML: ({ node }) => {
    const a = node.attrs;
    const line = a.border as BoxLine | null;
    const style = [
      `box-sizing:border-box;width:${mm(a.width)};min-height:${mm(a.height)};padding:${mm(a.padding)}`,
      line ? `border:${line.width}pt solid ${line.color}` : "",
      a.shade ? `background:${String(a.shade)}` : "",
      placeStyle(a),
    ];
    return [
      "div",
      mergeAttributes({
        "data-letter-box": "",
        "data-attributes": JSON.stringify(a),
        class: line || a.shade ? "letter-box" : "letter-box bare-box",
        style: style.filter(Boolean).join(";"),
      }),
      0,
    ];
  },
  addCommands: () => ({
    putInto:
      (type, attributes) =>
      ({ state, chain }) => {
        const { $from, $to } = state.selection;
        const range = $from.blockRange($to);
        const around = range && !state.selection.empty ? range : null;
        if (!around) {
          const inner: JSONContent = { type, attrs: attributes, content: [{ type: "paragraph" }] };
          return chain()
            .insertContentAt($from.depth === 0 ? $from.pos : $from.before(1), inner)
            .setTextSelection(($from.depth === 0 ? $from.pos : $from.before(1)) + 2)
            .run();
        }
        return chain().wrapIn(type, attributes).run();
      },
    takeOutOf:
      (type) =>
      ({ state, tr, dispatch }) => {
        const { $from } = state.selection;
        for (let depth = $from.depth; depth > 0; depth--) {
          const node = $from.node(depth);
          if (node.type.name !== type) continue;
          const from = $from.before(depth);
          const rest = node.childCount > 0 ? node.content : state.schema.nodes.paragraph?.create();
          if (rest) dispatch?.(tr.replaceWith(from, from + node.nodeSize, rest));
          return true;
        }
        return false;
      },
    putFootnote:
      () =>
      ({ chain, state }) =>
        chain()
          .insertContent({ type: "footnote", attrs: { content: [{ type: "paragraph" }] } })
          .setNodeSelection(state.selection.from)
          .run(),
  }),
});

/** Text in columns beside one another. The gap in millimetres. */
export const ColumnsNode = Node.create({
  name: "columns",
  group: "block",
  content: "block+",
  defining: true,
  addAttributes: () => named({ count: 2, gap: 8, line: false }),
  parseHTML: () => [{ tag: "div[data-letter-columns]" }],
  renderHTML: ({ node }) => {
    const a = node.attrs;
    return [
      "div",
      mergeAttributes({
        "data-letter-columns": "",
        "data-attributes": JSON.stringify(a),
        class: "letter-columns",
        style: `column-count:${Number(a.count)};column-gap:${mm(a.gap)};column-rule:${a.line ? "0.5pt solid #8a8577" : "none"}`,
      }),
      0,
    ];
  },
});

/** A footnote: its number in the line; what it says is kept with it. */
export const FootnoteNode = Node.create({
  name: "footnote",
  group: "inline",
  inline: true,
  atom: true,
  selectable: true,
  addAttributes: () => ({ content: { default: [{ type: "paragraph" }], ...json("content") } }),
  parseHTML: () => [{ tag: "span[data-footnote]" }],
  renderHTML: ({ node }) => [
    "span",
    {
      "data-footnote": "",
      "data-attributes": JSON.stringify(node.attrs),
      class: "footnote-mark",
      title: noteText(node.attrs.content as JSONContent[]),
    },
  ],
});

/** What a footnote says, its paragraphs a line each, fields in braces. */
export const noteText = (blocks: JSONContent[]): string =>
  blocks
    .map((b) =>
      (b.content ?? [])
        .map((n) =>
          n.type === "field" || n.type === "marker" ? `{${String(n.attrs?.source ?? "")}}` : n.type === "hardBreak" ? " " : (n.text ?? ""),
        )
        .join(""),
    )
    .join("\n");

/** A footnote's paragraphs for a text, looking as the first one did. */
export function noteBlocks(text: string, was: JSONContent[]): JSONContent[] {
  const first = was[0];
  const marks = first?.content?.find((n) => n.type === "text")?.marks;
  return text.split("\n").map((line) => ({
    type: "paragraph",
    ...(first?.attrs ? { attrs: first.attrs } : {}),
    ...(line ? { content: [{ type: "text", text: line, ...(marks ? { marks } : {}) }] } : {}),
  }));
}

/** The innermost box or columns around the cursor, or the footnote that is selected. */
export function aroundCursor(editor: Editor): { type: "box" | "columns"; at: number; attrs: Attributes } | null {
  const { $from } = editor.state.selection;
  for (let depth = $from.depth; depth > 0; depth--) {
    const node = $from.node(depth);
    if (node.type.name === "box" || node.type.name === "columns")
      return { type: node.type.name, at: $from.before(depth), attrs: node.attrs };
  }
  const selected = (editor.state.selection as { node?: { type: { name: string }; attrs: Attributes } }).node;
  return selected?.type.name === "box" ? { type: "box", at: $from.pos, attrs: selected.attrs } : null;
}
