import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask } from "../api/client";
import { Dialog } from "../ui/Dialog";
import { useDelayed } from "../ui/useDelayed";
import { settingsQuery } from "../api/queries";
import { stocksQuery } from "./queries";
import { SheetDrawing } from "./SheetDrawing";
import { stockOf, type OwnStock, type Surface } from "./surface";
import { keys } from "../api/keys";
import { customs } from "../ui/customs";

const measures: [keyof OwnStock, string][] = [
  ["sheetWidth", "Sheet width"],
  ["sheetHeight", "Sheet height"],
  ["labelWidth", "Label width"],
  ["labelHeight", "Label height"],
  ["left", "Left edge to first label"],
  ["top", "Top edge to first label"],
  ["pitchX", "Column spacing (left edge to left edge)"],
  ["pitchY", "Row spacing (top edge to top edge)"],
];

/** Label stock: one that is ready, or an own one by its measures with a drawing that follows. */
export function StockDialog({
  surface,
  onChange,
  close,
}: {
  surface: Surface;
  onChange: (stock: string | OwnStock) => void;
  close: () => void;
}) {
  // Those of the paper that the organization uses stand first.
  const american = useQuery(settingsQuery()).data?.sheet !== "a4";
  const stocks = [...(useQuery(stocksQuery()).data ?? [])].sort((a, b) => Number(b.inches === american) - Number(a.inches === american));
  const [chosen, setStock] = useState<string | OwnStock | undefined>(surface.stock);
  const stock = chosen ?? stocks[0]?.id ?? "";
  const [find, setFind] = useState("");
  const own = typeof stock === "object" ? stock : null;
  const rested = useDelayed(own, 150);
  const checked = useQuery({
    queryKey: keys.stock(rested),
    queryFn: () => ask(api.POST("/api/stocks/check", { body: { stock: rested as unknown as Record<string, never> } })),
    enabled: rested !== null,
    placeholderData: keepPreviousData,
  }).data;
  const known = typeof stock === "string" ? stocks.find((s) => s.id === stock) : undefined;
  const drawn = own ?? known;
  const mistakes = own ? (checked?.mistakes ?? []) : [];
  const unit = own?.inches ? 25.4 : 1;
  const set = (key: keyof OwnStock, value: number) => own && setStock({ ...own, [key]: value });
  const begin = () => {
    const from = known ?? stocks[0];
    if (from)
      setStock({
        sheetWidth: from.sheetWidth,
        sheetHeight: from.sheetHeight,
        columns: from.columns,
        rows: from.rows,
        labelWidth: from.labelWidth,
        labelHeight: from.labelHeight,
        left: from.left,
        top: from.top,
        pitchX: from.pitchX,
        pitchY: from.pitchY,
        corner: from.corner as OwnStock["corner"],
        radius: from.radius,
        // Its measures are typed as the organization measures, whatever it was sold by.
        inches: customs().inches,
      });
  };
  const fits = (name: string) => name.toLowerCase().replace(/\s|×/g, "x").includes(find.trim().toLowerCase().replace(/\s|×/g, "x"));
  return (
    <Dialog title="Label stock" onClose={close} wide>
      <form
        className="flex gap-5"
        onSubmit={(e) => {
          e.preventDefault();
          if (mistakes.length > 0) return;
          onChange(stock);
          close();
        }}
      >
        <div className="flex w-[430px] flex-col gap-2">
          <div className="flex gap-1" role="group" aria-label="Stock type">
            <button
              type="button"
              className={`btn btn-sm ${own ? "btn-quiet" : "btn-primary"}`}
              aria-pressed={!own}
              onClick={() => own && setStock(stockOf(surface, stocks) && typeof surface.stock === "string" ? surface.stock : undefined)}
            >
              Standard stock
            </button>
            <button
              type="button"
              className={`btn btn-sm ${own ? "btn-primary" : "btn-quiet"}`}
              aria-pressed={Boolean(own)}
              onClick={() => !own && begin()}
            >
              Custom size
            </button>
            {!own && (
              <input
                className="input input-sm ml-auto w-36"
                aria-label="Search label stocks"
                placeholder="Search, such as 3 × 10 or 2⅝"
                value={find}
                onChange={(e) => setFind(e.target.value)}
              />
            )}
          </div>
          {!own && (
            <ul className="h-[380px] overflow-auto" aria-label="Standard stocks">
              {stocks
                .filter((s) => fits(s.name))
                .map((s) => (
                  <li key={s.id}>
                    <button
                      type="button"
                      className={`flex w-full cursor-pointer gap-2 rounded px-2 py-1 text-left ${stock === s.id ? "chosen" : "hover:bg-base-200"}`}
                      aria-pressed={stock === s.id}
                      onClick={() => setStock(s.id)}
                    >
                      <span className="w-56 tabular-nums">{s.name}</span>
                      <span className="flex-1 text-faint">
                        {s.inches ? "US Letter" : "A4"},{" "}
                        {s.corner === "round" ? "round" : s.corner === "rounded" ? "rounded corners" : "square corners"}
                        {s.id.endsWith("badge") ? ", name badges" : s.id.endsWith("file") ? ", file labels" : ""}
                      </span>
                    </button>
                  </li>
                ))}
            </ul>
          )}
          {own && (
            <div className="grid grid-cols-2 gap-x-4 gap-y-1.5">
              <label className="col-span-2 flex items-center gap-2">
                <span>Units</span>
                <select
                  className="select select-sm w-28"
                  value={own.inches ? "in" : "mm"}
                  onChange={(e) => setStock({ ...own, inches: e.target.value === "in" })}
                >
                  <option value="in">Inches</option>
                  <option value="mm">Millimeters</option>
                </select>
              </label>
              {(["columns", "rows"] as const).map((key) => (
                <label key={key} className="grid grid-cols-[1fr_86px] items-center gap-1.5">
                  <span>{key === "columns" ? "Columns" : "Rows"}</span>
                  <input
                    type="number"
                    className="input input-sm"
                    aria-label={key === "columns" ? "Columns" : "Rows"}
                    min={1}
                    max={100}
                    value={own[key]}
                    onChange={(e) => set(key, Math.round(Number(e.target.value)))}
                  />
                </label>
              ))}
              {measures.map(([key, label]) => (
                <label key={key} className="grid grid-cols-[1fr_86px] items-center gap-1.5">
                  <span className="text-[12.5px]">{label}</span>
                  <input
                    type="number"
                    className="input input-sm"
                    aria-label={label}
                    step={own.inches ? 0.0625 : 0.5}
                    value={Math.round((Number(own[key]) / unit) * 10000) / 10000}
                    onChange={(e) => set(key, Number(e.target.value) * unit)}
                  />
                </label>
              ))}
              <label className="grid grid-cols-[1fr_100px] items-center gap-1.5">
                <span>Corners</span>
                <select
                  className="select select-sm"
                  value={own.corner}
                  onChange={(e) =>
                    setStock({
                      ...own,
                      corner: e.target.value as OwnStock["corner"],
                      radius: e.target.value === "rounded" ? own.radius || 2 : 0,
                    })
                  }
                >
                  <option value="square">square</option>
                  <option value="rounded">rounded</option>
                  <option value="round">round</option>
                </select>
              </label>
              {own.corner === "rounded" && (
                <label className="grid grid-cols-[1fr_86px] items-center gap-1.5">
                  <span>Corner radius</span>
                  <input
                    type="number"
                    className="input input-sm"
                    aria-label="Radius"
                    step={own.inches ? 0.0625 : 0.5}
                    min={0}
                    value={Math.round((own.radius / unit) * 10000) / 10000}
                    onChange={(e) => set("radius", Number(e.target.value) * unit)}
                  />
                </label>
              )}
              <div className="col-span-2 min-h-12">
                {mistakes.length > 0 ? (
                  <ul className="text-error" aria-label="Errors">
                    {mistakes.map((m) => (
                      <li key={m}>{m}</li>
                    ))}
                  </ul>
                ) : (
                  <p className="text-faint">{checked?.name}</p>
                )}
              </div>
            </div>
          )}
        </div>
        <div className="flex flex-1 flex-col items-center gap-2">
          {drawn && (
            <SheetDrawing stock={drawn as OwnStock} width={Math.min(270, (370 * drawn.sheetWidth) / Math.max(1, drawn.sheetHeight))} />
          )}
          <button className="btn btn-primary mt-auto self-end" disabled={mistakes.length > 0}>
            Use this stock
          </button>
        </div>
      </form>
    </Dialog>
  );
}
