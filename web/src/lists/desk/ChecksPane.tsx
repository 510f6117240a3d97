import { useQuery } from "@tanstack/react-query";
import { Check } from "lucide-react";
import { useEffect, useState } from "react";
import { api, ask, type Schema } from "../../api/client";
import { count, many } from "../../ui/words";
import { fix, leave } from "./acts";
import { keys } from "../../api/keys";

type Kind = Schema["CheckKind"];

/** The checks that found something. Opening one shows its recipients in the table, and what mending would do. */
export function ChecksPane({
  list,
  issue,
  onIssue,
}: {
  list: Schema["ListView"];
  issue: Kind | null;
  onIssue: (kind: Kind | null) => void;
}) {
  const asked = useQuery({
    queryKey: keys.lists(list.id, "checks"),
    queryFn: () => ask(api.GET("/api/lists/{id}/checks", { params: { path: { id: list.id } } })),
    refetchInterval: list.checking ? 1000 : false,
  });
  const checks = asked.data;
  // With the last issue of a kind fixed, the table shows everybody again.
  const settled = issue !== null && checks !== undefined && !asked.isFetching && !list.checking && !checks.some((c) => c.kind === issue);
  useEffect(() => {
    if (settled) onIssue(null);
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [settled]);
  return (
    <>
      <p className="shrink-0 px-3 pt-2 pb-1 text-[12px] text-faint" role="status">
        {list.checking
          ? "Checking the list…"
          : list.issueCells === 0
            ? ""
            : `${many(list.issueCells, "cell")} in ${many(list.issueRecipients, "row")}`}
      </p>
      <div className="min-h-0 flex-1 overflow-auto px-1.5 pb-3">
        {checks?.length === 0 && !list.checking && (
          <p className="p-2 text-faint">No issues. Anything you type or import is checked right away.</p>
        )}
        {checks?.map((c) =>
          c.kind === issue ? (
            <OpenCheck key={c.kind} list={list} check={c} onClose={() => onIssue(null)} />
          ) : (
            <button
              key={c.kind}
              className="block w-full cursor-pointer border-b border-line px-2 py-1.5 text-left hover:bg-base-300/50"
              aria-expanded={false}
              onClick={() => onIssue(c.kind)}
            >
              <span className="flex justify-between gap-2">
                <span>{c.title}</span>
                <b>{count(c.cells)}</b>
              </span>
              <span className="block text-[11.5px] text-faint">
                {c.fixable > 0 && c.fixable < c.cells ? `${count(c.fixable)} can be fixed` : c.hint}
              </span>
            </button>
          ),
        )}
      </div>
    </>
  );
}

function OpenCheck({ list, check, onClose }: { list: Schema["ListView"]; check: Schema["CheckView"]; onClose: () => void }) {
  const [off, setOff] = useState<ReadonlySet<number>>(new Set());
  const rows = useQuery({
    queryKey: keys.lists(list.id, "checks", check.kind),
    queryFn: () =>
      ask(api.GET("/api/lists/{id}/checks/{kind}", { params: { path: { id: list.id, kind: check.kind }, query: { limit: 60 } } })),
  }).data;
  const some = off.size > 0;
  // With some taken out, only those that are shown are meant: what one has not seen is not mended by half.
  const meant = some ? [...new Set(rows?.filter((r) => !off.has(r.recipientId)).map((r) => r.recipientId))] : null;
  const fixable = some ? (rows?.filter((r) => r.proposal.length > 0 && !off.has(r.recipientId)).length ?? 0) : check.fixable;
  const name = (id: number) => list.columns.find((c) => c.id === id)?.name ?? "";
  return (
    <section className="my-1 border-l-[3px] border-primary bg-base-100 px-2 py-2" aria-label={check.title}>
      <button
        className="flex w-full cursor-pointer justify-between gap-2 text-left font-semibold"
        aria-expanded
        onClick={onClose}
        title="Close and show all recipients"
      >
        <span>{check.title}</span>
        <span>{count(check.cells)}</span>
      </button>
      <p className="mb-1.5 text-[11.5px] text-faint">{check.hint}</p>
      <div className="mb-2 max-h-72 overflow-auto">
        {rows?.map((r) => (
          <div key={`${r.recipientId}-${r.columnId}`} className="flex items-start gap-1.5 border-b border-line py-1 text-[12px]">
            {r.proposal.length > 0 && (
              <input
                type="checkbox"
                className="checkbox checkbox-xs mt-0.5"
                aria-label={`Fix No. ${r.number}`}
                checked={!off.has(r.recipientId)}
                onChange={(e) => {
                  const next = new Set(off);
                  if (e.target.checked) next.delete(r.recipientId);
                  else next.add(r.recipientId);
                  setOff(next);
                }}
              />
            )}
            <span className="w-9 shrink-0 text-right text-faint">{r.number}</span>
            <span className="min-w-0 flex-1 break-words">
              {r.proposal.length > 0 ? (
                r.proposal.map((p) => (
                  <span key={p.columnId} className="block" title={r.message}>
                    {r.proposal.length > 1 && <span className="text-faint">{name(p.columnId)}: </span>}
                    {p.before !== null && <s className="text-error">{visible(p.before)}</s>}{" "}
                    <b className="text-success">{p.after === null ? "blank" : p.after}</b>
                  </span>
                ))
              ) : (
                <span>{r.message}</span>
              )}
            </span>
          </div>
        ))}
        {rows && check.cells > rows.length && (
          <p className="py-1 text-[11.5px] text-faint">and {count(check.cells - rows.length)} more in the table</p>
        )}
      </div>
      {/* Only once one sees what is meant: a button that moves away as the rows arrive is missed, or hit by mistake. */}
      {rows && (
        <div className="flex flex-wrap gap-1.5">
          {check.fixable > 0 && (
            <button className="btn btn-primary btn-xs" disabled={fixable === 0} onClick={() => void fix(list.id, check.kind, meant)}>
              <Check size={12} /> Fix {count(fixable)}
            </button>
          )}
          <button
            className="btn btn-quiet btn-xs"
            title="Hides the issue until the value changes"
            onClick={() => void leave(list.id, check.kind, meant)}
          >
            Accept {some ? count(meant?.length ?? 0) : check.cells === 1 ? "" : "all"} as is
          </button>
        </div>
      )}
    </section>
  );
}

/** Spaces that are the very point are made visible. */
const visible = (text: string) => (/^\s|\s$|\s\s|\u00a0/.test(text) ? text.replaceAll(" ", "·").replaceAll("\u00a0", "·") : text);
