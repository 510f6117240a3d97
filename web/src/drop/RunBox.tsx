import { useQuery } from "@tanstack/react-query";
import { Download, FileText, Mail, Pause, Play, Printer, RotateCw, TriangleAlert, X } from "lucide-react";
import { useEffect, useState } from "react";
import { Link } from "react-router";
import type { Schema } from "../api/client";
import { onJob } from "../api/events";
import { jobQuery } from "../api/queries";
import { useRate } from "../shell/JobStrip";
import { count, many, moment, size } from "../ui/words";
import { backReasons, pauseRun, remake, resumeRun, takeRunBack } from "./acts";
import { CancelRun } from "./CancelRun";
import { ReasonDialog } from "./ReasonDialog";
import type { Run } from "./runs";
import { capital, kinds as designKinds, paged } from "../designs/kinds";

const kinds: Record<string, string> = {
  one: "PDF",
  parts: "Split PDFs",
  each: "PDF per recipient",
  docx: "DOCX",
  docxeach: "a DOCX for each",
  print: "Printed",
  email: "Email",
  eml: ".eml files",
  mbox: "mbox",
};

/** What a run is doing, or what became of it, in words. */
export function runState(run: Run) {
  const done = run.output === "email" ? "sent" : "printed";
  const some = run.printed > 0 && run.printed < run.pieces ? `; ${count(run.printed)} of ${count(run.pieces)} are ${done}` : "";
  switch (run.state) {
    case "queued":
      return run.notBefore && new Date(run.notBefore) > new Date() ? `starts ${moment(run.notBefore)}` : "waiting for another run";
    case "running":
      return run.output === "print" ? "printing" : run.output === "email" ? "sending" : "producing";
    case "paused":
      return `paused${some}`;
    case "cancelled":
      return run.printed > 0 ? `canceled${some}` : run.output === "email" ? "canceled; nothing was sent" : "canceled; nothing was produced";
    case "failed":
      return run.printed > 0 ? `stopped${some}` : run.output === "email" ? "failed; nothing was sent" : "failed; nothing was produced";
    default:
      return "done";
  }
}

/** A run in the list of a drop's runs. */
export function RunBox({ run, dropId }: { run: Run; dropId: number }) {
  const going = run.state === "queued" || run.state === "running";
  const Icon = run.output === "print" ? Printer : run.isEmail ? Mail : FileText;
  const [taking, setTaking] = useState(false);
  const only = run.designs.length === 1 ? paged(run.designs) : undefined;
  const counted = run.isEmail ? "email" : only ? designKinds[only.kind].name : "piece";
  const nowhere = run.pieces - run.waiting - run.mailed - run.heldBack;
  return (
    <article className="rounded-box border border-line bg-base-100 p-3" aria-label={`Run ${run.number}`}>
      <div className="flex items-center gap-2.5">
        <Icon size={17} className="shrink-0 text-primary" />
        <Link className="shrink-0 font-semibold hover:underline" to={`/drops/${dropId}/produce/${run.id}`}>
          Run {run.number}
        </Link>
        <span className="min-w-0 truncate text-faint">
          {run.reprintOfNumber !== null ? `reprint of run ${run.reprintOfNumber}${run.corrected ? " with corrections" : ""}, ` : ""}
          {run.chosen}, {many(run.pieces, counted)}
          {run.isEmail ? "" : `, ${many(run.pages, "page")}`}, {kinds[run.output]}
          {run.protected ? ", locked" : ""} · {moment(run.createdAt)} · {run.createdBy}
        </span>
        <span className="ml-auto flex shrink-0 items-center gap-1.5">
          {run.state === "done" && run.output !== "print" && run.output !== "email" ? (
            <Files run={run} />
          ) : (
            <span className={run.state === "failed" ? "text-error" : "text-faint"}>{runState(run)}</span>
          )}
          <Controls run={run} />
        </span>
      </div>
      {going && run.jobId !== null && <RunProgress run={run} jobId={run.jobId} />}
      {run.message && (
        <p
          className={`mt-2 flex items-center gap-2 px-2.5 py-1.5 ${run.state === "failed" ? "bg-error/10 text-error" : "bg-doubt text-doubt-ink"}`}
          role="status"
        >
          <TriangleAlert size={14} className="shrink-0" /> <span className="flex-1">{run.message}</span>
          {(run.output === "print" || run.output === "email") && (
            <Link className="underline" to={`/drops/${dropId}/produce/${run.id}`}>
              View run
            </Link>
          )}
        </p>
      )}
      {(run.state === "done" || run.printed > 0) && run.reprintOf === null && (
        <p className="mt-2 flex items-center gap-3 text-faint">
          <span>
            {[
              run.waiting ? `${count(run.waiting)} waiting to be mailed` : "",
              run.mailed ? `${count(run.mailed)} ${run.output === "email" ? "sent" : "mailed"}` : "",
              run.heldBack ? `${count(run.heldBack)} held back` : "",
              run.state === "done" && nowhere > 0 ? `${count(nowhere)} ${run.output === "email" ? "not sent" : "moved back to Ready"}` : "",
            ]
              .filter(Boolean)
              .join(" · ")}
          </span>
          {run.waiting > 0 && run.state !== "running" && (
            <span className="ml-auto flex gap-2">
              <button
                className="btn btn-quiet btn-xs"
                onClick={() => setTaking(true)}
                title="Move these pieces back to Ready so they can be produced again"
              >
                Move {count(run.waiting)} back to Ready
              </button>
              <Link className="btn btn-quiet btn-xs" to={`/drops/${dropId}/ledger`}>
                Mark as mailed…
              </Link>
            </span>
          )}
        </p>
      )}
      {run.correctedSince > 0 && (
        <p className="mt-2 flex items-center gap-2 bg-doubt px-2.5 py-1.5">
          <TriangleAlert size={14} className="text-warning" /> {many(run.correctedSince, "recipient")} of this run{" "}
          {run.correctedSince === 1 ? "was" : "were"} corrected after it was made. A reprint is printed as it was, or with the corrections,
          as you choose.
        </p>
      )}
      {taking && (
        <ReasonDialog
          title={`Move ${many(run.waiting, "piece")} of run ${run.number} back to Ready`}
          explanation="They become Ready and are produced again in the next run. Remove the produced pieces from the trays."
          suggestions={backReasons}
          action="Move back to Ready"
          onClose={() => setTaking(false)}
          onReason={(reason) => {
            setTaking(false);
            void takeRunBack(dropId, run.id, reason);
          }}
        />
      )}
    </article>
  );
}

