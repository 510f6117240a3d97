import { useQuery } from "@tanstack/react-query";
import { Plus } from "lucide-react";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { api, ask, queryClient } from "../api/client";
import { listsQuery, suppressionsQuery } from "../api/queries";
import { Empty } from "../ui/Empty";
import { Header } from "../ui/Header";
import { useActions } from "../ui/keys";
import { sayWrong } from "../ui/notices";
import { count, many, moment } from "../ui/words";
import { keys } from "../api/keys";

export function ListsPage() {
  const navigate = useNavigate();
  const lists = useQuery(listsQuery());
  useActions([{ keys: "n", label: "Import list", run: () => void navigate("/lists/new") }]);
  return (
    <>
      <Header kind="Recipients" title="Lists">
        <Link className="btn btn-primary" to="/lists/new">
          <Plus size={15} /> Import list
        </Link>
      </Header>
      {lists.data?.length === 0 && (
        <Empty
          title="No lists yet"
          actions={
            <Link className="btn btn-primary" to="/lists/new">
              Import list
            </Link>
          }
        >
          Import recipients from a spreadsheet or CSV file. You can check how the file is read before anything is saved. Postal codes keep
          their leading zeros.
        </Empty>
      )}
      {lists.data && lists.data.length > 0 && (
        <div className="min-h-0 flex-1 overflow-auto">
          <table className="table table-sm w-full">
            <thead>
              <tr className="text-faint">
                <th>List</th>
                <th className="text-right">Recipients</th>
                <th>Source</th>
                <th>Imported</th>
                <th>Import notes</th>
              </tr>
            </thead>
            <tbody>
              {lists.data.map((l) => (
                <tr key={l.id} className="cursor-pointer hover:bg-base-200" onClick={() => void navigate(`/lists/${l.id}`)}>
                  <td>
                    <Link className="font-semibold hover:underline" to={`/lists/${l.id}`}>
                      {l.name}
                    </Link>
                  </td>
                  <td className="text-right">{count(l.recipients)}</td>
                  <td>{l.sourceName ?? <span className="text-faint">Entered by hand</span>}</td>
                  <td className="whitespace-nowrap text-faint">
                    {moment(l.createdAt)}, {l.createdBy}
                  </td>
                  <td className="max-w-md truncate text-faint" title={l.report.join("\n")}>
                    {l.report.length === 0 ? "None" : l.report.length === 1 ? l.report[0] : `${l.report.length} notes: ${l.report[0]}`}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          <Suppressions />
        </div>
      )}
    </>
  );
}

/** The lists of people who must not be mailed, kept apart from the others. */
function Suppressions() {
  const navigate = useNavigate();
  const all = useQuery(suppressionsQuery()).data ?? [];
  const [name, setName] = useState("");
  const begin = async () => {
    try {
      const id = await ask(api.POST("/api/suppressions", { body: { name } }));
      await queryClient.invalidateQueries({ queryKey: keys.suppressions() });
      void navigate(`/suppressions/${id}`);
    } catch (e) {
      sayWrong(e);
    }
  };
  return (
    <section className="px-4 py-6">
      <h2 className="mb-1">Suppression lists</h2>
      <p className="mb-2 text-faint">People on these lists are held in every drop, with the reason.</p>
      <table className="mb-3 w-full max-w-xl">
        <tbody>
          {all.map((l) => (
            <tr key={l.id} className="border-b border-line">
              <td className="py-1.5">
                <Link className="font-semibold hover:underline" to={`/suppressions/${l.id}`}>
                  {l.name}
                </Link>
              </td>
              <td className="text-right">{many(l.entries, "entry", "entries")}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <form
        className="flex gap-2"
        onSubmit={(e) => {
          e.preventDefault();
          void begin();
        }}
      >
        <input
          className="input input-sm w-60"
          aria-label="Suppression list name"
          placeholder="Do not mail"
          maxLength={120}
          value={name}
          onChange={(e) => setName(e.target.value)}
        />
        <button className="btn btn-quiet btn-sm" disabled={!name.trim()}>
          Create suppression list
        </button>
      </form>
    </section>
  );
}
