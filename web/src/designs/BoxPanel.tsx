import type { Editor, JSONContent } from "@tiptap/core";
import { useState } from "react";
import { NumberField } from "../ui/NumberField";
import { setSelectedNode } from "./selectedNode";
import { noteBlocks, noteText, type BoxLine } from "./nodes/boxes";

/** Changes the box or the columns around the cursor, which stays where it is. */
const setAt = (editor: Editor, at: number, changes: Record<string, unknown>) =>
  editor
    .chain()
    .command(({ tr }) => {
      for (const [name, value] of Object.entries(changes)) tr.setNodeAttribute(at, name, value);
      return true;
    })
    .run();

interface Props {
  editor: Editor;
  at: number;
  attrs: Record<string, unknown>;
}

/** The box in which the cursor stands: where it is, how large, how it looks. */
export function BoxPanel({ editor, at, attrs }: Props) {
  const set = (changes: Record<string, unknown>) => setAt(editor, at, changes);
  const line = attrs.border as BoxLine | null;
  const stands = attrs.place === null ? String(attrs.align) : String(attrs.place);
  const stand = (to: string) =>
    set(
      to === "page"
        ? { place: "page", x: Number(attrs.x), y: Number(attrs.y) }
        : to === "beside-left" || to === "beside-right"
          ? { place: to === "beside-left" ? "left" : "right" }
          : { place: null, align: to },
    );
  return (
    <section className="max-h-[55%] shrink-0 overflow-auto border-t border-line bg-base-100 p-3" aria-label="Text box">
      <h2 className="mb-2">Text box</h2>
      <div className="flex flex-col gap-1.5">
        <label className="flex items-center justify-between gap-2">
          Position
          <select
            className="select select-sm w-52"
            aria-label="Position of the box"
            value={attrs.place === "left" || attrs.place === "right" ? `beside-${stands}` : stands}
            onChange={(e) => stand(e.target.value)}
          >
            <option value="beside-left">left, text wraps around it</option>
            <option value="beside-right">right, text wraps around it</option>
            <option value="left">on its own line, left</option>
            <option value="center">on its own line, centered</option>
            <option value="right">on its own line, right</option>
            <option value="page">at a fixed place on the page</option>
          </select>
        </label>
        <NumberField label="Width" value={Number(attrs.width)} low={5} high={1000} onSet={(width) => set({ width })} />
        <NumberField label="Height, at least" value={Number(attrs.height)} low={0} high={1000} onSet={(height) => set({ height })} />
        {attrs.place === "page" && (
          <>
            <NumberField label="From the left edge" value={Number(attrs.x)} low={-50} high={1000} onSet={(x) => set({ x })} />
            <NumberField label="From the top edge" value={Number(attrs.y)} low={-50} high={1000} onSet={(y) => set({ y })} />
          </>
        )}
        {(attrs.place === "left" || attrs.place === "right") && (
          <NumberField label="Distance to the text" value={Number(attrs.gap)} low={0} high={50} onSet={(gap) => set({ gap })} />
        )}
        <NumberField label="Padding" value={Number(attrs.padding)} low={0} high={50} onSet={(padding) => set({ padding })} />
        <label className="flex items-center justify-between gap-2">
          Line around it
          <input
            type="checkbox"
            className="checkbox checkbox-sm"
            checked={line !== null}
            onChange={(e) => set({ border: e.target.checked ? { width: 0.75, color: "#000000" } : null })}
          />
        </label>
        {line && (
          <>
            <NumberField
              label="Line width"
              value={line.width}
              low={0.25}
              high={20}
              unit="pt"
              onSet={(width) => set({ border: { ...line, width } })}
            />
            <label className="flex items-center justify-between gap-2">
              Line color
              <input
                type="color"
                className="h-6 w-10 cursor-pointer"
                aria-label="Line color"
                value={line.color}
                onChange={(e) => set({ border: { ...line, color: e.target.value } })}
              />
            </label>
          </>
        )}
        <label className="flex items-center justify-between gap-2">
          Background
          <span className="flex items-center gap-2">
            <input
              type="checkbox"
              className="checkbox checkbox-sm"
              aria-label="Background"
              checked={Boolean(attrs.shade)}
              onChange={(e) => set({ shade: e.target.checked ? "#f2ede3" : null })}
            />
            {Boolean(attrs.shade) && (
              <input
                type="color"
                className="h-6 w-10 cursor-pointer"
                aria-label="Background color"
                value={String(attrs.shade)}
                onChange={(e) => set({ shade: e.target.value })}
              />
            )}
          </span>
        </label>
        <button className="btn btn-quiet btn-sm mt-1" onClick={() => editor.chain().focus().takeOutOf("box").run()}>
          Remove the box, keep its text
        </button>
      </div>
    </section>
  );
}

/** The columns in which the cursor stands. */
export function ColumnsPanel({ editor, at, attrs }: Props) {
  const set = (changes: Record<string, unknown>) => setAt(editor, at, changes);
  return (
    <section className="max-h-[55%] shrink-0 overflow-auto border-t border-line bg-base-100 p-3" aria-label="Columns">
      <h2 className="mb-2">Columns</h2>
      <div className="flex flex-col gap-1.5">
        <label className="flex items-center justify-between gap-2">
          Columns
          <select
            className="select select-sm w-20"
            aria-label="Number of columns"
            value={Number(attrs.count)}
            onChange={(e) => set({ count: Number(e.target.value) })}
          >
            {[2, 3, 4, 5, 6].map((n) => (
              <option key={n}>{n}</option>
            ))}
          </select>
        </label>
        <NumberField label="Gap between them" value={Number(attrs.gap)} low={0} high={100} onSet={(gap) => set({ gap })} />
        <label className="flex items-center justify-between gap-2">
          Line between them
          <input
            type="checkbox"
            className="checkbox checkbox-sm"
            checked={Boolean(attrs.line)}
            onChange={(e) => set({ line: e.target.checked })}
          />
        </label>
        <p className="text-faint">All columns end at the same height. A page break here begins the next column.</p>
        <button className="btn btn-quiet btn-sm mt-1" onClick={() => editor.chain().focus().takeOutOf("columns").run()}>
          Back to one column
        </button>
      </div>
    </section>
  );
}

/** The footnote that is selected: what it says. */
export function FootnotePanel({ editor, content }: { editor: Editor; content: JSONContent[] }) {
  const [text, setText] = useState(noteText(content));
  return (
    <section className="max-h-[55%] shrink-0 overflow-auto border-t border-line bg-base-100 p-3" aria-label="Footnote">
      <h2 className="mb-2">Footnote</h2>
      <div className="flex flex-col gap-1.5">
        <textarea
          className="textarea w-full"
          aria-label="Text of the footnote"
          rows={4}
          value={text}
          placeholder="Printed at the bottom of the same page"
          onChange={(e) => {
            setText(e.target.value);
            setSelectedNode(editor, { content: noteBlocks(e.target.value, content) });
          }}
        />
        <p className="text-faint">Fields are written in braces. Numbers are set when the letter is printed.</p>
        <button className="btn btn-quiet btn-sm" onClick={() => editor.chain().focus().deleteSelection().run()}>
          Remove the footnote
        </button>
      </div>
    </section>
  );
}
