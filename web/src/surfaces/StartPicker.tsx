import { useState } from "react";
import { SheetDrawing } from "./SheetDrawing";
import type { OwnStock } from "./surface";

export interface Start {
  start: number;
  spoiled: number[];
}

/** Where on a partly used sheet labels begin, clicked on a drawing of it, and which of its places are spoiled. */
export function StartPicker({
  stock,
  value,
  byColumns,
  width,
  onChange,
}: {
  stock: OwnStock;
  value: Start;
  byColumns: boolean;
  width: number;
  onChange: (value: Start) => void;
}) {
  const [spoiling, setSpoiling] = useState(false);
  const rank = (p: number) => (byColumns ? ((p - 1) % stock.columns) * stock.rows + Math.floor((p - 1) / stock.columns) : p);
  return (
    <div className="flex flex-col gap-1.5">
      <div className="flex gap-1" role="group" aria-label="Click action">
        <button
          type="button"
          className={`btn btn-xs ${spoiling ? "btn-quiet" : "btn-primary"}`}
          aria-pressed={!spoiling}
          onClick={() => setSpoiling(false)}
        >
          Choose start position
        </button>
        <button
          type="button"
          className={`btn btn-xs ${spoiling ? "btn-primary" : "btn-quiet"}`}
          aria-pressed={spoiling}
          onClick={() => setSpoiling(true)}
        >
          Mark spoiled positions
        </button>
      </div>
      <SheetDrawing
        stock={stock}
        width={width}
        state={(p) =>
          value.spoiled.includes(p) ? "spoiled" : p === value.start ? "start" : rank(p) < rank(value.start) ? "used" : undefined
        }
        onPlace={(p) => {
          if (!spoiling) onChange({ start: p, spoiled: value.spoiled.filter((x) => x !== p) });
          else if (p !== value.start)
            onChange({
              ...value,
              spoiled: value.spoiled.includes(p) ? value.spoiled.filter((x) => x !== p) : [...value.spoiled, p].sort((a, b) => a - b),
            });
        }}
      />
      <p className="text-[12px] text-faint">
        Starts at position {value.start}
        {value.spoiled.length > 0 && `, skips ${value.spoiled.join(", ")}`}; then continues on new sheets.
      </p>
    </div>
  );
}
