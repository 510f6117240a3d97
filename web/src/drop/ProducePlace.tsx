import { useQuery } from "@tanstack/react-query";
import { Download, FileText, TriangleAlert, X } from "lucide-react";
import { useEffect, useMemo, useState } from "react";
import { Link } from "react-router";
import { api, ask, queryClient, type Schema } from "../api/client";
import { onJob } from "../api/events";
import { jobQuery, runsQuery } from "../api/queries";
import { useRate } from "../shell/JobStrip";
import { printersQuery } from "../surfaces/queries";
import { StartPicker, type Start } from "../surfaces/StartPicker";
import type { OwnStock } from "../surfaces/surface";
import { sayWrong } from "../ui/notices";
import { useDelayed } from "../ui/useDelayed";
import { count, many, moment, pieceNumber, size } from "../ui/words";
import { takeRunBack } from "./acts";
import { useDrop } from "./DropPage";
import { useSelection } from "./selection";

type Run = Schema["RunRow"];
type Who = "ready" | "pieces" | "selected";

/** Make it: what a run would come to on the left, the runs on the right. */
export function ProducePlace() {
  const drop = useDrop();
  const [selected] = useSelection(drop.id);
  const [who, setWho] = useState<Who>(selected.size > 0 ? "selected" : "ready");
  const [pieces, setPieces] = useState("");
  const delayedPieces = useDelayed(pieces, 200);
  const labels = drop.package.filter((d) => d.kind === "labels");
  const [starts, setStarts] = useState<Record<number, Start>>({});
  const [printer, setPrinter] = useState<number | null>(null);
  const printers = useQuery(printersQuery()).data ?? [];
  const order = useMemo(
    () => ({
      pieces: who === "pieces" ? delayedPieces : null,
      recipients: who === "selected" ? [...selected] : null,
      expected: null,
      sheets: labels.flatMap((d) => (starts[d.designId] ? [{ designId: d.designId, start: starts[d.designId]?.start ?? 1, spoiled: starts[d.designId]?.spoiled ?? null }] : [])),
      printerId: printer,
    }),
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [who, delayedPieces, selected, starts, printer, drop.package],
  );
  const asked = who !== "pieces" || delayedPieces.trim() !== "";
  const plan = useQuery({
    queryKey: ["drop", drop.id, "plan", order],
    queryFn: () => ask(api.POST("/api/drops/{id}/plan", { params: { path: { id: drop.id } }, body: order })),
    enabled: asked,
    retry: false,
  });
  const runs = useQuery(runsQuery(drop.id)).data ?? [];
  const begin = async () => {
    if (!plan.data) return;
    try {
      await ask(api.POST("/api/drops/{id}/runs", { params: { path: { id: drop.id } }, body: { ...order, expected: plan.data.pieces } }));
    } catch (e) {
      sayWrong(e);
    } finally {
      void queryClient.invalidateQueries({ queryKey: ["drop"] });
      void queryClient.invalidateQueries({ queryKey: ["jobs"] });
    }
  };
  const p = asked ? plan.data : undefined;
  const out = p ? p.onTheList - p.pieces : 0;
  const choice = (value: Who, label: string, off = false) => (
    <button className={`btn btn-sm join-item ${who === value ? "btn-primary" : "btn-quiet"}`} aria-pressed={who === value} disabled={off} onClick={() => setWho(value)}>
      {label}
    </button>
  );
  return (
    <div className="flex min-h-0 flex-1">
      <section className="flex w-[420px] shrink-0 flex-col border-r border-line" aria-label="Make">
        <div className="min-h-0 flex-1 overflow-auto p-4">
          <h2 className="mb-3">Make</h2>
          <div className="mb-2 grid grid-cols-[84px_1fr] items-center gap-y-2">
            <span className="text-faint">who</span>
            <div className="join">
              {choice("ready", `all Ready, ${count(drop.trays.ready)}`)}
              {choice("pieces", "pieces…")}
              {choice("selected", selected.size ? `${count(selected.size)} selected` : "selected", selected.size === 0)}
            </div>
            {who === "pieces" && (
              <>
                <label className="text-faint" htmlFor="pieces">
                  numbers
                </label>
                <input id="pieces" className="input input-sm w-56" autoFocus placeholder="1-200, 350" value={pieces} onChange={(e) => setPieces(e.target.value)} />
              </>
            )}
            <span className="text-faint">as</span>
            <span className="flex items-center gap-1.5">
              <FileText size={15} /> {drop.package.length === 1 ? "one PDF" : `${count(drop.package.length)} PDFs, one for each design`}
            </span>
            {printers.length > 0 && drop.package.some((d) => d.kind !== "letter") && (
              <>
                <label className="text-faint" htmlFor="printer">
                  for
                </label>
                <select id="printer" className="select select-sm w-56" value={printer ?? ""} onChange={(e) => setPrinter(e.target.value ? Number(e.target.value) : null)}>
                  <option value="">no printer in particular</option>
                  {printers.map((x) => (
                    <option key={x.id} value={x.id}>
                      {x.name}
                    </option>
                  ))}
                </select>
              </>
            )}
            <span className="text-faint">in order of</span>
            <span>piece number</span>
          </div>
          {selected.size === 0 && who === "ready" && <p className="text-[12px] text-faint">To make only some, select them at the bench, or give their piece numbers.</p>}
          {plan.error && asked && (
            <p role="alert" className="mt-3 border-l-[3px] border-error bg-error/10 px-3 py-2">
              {plan.error.message}
            </p>
          )}
          {p && !plan.error && (
            <>
              <h2 className="mt-5 mb-1">What that comes to</h2>
              <table className="w-full">
                <tbody>
                  <PlanLine label="Recipients" n={p.pieces} more={p.pieces > 0 ? `${pieceNumber(p.firstPiece ?? 0)} to ${pieceNumber(p.lastPiece ?? 0)}` : ""} />
                  {p.designs.map((d) => (
                    <PlanLine
                      key={d.designId}
                      label={`${{ letter: "Pages", envelope: "Envelopes", labels: "Sheets" }[d.kind]}${p.designs.length > 1 ? ` of ${d.name}` : ""}`}
                      n={d.pages}
                      more={d.labels !== null ? many(d.labels, "label") : d.kind === "letter" && p.pieces > 0 && d.pages > p.pieces ? `${(d.pages / p.pieces).toFixed(2)} each` : ""}
                    />
                  ))}
                </tbody>
              </table>
              {p.designs.map((d) =>
                d.stock ? (
                  <details key={d.designId} className="mt-4" open={starts[d.designId] !== undefined || undefined}>
                    <summary className="cursor-pointer font-semibold">
                      A partly used sheet of {d.stock.name}
                      {starts[d.designId] && starts[d.designId]?.start !== 1 ? `: begin at ${starts[d.designId]?.start}` : ""}
                    </summary>
                    <div className="mt-2">
                      <StartPicker stock={d.stock as OwnStock} byColumns={d.byColumns} width={240} value={starts[d.designId] ?? { start: 1, spoiled: [] }} onChange={(value) => setStarts({ ...starts, [d.designId]: value })} />
                    </div>
                  </details>
                ) : null,
              )}
              <h2 className="mt-5 mb-1">Left out: {count(out)}</h2>
              <table className="w-full" aria-label="Left out">
                <tbody>
                  {p.leftOut.map((l) => (
                    <PlanLine
                      key={l.reason}
                      label={l.reason}
                      n={l.count}
                      more={
                        l.tray === "NeedsALook" ? (
                          <Link className="underline" to="../proof">
                            look at them
                          </Link>
                        ) : (
                          ""
                        )
                      }
                    />
                  ))}
                </tbody>
              </table>
              <p className="mt-2 text-faint">
                {count(p.pieces)} + {count(out)} = {count(p.onTheList)} on the list.
              </p>
            </>
          )}
        </div>
        <div className="border-t border-line p-4">
          <button className="btn btn-primary w-full" disabled={!p || p.pieces === 0 || plan.isFetching || drop.checking} onClick={() => void begin()}>
            {drop.checking ? "Checking the pieces…" : p && p.pieces > 0 ? drop.package.length === 1 && drop.package[0]?.kind === "letter" ? `Make ${many(p.pieces, "letter")}` : `Make ${many(p.pieces, "package")}` : "Nobody to make"}
          </button>
        </div>
      </section>
      <section className="on-sand flex min-w-0 flex-1 flex-col gap-3 overflow-auto bg-base-200 p-4" aria-label="Runs">
        <h2>Runs of this drop</h2>
        {runs.length === 0 && <p className="max-w-md text-faint">Nothing was made yet. A run writes a PDF for each design of the package; it goes on when you leave this page, and can be cancelled.</p>}
        {runs.map((run) => (
          <RunBox key={run.id} run={run} dropId={drop.id} />
        ))}
        <p className="mt-auto text-faint">Nothing here is marked as mailed. That is done in the Ledger, when the trays have left the building.</p>
      </section>
    </div>
  );
}

