import { useState } from "react";
import { Dialog } from "../ui/Dialog";

/** Asks for a reason: typed, or one of the usual ones. Enter does it. */
export function ReasonDialog(p: {
  title: string;
  explanation: string;
  suggestions: string[];
  action: string;
  date?: string;
  onClose: () => void;
  onReason: (reason: string, date: string) => void;
}) {
  const [reason, setReason] = useState("");
  const [date, setDate] = useState(p.date ?? "");
  return (
    <Dialog title={p.title} onClose={p.onClose}>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          p.onReason(reason.trim() || "by hand", date);
        }}
      >
        <p className="mb-3 text-faint">{p.explanation}</p>
        {p.date !== undefined && (
          <label className="mb-3 block">
            <span className="mb-1 block font-semibold">Date</span>
            <input type="date" className="input w-full" value={date} max={p.date} onChange={(e) => setDate(e.target.value)} required />
          </label>
        )}
        <label className="mb-2 block">
          <span className="mb-1 block font-semibold">Reason</span>
          <input
            className="input w-full"
            autoFocus
            maxLength={500}
            value={reason}
            placeholder="by hand"
            onChange={(e) => setReason(e.target.value)}
          />
        </label>
        <div className="mb-4 flex flex-wrap gap-1.5">
          {p.suggestions.map((s) => (
            <button key={s} type="button" className="btn btn-quiet btn-xs" onClick={() => setReason(s)}>
              {s}
            </button>
          ))}
        </div>
        <button className="btn btn-primary">{p.action}</button>
      </form>
    </Dialog>
  );
}
