import type { Editor, JSONContent } from "@tiptap/core";
import { EditorContent, useEditor } from "@tiptap/react";
import { useContext, useEffect, useMemo } from "react";
import { letterExtensions } from "./extensions";
import { Chips } from "./nodes/FieldNode";
import { setMistakes } from "./plainMistakes";
import { writingLocale } from "./typing";

interface Props {
  label: string;
  content: JSONContent[];
  editable: boolean;
  /** True for letters, which have pages. */
  paged?: boolean;
  choices: () => { name: string; hint: string }[];
  onChange: (content: JSONContent[]) => void;
  onFocus: (editor: Editor) => void;
  onReady?: (editor: Editor) => void;
}

/** One part of a letter that is written in: its text, a header or a footer. */
export function BandEditor({ label, content, editable, paged = false, choices, onChange, onFocus, onReady }: Props) {
  const editor = useEditor({
    extensions: useMemo(() => letterExtensions(choices, paged), [choices, paged]),
    content: { type: "doc", content: content.length ? content : [{ type: "paragraph" }] } satisfies JSONContent,
    editable,
    editorProps: { attributes: { "aria-label": label, spellcheck: "true", lang: writingLocale() } },
    onCreate: ({ editor: e }) => {
      // The first thing may be a picture; writing begins in the text.
      let start = 0;
      e.state.doc.forEach((node, offset) => (start ||= node.isTextblock ? offset + 1 : 0));
      if (start) e.commands.setTextSelection(start);
      // One opens a letter to write in it. What has the focus already, such as a dialog's field, keeps it.
      if (onReady && editable && document.activeElement === document.body) e.commands.focus(null, { scrollIntoView: false });
      onReady?.(e);
    },
    onFocus: ({ editor: e }) => onFocus(e),
    onUpdate: ({ editor: e }) => onChange(e.isEmpty && label !== "Letter" && label !== "Email" ? [] : (e.getJSON().content ?? [])),
  });
  useEffect(() => {
    if (editor.isEditable !== editable) editor.setEditable(editable, false);
  }, [editor, editable]);
  const { mistakes } = useContext(Chips);
  useEffect(() => {
    if (!editor.isDestroyed) editor.view.dispatch(editor.state.tr.setMeta(...setMistakes(mistakes)));
  }, [editor, mistakes]);
  return <EditorContent editor={editor} />;
}
