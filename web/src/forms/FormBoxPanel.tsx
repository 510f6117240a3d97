import {
  AlignHorizontalDistributeCenter,
  AlignStartHorizontal,
  AlignStartVertical,
  AlignVerticalDistributeCenter,
  AlignEndHorizontal,
  AlignEndVertical,
  Copy,
  Trash2,
} from "lucide-react";
import { NumberField } from "../ui/NumberField";
import { useNames, type Form, type FormBox, type MarkShape } from "./form";

interface Props {
  form: Form;
  boxes: FormBox[];
  page: number;
  families: string[];
  readOnly: boolean;
  mistake: string | undefined;
  onChange: (boxes: FormBox[], typed?: string) => void;
  onCopy: (page: number) => void;
  onRemove: () => void;
}

const marks: Record<MarkShape, string> = {
  check: "check mark",
  cross: "cross",
  circle: "filled circle",
  square: "filled square",
  diamond: "diamond",
  star: "star",
};

const row = "flex items-center justify-between gap-2";

/** What is set of the boxes that are chosen. */
export function FormBoxPanel({ form, boxes, page, families, readOnly, mistake, onChange, onCopy, onRemove }: Props) {
  const first = boxes[0];
  if (!first) return null;
  const set = (part: Partial<FormBox>) =>
    onChange(
      boxes.map((b) => ({ ...b, ...part })),
      `${boxes.map((b) => b.id).join()} ${Object.keys(part).join()}`,
    );
  const text = boxes.every((b) => b.use === "text" || b.use === "cells");
  const one = boxes.length === 1;
  return (
    <fieldset className="flex flex-col gap-1.5 p-3" disabled={readOnly} aria-label="Box">
      <div className="flex items-center gap-1">
        <h2 className="flex-1">{one ? useNames[first.use] : `${boxes.length} boxes`}</h2>
        <button type="button" className="btn btn-ghost btn-xs" title="Remove (Delete)" onClick={onRemove}>
          <Trash2 size={14} /> Remove
        </button>
      </div>
      {one && (
        <label>
          <span className="mb-0.5 block text-faint">
            {first.use === "mark"
              ? "Shown when"
              : first.use === "picture"
                ? "Picture named by"
                : first.use === "barcode"
                  ? "Content"
                  : "Text with fields"}
          </span>
          <input
            className="input input-sm w-full font-mono text-[12px]"
            aria-label={first.use === "mark" ? "Condition of the mark" : "Value of the box"}
            value={first.value}
            placeholder={
              first.use === "mark" ? 'Level = "Patron"' : first.use === "text" || first.use === "cells" ? "{First} {Last}" : "Member number"
            }
            onChange={(e) => set({ value: e.target.value })}
          />
          {mistake && <span className="block text-[12px] text-error">{mistake}</span>}
        </label>
      )}
      {text && (
        <>
          <label className={row}>
            Font
            <select className="select select-sm w-40" value={first.family} onChange={(e) => set({ family: e.target.value })}>
              {families.map((f) => (
                <option key={f}>{f}</option>
              ))}
            </select>
          </label>
          <NumberField label="Size" unit="pt" value={first.size} low={0} high={144} onSet={(size) => set({ size })} />
          <NumberField label="May shrink to" unit="pt" value={first.smallest} low={3} high={144} onSet={(smallest) => set({ smallest })} />
          <div className={row}>
            <label className="flex items-center gap-1">
              <input
                type="checkbox"
                className="checkbox checkbox-xs"
                checked={first.bold}
                onChange={(e) => set({ bold: e.target.checked })}
              />{" "}
              Bold
            </label>
            <label className="flex items-center gap-1">
              <input
                type="checkbox"
                className="checkbox checkbox-xs"
                checked={first.italic}
                onChange={(e) => set({ italic: e.target.checked })}
              />{" "}
              Italic
            </label>
            <label className="flex items-center gap-1">
              <input
                type="checkbox"
                className="checkbox checkbox-xs"
                checked={first.wraps}
                onChange={(e) => set({ wraps: e.target.checked })}
              />{" "}
              Wrap
            </label>
          </div>
          <label className={row}>
            Alignment
            <select
              className="select select-sm w-40"
              value={first.align}
              onChange={(e) => set({ align: e.target.value as FormBox["align"] })}
            >
              <option value="left">left</option>
              <option value="center">center</option>
              <option value="right">right</option>
            </select>
          </label>
          <label className={row}>
            In its height
            <select
              className="select select-sm w-40"
              value={first.valign}
              onChange={(e) => set({ valign: e.target.value as FormBox["valign"] })}
            >
              <option value="top">at the top</option>
              <option value="middle">in the middle</option>
              <option value="bottom">at the bottom</option>
            </select>
          </label>
        </>
      )}
      {boxes.every((b) => b.use === "cells") && (
        <NumberField label="Cells" unit="" value={first.cells} low={1} high={100} onSet={(n) => set({ cells: Math.round(n) })} />
      )}
      {boxes.every((b) => b.use === "mark") && (
        <label className={row}>
          Mark
          <select className="select select-sm w-40" value={first.mark} onChange={(e) => set({ mark: e.target.value as MarkShape })}>
            {Object.entries(marks).map(([key, name]) => (
              <option key={key} value={key}>
                {name}
              </option>
            ))}
          </select>
        </label>
      )}
      {boxes.every((b) => b.use === "barcode") && (
        <label className={row}>
          Kind
          <select
            className="select select-sm w-40"
            value={first.symbology}
            onChange={(e) => set({ symbology: e.target.value as FormBox["symbology"] })}
          >
            <option value="qr">QR code</option>
            <option value="code128">Code 128</option>
            <option value="dataMatrix">Data Matrix</option>
          </select>
        </label>
      )}
      {!boxes.every((b) => b.use === "picture") && (
        <label className={row}>
          Color
          <input type="color" className="h-6 w-10 cursor-pointer" value={first.color} onChange={(e) => set({ color: e.target.value })} />
        </label>
      )}
      <label className={row}>
        Page
        <select
          className="select select-sm w-40"
          aria-label="Page of the box"
          value={first.page}
          onChange={(e) => set({ page: Number(e.target.value) })}
        >
          <option value={0}>every page</option>
          {form.facts.pages.map((_, i) => (
            <option key={i} value={i + 1}>
              page {i + 1}
            </option>
          ))}
        </select>
      </label>
      {one && (
        <>
          <NumberField label="From the left" value={first.x} low={-100} high={6000} onSet={(x) => set({ x })} />
          <NumberField label="From the top" value={first.y} low={-100} high={6000} onSet={(y) => set({ y })} />
          <NumberField label="Width" value={first.width} low={1} high={6000} onSet={(width) => set({ width })} />
          <NumberField label="Height" value={first.height} low={1} high={6000} onSet={(height) => set({ height })} />
        </>
      )}
      {!one && <Arrange boxes={boxes} onChange={onChange} />}
      {form.facts.pages.length > 1 && first.page !== 0 && (
        <label className={row}>
          <span className="flex items-center gap-1">
            <Copy size={14} /> Copy to
          </span>
          <select className="select select-sm w-40" aria-label="Copy to page" value="" onChange={(e) => onCopy(Number(e.target.value))}>
            <option value="">choose a page…</option>
            {form.facts.pages.map(
              (_, i) =>
                i + 1 !== page && (
                  <option key={i} value={i + 1}>
                    page {i + 1}
                  </option>
                ),
            )}
            <option value={0}>all other pages</option>
          </select>
        </label>
      )}
    </fieldset>
  );
}

