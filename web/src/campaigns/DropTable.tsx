import { Link, useNavigate } from "react-router";
import type { Schema } from "../api/client";
import { count, day } from "../ui/words";

/** Drops with their trays, a row each. */
export function DropTable({ drops }: { drops: Schema["DropSummary"][] }) {
  const navigate = useNavigate();
  return (
    <table className="w-full table-fixed" aria-label="Drops">
      <thead>
        <tr className="border-b border-line text-[12px] text-faint">
          <th className="w-[19%] px-4 py-1.5 text-left font-normal">Drop</th>
          <th className="w-[14%] py-1.5 text-left font-normal">To</th>
          <th className="w-[15%] py-1.5 text-left font-normal">Package</th>
          <th className="py-1.5 text-left font-normal">Mail date</th>
          {["Needs review", "Ready", "Held", "Produced", "Mailed", "Returned", "= Total"].map((h) => (
            <th key={h} className="py-1.5 pr-3 text-right font-normal">
              {h}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {drops.map((d) => {
          const t = d.trays;
          return (
            <tr
              key={d.id}
              className="cursor-pointer border-b border-line hover:bg-base-200"
              onClick={() => void navigate(`/drops/${d.id}`)}
            >
              <td className="truncate px-4 py-2">
                <Link to={`/drops/${d.id}`} className="hover:underline">
                  {d.number} · {d.name}
                </Link>
              </td>
              <td className="truncate pr-3 text-faint">{d.listName}</td>
              <td className="truncate pr-3 text-faint">{d.designName}</td>
              <td className="text-faint">{d.mailDate ? day(d.mailDate, false) : "Not set"}</td>
              <Cell n={t.needsReview} className="font-semibold text-doubt-ink" />
              <Cell n={t.ready} />
              <Cell n={t.held} />
              <Cell n={t.produced} />
              <Cell n={t.mailed} />
              <Cell n={t.returned} className="text-error" />
              <td className="py-2 pr-3 text-right font-semibold">{count(t.onTheList)}</td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

function Cell({ n, className = "" }: { n: number; className?: string }) {
  return <td className={`py-2 pr-3 text-right ${n === 0 ? "text-faint" : className}`}>{count(n)}</td>;
}
