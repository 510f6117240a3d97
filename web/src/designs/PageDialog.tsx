import { useState } from "react";
import { Dialog } from "../ui/Dialog";
import { sheets, type Letter, type Sheet } from "./letter";

/** Sheet, margins, the type a letter starts from, and the number of pages it is to keep to. */
export function PageDialog({ letter, families, onChange, close }: { letter: Letter; families: string[]; onChange: (part: Partial<Letter>) => void; close: () => void }) {
  const [l, setL] = useState(letter);
  const row = "grid grid-cols-[150px_1fr] items-center gap-2";
  const number = (label: string, value: number, low: number, high: number, step: number, set: (n: number) => void, unit: string) => (
    <label className={row}>
      <span>{label}</span>
      <span className="flex items-center gap-2">
        <input type="number" className="input input-sm w-24" value={value} min={low} max={high} step={step} required onChange={(e) => set(Number(e.target.value))} /> {unit}
      </span>
    </label>
  );
  const margin = (side: keyof Letter["page"]["margins"], label: string) => number(label, l.page.margins[side], 5, 60, 1, (n) => setL({ ...l, page: { ...l.page, margins: { ...l.page.margins, [side]: n } } }), "mm");
  return (
    <Dialog title="The page" onClose={close}>
      <form
        className="flex flex-col gap-2"
        onSubmit={(e) => {
          e.preventDefault();
          onChange({ page: l.page, type: l.type, maxPages: l.maxPages });
          close();
        }}
      >
        <label className={row}>
          <span>Sheet</span>
          <select className="select select-sm w-full" value={l.page.sheet} onChange={(e) => setL({ ...l, page: { ...l.page, sheet: e.target.value as Sheet } })}>
            {Object.entries(sheets).map(([key, s]) => (
              <option key={key} value={key}>
                {s.name}
              </option>
            ))}
          </select>
        </label>
        <label className={row}>
          <span>Held</span>
          <select className="select select-sm w-full" value={l.page.orientation ?? "portrait"} onChange={(e) => setL({ ...l, page: { ...l.page, orientation: e.target.value as "portrait" | "landscape" } })}>
            <option value="portrait">upright</option>
            <option value="landscape">lying</option>
          </select>
        </label>
        {margin("top", "Margin above")}
        {margin("bottom", "Margin below")}
        {margin("left", "Margin left")}
        {margin("right", "Margin right")}
        <label className={row}>
          <span>Typeface</span>
          <select className="select select-sm w-full" value={l.type.family} onChange={(e) => setL({ ...l, type: { ...l.type, family: e.target.value } })}>
            {families.map((f) => (
              <option key={f}>{f}</option>
            ))}
          </select>
        </label>
        {number("Type size", l.type.size, 6, 36, 0.5, (n) => setL({ ...l, type: { ...l.type, size: n } }), "pt")}
        {number("Line spacing", l.type.lineSpacing, 1, 3, 0.05, (n) => setL({ ...l, type: { ...l.type, lineSpacing: n } }), "times the size")}
        {number("After a paragraph", l.type.spaceAfter, 0, 40, 1, (n) => setL({ ...l, type: { ...l.type, spaceAfter: n } }), "pt")}
        <label className={row}>
          <span>Keep to</span>
          <select className="select select-sm w-full" value={l.maxPages ?? 0} onChange={(e) => setL({ ...l, maxPages: Number(e.target.value) || null })}>
            <option value={1}>one page; more is a finding</option>
            <option value={2}>two pages; more is a finding</option>
            <option value={3}>three pages; more is a finding</option>
            <option value={0}>as many pages as it takes</option>
          </select>
        </label>
        <button className="btn btn-primary mt-2 self-start">Set</button>
      </form>
    </Dialog>
  );
}
