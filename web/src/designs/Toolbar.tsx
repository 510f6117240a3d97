import type { Editor } from "@tiptap/core";
import { useEditorState } from "@tiptap/react";
import { AlignCenter, AlignJustify, AlignLeft, AlignRight, Bold, FileCog, ImagePlus, Italic, Redo2, Underline, Undo2 } from "lucide-react";
import { useRef } from "react";
import { sendFile, type Schema } from "../api/client";
import { sayWrong } from "../ui/notices";
import type { Letter } from "./letter";

const sizes = [8, 9, 10, 10.5, 11, 12, 13, 14, 16, 17, 18, 20, 24, 28, 36, 48];

interface Props {
  editor: Editor;
  letter: Letter;
  families: string[];
  onPage: () => void;
}

/** What can be done to the text that is selected. */
export function Toolbar({ editor, letter, families, onPage }: Props) {
  const file = useRef<HTMLInputElement>(null);
  const s = useEditorState({
    editor,
    selector: ({ editor: e }) => ({
      bold: e.isActive("bold"),
      italic: e.isActive("italic"),
      underline: e.isActive("underline"),
      family: (e.getAttributes("textStyle").fontFamily as string | undefined) ?? letter.type.family,
      size: parseFloat((e.getAttributes("textStyle").fontSize as string | undefined) ?? `${letter.type.size}`),
      picture: e.isActive("picture"),
      align: e.isActive("picture") ? String(e.getAttributes("picture").align) : String(e.getAttributes("paragraph").textAlign ?? "left"),
      canUndo: e.can().undo(),
      canRedo: e.can().redo(),
    }),
  });
  const button = (label: string, Icon: typeof Bold, active: boolean, run: () => void, off = false) => (
    <button className={`btn btn-sm btn-square ${active ? "btn-primary" : "btn-ghost"}`} aria-label={label} title={label} aria-pressed={active} disabled={off} onMouseDown={(e) => e.preventDefault()} onClick={run}>
      <Icon size={15} />
    </button>
  );
  const align = (to: string) => (s.picture ? editor.chain().focus().updateAttributes("picture", { align: to }).run() : editor.chain().focus().setTextAlign(to).run());
  const bring = async (picked: File | undefined) => {
    if (!picked) return;
    try {
      const picture = await sendFile<Schema["PictureRow"]>(`/api/pictures?name=${encodeURIComponent(picked.name)}`, picked);
      const width = Math.min(120, Math.max(10, Math.round((picture.width / 150) * 25.4)));
      editor.chain().focus().insertContent({ type: "picture", attrs: { asset: picture.id, width, aspect: picture.width / picture.height, align: "left", alt: picked.name.replace(/\.[^.]+$/, "") } }).run();
    } catch (e) {
      sayWrong(e);
    }
  };
  const divider = <span className="mx-1 h-5 border-l border-base-300" />;
  return (
    <div className="flex h-10 shrink-0 items-center gap-0.5 border-b border-line px-2" role="toolbar" aria-label="Text">
      {button("Undo (Ctrl Z)", Undo2, false, () => editor.chain().focus().undo().run(), !s.canUndo)}
      {button("Redo (Ctrl Y)", Redo2, false, () => editor.chain().focus().redo().run(), !s.canRedo)}
      {divider}
      <select
        className="select select-sm w-[124px]"
        aria-label="Typeface"
        value={s.family}
        onChange={(e) => (e.target.value === letter.type.family ? editor.chain().focus().unsetFontFamily().run() : editor.chain().focus().setFontFamily(e.target.value).run())}
      >
        {families.map((f) => (
          <option key={f}>{f}</option>
        ))}
      </select>
      <select className="select select-sm w-[76px]" aria-label="Size" value={s.size} onChange={(e) => (Number(e.target.value) === letter.type.size ? editor.chain().focus().unsetFontSize().run() : editor.chain().focus().setFontSize(`${e.target.value}pt`).run())}>
        {[...new Set([...sizes, s.size])]
          .sort((a, b) => a - b)
          .map((n) => (
            <option key={n} value={n}>
              {n} pt
            </option>
          ))}
      </select>
      {divider}
      {button("Bold (Ctrl B)", Bold, s.bold, () => editor.chain().focus().toggleBold().run())}
      {button("Italic (Ctrl I)", Italic, s.italic, () => editor.chain().focus().toggleItalic().run())}
      {button("Underline (Ctrl U)", Underline, s.underline, () => editor.chain().focus().toggleUnderline().run())}
      {divider}
      {button("Left", AlignLeft, s.align === "left", () => align("left"))}
      {button("Centred", AlignCenter, s.align === "center", () => align("center"))}
      {button("Right", AlignRight, s.align === "right", () => align("right"))}
      {!s.picture && button("Justified", AlignJustify, s.align === "justify", () => align("justify"))}
      {divider}
      {button("Put a picture in", ImagePlus, false, () => file.current?.click())}
      <input
        ref={file}
        type="file"
        className="hidden"
        accept="image/png,image/jpeg"
        aria-label="Picture file"
        onChange={(e) => {
          void bring(e.target.files?.[0]);
          e.target.value = "";
        }}
      />
      <button className="btn btn-ghost btn-sm" onClick={onPage}>
        <FileCog size={15} /> Page
      </button>
    </div>
  );
}