/** A run's files to take away, or the way to have them made again. */
export function Files({ run }: { run: Run }) {
  if (run.filesGoneAt !== null)
    return (
      <button
        className="btn btn-quiet btn-sm"
        onClick={() => void remake(run.id)}
        title="The files were deleted at the end of their retention period. Re-created files are identical."
      >
        <RotateCw size={14} /> Re-create files
      </button>
    );
  const kindOf = (position: number) => designKinds[run.designs.find((d) => d.position === position)?.kind ?? "letter"].many;
  return (
    <>
      {run.files.length <= 3 &&
        run.files.map((f) => (
          <a
            key={f.number}
            className="btn btn-quiet btn-sm"
            href={`/api/runs/${run.id}/files/${f.number}`}
            download={f.name}
            title={f.name}
          >
            <Download size={14} />{" "}
            {f.name.endsWith(".zip")
              ? "ZIP"
              : f.name.endsWith(".mbox")
                ? "mbox"
                : f.name.endsWith(".docx")
                  ? "DOCX"
                  : run.files.length === 1
                    ? "PDF"
                    : run.output === "parts"
                      ? `${f.firstPiece} to ${f.lastPiece}`
                      : capital(kindOf(f.position))}
            , {size(f.size)}
          </a>
        ))}
      {run.files.length > 1 && (
        <a className="btn btn-quiet btn-sm" href={`/api/runs/${run.id}/files.zip`} download>
          <Download size={14} />{" "}
          {run.files.length > 3
            ? `${count(run.files.length)} files in a ZIP, ${size(run.files.reduce((sum, f) => sum + f.size, 0))}`
            : "ZIP"}
        </a>
      )}
    </>
  );
}

/** Pause, go on, cancel; what canceling would leave behind is said before. */
export function Controls({ run }: { run: Run }) {
  const [asking, setAsking] = useState(false);
  const going = run.state === "queued" || run.state === "running";
  return (
    <>
      {going && (
        <button className="btn btn-quiet btn-xs" onClick={() => void pauseRun(run.id)}>
          <Pause size={13} /> Pause
        </button>
      )}
      {run.state === "paused" && (
        <button className="btn btn-primary btn-xs" onClick={() => void resumeRun(run.id, null)}>
          <Play size={13} /> Resume
        </button>
      )}
      {(going || run.state === "paused") && (
        <button className="btn btn-quiet btn-xs" onClick={() => setAsking(true)}>
          <X size={13} /> Cancel…
        </button>
      )}
      {run.state === "running" && run.output === "each" && (
        <a className="btn btn-quiet btn-xs" href={`/api/runs/${run.id}/files/1`} title="Downloads the ZIP as it is produced">
          <Download size={13} /> Download while it runs
        </a>
      )}
      {asking && <CancelRun runId={run.id} close={() => setAsking(false)} />}
    </>
  );
}

/** How far a run is, at which rate, how long it still takes. */
export function RunProgress({ run, jobId }: { run: Run; jobId: number }) {
  const known = useQuery({ ...jobQuery(jobId), refetchInterval: 1000 }).data;
  const [live, setLive] = useState<Schema["JobRow"] | null>(null);
  useEffect(() => onJob((job) => job.id === jobId && setLive(job)), [jobId]);
  const job = live ?? known;
  const rate = useRate(job);
  const left = job && rate > 0 ? Math.ceil((job.total - job.done) / rate) : null;
  return (
    <div className="mt-2.5">
      <progress
        className="progress progress-primary h-2.5 w-full"
        value={job?.done ?? 0}
        max={job?.total || run.pieces}
        aria-label={`Run ${run.number}`}
      />
      <div className="mt-1 flex items-center gap-3">
        <span>
          <strong>{count(job?.done ?? 0)}</strong> of {many(job?.total || run.pieces, run.isEmail ? "email" : "piece")}
        </span>
        <span className="text-faint">
          {left !== null
            ? `${count(Math.round(rate))} a second · about ${left < 120 ? `${left} s` : `${Math.round(left / 60)} min`} left`
            : ""}
        </span>
      </div>
    </div>
  );
}
