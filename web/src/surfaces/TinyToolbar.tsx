import type { Editor } from "@tiptap/core";
import { useEditorState } from "@tiptap/react";
import { AlignCenter, AlignLeft, AlignRight, Bold, Italic } from "lucide-react";
import type { Schema } from "../api/client";
import { builtIns } from "../designs/FieldsPane";
import type { Surface } from "./surface";

const sizes = [5, 5.5, 6, 6.5, 7, 7.5, 8, 9, 10, 11, 12, 13, 14, 16, 18, 20, 24, 28, 36, 48];

/** What can be done to a box's text: few things, in the room that the panel has. */
export function TinyToolbar({
  editor,
  surface,
  families,
  columns,
}: {
  editor: Editor;
  surface: Surface;
  families: string[];
  columns: Schema["Column"][];
}) {
  const s = useEditorState({
    editor,
    selector: ({ editor: e }) => ({
      bold: e.isActive("bold"),
      italic: e.isActive("italic"),
      family: (e.getAttributes("textStyle").fontFamily as string | undefined) ?? surface.type.family,
      size: parseFloat((e.getAttributes("textStyle").fontSize as string | undefined) ?? String(surface.type.size)),
      align: String(e.getAttributes("paragraph").textAlign ?? "left"),
      color: (e.getAttributes("textStyle").color as string | undefined) ?? "#000000",
      empty: e.state.selection.empty,
    }),
  });
  // A small box is formatted as a whole until a part of it is selected.
  const chain = () => (s.empty ? editor.chain().focus().selectAll() : editor.chain().focus());
  const button = (label: string, Icon: typeof Bold, active: boolean, run: () => void) => (
    <button
      key={label}
      type="button"
      className={`btn btn-sm btn-square h-7 w-7 ${active ? "btn-primary" : "btn-ghost"}`}
      aria-label={label}
      title={label}
      aria-pressed={active}
      onMouseDown={(e) => e.preventDefault()}
      onClick={run}
    >
      <Icon size={14} />
    </button>
  );
  return (
    <div className="flex flex-wrap items-center gap-0.5" role="toolbar" aria-label="Box text">
      <select
        className="select select-sm w-[118px] pr-6 pl-2"
        aria-label="Font"
        value={s.family}
        onChange={(e) => chain().setFontFamily(e.target.value).run()}
      >
        {families.map((f) => (
          <option key={f}>{f}</option>
        ))}
      </select>
      <select
        className="select select-sm w-[76px] pr-6 pl-2"
        aria-label="Size"
        value={s.size}
        onChange={(e) => chain().setFontSize(`${e.target.value}pt`).run()}
      >
        {[...new Set([...sizes, s.size])]
          .sort((a, b) => a - b)
          .map((n) => (
            <option key={n} value={n}>
              {n} pt
            </option>
          ))}
      </select>
      <input type="color" className="h-6 w-7" aria-label="Color" value={s.color} onChange={(e) => chain().setColor(e.target.value).run()} />
      {button("Bold", Bold, s.bold, () => chain().toggleBold().run())}
      {button("Italic", Italic, s.italic, () => chain().toggleItalic().run())}
      {button("Align left", AlignLeft, s.align === "left", () => chain().setTextAlign("left").run())}
      {button("Center", AlignCenter, s.align === "center", () => chain().setTextAlign("center").run())}
      {button("Align right", AlignRight, s.align === "right", () => chain().setTextAlign("right").run())}
      <select
        className="select select-sm w-[118px] pr-6 pl-2"
        aria-label="Insert field"
        value=""
        onChange={(e) => {
          const marks = (editor.state.storedMarks ?? editor.state.selection.$from.marks()).map((m) => m.toJSON() as { type: string });
          if (e.target.value)
            editor
              .chain()
              .focus()
              .insertContent({ type: "field", attrs: { source: e.target.value }, marks })
              .run();
        }}
      >
        <option value="">+ Field</option>
        <optgroup label="Built-in fields">
          {builtIns.map((b) => (
            <option key={b.name}>{b.name}</option>
          ))}
        </optgroup>
        <optgroup label="Columns">
          {columns.map((c) => (
            <option key={c.id}>{c.name}</option>
          ))}
        </optgroup>
      </select>
    </div>
  );
}
