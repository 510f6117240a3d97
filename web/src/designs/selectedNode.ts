import type { Editor } from "@tiptap/core";
import { NodeSelection } from "@tiptap/pm/state";

/** Changes attributes of the node that is selected, which stays selected. */
export function setSelectedNode(editor: Editor, changes: Record<string, unknown>) {
  const at = editor.state.selection.from;
  return editor
    .chain()
    .command(({ tr }) => {
      for (const [name, value] of Object.entries(changes)) tr.setNodeAttribute(at, name, value);
      tr.setSelection(NodeSelection.create(tr.doc, at));
      return true;
    })
    .run();
}
