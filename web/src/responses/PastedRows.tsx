import { sayWrong } from "../ui/notices";
import { count } from "../ui/words";

const largest = 8 << 20;

/** Rows that are pasted from a spreadsheet, or come from a CSV file, and what is wrong with them. */
export function PastedRows({
  label,
  example,
  help,
  text,
  problems,
  disabled = false,
  onText,
}: {
  label: string;
  example: string;
  help: string;
  text: string;
  problems: string[];
  disabled?: boolean;
  onText: (text: string) => void;
}) {
  return (
    <>
      <label>
        <span className="mb-1 block font-semibold">{label}</span>
        <textarea
          className="textarea h-36 w-full font-mono text-[12.5px]"
          value={text}
          disabled={disabled}
          placeholder={example}
          onChange={(e) => onText(e.target.value)}
        />
      </label>
      <input
        type="file"
        className="file-input file-input-sm w-full"
        aria-label="CSV file"
        accept=".csv,.txt,.tsv,text/csv,text/plain"
        disabled={disabled}
        onChange={(e) => {
          const file = e.target.files?.[0];
          if (!file) return;
          if (file.size > largest) sayWrong(new Error("This file is larger than 8 MB. Split it."));
          else void file.text().then(onText);
        }}
      />
      <p className="text-[12px] leading-4 text-faint">{help}</p>
      {problems.length > 0 && !disabled && (
        <ul className="max-h-24 overflow-auto text-error" role="alert">
          {problems.slice(0, 20).map((p) => (
            <li key={p}>{p}</li>
          ))}
        </ul>
      )}
    </>
  );
}

/** Rows of which nothing, or not all, was recorded, each with the reason. */
export function NotRecorded({ rows, label = "Not recorded" }: { rows: string[]; label?: string }) {
  const shown = 200;
  if (rows.length === 0) return null;
  return (
    <ul className="max-h-48 overflow-auto border-l-[3px] border-error bg-doubt px-3 py-2" aria-label={label}>
      {rows.slice(0, shown).map((n) => (
        <li key={n}>{n}</li>
      ))}
      {rows.length > shown && <li>and {count(rows.length - shown)} more</li>}
    </ul>
  );
}
