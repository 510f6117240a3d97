import type { Schema } from "../api/client";

const parts = [
  { carried: "Whole", title: "Imported", tone: "text-primary" },
  { carried: "Different", title: "Looks different", tone: "text-doubt-ink" },
  { carried: "Left", title: "Not imported", tone: "text-error" },
] as const;

/** Imported parts, what looks different, and what did not come. A line with a place leads there. */
export function DocumentReport({ lines, onPlace }: { lines: Schema["ReportLine"][]; onPlace: (block: number) => void }) {
  return (
    <>
      {parts.map(({ carried, title, tone }) => {
        const own = lines.filter((l) => l.carried === carried);
        if (own.length === 0) return null;
        return (
          <section key={carried} className="mb-4" aria-label={title}>
            <h2 className={`mb-1 text-[13px] font-semibold ${tone}`}>{title}</h2>
            <ul>
              {own.map((line, i) => (
                <li key={i} className="border-b border-line py-1.5 text-[13px] break-words">
                  {line.block === null || line.block === undefined ? (
                    line.text
                  ) : (
                    <button className="cursor-pointer text-left underline decoration-dotted" onClick={() => onPlace(line.block ?? 0)}>
                      {line.text}
                    </button>
                  )}
                </li>
              ))}
            </ul>
          </section>
        );
      })}
    </>
  );
}
