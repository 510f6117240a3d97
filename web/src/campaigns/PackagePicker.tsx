import { kindOrder, kinds } from "../designs/kinds";
import type { Schema } from "../api/client";

interface Props {
  designs: Schema["DesignView"][];
  listId: number;
  chosen: number[];
  onChange: (chosen: number[]) => void;
}

/** What goes out together: a letter, its envelope, labels. Those written with the list come first. */
export function PackagePicker({ designs, listId, chosen, onChange }: Props) {
  const open = designs.filter((d) => !d.archived || chosen.includes(d.id));
  return (
    <div className="max-h-72 overflow-auto rounded border border-base-300 bg-base-100" role="group" aria-label="Package">
      {kindOrder.map((kind) => {
        const of = open.filter((d) => d.kind === kind).sort((a, b) => Number(b.listId === listId) - Number(a.listId === listId));
        if (of.length === 0) return null;
        return (
          <div key={kind}>
            <p className="sticky top-0 bg-base-200 px-2.5 py-0.5 text-[12px] text-faint">{kinds[kind].heading}</p>
            {of.map((d) => (
              <label key={d.id} className="flex cursor-pointer items-center gap-2 px-2.5 py-1 hover:bg-base-200">
                <input
                  type="checkbox"
                  className="checkbox checkbox-xs"
                  checked={chosen.includes(d.id)}
                  aria-label={`${d.name}, ${kinds[d.kind].name}`}
                  onChange={(e) => onChange(e.target.checked ? [...chosen, d.id] : chosen.filter((c) => c !== d.id))}
                />
                <span className="flex-1 truncate">{d.name}</span>
                {d.listId !== null && d.listId !== listId && <span className="text-[12px] text-faint">Uses another list</span>}
              </label>
            ))}
          </div>
        );
      })}
      {open.length === 0 && <p className="px-2.5 py-2 text-faint">No designs yet.</p>}
    </div>
  );
}
