import { Extension, Mark, mergeAttributes, Node } from "@tiptap/core";

declare module "@tiptap/core" {
  interface Commands<ReturnType> {
    textParts: {
      setPageBreak: () => ReturnType;
      toggleSuperscript: () => ReturnType;
      toggleSubscript: () => ReturnType;
      /** Sets properties of the selected paragraphs. */
      setMeasures: (attributes: Record<string, unknown>) => ReturnType;
    };
  }
}

/** What follows begins a page. */
export const PageBreak = Node.create({
  name: "pageBreak",
  group: "block",
  atom: true,
  selectable: true,
  parseHTML: () => [{ tag: "div[data-page-break]" }],
  renderHTML: ({ HTMLAttributes }) => ["div", mergeAttributes({ "data-page-break": "", class: "page-break" }, HTMLAttributes)],
  addCommands: () => ({
    setPageBreak:
      () =>
      ({ chain }) =>
        chain()
          .insertContent([{ type: "pageBreak" }, { type: "paragraph" }])
          .run(),
  }),
  addKeyboardShortcuts() {
    return { "Mod-Enter": () => this.editor.commands.setPageBreak() };
  },
});

export const Superscript = Mark.create({
  name: "superscript",
  excludes: "subscript",
  parseHTML: () => [{ tag: "sup" }],
  renderHTML: ({ HTMLAttributes }) => ["sup", HTMLAttributes, 0],
  addCommands: () => ({
    toggleSuperscript:
      () =>
      ({ commands }) =>
        commands.toggleMark("superscript"),
  }),
});

export const Subscript = Mark.create({
  name: "subscript",
  excludes: "superscript",
  parseHTML: () => [{ tag: "sub" }],
  renderHTML: ({ HTMLAttributes }) => ["sub", HTMLAttributes, 0],
  addCommands: () => ({
    toggleSubscript:
      () =>
      ({ commands }) =>
        commands.toggleMark("subscript"),
  }),
});

export interface TabStop {
  at: number;
  kind: "left" | "right" | "center" | "decimal";
}

type Attributes = Record<string, unknown>;
const measured = (name: string, css: (value: number) => string) => ({
  default: null,
  keepOnSplit: true,
  parseHTML: (e: HTMLElement) => (e.dataset[name] ? Number(e.dataset[name]) : null),
  renderHTML: (a: Attributes) =>
    a[name] === null || a[name] === undefined
      ? {}
      : { [`data-${name.replace(/[A-Z]/g, (c) => `-${c.toLowerCase()}`)}`]: String(a[name]), style: css(Number(a[name])) },
});

/** Spacing, indents and tab stops of paragraphs and headings: points for spaces, millimetres for the rest. */
export const ParagraphMeasures = Extension.create({
  name: "paragraphMeasures",
  addGlobalAttributes: () => [
    {
      types: ["paragraph", "heading"],
      attributes: {
        lineSpacing: measured("lineSpacing", (v) => `line-height: ${v}`),
        spaceBefore: measured("spaceBefore", (v) => `margin-top: ${v}pt`),
        spaceAfter: measured("spaceAfter", (v) => `margin-bottom: ${v}pt`),
        indent: measured("indent", (v) => `padding-left: ${v}mm`),
        indentRight: measured("indentRight", (v) => `padding-right: ${v}mm`),
        firstLine: measured("firstLine", (v) => `text-indent: ${v}mm`),
        keep: {
          default: null,
          keepOnSplit: false,
          parseHTML: (e: HTMLElement) => (e.dataset.keep === "true" ? true : null),
          renderHTML: (a: Attributes) => (a.keep ? { "data-keep": "true" } : {}),
        },
        tabs: {
          default: null,
          keepOnSplit: true,
          parseHTML: (e: HTMLElement) => (e.dataset.tabs ? (JSON.parse(e.dataset.tabs) as TabStop[]) : null),
          renderHTML: (a: Attributes) => (a.tabs ? { "data-tabs": JSON.stringify(a.tabs) } : {}),
        },
      },
    },
  ],
  addCommands: () => ({
    setMeasures:
      (attributes) =>
      ({ tr, state, dispatch }) => {
        const { from, to } = state.selection;
        state.doc.nodesBetween(from, to, (node, at) => {
          if (node.type.name !== "paragraph" && node.type.name !== "heading") return;
          if (dispatch) for (const [name, value] of Object.entries(attributes)) tr.setNodeAttribute(at, name, value);
        });
        return true;
      },
  }),
  addKeyboardShortcuts() {
    return {
      // In a list or a table the key has its meaning there; elsewhere it goes to the next tab stop.
      Tab: () => {
        const { editor } = this;
        if (editor.isActive("listItem")) return editor.commands.sinkListItem("listItem") || true;
        if (editor.isActive("table")) return false;
        return editor.commands.insertContent("\t");
      },
      "Shift-Tab": () => (this.editor.isActive("listItem") ? this.editor.commands.liftListItem("listItem") || true : false),
    };
  },
});
