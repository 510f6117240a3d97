import { useQuery } from "@tanstack/react-query";
import { Plus } from "lucide-react";
import { Link, useNavigate } from "react-router";
import { campaignsQuery } from "../api/queries";
import { Empty } from "../ui/Empty";
import { Header } from "../ui/Header";
import { useActions } from "../ui/keys";
import { count, day } from "../ui/words";

export function CampaignsPage() {
  const navigate = useNavigate();
  const campaigns = useQuery(campaignsQuery()).data;
  useActions([{ keys: "n", label: "Make a drop", run: () => void navigate("/campaigns/new") }]);
  return (
    <>
      <Header kind="What goes out" title="Campaigns">
        <Link className="btn btn-primary" to="/campaigns/new">
          <Plus size={15} /> Make a drop
        </Link>
      </Header>
      <div className="min-h-0 flex-1 overflow-auto">
        {campaigns?.length === 0 && (
          <Empty
            title="No campaign yet"
            actions={
              <Link className="btn btn-primary" to="/campaigns/new">
                Make a drop
              </Link>
            }
          >
            A campaign has one or more drops; a drop sends one letter to one list on a mail date.
          </Empty>
        )}
        {campaigns && campaigns.length > 0 && (
          <table className="w-full">
            <thead className="sticky top-0 bg-base-100">
              <tr className="border-b border-line text-[12px] text-faint">
                <th className="px-4 py-1.5 text-left font-normal">Drop</th>
                <th className="py-1.5 text-left font-normal">To</th>
                <th className="py-1.5 text-left font-normal">Letter</th>
                <th className="py-1.5 text-left font-normal">Mail date</th>
                {["Needs a look", "Ready", "Held", "Produced", "Mailed", "Returned", "= List"].map((h) => (
                  <th key={h} className="py-1.5 pr-3 text-right font-normal">
                    {h}
                  </th>
                ))}
              </tr>
            </thead>
            {campaigns.map((c) => (
              <tbody key={c.id}>
                <tr>
                  <td colSpan={11} className="px-4 pt-4 pb-1">
                    <span className="text-[14px] font-semibold">{c.name}</span>{" "}
                    <Link className="ml-2 text-[12px] text-faint underline" to={`/campaigns/new?campaign=${c.id}`}>
                      add a drop
                    </Link>
                  </td>
                </tr>
                {c.drops.map((d) => {
                  const t = d.trays;
                  return (
                    <tr
                      key={d.id}
                      className="cursor-pointer border-b border-line hover:bg-base-200"
                      onClick={() => void navigate(`/drops/${d.id}`)}
                    >
                      <td className="px-4 py-2">
                        <Link to={`/drops/${d.id}`} className="hover:underline">
                          {d.number} · {d.name}
                        </Link>
                      </td>
                      <td className="max-w-48 truncate text-faint">{d.listName}</td>
                      <td className="max-w-48 truncate text-faint">{d.designName}</td>
                      <td className="text-faint">{d.mailDate ? day(d.mailDate, false) : "not set"}</td>
                      <Number n={t.needsALook} className="font-semibold text-doubt-ink" />
                      <Number n={t.ready} />
                      <Number n={t.held} />
                      <Number n={t.produced} />
                      <Number n={t.mailed} />
                      <Number n={t.returned} className="text-error" />
                      <td className="py-2 pr-3 text-right font-semibold">{count(t.onTheList)}</td>
                    </tr>
                  );
                })}
              </tbody>
            ))}
          </table>
        )}
      </div>
    </>
  );
}

function Number({ n, className = "" }: { n: number; className?: string }) {
  return <td className={`py-2 pr-3 text-right ${n === 0 ? "text-faint" : className}`}>{count(n)}</td>;
}
