import { useEffect } from "react";
import { Link } from "react-router";
import { queryClient, type Schema } from "../api/client";
import { keys } from "../api/keys";
import { useDuplicates } from "../lists/useDuplicates";
import { many, pieceNumber } from "../ui/words";

/** Before a run: who of it may be one person, who would get two pieces. */
export function PossibleDuplicates({ drop, of }: { drop: Schema["DropView"]; of: Schema["PossibleDuplicates"] }) {
  const known = useDuplicates(drop.listId);
  // A search, or a pair that was told apart on the list, changes nothing in the drop: the plan is asked for anew here.
  const outdated = known && !known.stale && (!of.searched || known.sure + known.toCompare !== of.open);
  useEffect(() => {
    if (outdated) void queryClient.invalidateQueries({ queryKey: keys.drop(drop.id, "plan") });
  }, [outdated, drop.id]);
  if (of.pairs === 0)
    return of.searched ? null : (
      <p className="mb-2 text-[12.5px] text-faint" role="status">
        Searching for duplicates…
      </p>
    );
  const more = of.pairs - of.first.length;
  return (
    <div
      className="mb-2 border-l-[3px] border-warning bg-doubt px-3 py-2 text-[12.5px] text-doubt-ink"
      role="note"
      aria-label="Possible duplicates"
    >
      <strong className="block">
        {many(of.pairs, "pair")} of recipients may be the same person and {of.pairs === 1 ? "gets" : "get"} two pieces
      </strong>
      <ul>
        {of.first.map((p) => (
          <li key={`${p.a.piece}-${p.b.piece}`} className="break-words">
            {pieceNumber(p.a.piece)} {p.a.name} and {pieceNumber(p.b.piece)} {p.b.name}
          </li>
        ))}
      </ul>
      {more > 0 && <span>and {many(more, "more pair", "more pairs")}. </span>}
      <Link className="underline" to={`/lists/${drop.listId}?pane=duplicates`}>
        Compare {of.pairs === 1 ? "them" : "each pair"}
      </Link>
    </div>
  );
}
