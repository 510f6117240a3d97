import type { Editor } from "@tiptap/core";
import type { Schema } from "../api/client";
import { setSelectedNode } from "./selectedNode";
import { BarcodeFields, type BarcodeAttrs } from "../surfaces/BarcodeFields";
import { LengthInput } from "../ui/LengthInput";
import { lengthUnit } from "../ui/customs";

/** The barcode of a letter that is selected: what it holds, how large and where. */
export function BarcodePanel({
  editor,
  attrs,
  columns,
  mistake,
}: {
  editor: Editor;
  attrs: Record<string, unknown>;
  columns: Schema["Column"][];
  mistake: string | undefined;
}) {
  const set = (changes: Record<string, unknown>) => setSelectedNode(editor, changes);
  const number = (label: string, name: "x" | "y") => (
    <label className="grid grid-cols-[96px_1fr] items-center gap-2">
      <span>{label}</span>
      <span className="flex items-center gap-1.5">
        <LengthInput label={label} value={Number(attrs[name])} low={-50} high={500} onSet={(mm) => set({ [name]: mm })} /> {lengthUnit()}
      </span>
    </label>
  );
  return (
    <section className="max-h-[55%] shrink-0 overflow-auto border-t border-line bg-base-100 p-3" aria-label="Barcode">
      <h2 className="mb-2">Barcode</h2>
      {mistake && <p className="mb-2 bg-doubt px-2 py-1">{mistake}</p>}
      <div className="flex flex-col gap-1.5">
        <BarcodeFields
          attrs={attrs as unknown as BarcodeAttrs}
          columns={columns}
          onChange={(part) =>
            set({
              ...part,
              ...(part.width !== undefined && attrs.symbology !== "code128" ? { height: part.width } : {}),
              ...(part.symbology === "code128"
                ? { width: 50, height: 12 }
                : part.symbology && attrs.symbology === "code128"
                  ? { width: 25, height: 25 }
                  : {}),
            })
          }
        />
        <label className="grid grid-cols-[96px_1fr] items-center gap-2">
          <span>Position</span>
          <select
            className="select select-sm w-full"
            aria-label="Barcode position"
            value={attrs.place === "page" ? "page" : String(attrs.align)}
            onChange={(e) => set(e.target.value === "page" ? { place: "page", x: 25, y: 25 } : { place: null, align: e.target.value })}
          >
            <option value="left">On its own line, left</option>
            <option value="center">On its own line, centered</option>
            <option value="right">On its own line, right</option>
            <option value="page">At a fixed position on the page</option>
          </select>
        </label>
        {attrs.place === "page" && number("Left", "x")}
        {attrs.place === "page" && number("Top", "y")}
        <button className="btn btn-ghost btn-sm self-start" onClick={() => editor.chain().focus().deleteSelection().run()}>
          Remove
        </button>
      </div>
    </section>
  );
}
