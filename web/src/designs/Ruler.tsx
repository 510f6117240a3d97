import type { Editor } from "@tiptap/core";
import { useEditorState } from "@tiptap/react";
import { useRef, useState } from "react";
import { millimetre, type Letter } from "./letter";
import type { TabStop } from "./nodes/textParts";
import { customs, fromLength, length, lengthNumber, lengthStep } from "../ui/customs";

const signs: Record<TabStop["kind"], string> = { left: "L", right: "⅃", center: "⊥", decimal: "⊥·" };
const kinds: TabStop["kind"][] = ["left", "right", "center", "decimal"];

const snapped = (mm: number) => fromLength(Math.round(lengthNumber(mm) / lengthStep()) * lengthStep());

/** The marks of a ruler with the numbers of some: centimeters, or half inches. */
const marks = (width: number): [number, number | undefined][] =>
  customs().inches
    ? Array.from({ length: Math.floor(width / 12.7) + 1 }, (_, i) => [i * 12.7, i % 2 === 0 && i > 0 ? i / 2 : undefined])
    : Array.from({ length: Math.floor(width / 10) + 1 }, (_, i) => [i * 10, i % 2 === 0 && i > 0 ? i : undefined]);

/**
 * The line one writes on, in centimeters or inches, with its indents and tab stops: a click sets a stop, a drag moves it, a double click
 * changes its kind, away from the ruler it is gone.
 */
export function Ruler({ editor, letter, zoom, sheetWidth }: { editor: Editor; letter: Letter; zoom: number; sheetWidth: number }) {
  const box = useRef<HTMLDivElement>(null);
  const [dragged, setDragged] = useState<{ index: number; at: number; gone: boolean } | null>(null);
  const s = useEditorState({
    editor,
    selector: ({ editor: e }) => {
      const a = e.getAttributes(e.isActive("heading") ? "heading" : "paragraph");
      return {
        tabs: JSON.stringify(a.tabs ?? []),
        indent: Number(a.indent ?? 0),
        indentRight: Number(a.indentRight ?? 0),
        firstLine: Number(a.firstLine ?? 0),
      };
    },
  });
  const tabs = JSON.parse(s.tabs) as TabStop[];
  const width = sheetWidth / millimetre - letter.page.margins.left - letter.page.margins.right;
  const scale = millimetre * zoom;
  // To the nearest half millimeter, or the nearest sixteenth of an inch.
  const at = (e: { clientX: number }) => snapped((e.clientX - (box.current?.getBoundingClientRect().left ?? 0)) / scale);
  const set = (attributes: Record<string, unknown>) => editor.chain().setMeasures(attributes).run();
  const setTabs = (next: TabStop[]) => set({ tabs: next.length ? [...next].sort((a, b) => a.at - b.at) : null });
  const handle = (label: string, place: number, className: string, face: string, move: (mm: number) => void) => (
    // For the pointer only: who has none sets the same by numbers in the menu of spacing.
    <span
      aria-hidden
      title={label}
      className={`ruler-handle ${className}`}
      style={{ left: place * scale }}
      onPointerDown={(e) => {
        e.preventDefault();
        e.stopPropagation();
        const target = e.currentTarget;
        target.setPointerCapture(e.pointerId);
        const onMove = (m: PointerEvent) => move(at(m));
        target.addEventListener("pointermove", onMove);
        target.addEventListener("pointerup", () => target.removeEventListener("pointermove", onMove), { once: true });
      }}
    >
      {face}
    </span>
  );
  return (
    <div className="mx-auto h-[26px] shrink-0" style={{ width: sheetWidth * zoom, paddingLeft: letter.page.margins.left * scale }}>
      <div
        ref={box}
        className="ruler"
        style={{ width: width * scale }}
        title="Click to add a tab stop"
        data-testid="ruler"
        onClick={(e) => {
          if (e.target === e.currentTarget) setTabs([...tabs, { at: Math.max(0, at(e)), kind: "left" }]);
        }}
      >
        {marks(width).map(([at, number]) => (
          <i key={at} style={{ left: at * scale }} data-number={number} />
        ))}
        {handle("Left indent", s.indent, "ruler-indent", "▵", (mm) => set({ indent: Math.max(0, Math.min(width - 20, mm)) || null }))}
        {handle("First-line indent", s.indent + s.firstLine, "ruler-first", "▿", (mm) =>
          set({ firstLine: Math.max(-s.indent, Math.min(90, mm - s.indent)) || null }),
        )}
        {handle("Right indent", width - s.indentRight, "ruler-indent", "▵", (mm) =>
          set({ indentRight: Math.max(0, Math.min(width - 20, width - mm)) || null }),
        )}
        {tabs.map((tab, index) => (
          <span
            key={index}
            role="slider"
            tabIndex={0}
            aria-label={`Tab stop, ${tab.kind}`}
            aria-valuenow={tab.at}
            title={`${tab.kind} at ${length(tab.at)}; double-click to change its type, press Delete to remove it`}
            className="ruler-tab"
            style={{
              left: (dragged?.index === index ? dragged.at : tab.at) * scale,
              opacity: dragged?.index === index && dragged.gone ? 0.3 : 1,
            }}
            onClick={(e) => e.stopPropagation()}
            onDoubleClick={() =>
              setTabs(
                tabs.map((t, i) =>
                  i === index ? { ...t, kind: kinds[(kinds.indexOf(t.kind) + 1) % kinds.length] as TabStop["kind"] } : t,
                ),
              )
            }
            onKeyDown={(e) => {
              if (e.key === "Delete" || e.key === "Backspace") setTabs(tabs.filter((_, i) => i !== index));
              else if (e.key === "ArrowLeft" || e.key === "ArrowRight")
                setTabs(tabs.map((t, i) => (i === index ? { ...t, at: t.at + (e.key === "ArrowRight" ? 1 : -1) } : t)));
              else if (e.key === " ")
                setTabs(
                  tabs.map((t, i) =>
                    i === index ? { ...t, kind: kinds[(kinds.indexOf(t.kind) + 1) % kinds.length] as TabStop["kind"] } : t,
                  ),
                );
              else return;
              e.preventDefault();
              e.stopPropagation();
            }}
            onPointerDown={(e) => {
              e.stopPropagation();
              const target = e.currentTarget;
              target.setPointerCapture(e.pointerId);
              let last = { index, at: tab.at, gone: false };
              const onMove = (m: PointerEvent) => {
                const r = box.current?.getBoundingClientRect();
                last = { index, at: Math.max(0, at(m)), gone: r !== undefined && (m.clientY > r.bottom + 24 || m.clientY < r.top - 24) };
                setDragged(last);
              };
              target.addEventListener("pointermove", onMove);
              target.addEventListener(
                "pointerup",
                () => {
                  target.removeEventListener("pointermove", onMove);
                  setDragged(null);
                  if (last.gone) setTabs(tabs.filter((_, i) => i !== index));
                  else if (last.at !== tab.at) setTabs(tabs.map((t, i) => (i === index ? { ...t, at: last.at } : t)));
                },
                { once: true },
              );
            }}
          >
            {signs[tab.kind]}
          </span>
        ))}
      </div>
    </div>
  );
}
