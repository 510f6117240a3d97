import type { JSONContent } from "@tiptap/core";
import { EditorContent, useEditor } from "@tiptap/react";
import { useEffect, useMemo, type RefObject } from "react";
import { letterExtensions } from "../designs/extensions";
import { paperStyle, sheetPixels, type Letter } from "../designs/letter";
import { WatermarkText } from "../designs/WatermarkText";
import { useSize } from "../ui/useSize";

const noChoices = () => [];

/** A part of the letter to look at. */
function Shown({ content, label }: { content: JSONContent[]; label: string }) {
  const editor = useEditor({
    extensions: useMemo(() => letterExtensions(noChoices, true), []),
    content: { type: "doc", content },
    editable: false,
    editorProps: { attributes: { "aria-label": label } },
    onCreate: ({ editor: e }) => {
      // A picture that stands first would be shown as selected.
      let last = 0;
      e.state.doc.forEach((node, offset) => (last = node.isTextblock ? offset + 1 : last));
      if (last) e.commands.setTextSelection(last);
    },
  });
  const written = useMemo(() => JSON.stringify(content), [content]);
  useEffect(() => {
    if (!editor.isDestroyed && JSON.stringify(editor.getJSON().content) !== written)
      editor.commands.setContent({ type: "doc", content: JSON.parse(written) as JSONContent[] });
  }, [editor, written]);
  return <EditorContent editor={editor} />;
}

/** The letter that a document becomes, with its fields, to be looked at. */
export function DocumentSheet({ letter, sheet }: { letter: Letter; sheet: RefObject<HTMLDivElement | null> }) {
  const [area, size] = useSize<HTMLDivElement>();
  const zoom = size.width > 0 ? Math.min(1, (size.width - 48) / sheetPixels(letter.page).width) : 0.7;
  const m = letter.page.margins;
  const header = letter.firstDiffers ? letter.firstHeader : letter.header;
  const footer = letter.firstDiffers ? letter.firstFooter : letter.footer;
  return (
    <div ref={area} className="min-h-0 flex-1 overflow-auto bg-base-200 py-5">
      <div className="paper letter-page relative mx-auto" style={paperStyle(letter, zoom) as React.CSSProperties}>
        <WatermarkText mark={letter.watermark} />
        {header.length > 0 && (
          <div className="mb-4" style={{ marginTop: `${letter.edge - m.top}mm` }}>
            <Shown content={header} label="Header" />
          </div>
        )}
        <div ref={sheet} className="relative">
          <Shown content={letter.content} label="Letter" />
        </div>
        {footer.length > 0 && (
          <div className="mt-6 border-t border-line pt-2">
            <Shown content={footer} label="Footer" />
          </div>
        )}
      </div>
    </div>
  );
}
