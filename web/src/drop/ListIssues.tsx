import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { api, ask, type Schema } from "../api/client";
import { keys } from "../api/keys";
import { listQuery } from "../api/queries";
import { many, pieceNumber } from "../ui/words";

/**
 * What the list's checks have found in values that the ready pieces print: it prints as it is written. The most frequent kinds are named,
 * those first that are wrong and not only written in another form.
 */
export function ListIssues({ drop, brief = false }: { drop: Schema["DropView"]; brief?: boolean }) {
  const shown = brief ? 2 : 4;
  const list = useQuery(listQuery(drop.listId)).data;
  const found = useQuery({
    // Asked for anew whenever the list, its issues, or who is ready have changed.
    queryKey: keys.drop(drop.id, "list-issues", list?.revision, list?.issueCells, list?.checking, drop.trays.ready),
    queryFn: () => ask(api.GET("/api/drops/{id}/list-issues", { params: { path: { id: drop.id } } })),
    placeholderData: keepPreviousData,
  }).data;
  if (!found || found.recipients === 0) return null;
  return (
    <div
      className="mb-2 border-l-[3px] border-warning bg-doubt px-3 py-2 text-[12.5px] text-doubt-ink"
      role="note"
      aria-label="List issues"
    >
      <strong className="block">
        {many(found.recipients, "ready recipient has", "ready recipients have")} open list issues in values that{" "}
        {found.recipients === 1 ? "their piece prints" : "their pieces print"}
      </strong>
      <ul>
        {found.groups.slice(0, shown).map((g) => {
          const first = g.first.slice(0, brief ? 1 : undefined);
          return (
            <li key={g.kind} className="break-words">
              <Link className="underline" to={`/lists/${drop.listId}?pane=checks&issue=${g.kind}`}>
                {g.title}
              </Link>
              {g.recipients > first.length ? `, ${g.recipients}, such as ` : ": "}
              {first.map((f) => `“${f.value ?? f.name}” (${pieceNumber(f.piece)})`).join(", ")}
            </li>
          );
        })}
      </ul>
      {found.groups.length > shown && (
        <p>
          and{" "}
          <Link className="underline" to={`/lists/${drop.listId}?pane=checks`}>
            {many(found.groups.length - shown, "more kind", "more kinds")}
          </Link>{" "}
          on the list
        </p>
      )}
    </div>
  );
}
