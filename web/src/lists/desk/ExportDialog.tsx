import { useState } from "react";
import type { Schema } from "../../api/client";
import { Dialog } from "../../ui/Dialog";
import { many } from "../../ui/words";

interface Props {
  list: Schema["ListView"];
  query: Record<string, string | number | undefined>;
  shown: Schema["Column"][];
  total: number;
  filtered: boolean;
  onClose: () => void;
}

/** Takes recipients out as a file: what is shown, or all. */
export function ExportDialog({ list, query, shown, total, filtered, onClose }: Props) {
  const [format, setFormat] = useState("csv");
  const [who, setWho] = useState(filtered ? "shown" : "all");
  const [ledger, setLedger] = useState(false);
  const allShown = shown.length === list.columns.length;
  const [columns, setColumns] = useState(allShown ? "all" : "shown");
  const params = new URLSearchParams();
  if (who === "shown") for (const [key, value] of Object.entries(query)) if (value !== undefined) params.set(key, String(value));
  if (who === "all" && query.sorts !== undefined) params.set("sorts", String(query.sorts));
  if (columns === "shown") params.set("columns", shown.map((c) => c.id).join(","));
  if (ledger) params.set("ledger", "true");
  const choice = (name: string, value: string, chosen: string, set: (v: string) => void, label: string) => (
    <label className="flex items-center gap-1.5">
      <input type="radio" name={name} className="radio radio-sm" checked={chosen === value} onChange={() => set(value)} /> {label}
    </label>
  );
  const line = "grid grid-cols-[90px_1fr] items-start gap-2 py-1.5";
  return (
    <Dialog title={`Export ${list.name}`} onClose={onClose}>
      <div className={line}>
        <span className="font-semibold">Format</span>
        <div className="flex gap-4">
          {choice("format", "csv", format, setFormat, "CSV")}
          {choice("format", "xlsx", format, setFormat, "XLSX")}
          {choice("format", "json", format, setFormat, "JSON")}
        </div>
      </div>
      <div className={line}>
        <span className="font-semibold">Recipients</span>
        <div className="flex flex-col gap-1">
          {filtered && choice("who", "shown", who, setWho, `Shown: ${many(total, "recipient")}`)}
          {choice("who", "all", who, setWho, `All: ${many(list.recipients, "recipient")}`)}
        </div>
      </div>
      {!allShown && (
        <div className={line}>
          <span className="font-semibold">Columns</span>
          <div className="flex flex-col gap-1">
            {choice("columns", "shown", columns, setColumns, `Shown: ${shown.length}`)}
            {choice("columns", "all", columns, setColumns, `All: ${list.columns.length}`)}
          </div>
        </div>
      )}
      <label className={line}>
        <span className="font-semibold">Ledger</span>
        <span className="flex items-center gap-1.5">
          <input type="checkbox" className="checkbox checkbox-sm" checked={ledger} onChange={(e) => setLedger(e.target.checked)} /> Include
          last mail date, package, and tray
        </span>
      </label>
      <div className="mt-3 flex justify-end gap-2">
        <button className="btn btn-quiet" onClick={onClose}>
          Cancel
        </button>
        <a
          className="btn btn-primary"
          href={`/api/lists/${list.id}/export.${format}?${params.toString()}`}
          download
          onClick={() => setTimeout(onClose, 100)}
        >
          Download
        </a>
      </div>
    </Dialog>
  );
}
