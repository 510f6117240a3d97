import type { Schema } from "../../api/client";
import { Dialog } from "../../ui/Dialog";
import { roleNames, typeNames } from "../columns";
import type { useColumnView } from "../useColumnView";

/** Which columns the table shows; kept in this browser. */
export function ChooseColumns({
  list,
  view,
  onClose,
}: {
  list: Schema["ListView"];
  view: ReturnType<typeof useColumnView>;
  onClose: () => void;
}) {
  return (
    <Dialog title="Show columns" onClose={onClose}>
      <div className="mb-3 flex gap-2">
        <button className="btn btn-quiet btn-sm" onClick={() => view.hide([])}>
          All
        </button>
        <button className="btn btn-quiet btn-sm" onClick={() => view.hide(list.columns.filter((c) => c.role === "None").map((c) => c.id))}>
          Name and address only
        </button>
      </div>
      <div className="flex max-h-96 flex-col overflow-auto">
        {list.columns.map((c) => (
          <label key={c.id} className="flex min-h-7 shrink-0 items-center gap-2">
            <input
              type="checkbox"
              className="checkbox checkbox-sm"
              checked={!view.hidden.includes(c.id)}
              onChange={(e) => view.hide(e.target.checked ? view.hidden.filter((x) => x !== c.id) : [...view.hidden, c.id])}
            />
            {c.name} <span className="text-faint">{c.role === "None" ? typeNames[c.type] : roleNames[c.role]}</span>
          </label>
        ))}
      </div>
    </Dialog>
  );
}
