import { useQuery } from "@tanstack/react-query";
import { CirclePlus } from "lucide-react";
import { useState } from "react";
import { api, ask, type Schema } from "../api/client";

export const builtIns = [
  { name: "Today", hint: "day of the run" },
  { name: "Piece number", hint: "0001" },
];

interface Props {
  columns: Schema["Column"][];
  listId: number | null;
  onInsert: (names: string[]) => void;
}

/** The fields at hand: a click puts one in, ticks put several in at once. */
export function FieldsPane({ columns, listId, onInsert }: Props) {
  const [find, setFind] = useState("");
  const [ticked, setTicked] = useState<string[]>([]);
  const first = useQuery({
    queryKey: ["lists", listId, "first"],
    queryFn: () => ask(api.GET("/api/lists/{id}/recipients", { params: { path: { id: listId ?? 0 }, query: { limit: 1 } } })),
    enabled: listId !== null,
  }).data?.rows[0];
  const fits = (name: string) => name.toLowerCase().includes(find.trim().toLowerCase());
  const line = (name: string, hint: string) => (
    <li key={name} className="group flex h-7 items-center gap-1.5">
      <input type="checkbox" className="checkbox checkbox-xs" aria-label={`Tick ${name}`} checked={ticked.includes(name)} onChange={(e) => setTicked(e.target.checked ? [...ticked, name] : ticked.filter((t) => t !== name))} />
      <button className="flex min-w-0 flex-1 cursor-pointer items-center gap-2 rounded px-1 text-left hover:bg-base-200" title={`Put {${name}} in`} onMouseDown={(e) => e.preventDefault()} onClick={() => onInsert([name])}>
        <span className="shrink-0">{name}</span>
        <span className="min-w-0 flex-1 truncate text-right text-faint">{hint}</span>
        <CirclePlus size={13} className="shrink-0 opacity-0 group-hover:opacity-70" />
      </button>
    </li>
  );
  return (
    <aside className="flex w-[212px] shrink-0 flex-col border-r border-line" aria-label="Fields">
      <div className="px-3 pt-3 pb-2">
        <h2 className="mb-1.5 text-[13px]">Fields</h2>
        <input className="input input-sm w-full" aria-label="Find a field" placeholder="find, or type { in the letter" value={find} onChange={(e) => setFind(e.target.value)} />
      </div>
      <div className="min-h-0 flex-1 overflow-auto px-3 pb-3" role="region" tabIndex={0} aria-label="All fields">
        <h3 className="mt-1 text-[12px] text-faint">Made for you</h3>
        <ul>{builtIns.filter((b) => fits(b.name)).map((b) => line(b.name, b.hint))}</ul>
        <h3 className="mt-2 text-[12px] text-faint">Columns</h3>
        {columns.length === 0 && <p className="text-faint">Choose a list above; its columns are the fields.</p>}
        <ul>{columns.map((c, i) => (fits(c.name) ? line(c.name, first?.values[i] ?? "") : null))}</ul>
      </div>
      {ticked.length > 0 && (
        <div className="border-t border-line p-3">
          <button
            className="btn btn-primary btn-sm w-full"
            onMouseDown={(e) => e.preventDefault()}
            onClick={() => {
              onInsert(ticked);
              setTicked([]);
            }}
          >
            Put {ticked.length === 1 ? "1 field" : `${ticked.length} fields`} in
          </button>
        </div>
      )}
    </aside>
  );
}
