import { Extension, type Editor } from "@tiptap/core";
import { Table, TableCell, TableHeader, TableRow } from "@tiptap/extension-table";
import { Plugin, PluginKey } from "@tiptap/pm/state";
import { Decoration, DecorationSet } from "@tiptap/pm/view";

type Attributes = Record<string, unknown>;
/** A line at the side of a cell: points, and a color. */
export interface CellLine {
  width: number;
  color: string;
}

/** The lines of a cell that does not follow its table; a side that is missing has none. */
export type CellLines = Partial<Record<CellSide, CellLine>>;

export const cellSides = ["top", "right", "bottom", "left"] as const;
export type CellSide = (typeof cellSides)[number];

const linesStyle = (lines: CellLines) =>
  cellSides
    .map((side) => {
      const line = lines[side];
      return `border-${side}: ${line ? `${line.width}pt solid ${line.color}` : "1px dotted #d8d2c4"}`;
    })
    .join("; ");

/** The table around the cursor follows its own lines in every cell again. */
export const followTable = (editor: Editor) => {
  const { $from } = editor.state.selection;
  for (let depth = $from.depth; depth > 0; depth--) {
    if ($from.node(depth).type.name !== "table") continue;
    const start = $from.before(depth);
    editor
      .chain()
      .command(({ tr }) => {
        $from.node(depth).descendants((node, at) => {
          if (node.attrs.lines && node.type.spec.tableRole !== "table") tr.setNodeAttribute(start + 1 + at, "lines", null);
          return node.type.name !== "table";
        });
        return true;
      })
      .run();
    return;
  }
};

const cellAttributes = {
  lines: {
    default: null,
    parseHTML: (e: HTMLElement) => (e.dataset.cellLines ? (JSON.parse(e.dataset.cellLines) as CellLines) : null),
    renderHTML: (a: Attributes) => (a.lines ? { "data-cell-lines": JSON.stringify(a.lines), style: linesStyle(a.lines as CellLines) } : {}),
  },
  shade: {
    default: null,
    parseHTML: (e: HTMLElement) => e.dataset.shade ?? null,
    renderHTML: (a: Attributes) => (a.shade ? { "data-shade": String(a.shade), style: `background-color: ${String(a.shade)}` } : {}),
  },
  valign: {
    default: null,
    parseHTML: (e: HTMLElement) => e.dataset.valign ?? null,
    renderHTML: (a: Attributes) => (a.valign ? { "data-valign": String(a.valign), style: `vertical-align: ${String(a.valign)}` } : {}),
  },
};

/** Rows say what bracket they stand in; the label is drawn beside them. */
const rowLabels = Extension.create({
  name: "rowLabels",
  addProseMirrorPlugins: () => [
    new Plugin({
      key: new PluginKey("rowLabels"),
      props: {
        decorations(state) {
          const found: Decoration[] = [];
          state.doc.descendants((node, at) => {
            const bracket = node.type.name === "tableRow" ? (node.attrs.bracket as string | null) : null;
            if (!bracket) return;
            found.push(
              Decoration.widget(
                at + 3,
                () => {
                  const label = document.createElement("span");
                  label.className = "row-label";
                  label.contentEditable = "false";
                  label.textContent = bracket;
                  return label;
                },
                { side: -1, key: `row-${bracket}` },
              ),
            );
          });
          return DecorationSet.create(state.doc, found);
        },
      },
    }),
  ],
});

/** Tables with lines, shades, merged cells, heading rows, and rows in brackets. */
export const tables = [
  Table.extend({
    addAttributes() {
      return {
        ...this.parent?.(),
        lines: {
          default: "rows",
          parseHTML: (e: HTMLElement) => e.dataset.lines ?? "rows",
          renderHTML: (a: Attributes) => ({ "data-lines": String(a.lines) }),
        },
        lineColor: { default: null },
        vanishes: {
          default: false,
          parseHTML: (e: HTMLElement) => e.dataset.vanishes === "true",
          renderHTML: (a: Attributes) => (a.vanishes ? { "data-vanishes": "true" } : {}),
        },
      };
    },
  }).configure({ resizable: true, lastColumnResizable: false, cellMinWidth: 24, View: null }),
  TableRow.extend({
    addAttributes() {
      return {
        ...this.parent?.(),
        bracket: {
          default: null,
          parseHTML: (e: HTMLElement) => e.dataset.bracket ?? null,
          renderHTML: (a: Attributes) =>
            a.bracket ? { "data-bracket": String(a.bracket), class: /^\s*each/i.test(String(a.bracket)) ? "row-each" : "row-when" } : {},
        },
      };
    },
  }),
  TableCell.extend({
    addAttributes() {
      return { ...this.parent?.(), ...cellAttributes };
    },
  }),
  TableHeader.extend({
    addAttributes() {
      return { ...this.parent?.(), ...cellAttributes };
    },
  }),
  rowLabels,
];
