import { useQuery } from "@tanstack/react-query";
import { api, ask, queryClient, type Schema } from "../api/client";
import { Dialog } from "../ui/Dialog";
import { sayWrong } from "../ui/notices";
import { keys } from "../api/keys";

export const matchesKey = (designId: number, listId: number | null) => keys.designs(designId, "matches", listId);

/** What a letter's names stand for in a list that calls its columns otherwise: settled by picking, and remembered for the two. */
export function MatchDialog({
  designId,
  listId,
  columns,
  values,
  close,
}: {
  designId: number;
  listId: number;
  columns: Schema["Column"][];
  values: (string | null)[];
  close: () => void;
}) {
  const matches = useQuery({
    queryKey: matchesKey(designId, listId),
    queryFn: () => ask(api.GET("/api/designs/{id}/matches", { params: { path: { id: designId }, query: { listId } } })),
  }).data;
  const rows = useQuery({
    queryKey: [...matchesKey(designId, listId), "rows"],
    queryFn: () => ask(api.GET("/api/designs/{id}/row-matches", { params: { path: { id: designId }, query: { listId } } })),
  }).data;
  const setRows = async (name: string, field: string | null, target: string | null) => {
    try {
      await ask(api.PUT("/api/designs/{id}/row-matches", { params: { path: { id: designId } }, body: { listId, name, field, target } }));
      await queryClient.invalidateQueries({ queryKey: matchesKey(designId, listId) });
      await queryClient.invalidateQueries({ queryKey: keys.preview(designId) });
      await queryClient.invalidateQueries({ queryKey: keys.printed(designId) });
    } catch (e) {
      sayWrong(e);
    }
  };
  const set = async (name: string, columnId: number | null) => {
    try {
      await ask(api.PUT("/api/designs/{id}/matches", { params: { path: { id: designId } }, body: { listId, name, columnId } }));
      await queryClient.invalidateQueries({ queryKey: matchesKey(designId, listId) });
      await queryClient.invalidateQueries({ queryKey: keys.preview(designId) });
      await queryClient.invalidateQueries({ queryKey: keys.printed(designId) });
    } catch (e) {
      sayWrong(e);
    }
  };
  const how = { hand: "Chosen by hand", role: "Matched by role", renamed: "Renamed since" } as Record<string, string>;
  return (
    <Dialog title="Choose columns for fields" onClose={close} wide>
      <p className="mb-3 text-faint">
        These field names have no matching heading in this list. Choose a column for each. Your choices are saved for this letter and list.
      </p>
      {matches?.length === 0 && !rows?.length && <p>Every field has a matching column.</p>}
      {matches && matches.length > 0 && (
        <table className="table table-sm">
          <thead>
            <tr className="text-faint">
              <th>Field in the letter</th>
              <th>Column in this list</th>
              <th>Example</th>
              <th />
            </tr>
          </thead>
          <tbody>
            {matches.map((m) => {
              const at = columns.findIndex((c) => c.id === m.columnId);
              return (
                <tr key={m.name} className={m.columnId === null ? "bg-doubt" : ""}>
                  <td className="font-semibold">{m.name}</td>
                  <td>
                    <select
                      className="select select-sm w-48"
                      aria-label={`Column for ${m.name}`}
                      value={m.columnId ?? ""}
                      onChange={(e) => void set(m.name, e.target.value ? Number(e.target.value) : null)}
                    >
                      <option value="">Choose a column…</option>
                      {columns.map((c, i) => (
                        <option key={c.id} value={c.id}>
                          {c.name}
                          {values[i] ? ` (${values[i]})` : ""}
                        </option>
                      ))}
                    </select>
                    {m.columnId === null && m.suggestion !== null && (
                      <button className="btn btn-quiet btn-xs ml-2" onClick={() => void set(m.name, m.suggestion)}>
                        {columns.find((c) => c.id === m.suggestion)?.name}?
                      </button>
                    )}
                  </td>
                  <td className="max-w-40 truncate text-faint">{at >= 0 ? values[at] : ""}</td>
                  <td className="text-faint">{m.how ? how[m.how] : ""}</td>
                </tr>
              );
            })}
          </tbody>
        </table>
      )}
      {rows && rows.length > 0 && (
        <>
          <h3 className="mt-4 mb-1">Detail rows</h3>
          <p className="mb-2 text-faint">Detail rows the letter repeats that this list does not have, or has under another name.</p>
          <table className="table table-sm" aria-label="Detail rows">
            <tbody>
              {rows.map((r) => (
                <tr key={`${r.name} ${r.field ?? ""}`} className={r.target === null ? "bg-doubt" : ""}>
                  <td className="font-semibold">{r.field === null ? `rows of ${r.name}` : `${r.name}: ${r.field}`}</td>
                  <td>
                    <select
                      className="select select-sm w-56"
                      aria-label={r.field === null ? `Rows for ${r.name}` : `Column for ${r.field} of ${r.name}`}
                      value={r.target ?? ""}
                      onChange={(e) => void setRows(r.name, r.field, e.target.value || null)}
                    >
                      <option value="">{r.choices.length ? "Choose a column…" : "this list has no detail rows"}</option>
                      {r.choices.map((c) => (
                        <option key={c}>{c}</option>
                      ))}
                    </select>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </>
      )}
      <button className="btn btn-primary mt-3" onClick={close}>
        Done
      </button>
    </Dialog>
  );
}
