import { useQuery } from "@tanstack/react-query";
import { Plus, X } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";
import { api, ask, queryClient, type Schema } from "../../api/client";
import { say, sayWrong } from "../../ui/notices";
import { count, many, moment } from "../../ui/words";
import { typeNames } from "../columns";
import { detailsQuery } from "../../api/queries";
import { keys } from "../../api/keys";

/** Rows of other tables that belong to the recipients: gifts, visits. */
export function DetailsPane({ list, onWhere }: { list: Schema["ListView"]; onWhere: (where: string) => void }) {
  const sets = useQuery(detailsQuery(list.id)).data;
  const key = list.columns.find((c) => c.role === "Key");
  const remove = async (d: Schema["DetailView"]) => {
    try {
      await ask(api.DELETE("/api/details/{id}", { params: { path: { id: d.id } } }));
      await queryClient.invalidateQueries({ queryKey: keys.lists(list.id) });
      say(`Removed ${d.name}. To get them back, import the file again.`);
    } catch (e) {
      sayWrong(e);
    }
  };
  return (
    <div className="min-h-0 flex-1 overflow-auto px-3 py-2">
      <p className="mb-2 text-faint">
        Rows from another sheet or file that belong to recipients, such as a member’s gifts{key ? `, matched by “${key.name}”` : ""}.
        Computed columns and segments can total them, for example: sum(Gifts.Amount).
      </p>
      {key ? (
        <Link className="btn btn-quiet btn-sm mb-3" to={`/lists/${list.id}/details/new`}>
          <Plus size={14} /> Import rows
        </Link>
      ) : (
        <p className="mb-3 text-doubt-ink">
          This list has no key column to match rows to recipients. From a column’s menu, give it the role “key” first.
        </p>
      )}
      {sets?.map((d) => (
        <Set key={d.id} set={d} onWhere={onWhere} onRemove={() => void remove(d)} />
      ))}
    </div>
  );
}

function Set({ set: d, onWhere, onRemove }: { set: Schema["DetailView"]; onWhere: (where: string) => void; onRemove: () => void }) {
  const [open, setOpen] = useState(false);
  const rows = useQuery({
    queryKey: keys.details(d.id, "unmatched"),
    queryFn: () => ask(api.GET("/api/details/{id}/rows", { params: { path: { id: d.id }, query: { limit: 50 } } })),
    enabled: open,
  }).data;
  return (
    <section className="mb-2 bg-base-100 p-2 text-[12px]" aria-label={d.name}>
      <div className="flex items-center justify-between">
        <h2 className="text-[13px]">{d.name}</h2>
        <button className="btn btn-ghost btn-xs btn-square" aria-label={`Remove ${d.name}`} onClick={onRemove}>
          <X size={13} />
        </button>
      </div>
      <p className="text-faint">
        {many(d.rows, "row")} from {d.sourceName}, {moment(d.at)}, {d.by}
      </p>
      <p className="my-1">{d.columns.map((c) => `${c.name} (${typeNames[c.type]})`).join(", ")}</p>
      <p>
        {d.unmatched === 0 ? (
          "Every row matches a recipient."
        ) : (
          <button className="cursor-pointer text-doubt-ink underline" aria-expanded={open} onClick={() => setOpen(!open)}>
            {many(d.unmatched, "row")} without a matching recipient
          </button>
        )}{" "}
        {d.without > 0 && (
          <button className="cursor-pointer underline" title="Show them in the table" onClick={() => onWhere(`count(${d.name}) = 0`)}>
            {count(d.without)} {d.without === 1 ? "recipient has" : "recipients have"} no rows.
          </button>
        )}
      </p>
      {open && (
        <ul className="mt-1 max-h-40 overflow-auto text-faint">
          {rows?.map((r, i) => (
            <li key={i}>{r.map((v) => v ?? "·").join(" · ")}</li>
          ))}
        </ul>
      )}
      {d.report.map((r) => (
        <p key={r} className="text-doubt-ink">
          {r}
        </p>
      ))}
    </section>
  );
}
