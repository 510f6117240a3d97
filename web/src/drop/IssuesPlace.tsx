import { useState } from "react";
import { Link } from "react-router";
import { api, ask, type Schema } from "../api/client";
import { Dialog } from "../ui/Dialog";
import { useActions } from "../ui/keys";
import { sayWrong } from "../ui/notices";
import { count, many } from "../ui/words";
import { accept, hold, setForAll, undo } from "./acts";
import { useDrop } from "./DropPage";
import { ReasonDialog } from "./ReasonDialog";

type Group = Schema["PieceIssueGroupView"];

/** The issues of all recipients, by kind: seen, accepted, fixed, held group by group. */
export function IssuesPlace() {
  const drop = useDrop();
  const [asking, setAsking] = useState<{ what: "hold" | "fix"; group: Group; ids: number[] } | null>(null);
  useActions([{ keys: "u Ctrl+z", label: "Undo", run: () => void undo(drop.id) }]);
  const about = async (what: "hold" | "fix", group: Group) => {
    try {
      // Those that are open: who was accepted as they are is left alone.
      setAsking({
        what,
        group,
        ids: await ask(
          api.GET("/api/drops/{id}/recipient-ids", {
            params: { path: { id: drop.id }, query: { alike: group.alike, tray: "NeedsReview" } },
          }),
        ),
      });
    } catch (e) {
      sayWrong(e);
    }
  };
  if (drop.issues.length === 0)
    return (
      <p className="max-w-lg p-6 text-faint">
        {drop.checking ? "Checking the pieces…" : "No piece has an issue. What the check finds is listed here by kind."}
      </p>
    );
  return (
    <section className="min-h-0 flex-1 overflow-auto px-4 py-3" aria-label="Issues">
      <table className="w-full">
        <thead>
          <tr className="border-b border-line text-left text-[12px] text-faint">
            <th className="py-1 pr-3 font-normal">Issue</th>
            <th className="w-20 py-1 pr-3 text-right font-normal">To review</th>
            <th className="w-16 py-1 pr-3 text-right font-normal">Total</th>
            <th className="py-1 pr-3 font-normal">Example</th>
            <th className="w-[390px] py-1" />
          </tr>
        </thead>
        <tbody>
          {drop.issues.map((g) => (
            <tr key={g.alike} className="border-b border-line align-top" data-testid="issue-group">
              <td className="py-2 pr-3 font-semibold">{g.title}</td>
              <td className={`py-2 pr-3 text-right ${g.open ? "font-semibold text-doubt-ink" : "text-faint"}`}>{count(g.open)}</td>
              <td className="py-2 pr-3 text-right text-faint">{count(g.recipients)}</td>
              <td className="py-2 pr-3 text-faint">{g.message}</td>
              <td className="py-1.5">
                <span className="flex flex-wrap justify-end gap-1.5">
                  {g.open > 0 && (
                    <>
                      {g.columnId !== null && (
                        <button className="btn btn-quiet btn-xs" onClick={() => void about("fix", g)}>
                          Fix {count(g.open)}…
                        </button>
                      )}
                      <button className="btn btn-quiet btn-xs" onClick={() => void accept(drop.id, g.alike, null)}>
                        Accept as is
                      </button>
                      <button className="btn btn-quiet btn-xs" onClick={() => void about("hold", g)}>
                        Hold {count(g.open)}…
                      </button>
                    </>
                  )}
                  {/* Last, so that it stays where it is when the others go. */}
                  <Link className="btn btn-quiet btn-xs" to={`/drops/${drop.id}/proof?alike=${encodeURIComponent(g.alike)}`}>
                    View
                  </Link>
                </span>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-3 text-[12px] text-faint">Press U to undo.</p>
      {asking?.what === "hold" && (
        <ReasonDialog
          title={`Hold ${many(asking.ids.length, "recipient")}`}
          explanation="Held recipients stay out of this drop until you release them."
          suggestions={[asking.group.title.toLowerCase(), "Check with the office", "Wrong address"]}
          action="Hold"
          onClose={() => setAsking(null)}
          onReason={(reason) => {
            setAsking(null);
            void hold(drop.id, asking.ids, reason);
          }}
        />
      )}
      {asking?.what === "fix" && (
        <FixAll group={asking.group} ids={asking.ids} dropId={drop.id} listId={drop.listId} close={() => setAsking(null)} />
      )}
    </section>
  );
}

function FixAll({ group, ids, dropId, listId, close }: { group: Group; ids: number[]; dropId: number; listId: number; close: () => void }) {
  const [value, setValue] = useState("");
  return (
    <Dialog title={`Fix ${group.subject} for ${many(ids.length, "recipient")}`} onClose={close}>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          if (group.columnId !== null) void setForAll(dropId, listId, group.columnId, ids, value).then((ok) => ok && close());
        }}
      >
        <p className="mb-3 text-faint">
          This sets the same value in the list for all of them. The original values are kept, and you can undo this. If each needs a
          different value, fix them on the bench.
        </p>
        <label className="mb-4 block">
          <span className="mb-1 block font-semibold">{group.subject}</span>
          <input className="input w-full" autoFocus value={value} onChange={(e) => setValue(e.target.value)} />
        </label>
        <button className="btn btn-primary" disabled={!value.trim()}>
          Fix {many(ids.length, "recipient")}
        </button>
      </form>
    </Dialog>
  );
}
