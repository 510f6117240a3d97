import { useQuery } from "@tanstack/react-query";
import { RotateCcw } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";
import { api, ask, type Schema } from "../../api/client";
import { count, many, moment } from "../../ui/words";
import { act } from "./acts";
import { keys } from "../../api/keys";

/** Who did what, when and why; each act can be taken back. */
export function LogPane({ list }: { list: Schema["ListView"] }) {
  const path = { id: list.id };
  const [open, setOpen] = useState<number | null>(null);
  const acts = useQuery({ queryKey: keys.lists(list.id, "log"), queryFn: () => ask(api.GET("/api/lists/{id}/log", { params: { path } })) })
    .data?.acts;
  const changes = useQuery({
    queryKey: keys.lists(list.id, "log", open),
    queryFn: () => ask(api.GET("/api/lists/{id}/log/{actionId}", { params: { path: { ...path, actionId: open ?? 0 } } })),
    enabled: open !== null,
  }).data;
  const name = (id: number) => (id === 0 ? "on the list" : (list.columns.find((c) => c.id === id)?.name ?? "removed column"));
  return (
    <div className="min-h-0 flex-1 overflow-auto px-3 py-2">
      <p className="mb-2">
        <Link className="underline" to={`/lists/${list.id}/versions`}>
          Versions: {count(list.version)}
        </Link>{" "}
        <span className="text-faint">View or restore any import</span>
      </p>
      {acts?.length === 0 && (
        <p className="text-faint">No changes yet. Every change is listed here with who made it, and you can undo it.</p>
      )}
      {acts?.map((a) => (
        <div key={a.id} className="border-b border-line py-1.5 text-[12px]">
          <div className="flex items-start gap-1">
            <button
              className={`min-w-0 flex-1 cursor-pointer text-left ${a.undone ? "text-faint line-through" : ""}`}
              aria-expanded={open === a.id}
              onClick={() => setOpen(open === a.id ? null : a.id)}
            >
              {a.label}
            </button>
            {!a.undone && a.ofReturn && (
              <Link className="btn btn-quiet btn-xs shrink-0" to="/returns" title="Undo it there, with everything that followed from it">
                On Returns
              </Link>
            )}
            {!a.undone && !a.isUndo && !a.ofReturn && (
              <button
                className="btn btn-quiet btn-xs btn-square"
                aria-label={`Undo: ${a.label}`}
                title="Undo"
                onClick={() =>
                  void act(list.id, ask(api.POST("/api/lists/{id}/log/{actionId}/undo", { params: { path: { ...path, actionId: a.id } } })))
                }
              >
                <RotateCcw size={12} />
              </button>
            )}
          </div>
          <span className="text-faint">
            {moment(a.at)}, {a.by}
            {a.cells > 0 ? ` · ${many(a.cells, "value")}` : ""}
          </span>
          {open === a.id &&
            changes?.map((c, i) => (
              <div key={i} className="flex gap-1.5 pl-1 text-[11.5px]">
                <span className="w-8 shrink-0 text-right text-faint">{c.number}</span>
                <span className="min-w-0 break-words">
                  <span className="text-faint">{name(c.columnId)}:</span>{" "}
                  <s className="text-error">{c.old ?? (c.columnId === 0 ? "no" : "blank")}</s>{" "}
                  {c.new ?? (c.columnId === 0 ? "no" : "blank")}
                </span>
              </div>
            ))}
        </div>
      ))}
    </div>
  );
}
