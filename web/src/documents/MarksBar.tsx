import { useState } from "react";
import type { Schema } from "../api/client";

/** The marks around typed placeholders: those that were found, to be switched on and off, and others to type. */
export function MarksBar({ marks, onToggle }: { marks: Schema["MarksView"][]; onToggle: (sample: string) => void }) {
  const [own, setOwn] = useState<string | null>(null);
  return (
    <div className="mb-2 flex flex-wrap items-center gap-1.5">
      <span className="text-[12px] text-faint">Marks</span>
      {marks.map((m) => (
        <button
          key={m.sample}
          className={`btn btn-xs font-mono ${m.used ? "btn-primary" : "btn-quiet"}`}
          aria-pressed={m.used}
          title={`${m.count} in the document`}
          onClick={() => onToggle(m.sample)}
        >
          {m.sample.replace("name", " ")}
        </button>
      ))}
      {own === null ? (
        <button className="btn btn-xs btn-quiet" onClick={() => setOwn("")}>
          Other…
        </button>
      ) : (
        <form
          className="flex gap-1"
          onSubmit={(e) => {
            e.preventDefault();
            if (own.includes("name") && own.trim() !== "name") onToggle(own.trim());
            setOwn(null);
          }}
        >
          <input
            className="input input-xs w-28 font-mono"
            autoFocus
            aria-label="Other marks"
            placeholder="~name~"
            title="Type the marks with the word name between them, such as ~name~"
            value={own}
            maxLength={24}
            onChange={(e) => setOwn(e.target.value)}
            onKeyDown={(e) => e.key === "Escape" && setOwn(null)}
          />
          <button className="btn btn-xs btn-primary" disabled={!own.includes("name") || own.trim() === "name"}>
            Find
          </button>
        </form>
      )}
    </div>
  );
}
