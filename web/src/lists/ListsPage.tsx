import { useQuery } from "@tanstack/react-query";
import { Plus } from "lucide-react";
import { Link, useNavigate } from "react-router";
import { listsQuery } from "../api/queries";
import { Empty } from "../ui/Empty";
import { Header } from "../ui/Header";
import { useActions } from "../ui/keys";
import { count, moment } from "../ui/words";

export function ListsPage() {
  const navigate = useNavigate();
  const lists = useQuery(listsQuery());
  useActions([{ keys: "n", label: "Bring a list in", run: () => void navigate("/lists/new") }]);
  return (
    <>
      <Header kind="Who gets mail" title="Lists">
        <Link className="btn btn-primary" to="/lists/new">
          <Plus size={15} /> Bring a list in
        </Link>
      </Header>
      {lists.data?.length === 0 && (
        <Empty
          title="No list yet"
          actions={
            <Link className="btn btn-primary" to="/lists/new">
              Bring a list in
            </Link>
          }
        >
          A list is the recipients of a spreadsheet or CSV file. You see how it is read before anything is stored, and postal codes keep their leading zeros.
        </Empty>
      )}
      {lists.data && lists.data.length > 0 && (
        <div className="min-h-0 flex-1 overflow-auto">
          <table className="table table-sm w-full">
            <thead>
              <tr className="text-faint">
                <th>List</th>
                <th className="text-right">Recipients</th>
                <th>Brought in from</th>
                <th>When, by whom</th>
                <th>What was found</th>
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
                  <td>{l.sourceName}</td>
                  <td className="whitespace-nowrap text-faint">
                    {moment(l.createdAt)}, {l.createdBy}
                  </td>
                  <td className="max-w-md truncate text-faint" title={l.report.join("\n")}>
                    {l.report.length === 0 ? "nothing odd" : l.report.length === 1 ? l.report[0] : `${l.report.length} remarks: ${l.report[0]}`}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </>
  );
}
