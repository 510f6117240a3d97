import { Extension, Mark, mergeAttributes, Node } from "@tiptap/core";
import { sheets, type Letter } from "../letter";
import { inkOn } from "../contrast";
import { lengths } from "../../ui/customs";

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

type Attributes = Record<string, unknown>;

/** A sheet with its margins, millimetres. */
export type PageLayout = Letter["page"];

const says = (page: PageLayout) =>
  `next page, ${page.sheet === "custom" ? lengths(page.width ?? 0, page.height ?? 0) : sheets[page.sheet].name}, ${
    page.orientation === "landscape" ? "landscape" : "portrait"
  }`;

/** What follows begins a page. */
export const PageBreak = Node.create({
  name: "pageBreak",
  group: "block",
  atom: true,
  selectable: true,
  addAttributes: () => ({
    /** The sheet and margins from here on; null for those of the pages before. */
    page: {
      default: null,
      parseHTML: (e: HTMLElement) => (e.dataset.page ? (JSON.parse(e.dataset.page) as PageLayout) : null),
      renderHTML: (a: Attributes) => (a.page ? { "data-page": JSON.stringify(a.page), "data-says": says(a.page as PageLayout) } : {}),
    },
  }),
  parseHTML: () => [{ tag: "div[data-page-break]" }],
  renderHTML: ({ HTMLAttributes }) => [
    "div",
    mergeAttributes({ "data-page-break": "", class: "page-break", "data-says": "next page" }, HTMLAttributes),
  ],
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
  /** What fills the way to it. */
  leader?: "dots" | "dashes" | "line";
}

/** Lines around a paragraph: the sides that have one, divided by spaces. */
export interface ParagraphBorder {
  sides: string;
  width: number;
  color: string;
}

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
        // In an email: the paragraph's link is a button of this color.
        button: {
          default: null,
          keepOnSplit: false,
          parseHTML: (e: HTMLElement) => e.dataset.button ?? null,
          renderHTML: (a: Attributes) =>
            a.button
              ? { "data-button": String(a.button), style: `--button: ${String(a.button)}; --button-ink: ${inkOn(String(a.button))}` }
              : {},
        },
        tabs: {
          default: null,
          keepOnSplit: true,
          parseHTML: (e: HTMLElement) => (e.dataset.tabs ? (JSON.parse(e.dataset.tabs) as TabStop[]) : null),
          renderHTML: (a: Attributes) => (a.tabs ? { "data-tabs": JSON.stringify(a.tabs) } : {}),
        },
        // What its style was called in the document that it came with; it leaves with it.
        named: {
          default: null,
          keepOnSplit: true,
          parseHTML: (e: HTMLElement) => e.dataset.named ?? null,
          renderHTML: (a: Attributes) => (a.named ? { "data-named": String(a.named) } : {}),
        },
        shade: {
          default: null,
          keepOnSplit: true,
          parseHTML: (e: HTMLElement) => e.dataset.shade ?? null,
          renderHTML: (a: Attributes) => (a.shade ? { "data-shade": String(a.shade), style: `background-color: ${String(a.shade)}` } : {}),
        },
        border: {
          default: null,
          keepOnSplit: true,
          parseHTML: (e: HTMLElement) => (e.dataset.border ? (JSON.parse(e.dataset.border) as ParagraphBorder) : null),
          renderHTML: (a: Attributes) => {
            const border = a.border as ParagraphBorder | null;
            if (!border) return {};
            const lines = border.sides.split(" ").map((side) => `border-${side}: ${border.width}pt solid ${border.color}`);
            return { "data-border": JSON.stringify(border), style: lines.join("; ") };
          },
        },
      },
    },
    {
      types: ["heading"],
      attributes: {
        // A heading that came with a document looks as its text says.
        plain: {
          default: null,
          parseHTML: (e: HTMLElement) => (e.dataset.plain === "true" ? true : null),
          renderHTML: (a: Attributes) => (a.plain ? { "data-plain": "true", style: "font-size: inherit; font-weight: inherit" } : {}),
        },
      },
    },
    {
      types: ["bulletList", "orderedList"],
      attributes: {
        indent: measured("indent", (v) => `padding-left: ${v}mm`),
        hang: measured("hang", () => ""),
      },
    },
    {
      types: ["orderedList"],
      attributes: {
        style: {
          default: null,
          parseHTML: (e: HTMLElement) => e.dataset.style ?? null,
          renderHTML: (a: Attributes) => (a.style ? { "data-style": String(a.style), style: `list-style-type: ${String(a.style)}` } : {}),
        },
        label: {
          default: null,
          parseHTML: (e: HTMLElement) => e.dataset.label ?? null,
          renderHTML: (a: Attributes) => (a.label ? { "data-label": String(a.label) } : {}),
        },
      },
    },
    {
      types: ["bulletList"],
      attributes: {
        bullet: {
          default: null,
          parseHTML: (e: HTMLElement) => e.dataset.bullet ?? null,
          renderHTML: (a: Attributes) =>
            a.bullet ? { "data-bullet": String(a.bullet), style: `list-style-type: "${String(a.bullet).replace(/["\\]/g, "")}  "` } : {},
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
