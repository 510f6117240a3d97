import { GripVertical } from "lucide-react";
import { useState } from "react";

/** The list's columns and what is made for you, to be dragged onto the page; ticked ones go together. */
export function FormColumns({
  names,
  valueOf,
  readOnly,
  onPlace,
}: {
  names: { columns: string[]; made: string[] };
  valueOf: (name: string) => string | null;
  readOnly: boolean;
  onPlace: (names: string[]) => void;
}) {
  const [ticked, setTicked] = useState<string[]>([]);
  const [find, setFind] = useState("");
  const line = (name: string) => (
    <li
      key={name}
      className="flex h-7 items-center gap-1.5 rounded px-2 hover:bg-base-200"
      draggable={!readOnly}
      onDragStart={(e) => {
        e.dataTransfer.effectAllowed = "copy";
        e.dataTransfer.setData("text/bandeja-fields", JSON.stringify(ticked.includes(name) ? ticked : [name]));
      }}
    >
      <input
        type="checkbox"
        className="checkbox checkbox-xs"
        aria-label={`Select ${name}`}
        checked={ticked.includes(name)}
        onChange={(e) => setTicked(e.target.checked ? [...ticked, name] : ticked.filter((t) => t !== name))}
      />
      <span className="max-w-[60%] shrink-0 truncate">{name}</span>
      <span className="min-w-0 flex-1 truncate text-right text-faint">{valueOf(name)}</span>
      <GripVertical size={13} className="shrink-0 cursor-grab text-faint" />
    </li>
  );
  const fits = (name: string) => name.toLowerCase().includes(find.trim().toLowerCase());
  return (
    <div className="flex min-h-0 flex-col">
      <div className="flex items-center gap-2 p-3">
        <input
          className="input input-sm min-w-0 flex-1"
          aria-label="Find a column"
          placeholder="find"
          value={find}
          onChange={(e) => setFind(e.target.value)}
        />
        <button
          className="btn btn-primary btn-sm"
          disabled={readOnly || ticked.length === 0}
          onClick={() => (onPlace(ticked), setTicked([]))}
        >
          {ticked.length > 1 ? `Add ${ticked.length} to the page` : "Add to the page"}
        </button>
      </div>
      <p className="px-3 pb-1 text-[12px] text-faint">Drag columns onto the page or onto a field; selected ones go together.</p>
      <ul className="px-1" aria-label="Columns">
        {names.columns.filter(fits).map(line)}
        {names.made.filter(fits).map(line)}
      </ul>
    </div>
  );
}
