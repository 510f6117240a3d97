import { useRef, useState } from "react";
import type { Schema } from "../api/client";
import { PdfPages } from "../ui/PdfPages";
import { useNames, type Box, type Surface } from "./surface";
import { lengthNumber, lengths } from "../ui/customs";

interface Props {
  surface: Surface;
  size: { width: number; height: number };
  /** Pixels to the millimetre. */
  scale: number;
  pdf: Uint8Array | undefined;
  mark: string;
  zones: Schema["MarkedArea"][];
  selected: string | null;
  readOnly: boolean;
  onSelect: (id: string | null) => void;
  onChange: (id: string, part: Partial<Box>) => void;
  onRemove: (id: string) => void;
}

const round = (mm: number) => Math.round(mm * 10) / 10;

/** The finished piece of a recipient, with its boxes over it to be moved and sized by hand or by the arrow keys. */
export function SurfaceCanvas({ surface, size, scale, pdf, mark, zones, selected, readOnly, onSelect, onChange, onRemove }: Props) {
  const [drag, setDrag] = useState<{ id: string; x: number; y: number; width: number; height: number } | null>(null);
  const from = useRef<{ px: number; py: number; box: Box; sizing: boolean } | null>(null);
  const px = (mm: number) => mm * scale;
  const begin = (e: React.PointerEvent, box: Box, sizing: boolean) => {
    e.stopPropagation();
    onSelect(box.id);
    if (readOnly) return;
    (e.currentTarget as HTMLElement).setPointerCapture(e.pointerId);
    from.current = { px: e.clientX, py: e.clientY, box, sizing };
  };
  const move = (e: React.PointerEvent) => {
    const f = from.current;
    if (!f) return;
    const [dx, dy] = [(e.clientX - f.px) / scale, (e.clientY - f.py) / scale];
    if (!drag && Math.abs(dx) + Math.abs(dy) < 0.6) return;
    const b = f.box;
    setDrag(
      f.sizing
        ? { id: b.id, x: b.x, y: b.y, width: Math.max(2, round(b.width + dx)), height: Math.max(2, round(b.height + dy)) }
        : { id: b.id, x: round(b.x + dx), y: round(b.y + dy), width: b.width, height: b.height },
    );
  };
  const end = () => {
    if (drag) onChange(drag.id, { x: drag.x, y: drag.y, width: drag.width, height: drag.height });
    from.current = null;
    setDrag(null);
  };
  const key = (e: React.KeyboardEvent, box: Box) => {
    const step = e.altKey ? 0.1 : 1;
    const by = { ArrowLeft: [-step, 0], ArrowRight: [step, 0], ArrowUp: [0, -step], ArrowDown: [0, step] }[e.key] as
      | [number, number]
      | undefined;
    if (e.key === "Escape") onSelect(null);
    if (readOnly) return;
    if (by) {
      e.preventDefault();
      e.stopPropagation();
      onChange(
        box.id,
        e.shiftKey
          ? { width: Math.max(2, round(box.width + by[0])), height: Math.max(2, round(box.height + by[1])) }
          : { x: round(box.x + by[0]), y: round(box.y + by[1]) },
      );
    }
    if (e.key === "Delete" || e.key === "Backspace") {
      e.preventDefault();
      onRemove(box.id);
    }
  };
  const w = surface.window;
  return (
    <div
      className="relative mx-auto w-fit"
      style={{ width: px(size.width), minHeight: px(size.height) }}
      onPointerDown={() => onSelect(null)}
    >
      <PdfPages data={pdf} width={Math.round(px(size.width))} mark={mark} />
      <div className="absolute inset-0">
        {zones.map((z) => (
          <div
            key={z.name}
            className="zone pointer-events-none absolute"
            style={{ left: px(z.x), top: px(z.y), width: px(z.width), height: px(z.height) }}
            title={z.name}
          >
            <span className="absolute right-1 bottom-0.5 text-[10px] text-faint">{z.name}</span>
          </div>
        ))}
        {w && (
          <div
            className="pointer-events-none absolute rounded-[6px] border-2 border-dashed border-primary/60"
            style={{ left: px(w.x), top: px(w.y), width: px(w.width), height: px(w.height) }}
          >
            <span className="absolute top-0.5 left-1.5 text-[10px] text-primary">window</span>
          </div>
        )}
        {surface.boxes.map((box) => {
          const b = drag?.id === box.id ? { ...box, ...drag } : box;
          const on = selected === box.id;
          return (
            <div
              key={box.id}
              role="button"
              tabIndex={0}
              aria-label={`${useNames[box.use]} box`}
              aria-pressed={on}
              className={`absolute cursor-move outline-offset-2 ${on ? "z-10 border-2 border-primary" : "border border-dotted border-slate-400 hover:border-primary"}`}
              style={{ left: px(b.x) - 1, top: px(b.y) - 1, width: px(b.width) + 2, height: px(b.height) + 2, touchAction: "none" }}
              onPointerDown={(e) => begin(e, box, false)}
              onPointerMove={move}
              onPointerUp={end}
              onFocus={() => onSelect(box.id)}
              onKeyDown={(e) => key(e, box)}
            >
              {on && (
                <>
                  <span className="absolute -top-[19px] -left-0.5 rounded-t bg-primary px-1.5 text-[11px] whitespace-nowrap text-primary-content">
                    {useNames[box.use]}
                  </span>
                  {drag && (
                    <span className="absolute top-full left-0 mt-1 rounded bg-neutral px-1.5 text-[11px] whitespace-nowrap text-neutral-content tabular-nums">
                      {lengthNumber(round(b.x))}, {lengthNumber(round(b.y))} · {lengths(b.width, b.height)}
                    </span>
                  )}
                  {!readOnly && (
                    <span
                      className="absolute -right-1.5 -bottom-1.5 h-3 w-3 cursor-nwse-resize border-2 border-primary bg-base-100"
                      aria-hidden
                      data-handle
                      onPointerDown={(e) => begin(e, box, true)}
                      onPointerMove={move}
                      onPointerUp={end}
                    />
                  )}
                </>
              )}
            </div>
          );
        })}
      </div>
    </div>
  );
}
