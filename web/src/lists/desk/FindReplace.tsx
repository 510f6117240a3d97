import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, type Schema } from "../../api/client";
import { Dialog } from "../../ui/Dialog";
import { useDelayed } from "../../ui/useDelayed";
import { many } from "../../ui/words";
import { act } from "./acts";
import { keys } from "../../api/keys";

/** Finds and replaces; what would change is shown before it is. */
export function FindReplace({ list, onClose }: { list: Schema["ListView"]; onClose: () => void }) {
  const [find, setFind] = useState("");
  const [replacement, setReplacement] = useState("");
  const [matchCase, setMatchCase] = useState(false);
  const [wholeCell, setWholeCell] = useState(false);
  const [column, setColumn] = useState("");
  const body = { find, with: replacement, matchCase, wholeCell, columns: column ? [Number(column)] : null, recipients: null };
  const asked = useDelayed(JSON.stringify(body), 250);
  const preview = useQuery({
    queryKey: keys.lists(list.id, "replace", asked),
    queryFn: () =>
      ask(api.POST("/api/lists/{id}/replace/preview", { params: { path: { id: list.id } }, body: JSON.parse(asked) as typeof body })),
    enabled: (JSON.parse(asked) as typeof body).find !== "",
    placeholderData: keepPreviousData,
  }).data;
  const shown = find === "" ? undefined : preview;
  const name = (id: number) => list.columns.find((c) => c.id === id)?.name;
  return (
    <Dialog title="Find and replace" onClose={onClose} wide>
      <form
        className="grid grid-cols-[70px_1fr_70px_1fr] items-center gap-2"
        onSubmit={(e) => {
          e.preventDefault();
          if (shown && shown.cells > 0)
            void act(list.id, ask(api.POST("/api/lists/{id}/replace", { params: { path: { id: list.id } }, body }))).then(
              (done) => done && onClose(),
            );
        }}
      >
        <label htmlFor="find" className="font-semibold">
          Find
        </label>
        <input id="find" className="input input-sm w-full" autoFocus value={find} onChange={(e) => setFind(e.target.value)} />
        <label htmlFor="with" className="font-semibold">
          Replace with
        </label>
        <input
          id="with"
          className="input input-sm w-full"
          placeholder="Nothing"
          value={replacement}
          onChange={(e) => setReplacement(e.target.value)}
        />
        <label htmlFor="in" className="font-semibold">
          Column
        </label>
        <select id="in" className="select select-sm w-full" value={column} onChange={(e) => setColumn(e.target.value)}>
          <option value="">All columns</option>
          {list.columns
            .filter((c) => c.kind !== "Computed")
            .map((c) => (
              <option key={c.id} value={c.id}>
                {c.name}
              </option>
            ))}
        </select>
        <div className="col-span-2 flex gap-4">
          <label className="flex items-center gap-1.5">
            <input type="checkbox" className="checkbox checkbox-sm" checked={matchCase} onChange={(e) => setMatchCase(e.target.checked)} />{" "}
            Match case
          </label>
          <label className="flex items-center gap-1.5">
            <input type="checkbox" className="checkbox checkbox-sm" checked={wholeCell} onChange={(e) => setWholeCell(e.target.checked)} />{" "}
            Match whole cell
          </label>
        </div>
        <div
          className="col-span-4 h-56 overflow-auto border-y border-line"
          role="region"
          tabIndex={0}
          aria-label="Matches"
          aria-live="polite"
        >
          {!shown && <p className="py-2 text-faint">Changes are previewed here first.</p>}
          {shown?.cells === 0 && <p className="py-2 text-faint">“{find}” was not found.</p>}
          <table className="w-full text-[12.5px]">
            <tbody>
              {shown?.first.map((f) => (
                <tr key={`${f.recipientId}-${f.columnId}`} className="border-b border-line">
                  <td className="w-14 py-0.5 text-right text-faint">{f.number}</td>
                  <td className="w-28 truncate px-2 text-faint">{name(f.columnId)}</td>
                  <td className="text-error line-through">{f.before}</td>
                  <td className="font-semibold text-success">{f.after ?? "blank"}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
        <div className="col-span-4 flex items-center justify-end gap-2">
          {shown && shown.cells > shown.first.length && <span className="mr-auto text-faint">First {shown.first.length} shown</span>}
          <button type="button" className="btn btn-quiet" onClick={onClose}>
            Cancel
          </button>
          <button className="btn btn-primary" disabled={!shown || shown.cells === 0}>
            {shown && shown.cells > 0 ? `Replace in ${many(shown.cells, "cell")}` : "Replace"}
          </button>
        </div>
      </form>
    </Dialog>
  );
}
