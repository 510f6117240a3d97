import { useRef, useState } from "react";
import { PdfPages } from "../ui/PdfPages";
import { millimetres, round, useNames, type Form, type FormBox, type FormField } from "./form";
import { lengthNumber, lengths } from "../ui/customs";

interface Props {
  form: Form;
  page: number;
  /** Pixels to the millimetre. */
  scale: number;
  pdf: Uint8Array | undefined;
  mark: string;
  pageMarks: readonly string[] | undefined;
  chosen: readonly string[];
  field: string | null;
  readOnly: boolean;
  onChoose: (ids: string[]) => void;
  onField: (name: string | null) => void;
  onBoxes: (boxes: FormBox[], typed?: string) => void;
  onRemove: () => void;
  /** Columns were dropped at a place in millimetres, or onto a field. */
  onDropFields: (names: string[], at: { x: number; y: number }, field: FormField | null) => void;
}

/** Nearer than this to a line or an edge, millimetres, a box goes to it. */
const reach = 1.2;

/** The places at which edges can come to rest: lines drawn on the page, and edges of other boxes and fields. */
function rests(form: Form, page: number, moving: readonly string[]) {
  const facts = form.facts.pages[page - 1];
  const down = (facts?.down ?? []).map(millimetres);
  const across = (facts?.across ?? []).map(millimetres);
  for (const b of form.boxes)
    if ((b.page === page || b.page === 0) && !moving.includes(b.id)) {
      down.push(b.x, b.x + b.width);
      across.push(b.y, b.y + b.height);
    }
  return { down, across };
}

/** How far something moves so that one of its edges comes to rest; null where none is near. */
function nearest(edges: number[], places: number[]) {
  let best: { by: number; at: number } | null = null;
  for (const edge of edges) for (const at of places) if (Math.abs(at - edge) < Math.abs(best?.by ?? reach)) best = { by: at - edge, at };
  return best;
}

