import type { Schema } from "../../api/client";

/** The order of the pieces: the same for every design, so that letter and envelope stay in step. */
export function SortPicker({
  id,
  columns,
  value,
  onChange,
}: {
  id: string;
  columns: Schema["Column"][];
  value: string;
  onChange: (value: string) => void;
}) {
  const chosen = value === "piece" || value === "postal" ? [] : value.split(",");
  const name = (key: string) => columns.find((c) => String(c.id) === key)?.name ?? key;
  return (
    <span className="flex gap-2">
      <select
        id={id}
        className="select select-sm w-44"
        value={chosen.length ? "columns" : value}
        onChange={(e) => onChange(e.target.value === "columns" ? String(columns[0]?.id ?? "piece") : e.target.value)}
      >
        <option value="piece">List order (piece number)</option>
        <option value="postal">Country, then postal code</option>
        <option value="columns">Columns…</option>
      </select>
      {chosen.length > 0 && (
        <span className="flex min-w-0 flex-1 flex-col gap-1">
          {chosen.map((key, i) => (
            <select
              key={i}
              className="select select-sm w-full"
              aria-label={`Sort column ${i + 1}`}
              value={key}
              onChange={(e) =>
                onChange(
                  chosen
                    .map((k, n) => (n === i ? e.target.value : k))
                    .filter(Boolean)
                    .join(",") || "piece",
                )
              }
            >
              {i > 0 && <option value="">None</option>}
              {columns.map((c) => (
                <option key={c.id} value={c.id}>
                  {c.name}
                </option>
              ))}
            </select>
          ))}
          {chosen.length < 4 && (
            <button
              className="cursor-pointer self-start text-[12px] underline"
              onClick={() =>
                onChange([...chosen, String(columns.find((c) => !chosen.includes(String(c.id)))?.id ?? "")].filter(Boolean).join(","))
              }
            >
              Add sort column after {name(chosen.at(-1) ?? "")}
            </button>
          )}
        </span>
      )}
    </span>
  );
}
