import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { api, ask, type Schema } from "../../api/client";
import { Dialog } from "../../ui/Dialog";
import { keys } from "../../api/keys";

const path = (list: number, columnId: number) => ({ params: { path: { id: list, columnId } } });

/** What uses a column: computed columns, designs, segments, drops. */
export const usesQuery = (list: number, columnId: number) => ({
  queryKey: keys.lists(list, "uses", columnId),
  queryFn: () => ask(api.GET("/api/lists/{id}/columns/{columnId}/uses", path(list, columnId))),
});

const kinds = [
  ["columns", "Computed columns"],
  ["segments", "Segments"],
  ["designs", "Designs"],
  ["drops", "Drops"],
] as const;

/** True where anything uses the column. */
export const isUsed = (uses: Schema["ColumnUses"] | undefined) => uses !== undefined && kinds.some(([kind]) => uses[kind].length > 0);

/** Says what uses a column before something is done to it, and does it only after a yes. */
export function UsesDialog({
  list,
  column,
  title,
  effect,
  action,
  onDo,
  onClose,
}: {
  list: Schema["ListView"];
  column: Schema["Column"];
  title: string;
  effect: string;
  action: string;
  onDo: () => void;
  onClose: () => void;
}) {
  const uses = useQuery({ ...usesQuery(list.id, column.id), staleTime: 0 }).data;
  return (
    <Dialog title={title} onClose={onClose}>
      {!uses ? (
        <p className="mb-4 text-faint">Looking for what uses it…</p>
      ) : isUsed(uses) ? (
        <>
          <p className="mb-2">{effect}</p>
          <dl className="mb-4" aria-label="What uses the column">
            {kinds
              .filter(([kind]) => uses[kind].length > 0)
              .map(([kind, name]) => (
                <div key={kind} className="mb-1">
                  <dt className="text-[12px] text-faint">{name}</dt>
                  {uses[kind].map((u) => (
                    <dd key={u.id} className="leading-6">
                      {kind === "designs" || kind === "drops" ? (
                        <Link className="inline-block underline" to={`/${kind}/${u.id}`}>
                          {u.name}
                        </Link>
                      ) : (
                        u.name
                      )}
                    </dd>
                  ))}
                </div>
              ))}
          </dl>
        </>
      ) : (
        <p className="mb-4">Nothing uses it. Undo brings it back.</p>
      )}
      <div className="flex justify-end gap-2">
        <button className="btn btn-quiet" onClick={onClose} autoFocus>
          Cancel
        </button>
        <button className="btn btn-primary" disabled={!uses} onClick={onDo}>
          {action}
        </button>
      </div>
    </Dialog>
  );
}
