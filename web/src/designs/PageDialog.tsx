import { useState } from "react";
import { Dialog } from "../ui/Dialog";
import { sayWrong } from "../ui/notices";
import type { Letter, WatermarkSetting } from "./letter";
import { SheetFields } from "./SheetFields";
import { bringPicture } from "./Toolbar";
import { NumberField } from "../ui/NumberField";

const firstMark: WatermarkSetting = { text: "", angle: 45, size: 90, strength: 0.12, color: "#000000" };

/** Sheet, margins, the type a letter starts from, its letterhead and watermark, and the number of pages it is to keep to. */
export function PageDialog({
  letter,
  families,
  onChange,
  close,
}: {
  letter: Letter;
  families: string[];
  onChange: (part: Partial<Letter>) => void;
  close: () => void;
}) {
  const [l, setL] = useState(letter);
  const [name, setName] = useState(letter.background ? "As is" : "");
  const row = "grid grid-cols-[130px_1fr] items-center gap-2";
  const number = (label: string, value: number, low: number, high: number, step: number, set: (n: number) => void, unit: string) => (
    <label className={row}>
      <span>{label}</span>
      <span className="flex items-center gap-2">
        <input
          type="number"
          className="input input-sm w-20"
          aria-label={label}
          value={value}
          min={low}
          max={high}
          step={step}
          required
          onChange={(e) => set(Number(e.target.value))}
        />{" "}
        {unit}
      </span>
    </label>
  );
  const mark = l.watermark ?? firstMark;
  const setMark = (part: Partial<WatermarkSetting>) => setL({ ...l, watermark: { ...mark, ...part } });
  const background = async (file: File | undefined) => {
    if (!file) return;
    try {
      const { picture } = await bringPicture(file);
      setL({ ...l, background: { asset: picture.id, pages: l.background?.pages ?? "all" } });
      setName(file.name);
    } catch (e) {
      sayWrong(e);
    }
  };
  return (
    <Dialog title="Page setup" onClose={close} wide>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          onChange({
            page: l.page,
            type: l.type,
            maxPages: l.maxPages,
            edge: l.edge,
            firstDiffers: l.firstDiffers,
            evenDiffers: l.evenDiffers,
            background: l.background,
            watermark: l.watermark?.text.trim() ? l.watermark : null,
            omitWhenEmpty: l.omitWhenEmpty,
          });
          close();
        }}
      >
        <div className="grid grid-cols-2 gap-x-6">
          <div className="flex flex-col gap-1.5">
            <SheetFields page={l.page} onChange={(page) => setL({ ...l, page })} />
            <label className={row}>
              <span>Font</span>
              <select
                className="select select-sm w-full"
                value={l.type.family}
                onChange={(e) => setL({ ...l, type: { ...l.type, family: e.target.value } })}
              >
                {families.map((f) => (
                  <option key={f}>{f}</option>
                ))}
              </select>
            </label>
            {number("Font size", l.type.size, 6, 36, 0.5, (n) => setL({ ...l, type: { ...l.type, size: n } }), "pt")}
            {number(
              "Line spacing",
              l.type.lineSpacing,
              1,
              3,
              0.05,
              (n) => setL({ ...l, type: { ...l.type, lineSpacing: n } }),
              "× font size",
            )}
            {number("Space after paragraph", l.type.spaceAfter, 0, 40, 1, (n) => setL({ ...l, type: { ...l.type, spaceAfter: n } }), "pt")}
          </div>
          <div className="flex flex-col gap-1.5">
            <label className={row}>
              <span>Page limit</span>
              <select
                className="select select-sm w-full"
                value={l.maxPages ?? 0}
                onChange={(e) => setL({ ...l, maxPages: Number(e.target.value) || null })}
              >
                <option value={1}>1 page</option>
                <option value={2}>2 pages</option>
                <option value={3}>3 pages</option>
                <option value={0}>No limit</option>
              </select>
            </label>
            <h3 className="mt-1 font-semibold">Letterhead</h3>
            <NumberField label="Header and footer, from the edge" value={l.edge} low={3} high={60} onSet={(edge) => setL({ ...l, edge })} />
            <label className="flex items-center gap-2">
              <input
                type="checkbox"
                className="checkbox checkbox-xs"
                checked={l.firstDiffers}
                onChange={(e) => setL({ ...l, firstDiffers: e.target.checked })}
              />
              Different header and footer on the first page
            </label>
            <label className="flex items-center gap-2">
              <input
                type="checkbox"
                className="checkbox checkbox-xs"
                checked={l.evenDiffers}
                onChange={(e) => setL({ ...l, evenDiffers: e.target.checked })}
              />
              even pages have a header and footer of their own
            </label>
            <div className="flex items-center gap-2">
              <label className="btn btn-quiet btn-sm">
                {l.background ? "Change background" : "Add background"}
                <input
                  type="file"
                  className="sr"
                  aria-label="Background file"
                  accept="image/png,image/jpeg,image/svg+xml,application/pdf"
                  onChange={(e) => void background(e.target.files?.[0])}
                />
              </label>
              {l.background && (
                <>
                  <select
                    className="select select-sm w-28"
                    aria-label="Background pages"
                    value={l.background.pages}
                    onChange={(e) =>
                      l.background && setL({ ...l, background: { ...l.background, pages: e.target.value as "all" | "first" | "follow" } })
                    }
                  >
                    <option value="all">All pages</option>
                    <option value="first">First page only</option>
                    <option value="follow">page 1, then page 2</option>
                  </select>
                  <button type="button" className="btn btn-ghost btn-sm" onClick={() => setL({ ...l, background: null })}>
                    Remove background
                  </button>
                </>
              )}
            </div>
            <p className="truncate text-[12px] text-faint">
              {l.background ? name : "A picture, drawing, or PDF page printed behind the text."}
            </p>
            {l.background && (
              <p className="text-[12px] text-faint">
                {l.background.pages === "follow"
                  ? "The PDF’s first page is printed behind the first page of the letter, its second behind all following pages."
                  : "Of a PDF with several pages only the first is used. For a second page of letterhead choose “page 1, then page 2”."}
              </p>
            )}
            <label className="flex items-center gap-2">
              <input
                type="checkbox"
                className="checkbox checkbox-xs"
                checked={l.omitWhenEmpty}
                onChange={(e) => setL({ ...l, omitWhenEmpty: e.target.checked })}
              />
              leave it out of the package where it prints nothing
            </label>
            <h3 className="mt-1 font-semibold">Watermark</h3>
            <label className={row}>
              <span>Text</span>
              <input
                className="input input-sm w-full"
                aria-label="Watermark text"
                value={mark.text}
                placeholder="No watermark. You can use fields, such as {City}."
                onChange={(e) => setMark({ text: e.target.value })}
              />
            </label>
            {number("Angle", mark.angle, -90, 90, 1, (n) => setMark({ angle: n }), "degrees")}
            {number("Size", mark.size, 8, 400, 1, (n) => setMark({ size: n }), "pt")}
            <label className={row}>
              <span>Opacity</span>
              <span className="flex items-center gap-2">
                <input
                  type="range"
                  className="range range-xs w-20"
                  aria-label="Watermark opacity"
                  min={2}
                  max={60}
                  value={Math.round(mark.strength * 100)}
                  onChange={(e) => setMark({ strength: Number(e.target.value) / 100 })}
                />{" "}
                <span className="w-10 whitespace-nowrap">{Math.round(mark.strength * 100)} %</span>
                <input
                  type="color"
                  className="h-6 w-8"
                  aria-label="Color of the watermark"
                  value={mark.color}
                  onChange={(e) => setMark({ color: e.target.value })}
                />
              </span>
            </label>
          </div>
        </div>
        <button className="btn btn-primary mt-3">Apply</button>
      </form>
    </Dialog>
  );
}
