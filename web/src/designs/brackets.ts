import type { Editor } from "@tiptap/core";
import { NodeSelection, TextSelection } from "@tiptap/pm/state";

/** The row of a table that the selection is in, with its place in the document. */
export function rowAt(editor: Editor) {
  const { $from } = editor.state.selection;
  for (let depth = $from.depth; depth > 0; depth--)
    if ($from.node(depth).type.name === "tableRow") return { node: $from.node(depth), at: $from.before(depth) };
  return null;
}

/** Sets or takes away the bracket of the row that the selection is in. */
export function setRowBracket(editor: Editor, bracket: string | null) {
  const row = rowAt(editor);
  if (row)
    editor
      .chain()
      .command(({ tr }) => (tr.setNodeAttribute(row.at, "bracket", bracket), true))
      .run();
}

/**
 * Puts a bracket around what is selected: a part of a line between two markers, whole paragraphs in a block, a row of a table as its
 * own. Without a selection it is the paragraph, or the row.
 */
export function putBracket(editor: Editor, kind: "when" | "each", rows: string) {
  const { state } = editor;
  const { from, to, $from, $to, empty } = state.selection;
  const opening = kind === "when" ? "when " : `each ${rows}`;
  if (rowAt(editor) && (empty || !$from.sameParent($to))) return setRowBracket(editor, kind === "when" ? "when " : opening);
  const part = !empty && $from.sameParent($to) && $from.parent.isTextblock && (from > $from.start() || to < $from.end());
  if (part) {
    editor
      .chain()
      .insertContentAt(to, { type: "marker", attrs: { source: "end" } })
      .insertContentAt(from, { type: "marker", attrs: { source: opening } })
      .command(({ tr }) => (tr.setSelection(NodeSelection.create(tr.doc, from)), true))
      .run();
    return;
  }
  const range = $from.blockRange($to);
  if (!range) return;
  const content = state.doc.slice(range.start, range.end).content.toJSON() as object[];
  const block =
    kind === "when"
      ? { type: "when", content: [{ type: "branch", attrs: { test: "" }, content }] }
      : { type: "each", attrs: { rows }, content };
  editor
    .chain()
    .insertContentAt({ from: range.start, to: range.end }, block)
    .command(({ tr }) => {
      const inside = Math.min(tr.doc.content.size, range.start + (kind === "when" ? 3 : 2));
      tr.setSelection(TextSelection.near(tr.doc.resolve(inside)));
      return true;
    })
    .run();
}

/** The markers of a line that belong to the one at a place: what opens, its branches, and what closes. */
export function markersOf(markers: { from: number; text: string }[], at: number): number[] {
  const opens = (t: string) => /^\s*(when|each)\b/i.test(t);
  const closes = (t: string) => /^\s*end\s*$/i.test(t);
  const groups: number[][] = [];
  const stack: number[][] = [];
  for (const m of markers) {
    if (opens(m.text)) {
      const group = [m.from];
      stack.push(group);
      groups.push(group);
    } else {
      stack[stack.length - 1]?.push(m.from);
      if (closes(m.text)) stack.pop();
    }
  }
  return groups.find((g) => g.includes(at)) ?? [at];
}

/** Takes a marker of a line out together with those that belong to it. */
export function removeMarker(editor: Editor, at: number) {
  const $at = editor.state.doc.resolve(at);
  const start = $at.start();
  const markers: { from: number; text: string }[] = [];
  $at.parent.forEach((node, offset) => {
    if (node.type.name === "marker") markers.push({ from: start + offset, text: String(node.attrs.source) });
  });
  const group = markersOf(markers, at);
  editor
    .chain()
    .command(({ tr }) => {
      for (const from of [...group].sort((a, b) => b - a)) tr.delete(from, from + 1);
      return true;
    })
    .focus()
    .run();
}