/** Several boxes in one line, or evenly apart. */
function Arrange({ boxes, onChange }: { boxes: FormBox[]; onChange: (boxes: FormBox[]) => void }) {
  const left = Math.min(...boxes.map((b) => b.x));
  const top = Math.min(...boxes.map((b) => b.y));
  const right = Math.max(...boxes.map((b) => b.x + b.width));
  const bottom = Math.max(...boxes.map((b) => b.y + b.height));
  const apart = (from: "x" | "y", size: "width" | "height") => {
    const sorted = [...boxes].sort((a, b) => a[from] - b[from]);
    const taken = sorted.reduce((sum, b) => sum + b[size], 0);
    const start = from === "x" ? left : top;
    const gap = ((from === "x" ? right - left : bottom - top) - taken) / Math.max(1, sorted.length - 1);
    let at = start;
    onChange(
      sorted.map((b) => {
        const moved = { ...b, [from]: Math.round(at * 10) / 10 };
        at += b[size] + gap;
        return moved;
      }),
    );
  };
  const button = (label: string, Icon: typeof Copy, run: () => void, off = false) => (
    <button type="button" className="btn btn-quiet btn-sm btn-square" aria-label={label} title={label} disabled={off} onClick={run}>
      <Icon size={15} />
    </button>
  );
  return (
    <div className="flex flex-wrap gap-1" role="group" aria-label="Arrange">
      {button("Align left edges", AlignStartVertical, () => onChange(boxes.map((b) => ({ ...b, x: left }))))}
      {button("Align right edges", AlignEndVertical, () => onChange(boxes.map((b) => ({ ...b, x: right - b.width }))))}
      {button("Align top edges", AlignStartHorizontal, () => onChange(boxes.map((b) => ({ ...b, y: top }))))}
      {button("Align bottom edges", AlignEndHorizontal, () => onChange(boxes.map((b) => ({ ...b, y: bottom - b.height }))))}
      {button("Distribute across", AlignHorizontalDistributeCenter, () => apart("x", "width"), boxes.length < 3)}
      {button("Distribute down", AlignVerticalDistributeCenter, () => apart("y", "height"), boxes.length < 3)}
    </div>
  );
}
