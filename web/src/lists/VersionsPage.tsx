import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams } from "react-router";
import { api, ask, type Schema } from "../api/client";
import { listQuery } from "../api/queries";
import { Header } from "../ui/Header";
import { count, many, moment } from "../ui/words";
import { cellText } from "./columns";
import { act } from "./desk/acts";
import { keys } from "../api/keys";

const pageSize = 50;

/** The loads of a list: what came when, as it was then, and the way back to it. */
export function VersionsPage() {
  const id = Number(useParams().id);
  const list = useQuery(listQuery(id)).data;
  const versions = useQuery({
    queryKey: keys.lists(id, "versions"),
    queryFn: () => ask(api.GET("/api/lists/{id}/versions", { params: { path: { id } } })),
  }).data;
  const [chosen, setChosen] = useState<number | null>(null);
  if (!list || !versions) return null;
  const number = chosen ?? versions[0]?.number ?? 1;
  return (
    <>
      <Header kind={<Link to={`/lists/${id}`}>{list.name}</Link>} title="Versions" state={many(versions.length, "load")}>
        <button
          className="btn btn-primary"
          onClick={() => void act(id, ask(api.POST("/api/lists/{id}/versions/{number}/bring-back", { params: { path: { id, number } } })))}
        >
          Restore version {number}
        </button>
      </Header>
      <div className="flex min-h-0 flex-1">
        <aside className="w-72 shrink-0 overflow-auto border-r border-line" aria-label="Versions">
          {versions.map((v) => (
            <button
              key={v.number}
              aria-pressed={v.number === number}
              className={`block w-full cursor-pointer border-b border-line px-4 py-2 text-left ${v.number === number ? "bg-base-200" : "hover:bg-base-200/60"}`}
              onClick={() => setChosen(v.number)}
            >
              <span className="flex justify-between">
                <b>Version {v.number}</b> <span>{count(v.recipients)}</span>
              </span>
              <span className="block text-[12px] text-faint">
                {moment(v.at)}, {v.by}
                {v.sourceName ? `, from ${v.sourceName}` : ""}
              </span>
              {v.number > 1 && (
                <span className="block text-[12px] text-faint">
                  {count(v.added)} added, {count(v.changed)} changed, {count(v.gone)} removed
                </span>
              )}
            </button>
          ))}
          <p className="p-4 text-[12px] text-faint">
            Restoring a version resets all imported values to that version, including values corrected since. Columns you added are kept.
            You can undo a restore.
          </p>
        </aside>
        <Rows key={number} list={list} number={number} />
      </div>
    </>
  );
}

function Rows({ list, number }: { list: Schema["ListView"]; number: number }) {
  const [page, setPage] = useState(0);
  const rows = useQuery({
    queryKey: keys.lists(list.id, "version", number, page),
    queryFn: () =>
      ask(
        api.GET("/api/lists/{id}/versions/{number}", {
          params: { path: { id: list.id, number }, query: { offset: page * pageSize, limit: pageSize } },
        }),
      ),
  }).data;
  const sources = list.columns.map((c, i) => ({ c, i })).filter((x) => x.c.kind === "Source");
  return (
    <div className="flex min-w-0 flex-1 flex-col">
      <div className="min-h-0 flex-1 overflow-auto" tabIndex={0} role="region" aria-label={`Recipients of version ${number}`}>
        <table className="text-[12.5px]" aria-label={`Version ${number}`}>
          <thead className="sticky top-0 bg-base-200">
            <tr>
              <th className="border-r border-b border-line px-2 py-1 text-right font-normal text-faint">No.</th>
              {sources.map(({ c }) => (
                <th key={c.id} className="border-r border-b border-line px-2 py-1 text-left whitespace-nowrap">
                  {c.name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows?.rows.map((r) => (
              <tr key={r.id}>
                <td className="border-r border-b border-line px-2 py-1 text-right text-faint">{r.number}</td>
                {sources.map(({ c, i }) => (
                  <td key={c.id} className="max-w-60 truncate border-r border-b border-line px-2 py-1">
                    {cellText(c.type, r.values[i])}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {rows && (
        <div className="flex h-10 shrink-0 items-center gap-3 border-t border-line px-4">
          <button className="btn btn-quiet btn-xs" disabled={page === 0} onClick={() => setPage(page - 1)}>
            Before
          </button>
          <span className="text-faint">
            {count(Math.min(rows.total, page * pageSize + 1))} to {count(Math.min(rows.total, (page + 1) * pageSize))} of{" "}
            {count(rows.total)}
          </span>
          <button className="btn btn-quiet btn-xs" disabled={(page + 1) * pageSize >= rows.total} onClick={() => setPage(page + 1)}>
            Next
          </button>
        </div>
      )}
    </div>
  );
}