function PlanLine({ label, n, more }: { label: string; n: number; more: React.ReactNode }) {
  return (
    <tr className="border-b border-line">
      <td className="py-1.5">{label}</td>
      <td className="w-20 py-1.5 text-right font-semibold">{count(n)}</td>
      <td className="w-32 py-1.5 text-right text-faint">{more}</td>
    </tr>
  );
}

const states: Record<string, string> = { queued: "waiting for its turn", running: "being made", done: "done", cancelled: "cancelled; nobody was made", failed: "did not work; nobody was made" };

function RunBox({ run, dropId }: { run: Run; dropId: number }) {
  const going = run.state === "queued" || run.state === "running";
  return (
    <article className="rounded-box border border-line bg-base-100 p-3" aria-label={`Run ${run.number}`}>
      <div className="flex items-center gap-2.5">
        <FileText size={17} className="shrink-0 text-primary" />
        <strong>Run {run.number}</strong>
        <span className="min-w-0 truncate text-faint">
          {run.chosen}, {many(run.pieces, run.designs.length === 1 && run.designs[0]?.kind === "letter" ? "letter" : "piece")}, {many(run.pages, "page")} · {moment(run.createdAt)} · {run.createdBy} · {run.designs.map((d) => `version ${d.designVersion}`).join(", ")}
        </span>
        <span className="ml-auto shrink-0">
          {run.state === "done" ? (
            run.designs.map((d) => (
              <a key={d.position} className="btn btn-quiet btn-sm ml-1.5" href={`/api/runs/${run.id}/files/${d.position}`} download={d.fileName} title={`${d.name}: ${d.fileName}`}>
                <Download size={14} /> {run.designs.length === 1 ? "PDF" : { letter: "Letters", envelope: "Envelopes", labels: "Labels" }[d.kind]}, {size(d.fileSize ?? 0)}
              </a>
            ))
          ) : (
            <span className={run.state === "failed" ? "text-error" : "text-faint"}>{states[run.state]}</span>
          )}
        </span>
      </div>
      {going && run.jobId !== null && <Progress run={run} jobId={run.jobId} />}
      {run.message && <p className="mt-2 text-error">{run.message}</p>}
      {run.state === "done" && (
        <p className="mt-2 flex items-center gap-3 text-faint">
          <span>
            {[run.waiting ? `${count(run.waiting)} waiting to be mailed` : "", run.mailed ? `${count(run.mailed)} mailed` : "", run.heldBack ? `${count(run.heldBack)} held back` : "", run.waiting + run.mailed + run.heldBack < run.pieces ? `${count(run.pieces - run.waiting - run.mailed - run.heldBack)} taken back` : ""].filter(Boolean).join(" · ")}
          </span>
          {run.waiting > 0 && (
            <span className="ml-auto flex gap-2">
              <button className="btn btn-quiet btn-xs" onClick={() => void takeRunBack(dropId, run.id)} title="Set these pieces aside, to be made again">
                Take {count(run.waiting)} back
              </button>
              <Link className="btn btn-quiet btn-xs" to="../ledger">
                Mark as mailed…
              </Link>
            </span>
          )}
        </p>
      )}
      {run.correctedSince > 0 && (
        <p className="mt-2 flex items-center gap-2 bg-doubt px-2.5 py-1.5">
          <TriangleAlert size={14} className="text-warning" /> {many(run.correctedSince, "recipient")} of this run {run.correctedSince === 1 ? "was" : "were"} corrected after it was made. Take the piece back at the bench (T) to make it again.
        </p>
      )}
    </article>
  );
}