/** The finished page of a recipient, with its fields to be chosen, and its boxes to be moved and sized. */
export function FormCanvas(props: Props) {
  const { form, page, scale, chosen, readOnly } = props;
  const facts = form.facts.pages[page - 1];
  const [drag, setDrag] = useState<{ boxes: FormBox[]; lines: { x?: number; y?: number } } | null>(null);
  const [over, setOver] = useState(false);
  const from = useRef<{ px: number; py: number; boxes: FormBox[]; sizing: boolean } | null>(null);
  if (!facts) return null;
  const size = { width: millimetres(facts.width), height: millimetres(facts.height) };
  const px = (mm: number) => mm * scale;
  const boxes = form.boxes.filter((b) => b.page === page || b.page === 0);
  const begin = (e: React.PointerEvent, box: FormBox, sizing: boolean) => {
    e.stopPropagation();
    const ids = e.shiftKey || e.ctrlKey ? (chosen.includes(box.id) ? chosen.filter((i) => i !== box.id) : [...chosen, box.id]) : null;
    if (ids) props.onChoose(ids);
    else if (!chosen.includes(box.id)) props.onChoose([box.id]);
    props.onField(null);
    if (readOnly || ids) return;
    (e.currentTarget as HTMLElement).setPointerCapture(e.pointerId);
    const moved = sizing || !chosen.includes(box.id) ? [box] : form.boxes.filter((b) => chosen.includes(b.id));
    from.current = { px: e.clientX, py: e.clientY, boxes: moved, sizing };
  };
  const move = (e: React.PointerEvent) => {
    const f = from.current;
    if (!f) return;
    let [dx, dy] = [(e.clientX - f.px) / scale, (e.clientY - f.py) / scale];
    if (!drag && Math.abs(dx) + Math.abs(dy) < 0.6) return;
    const ids = f.boxes.map((b) => b.id);
    const places = e.altKey ? { down: [], across: [] } : rests(form, page, ids);
    const [left, top] = [Math.min(...f.boxes.map((b) => b.x)), Math.min(...f.boxes.map((b) => b.y))];
    const right = Math.max(...f.boxes.map((b) => b.x + b.width));
    const bottom = Math.max(...f.boxes.map((b) => b.y + b.height));
    const x = nearest(f.sizing ? [right + dx] : [left + dx, right + dx], places.down);
    const y = nearest(f.sizing ? [bottom + dy] : [top + dy, bottom + dy], places.across);
    dx += x?.by ?? 0;
    dy += y?.by ?? 0;
    setDrag({
      boxes: f.boxes.map((b) =>
        f.sizing
          ? { ...b, width: Math.max(1.5, round(b.width + dx)), height: Math.max(1.5, round(b.height + dy)) }
          : { ...b, x: round(b.x + dx), y: round(b.y + dy) },
      ),
      lines: { x: x?.at, y: y?.at },
    });
  };
  const end = () => {
    if (drag) props.onBoxes(drag.boxes);
    from.current = null;
    setDrag(null);
  };
  const key = (e: React.KeyboardEvent, box: FormBox) => {
    if (e.key === "Escape") props.onChoose([]);
    if (readOnly) return;
    const step = e.altKey ? 0.1 : 1;
    const by = { ArrowLeft: [-step, 0], ArrowRight: [step, 0], ArrowUp: [0, -step], ArrowDown: [0, step] }[e.key] as
      | [number, number]
      | undefined;
    if (by) {
      e.preventDefault();
      e.stopPropagation();
      const moved = chosen.includes(box.id) ? form.boxes.filter((b) => chosen.includes(b.id)) : [box];
      props.onBoxes(
        moved.map((b) =>
          e.shiftKey
            ? { ...b, width: Math.max(1.5, round(b.width + by[0])), height: Math.max(1.5, round(b.height + by[1])) }
            : { ...b, x: round(b.x + by[0]), y: round(b.y + by[1]) },
        ),
        "keys",
      );
    }
    if (e.key === "Delete" || e.key === "Backspace") {
      e.preventDefault();
      props.onRemove();
    }
  };
  const fieldAt = (x: number, y: number) =>
    form.facts.fields.find(
      (f) =>
        f.kind !== "other" &&
        f.widgets.some(
          (w) =>
            w.page === page &&
            x >= millimetres(w.x) &&
            x <= millimetres(w.x + w.width) &&
            y >= millimetres(w.y) &&
            y <= millimetres(w.y + w.height),
        ),
    ) ?? null;
  return (
    <div
      className={`relative mx-auto w-fit ${over ? "outline-2 outline-primary" : ""}`}
      style={{ width: px(size.width), minHeight: px(size.height) }}
      data-testid="form-page"
      onPointerDown={() => (props.onChoose([]), props.onField(null))}
      onDragOver={(e) => {
        if (readOnly || !e.dataTransfer.types.includes("text/bandeja-fields")) return;
        e.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(e) => {
        setOver(false);
        const names = e.dataTransfer.getData("text/bandeja-fields");
        if (!names || readOnly) return;
        e.preventDefault();
        const place = e.currentTarget.getBoundingClientRect();
        const [x, y] = [(e.clientX - place.left) / scale, (e.clientY - place.top) / scale];
        props.onDropFields(JSON.parse(names) as string[], { x, y }, fieldAt(x, y));
      }}
    >
      <PdfPages data={props.pdf} width={Math.round(px(size.width))} mark={props.mark} pageMarks={props.pageMarks} only={[page]} />
      <div className="absolute inset-0">
        {form.facts.fields.map(
          (f) =>
            f.kind !== "other" &&
            f.widgets.map(
              (w, i) =>
                w.page === page && (
                  <button
                    key={`${f.name} ${i}`}
                    type="button"
                    tabIndex={-1}
                    aria-label={`Field ${f.label}`}
                    aria-pressed={props.field === f.name}
                    className={`absolute cursor-pointer ${
                      props.field === f.name
                        ? "border-2 border-primary bg-primary/10"
                        : form.answers[f.name]
                          ? "border border-primary/40 bg-primary/5 hover:border-primary"
                          : "border border-dotted border-slate-400 hover:border-primary"
                    }`}
                    style={{
                      left: px(millimetres(w.x)),
                      top: px(millimetres(w.y)),
                      width: px(millimetres(w.width)),
                      height: px(millimetres(w.height)),
                    }}
                    onPointerDown={(e) => (e.stopPropagation(), props.onChoose([]), props.onField(f.name))}
                  />
                ),
            ),
        )}
        {drag?.lines.x !== undefined && <div className="absolute inset-y-0 w-px bg-accent" style={{ left: px(drag.lines.x) }} />}
        {drag?.lines.y !== undefined && <div className="absolute inset-x-0 h-px bg-accent" style={{ top: px(drag.lines.y) }} />}
        {boxes.map((box) => {
          const b = drag?.boxes.find((d) => d.id === box.id) ?? box;
          const on = chosen.includes(box.id);
          return (
            <div
              key={box.id}
              role="button"
              tabIndex={0}
              aria-label={`${useNames[box.use]} box ${box.value}`.trim()}
              aria-pressed={on}
              className={`absolute cursor-move outline-offset-2 ${on ? "z-10 border-2 border-primary" : "border border-dotted border-slate-400 hover:border-primary"}`}
              style={{ left: px(b.x) - 1, top: px(b.y) - 1, width: px(b.width) + 2, height: px(b.height) + 2, touchAction: "none" }}
              onPointerDown={(e) => begin(e, box, false)}
              onPointerMove={move}
              onPointerUp={end}
              onFocus={() => !chosen.includes(box.id) && props.onChoose([box.id])}
              onKeyDown={(e) => key(e, box)}
            >
              {on && drag && (
                <span className="absolute top-full left-0 mt-1 rounded bg-neutral px-1.5 text-[11px] whitespace-nowrap text-neutral-content tabular-nums">
                  {lengthNumber(round(b.x))}, {lengthNumber(round(b.y))} · {lengths(b.width, b.height)}
                </span>
              )}
              {on && chosen.length === 1 && !readOnly && (
                <span
                  className="absolute -right-1.5 -bottom-1.5 h-3 w-3 cursor-nwse-resize border-2 border-primary bg-base-100"
                  aria-hidden
                  data-handle
                  onPointerDown={(e) => begin(e, box, true)}
                  onPointerMove={move}
                  onPointerUp={end}
                />
              )}
            </div>
          );
        })}
      </div>
    </div>
  );
}
