import type { Editor, JSONContent } from "@tiptap/core";
import { Trash2 } from "lucide-react";
import { useState } from "react";
import type { Schema } from "../api/client";
import { BandEditor } from "../designs/BandEditor";
import { bringPicture } from "../designs/Toolbar";
import { sayWrong } from "../ui/notices";
import { BarcodeFields, type BarcodeAttrs } from "./BarcodeFields";
import { field, paragraph, text, useNames, type Box, type Surface } from "./surface";
import { TinyToolbar } from "./TinyToolbar";
import { LengthInput } from "../ui/LengthInput";
import { customs, lengthUnit } from "../ui/customs";

// The ancillary endorsements of the United States Postal Service, Domestic Mail Manual 507.1.5.
const endorsements = [
  "Address Service Requested",
  "Return Service Requested",
  "Change Service Requested",
  "Forwarding Service Requested",
  "Electronic Service Requested",
];

interface Props {
  surface: Surface;
  box: Box;
  columns: Schema["Column"][];
  families: string[];
  readOnly: boolean;
  choices: () => { name: string; hint: string }[];
  mistakes: Schema["FieldMistake"][];
  onChange: (part: Partial<Box>) => void;
  onRemove: () => void;
}

/** What is in the box that is selected, and how it stands. */
export function BoxPanel({ surface, box, columns, families, readOnly, choices, mistakes, onChange, onRemove }: Props) {
  const [editor, setEditor] = useState<Editor | null>(null);
  const number = (label: string, key: "x" | "y" | "width" | "height", low: number) => (
    <label className="flex items-center gap-1.5">
      <span className="w-12">{label}</span>
      <LengthInput
        className="input input-sm w-[76px]"
        label={label}
        value={box[key]}
        low={low}
        high={600}
        onSet={(mm) => onChange({ [key]: mm })}
      />
    </label>
  );
  const barcode = box.use === "barcode" ? ((box.content[0]?.attrs ?? { symbology: "qr" }) as unknown as BarcodeAttrs) : null;
  const picture = box.use === "picture" ? box.content[0]?.attrs : null;
  const setBarcode = (part: Partial<BarcodeAttrs>) =>
    onChange({ content: [{ type: "barcode", attrs: { ...barcode, ...part } }] as JSONContent[] });
  const bring = async (file: File | undefined) => {
    if (!file) return;
    try {
      const { attrs } = await bringPicture(file);
      const width = Math.min(attrs.width, box.width);
      onChange({
        content: [{ type: "picture", attrs: { ...attrs, width, align: "left" } }],
        height: Math.max(box.height, Math.round((width / attrs.aspect) * 10) / 10),
      });
    } catch (e) {
      sayWrong(e);
    }
  };

  return (
    <section className="flex flex-col gap-3 p-3" aria-label="Box settings">
      <div className="flex items-center gap-2">
        <h2 className="flex-1">{useNames[box.use]}</h2>
        <button className="btn btn-ghost btn-sm" disabled={readOnly} onClick={onRemove} title="Remove box (Delete)">
          <Trash2 size={14} /> Remove
        </button>
      </div>
      {box.use === "endorsement" && (
        <select
          className="select select-sm w-full"
          aria-label="Service endorsement"
          value=""
          onChange={(e) =>
            e.target.value &&
            onChange({ content: [paragraph([{ ...text(e.target.value), marks: [{ type: "textStyle", attrs: { fontSize: "8pt" } }] }])] })
          }
        >
          <option value="">Choose a service endorsement</option>
          {endorsements.map((t) => (
            <option key={t}>{t}</option>
          ))}
        </select>
      )}
      {barcode && <BarcodeFields attrs={barcode} columns={columns} inBox onChange={setBarcode} />}
      {box.use === "picture" && (
        <div className="flex flex-col gap-1.5">
          <label className="btn btn-quiet btn-sm self-start">
            {picture ? "Change picture" : "Add picture"}
            <input
              type="file"
              className="sr"
              aria-label="Picture file"
              accept="image/png,image/jpeg,image/svg+xml"
              onChange={(e) => void bring(e.target.files?.[0])}
            />
          </label>
          {picture && (
            <label className="flex items-center gap-1.5">
              <span className="w-12">Width</span>
              <LengthInput
                label="Picture width"
                value={Number(picture.width)}
                low={2}
                high={400}
                onSet={(mm) => onChange({ content: [{ type: "picture", attrs: { ...picture, width: mm } }] })}
              />{" "}
              {lengthUnit()}
            </label>
          )}
          {picture && (
            <label className="flex items-center gap-1.5">
              <span className="w-12">Picture from</span>
              <select
                className="select select-sm flex-1"
                aria-label="Column that names the picture"
                value={String(picture.source ?? "")}
                onChange={(e) => onChange({ content: [{ type: "picture", attrs: { ...picture, source: e.target.value || null } }] })}
              >
                <option value="">Same for every recipient</option>
                {columns.map((c) => (
                  <option key={c.id} value={`\`${c.name}\``}>
                    Column {c.name}
                  </option>
                ))}
              </select>
            </label>
          )}
        </div>
      )}
      {!barcode && box.use !== "picture" && (
        <div className="flex flex-col gap-1.5">
          {editor && <TinyToolbar editor={editor} surface={surface} families={families} columns={columns} />}
          <div
            className="box-text rounded border border-base-300 bg-base-100 px-2 py-1.5"
            style={
              {
                fontFamily: `"${surface.type.family}"`,
                lineHeight: surface.type.lineSpacing,
                fontSize: `${surface.type.size}pt`,
                "--space-after": "0pt",
              } as React.CSSProperties
            }
          >
            <BandEditor
              label={`${useNames[box.use]} text`}
              content={box.content}
              editable={!readOnly}
              choices={choices}
              onChange={(content) => onChange({ content })}
              onFocus={setEditor}
              onReady={setEditor}
            />
          </div>
          {box.content.length === 0 && (box.use === "text" || box.use === "teaser") && (
            <p className="text-[12px] text-faint">Type {"{"} for a field.</p>
          )}
          {box.use === "delivery" && !JSON.stringify(box.content).includes("Delivery address") && (
            <button
              className="btn btn-quiet btn-xs self-start"
              onClick={() => onChange({ content: [paragraph([field("Delivery address")])] })}
            >
              Insert delivery address
            </button>
          )}
        </div>
      )}
      {mistakes.map((m) => (
        <p key={`${m.source}${m.position}`} className="border-l-[3px] border-warning bg-doubt px-2 py-1">
          {m.message}
        </p>
      ))}
      <div className="grid grid-cols-2 gap-x-3 gap-y-1.5">
        {number("Left", "x", -50)}
        {number("Top", "y", -50)}
        {number("Width", "width", 2)}
        {number("Height", "height", 2)}
      </div>
      <p className="-mt-2 text-[12px] text-faint">
        In {customs().inches ? "inches" : "millimeters"}. Select the box, then use the arrow keys to move it by 1 mm (0.04 in), Alt + arrow
        keys for a tenth of that, or Shift + arrow keys to resize it.
      </p>
      <label className="grid grid-cols-[96px_1fr] items-center gap-2">
        <span>Vertical position</span>
        <select
          className="select select-sm w-full"
          aria-label="Vertical position"
          value={box.valign ?? "top"}
          onChange={(e) => onChange({ valign: e.target.value as Box["valign"] })}
        >
          <option value="top">Top</option>
          <option value="middle">Middle</option>
          <option value="bottom">Bottom</option>
        </select>
      </label>
      {!barcode && box.use !== "picture" && (
        <label className="grid grid-cols-[96px_1fr] items-center gap-2">
          <span>Shrink to fit, minimum</span>
          <span className="flex items-center gap-1.5">
            <input
              type="number"
              className="input input-sm w-[76px]"
              aria-label="Smallest font size"
              min={3}
              max={36}
              step={0.5}
              value={box.smallest ?? ""}
              placeholder="Off"
              onChange={(e) => onChange({ smallest: e.target.value === "" ? null : Math.max(3, Number(e.target.value)) })}
            />{" "}
            pt
          </span>
        </label>
      )}
      <label className="grid grid-cols-[96px_1fr] items-center gap-2">
        <span>Padding</span>
        <span className="flex items-center gap-1.5">
          <LengthInput label="Padding" value={box.padding ?? 0} low={0} high={20} onSet={(padding) => onChange({ padding })} />{" "}
          {lengthUnit()}
        </span>
      </label>
      <div className="grid grid-cols-[96px_1fr] items-center gap-2">
        <span>Border</span>
        <span className="flex items-center gap-1.5">
          <input
            type="checkbox"
            className="checkbox checkbox-xs"
            aria-label="Border"
            checked={Boolean(box.border)}
            onChange={(e) => onChange({ border: e.target.checked ? { width: 0.75, color: "#000000", radius: 0 } : null })}
          />
          {box.border && (
            <>
              <input
                type="number"
                className="input input-sm w-16"
                aria-label="Border thickness"
                min={0.25}
                max={10}
                step={0.25}
                value={box.border.width}
                onChange={(e) => box.border && onChange({ border: { ...box.border, width: Number(e.target.value) } })}
              />
              <input
                type="color"
                className="h-6 w-7"
                aria-label="Color of the border"
                value={box.border.color}
                onChange={(e) => box.border && onChange({ border: { ...box.border, color: e.target.value } })}
              />
              <LengthInput
                className="input input-sm w-16"
                label="Corner radius"
                title={`Corner radius, ${lengthUnit()}`}
                value={box.border.radius}
                low={0}
                high={30}
                onSet={(radius) => box.border && onChange({ border: { ...box.border, radius } })}
              />
            </>
          )}
        </span>
      </div>
      <div className="grid grid-cols-[96px_1fr] items-center gap-2">
        <span>Shading</span>
        <span className="flex items-center gap-1.5">
          <input
            type="checkbox"
            className="checkbox checkbox-xs"
            aria-label="Shading"
            checked={Boolean(box.shade)}
            onChange={(e) => onChange({ shade: e.target.checked ? "#f2ede3" : null })}
          />
          {box.shade && (
            <input
              type="color"
              className="h-6 w-7"
              aria-label="Color of the shade"
              value={box.shade}
              onChange={(e) => onChange({ shade: e.target.value })}
            />
          )}
        </span>
      </div>
    </section>
  );
}