function Progress({ run, jobId }: { run: Run; jobId: number }) {
  const known = useQuery({ ...jobQuery(jobId), refetchInterval: 1000 }).data;
  const [live, setLive] = useState<Schema["JobRow"] | null>(null);
  useEffect(() => onJob((job) => job.id === jobId && setLive(job)), [jobId]);
  const job = live ?? known;
  const rate = useRate(job);
  const left = job && rate > 0 ? Math.ceil((job.total - job.done) / rate) : null;
  return (
    <div className="mt-2.5">
      <progress className="progress progress-primary h-2.5 w-full" value={job?.done ?? 0} max={job?.total ?? run.pieces} aria-label={`Run ${run.number}`} />
      <div className="mt-1 flex items-center gap-3">
        <span>
          <strong>{count(job?.done ?? 0)}</strong> of {many(job?.total ?? run.pieces, "piece")}
        </span>
        <span className="text-faint">{left !== null ? `${count(Math.round(rate))} a second · about ${left} s left` : ""}</span>
        <button className="btn btn-quiet btn-xs ml-auto" onClick={() => void ask(api.POST("/api/jobs/{id}/cancel", { params: { path: { id: jobId } } })).catch(sayWrong)}>
          <X size={13} /> Cancel
        </button>
      </div>
    </div>
  );
}
