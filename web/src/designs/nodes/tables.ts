import { Extension } from "@tiptap/core";
import { Table, TableCell, TableHeader, TableRow } from "@tiptap/extension-table";
import { Plugin, PluginKey } from "@tiptap/pm/state";
import { Decoration, DecorationSet } from "@tiptap/pm/view";

type Attributes = Record<string, unknown>;
const cellAttributes = {
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
