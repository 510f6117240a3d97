import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { ChevronLeft, ChevronRight, Download } from "lucide-react";
import { useMemo, useState } from "react";
import { useNavigate } from "react-router";
import { api, ask, type Schema } from "../api/client";
import { fromBase64, PdfPages } from "../ui/PdfPages";
import { useDelayed } from "../ui/useDelayed";
import { useSize } from "../ui/useSize";
import { count, many } from "../ui/words";
import { printersQuery } from "./queries";
import type { OwnStock, Surface } from "./surface";
import { Beside } from "../ui/Beside";
import { keys } from "../api/keys";

interface Props {
  designId: number;
  listId: number | null;
  surface: Surface;
  columns: Schema["Column"][];
  readOnly: boolean;
  onChange: (part: Partial<Surface>) => void;
}

/** The whole sheet with real recipients, and how it is filled. A click on a label goes to its recipient. */
export function SheetView({ designId, listId, surface, columns, readOnly, onChange }: Props) {
  const navigate = useNavigate();
  const [sheet, setSheet] = useState(1);
  const [copiesOfOne, setCopiesOfOne] = useState(1);
  const [printer, setPrinter] = useState("");
  const printers = useQuery(printersQuery()).data ?? [];
  const moved = printer ? `printerId=${printer}` : "";
  const delayed = useDelayed(surface, 250);
  const shown = useQuery({
    queryKey: keys.sheet(designId, listId, sheet, delayed),
    queryFn: ({ signal }) =>
      ask(
        api.POST("/api/designs/sheet", {
          body: { document: delayed as unknown as Record<string, never>, listId, designId, sheet, start: 1, spoiled: null },
          signal,
        }),
      ),
    placeholderData: keepPreviousData,
    gcTime: 10_000,
  });
  const data = useMemo(() => (shown.data ? fromBase64(shown.data.pdf) : undefined), [shown.data]);
  const [area, size] = useSize<HTMLDivElement>();
  const stock = shown.data?.stock as OwnStock | undefined;
  const width = Math.max(
    200,
    Math.floor(Math.min(size.width - 48, stock ? ((size.height - 40) * stock.sheetWidth) / stock.sheetHeight : 400)),
  );
  const scale = stock ? width / stock.sheetWidth : 1;
  const sheets = shown.data?.sheets ?? 1;
  const select = (label: string, value: string, choices: [string, string][], set: (value: string) => void) => (
    <label className="flex flex-col gap-1">
      <span className="font-semibold">{label}</span>
      <select
        className="select select-sm w-full"
        aria-label={label}
        disabled={readOnly}
        value={value}
        onChange={(e) => set(e.target.value)}
      >
        {choices.map(([v, name]) => (
          <option key={v} value={v}>
            {name}
          </option>
        ))}
      </select>
    </label>
  );
  const withFields = JSON.stringify(surface.boxes).includes('"field"');
  return (
    <div className="flex min-h-0 flex-1">
      <section className="flex min-w-0 flex-1 flex-col bg-base-200" aria-label="Sheet preview">
        <div className="flex h-10 shrink-0 items-center gap-3 px-4">
          <button
            className="btn btn-ghost btn-sm btn-square"
            aria-label="Previous sheet"
            disabled={sheet <= 1}
            onClick={() => setSheet(sheet - 1)}
          >
            <ChevronLeft size={16} />
          </button>
          <span className="tabular-nums">
            Sheet {count(Math.min(sheet, sheets))} of {count(sheets)}
          </span>
          <button
            className="btn btn-ghost btn-sm btn-square"
            aria-label="Next sheet"
            disabled={sheet >= sheets}
            onClick={() => setSheet(sheet + 1)}
          >
            <ChevronRight size={16} />
          </button>
          <span className="text-faint">
            {shown.data ? many(shown.data.labels.length, "label") : ""}. Click a label to open the recipient.
          </span>
        </div>
        <div ref={area} className="min-h-0 flex-1 overflow-auto px-4 pb-4">
          {shown.error && <p className="p-4 text-error">{shown.error.message}</p>}
          {listId === null && <p className="p-4 text-faint">Choose a list above to see its recipients on the sheet.</p>}
          {size.width > 0 && stock && (
            <div className="relative mx-auto" style={{ width, minHeight: stock.sheetHeight * scale }}>
              <PdfPages data={data} width={width} mark={`${sheet}`} />
              {shown.data?.labels.map((l) => {
                const [x, y] = [
                  stock.left + ((l.position - 1) % stock.columns) * stock.pitchX,
                  stock.top + Math.floor((l.position - 1) / stock.columns) * stock.pitchY,
                ];
                return (
                  <button
                    key={l.position}
                    className="absolute cursor-pointer rounded border border-dotted border-slate-400/60 hover:border-primary hover:bg-primary/5"
                    style={{ left: x * scale, top: y * scale, width: stock.labelWidth * scale, height: stock.labelHeight * scale }}
                    aria-label={`Label ${l.position}: ${l.name}, number ${l.number}`}
                    title={`${l.number} ${l.name}`}
                    onClick={() => void navigate(`/lists/${listId}/recipients/${l.recipientId}`)}
                  />
                );
              })}
            </div>
          )}
        </div>
      </section>
      <Beside label="Sheet fill settings" className="flex w-[300px] shrink-0 flex-col gap-4 overflow-auto border-l border-line p-4">
        {select(
          "Fill",
          surface.fill ?? "rows",
          [
            ["rows", "Across, row by row"],
            ["columns", "Down, column by column"],
          ],
          (v) => onChange({ fill: v as "rows" | "columns" }),
        )}
        <label className="flex flex-col gap-1">
          <span className="font-semibold">Labels per recipient</span>
          <input
            type="number"
            className="input input-sm w-24"
            aria-label="Labels per recipient"
            min={1}
            max={500}
            disabled={readOnly}
            value={surface.copies ?? 1}
            onChange={(e) => onChange({ copies: Math.max(1, Math.min(500, Math.round(Number(e.target.value)) || 1)) })}
          />
        </label>
        {select(
          "Labels per recipient from a column",
          surface.copiesBy ?? "",
          [["", "Same for every recipient"], ...columns.map((c): [string, string] => [`\`${c.name}\``, c.name])],
          (v) => onChange({ copiesBy: v || null }),
        )}
        {select(
          "Blank label when this column changes",
          surface.blankBetween ?? "",
          [["", "Never"], ...columns.map((c): [string, string] => [`\`${c.name}\``, c.name])],
          (v) => onChange({ blankBetween: v || null }),
        )}
        <p className="text-faint">
          When you produce the labels, you can choose where to start on a partly used sheet and mark spoiled positions.
        </p>
        {printers.length > 0 &&
          select(
            "Offsets for printer",
            printer,
            [["", "Any printer"], ...printers.map((p): [string, string] => [String(p.id), p.name])],
            setPrinter,
          )}
        <a className="btn btn-quiet btn-sm self-start" href={`/api/designs/${designId}/outline.pdf?${moved}`} download>
          <Download size={14} /> Download outlines
        </a>
        <p className="-mt-3 text-[12px] text-faint">
          Print the outlines on plain paper, place a label sheet over it, and hold both up to the light to check the fit.
        </p>
        {!withFields && (
          <div className="flex flex-col gap-1.5 border-t border-line pt-3">
            <span className="font-semibold">Same text on every label</span>
            <span className="text-[12px] text-faint">These labels have no fields, so you can produce full sheets without a list.</span>
            <span className="flex items-center gap-2">
              <input
                type="number"
                className="input input-sm w-16"
                aria-label="Number of sheets"
                min={1}
                max={200}
                value={copiesOfOne}
                onChange={(e) => setCopiesOfOne(Math.max(1, Math.min(200, Number(e.target.value) || 1)))}
              />
              <a className="btn btn-quiet btn-sm" href={`/api/designs/${designId}/sheets.pdf?sheets=${copiesOfOne}&${moved}`} download>
                <Download size={14} /> {many(copiesOfOne, "sheet")}
              </a>
            </span>
          </div>
        )}
      </Beside>
    </div>
  );
}
