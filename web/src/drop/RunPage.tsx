import { useQuery } from "@tanstack/react-query";
import { useVirtualizer } from "@tanstack/react-virtual";
import { ArrowLeft, Download, Printer } from "lucide-react";
import { Fragment, useRef, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { api, ask, type Schema } from "../api/client";
import { useActions } from "../ui/keys";
import { usePagedRows } from "../ui/usePagedRows";
import { count, many, moment, pieceNumber } from "../ui/words";
import { DoubtAnswers } from "./DoubtAnswers";
import { resumeRun, settleBatch, settleMail } from "./acts";
import { useDrop } from "./DropPage";
import { Controls, Files, RunProgress, runState } from "./RunBox";
import { runDetailQuery } from "./runs";
import { kinds } from "../designs/kinds";
import { fieldOutputs } from "../forms/form";
import { MissingRecord } from "../shell/WentWrong";
import { Beside } from "../ui/Beside";
import { keys } from "../api/keys";

type Detail = Schema["RunDetail"];

/** True where each recipient's file has a name of its own. */
const named = (output: string) => ["each", "docxeach", "eml"].includes(output);

/** Everything about one run: how it was made, how far it is, each piece's state, what happened. */
export function RunPage() {
  const drop = useDrop();
  const id = Number(useParams().runId);
  const detail = useQuery({
    ...runDetailQuery(id),
    refetchInterval: (q) => (["running", "queued"].includes(q.state.data?.run.state ?? "") ? 1000 : false),
  });
  const navigate = useNavigate();
  useActions([{ keys: "Escape", label: "Back to all runs", run: () => void navigate(`/drops/${drop.id}/produce`), quiet: true }]);
  if (detail.error) return <MissingRecord error={detail.error} what="run" to="/campaigns" back="Go to Campaigns" />;
  if (!detail.data) return null;
  const { run, batches } = detail.data;
  const going = run.state === "queued" || run.state === "running";
  // What the printer may have printed is asked about also after the run has ended.
  const doubts = batches.filter((b) => b.state === "doubt");
  return (
    <div className="flex min-h-0 flex-1">
      <section className="flex min-w-0 flex-1 flex-col" aria-label={`Run ${run.number}`}>
        <div className="flex h-12 shrink-0 items-center gap-3 border-b border-line px-4">
          <Link className="btn btn-quiet btn-sm" to={`/drops/${drop.id}/produce`}>
            <ArrowLeft size={14} /> Runs
          </Link>
          <h2>Run {run.number}</h2>
          <span className="min-w-0 flex-1 truncate text-faint" data-testid="run-state">
            {runState(run)}
          </span>
          {run.state === "done" && run.output !== "print" && run.output !== "email" && <Files run={run} />}
          {run.output === "email" && (detail.data.mails?.sent ?? 0) > 0 && (
            <>
              <a
                className="btn btn-quiet btn-sm"
                href={`/api/runs/${run.id}/messages/eml`}
                download
                title="Download the sent messages as .eml files in a ZIP"
              >
                <Download size={14} /> .eml
              </a>
              <a
                className="btn btn-quiet btn-sm"
                href={`/api/runs/${run.id}/messages/mbox`}
                download
                title="Download the sent messages as one mbox file"
              >
                <Download size={14} /> mbox
              </a>
            </>
          )}
          {run.waiting > 0 && !going && run.reprintOf === null && (
            <Link className="btn btn-quiet btn-sm" to={`/drops/${drop.id}/ledger`}>
              Mark as mailed…
            </Link>
          )}
          <Controls run={run} />
        </div>
        {going && run.jobId !== null && (
          <div className="shrink-0 border-b border-line px-4 pb-2">
            <RunProgress run={run} jobId={run.jobId} />
          </div>
        )}
        {run.message && (
          <div
            className={`flex shrink-0 items-center gap-3 border-b border-line px-4 py-2 ${run.state === "failed" ? "bg-error/10 text-error" : "bg-doubt text-doubt-ink"}`}
            role="status"
          >
            <span className="flex-1">{run.message}</span>
            {run.output === "print" && going && run.deviceId !== null && (
              <Link className="btn btn-sm bg-base-100" to={`/devices?printer=${run.deviceId}`}>
                <Printer size={14} /> Open printer
              </Link>
            )}
          </div>
        )}
        {doubts.map((b) => (
          <div
            key={b.number}
            className="flex shrink-0 items-center gap-3 border-b border-line bg-doubt px-4 py-2 text-doubt-ink"
            role="group"
            aria-label={`Batch ${b.number} in doubt`}
          >
            <span className="flex-1">
              Pieces {pieceNumber(b.firstPiece)} to {pieceNumber(b.lastPiece)} may have been printed. They will not print again until you
              check the printer and mark them.
            </span>
            <DoubtAnswers done="Mark as printed" size="btn-sm bg-base-100" settle={(out) => settleBatch(run.id, b.number, out)} />
          </div>
        ))}
        {run.output === "print" && run.state === "paused" && doubts.length === 0 && <GoOnFrom run={run} />}
        {batches.length > 0 && <Batches detail={detail.data} />}
        <Pieces key={run.id} run={run} mails={run.output === "email" ? detail.data.mails : null} />
      </section>
      <Aside detail={detail.data} />
    </div>
  );
}

/** Going back in a paused run: from a piece on, everything is printed again. */
function GoOnFrom({ run }: { run: Schema["RunRow"] }) {
  const [from, setFrom] = useState("");
  return (
    <form
      className="flex shrink-0 items-center gap-2 border-b border-line px-4 py-2"
      onSubmit={(e) => {
        e.preventDefault();
        void resumeRun(run.id, Number(from));
      }}
    >
      <label className="text-faint" htmlFor="from-piece">
        Or resume from piece
      </label>
      <input
        id="from-piece"
        className="input input-sm w-24"
        inputMode="numeric"
        pattern="[0-9]+"
        placeholder="118"
        value={from}
        onChange={(e) => setFrom(e.target.value)}
      />
      <button className="btn btn-quiet btn-sm" disabled={!/^\d+$/.test(from)}>
        Resume from there
      </button>
      <span className="text-[12px] text-faint">
        All pieces from this number on will print again. Remove the sheets that already printed.
      </span>
    </form>
  );
}

const batchStates: Record<string, string> = {
  waiting: "waiting",
  handing: "sending to printer",
  printing: "printing",
  out: "printed",
  "given up": "stopped",
  doubt: "in doubt",
};

function Batches({ detail }: { detail: Detail }) {
  const { run, batches } = detail;
  const shown = batches.filter((b) => b.state !== "given up" || b.sheetsOut > 0);
  return (
    <ol className="flex max-h-40 shrink-0 flex-wrap gap-1.5 overflow-auto border-b border-line px-4 py-2.5" aria-label="Batches">
      {shown.map((b) => {
        const design = run.designs.find((d) => d.position === b.position);
        const ends = b.endsJson ? (JSON.parse(b.endsJson) as number[]) : [];
        const total = (b.before + (ends.at(-1) ?? 0)) * detail.settings.copies;
        return (
          <li
            key={b.number}
            className={`w-[150px] border border-line px-2 py-1 text-[12px] leading-4 ${b.state === "out" ? "bg-success/15" : b.state === "printing" || b.state === "doubt" ? "bg-doubt" : b.state === "given up" ? "text-faint" : ""}`}
          >
            <span className="block truncate font-semibold">
              {pieceNumber(b.firstPiece)} to {pieceNumber(b.lastPiece)}
              {b.again ? ", reprint" : ""}
            </span>
            <span className={`block truncate ${b.state === "waiting" ? "text-faint" : ""}`}>
              {run.designs.length > 1 ? `${design && kinds[design.kind].many}: ` : ""}
              {b.state === "printing" ? `${count(b.sheetsOut)} of ${many(total, "sheet")}` : batchStates[b.state]}
            </span>
          </li>
        );
      })}
    </ol>
  );
}

const mailStates = [
  ["", "all", null],
  ["sent", "sent", "sent"],
  ["waiting", "waiting", "waiting"],
  ["later", "deferred", "later"],
  ["doubt", "in doubt", "doubt"],
  ["refused", "rejected", "refused"],
  ["excluded", "excluded", "excluded"],
] as const;

function Pieces({ run, mails }: { run: Schema["RunRow"]; mails: Schema["MailCounts"] | null }) {
  const [state, setState] = useState<string>("");
  const drop = useDrop();
  const scroller = useRef<HTMLDivElement>(null);
  const [range, setRange] = useState({ first: 0, last: 30 });
  const [find, setFind] = useState("");
  // A longer one is what a scanner read from the barcode.
  const piece = /^\d{1,9}$/.test(find.trim()) ? Number(find) : null;
  const code = piece === null && find.trim().length > 3 ? find.trim() : null;
  const rows = usePagedRows(keys.drop("run", run.id, "pieces", piece, state, code), range.first, range.last, (offset, limit) =>
    ask(
      api.GET("/api/runs/{id}/pieces", {
        params: {
          path: { id: run.id },
          query: { offset, limit, ...(piece === null ? {} : { piece }), ...(state ? { mail: state } : {}), ...(code ? { code } : {}) },
        },
      }),
    ),
  );
  const virtual = useVirtualizer({
    count: rows.total,
    getScrollElement: () => scroller.current,
    estimateSize: () => 30,
    overscan: 10,
    onChange: (v) =>
      setRange((r) =>
        (v.range?.startIndex ?? 0) === r.first && (v.range?.endIndex ?? 30) === r.last
          ? r
          : { first: v.range?.startIndex ?? 0, last: v.range?.endIndex ?? 30 },
      ),
  });
  const grid = `grid ${mails ? "grid-cols-[52px_minmax(110px,0.9fr)_minmax(130px,1fr)_minmax(130px,1.2fr)_172px]" : named(run.output) ? "grid-cols-[58px_minmax(120px,1fr)_minmax(140px,1.2fr)_170px_84px]" : "grid-cols-[58px_minmax(140px,1fr)_190px_84px]"} items-center gap-2 px-4`;
  return (
    <>
      <div className="flex h-10 shrink-0 items-center gap-3 border-b border-line px-4">
        <strong>{many(rows.total, "piece")}</strong>
        <input
          className="input input-sm w-52"
          aria-label="Search pieces in this run"
          placeholder="Piece number or scanned code"
          value={find}
          onChange={(e) => setFind(e.target.value)}
        />
        {mails && (
          <div className="join" role="group" aria-label="Messages">
            {mailStates
              .filter(([value, , key]) => value === "" || (key && mails[key] > 0))
              .map(([value, name, key]) => (
                <button
                  key={value}
                  className={`btn btn-xs join-item ${state === value ? "btn-primary" : "btn-quiet"}`}
                  aria-pressed={state === value}
                  onClick={() => setState(value)}
                >
                  {name} {key ? count(mails[key]) : ""}
                </button>
              ))}
          </div>
        )}
        {!run.isEmail && run.reprintOf === null && run.printed > 0 && (
          <span className="text-[12px] text-faint">To replace a spoiled sheet, find its piece number and reprint it here.</span>
        )}
      </div>
      <div ref={scroller} className="min-h-0 flex-1 overflow-auto" role="region" tabIndex={0} aria-label="Pieces of the run">
        <div className="relative" style={{ height: virtual.getTotalSize() }}>
          {virtual.getVirtualItems().map((v) => {
            const row = rows.row(v.index);
            return (
              <div
                key={v.key}
                className={`${grid} group absolute w-full border-b border-line hover:bg-base-200`}
                style={{ top: v.start, height: 30 }}
                data-testid="run-piece"
              >
                {row && (
                  <>
                    <span className="text-faint">{pieceNumber(row.piece)}</span>
                    <Link className="truncate hover:underline" to={`/drops/${drop.id}/proof?piece=${row.piece}`}>
                      {row.name}
                      {row.barcodes && (
                        <span className="ml-2 text-[11px] text-faint tabular-nums">{row.barcodes.split("\n").join(", ")}</span>
                      )}
                    </Link>
                    {mails && (
                      <span className="truncate text-faint" title={row.address ?? undefined}>
                        {row.address}
                      </span>
                    )}
                    {named(run.output) && (
                      <span className="truncate text-faint" title={row.fileName ?? undefined}>
                        {row.fileName}
                      </span>
                    )}
                    <span
                      className={`truncate ${row.mailState === "doubt" ? "bg-doubt px-1 text-doubt-ink" : row.mailState === "refused" ? "text-error" : ""}`}
                      title={row.words ?? row.why ?? undefined}
                    >
                      {row.state}
                      {row.words && row.mailState !== "sent" ? `: ${row.words}` : row.why ? `: ${row.why}` : ""}
                    </span>
                    <span className="text-right whitespace-nowrap">
                      {row.mailState === "doubt" && (
                        <DoubtAnswers
                          key={row.recipientId}
                          done="Mark as sent"
                          size="btn-quiet btn-xs"
                          settle={(out) => settleMail(run.id, row.recipientId, out)}
                        />
                      )}
                      {run.reprintOf === null && ["produced", "printed", "pulled out"].includes(row.state) && (
                        <Link
                          className="btn btn-quiet btn-xs opacity-0 group-hover:opacity-100 focus:opacity-100"
                          to={`/drops/${drop.id}/produce?reprint=${row.piece}`}
                        >
                          Reprint
                        </Link>
                      )}
                    </span>
                  </>
                )}
              </div>
            );
          })}
        </div>
      </div>
    </>
  );
}

function Aside({ detail }: { detail: Detail }) {
  const { run, settings } = detail;
  const entry = (label: string, value: string) => (
    <div className="grid grid-cols-[82px_1fr] gap-2 py-[2px]">
      <dt className="text-faint">{label}</dt>
      <dd>{value}</dd>
    </div>
  );
  return (
    <Beside label="Run settings and history" className="flex w-[318px] shrink-0 flex-col border-l border-line">
      <dl className="shrink-0 border-b border-line px-4 py-3 text-[13px]">
        {entry("Recipients", `${run.chosen}${run.reprintOfNumber !== null ? ` (of run ${run.reprintOfNumber})` : ""}`)}
        {run.reprintOf !== null && entry("values", run.corrected ? "With corrections made since" : "as they were printed")}
        {entry("Sorted by", detail.orderedBy.join(", then "))}
        {entry(
          "as",
          {
            one: "one PDF for each design",
            parts: `PDFs of ${count(settings.partOf ?? 0)} pieces each`,
            each: "a PDF for each recipient",
            docx: "the letters in one DOCX",
            docxeach: "a DOCX for each recipient",
            print: `print on ${detail.deviceName ?? "a deleted printer"}`,
            email: `email through ${detail.accountName ?? "a deleted account"}`,
            eml: "messages as .eml files",
            mbox: "messages in an mbox",
          }[run.output] ?? run.output,
        )}
        {named(run.output) && entry("File name", settings.nameBy ?? "")}
        {settings.fields && entry("form fields", fieldOutputs.find(([key]) => key === settings.fields)?.[1] ?? "")}
        {run.notBefore && entry("Send time", moment(run.notBefore))}
        {run.output === "print" &&
          entry(
            "batches",
            settings.batchOf
              ? `${count(settings.batchOf)} pieces each${settings.breakSheets ? ", with separator sheets" : ""}`
              : "One batch",
          )}
        {(settings.duplex || settings.copies > 1) &&
          entry(
            "sheets",
            [
              settings.duplex ? "both sides" : "",
              settings.copies > 1 ? `${settings.copies} copies${settings.collated ? "" : ", not collated"}` : "",
            ]
              .filter(Boolean)
              .join(", "),
          )}
        {run.protected &&
          entry("Security", run.isEmail ? "Attachments protected with recipient passwords (AES-256)" : "Password (AES-256)")}
        {run.designs.map((d) => (
          <Fragment key={d.position}>{entry(d.kind, `${d.name}, version ${d.designVersion}`)}</Fragment>
        ))}
        {entry("Data as of", moment(run.createdAt))}
        {entry("Started by", run.createdBy)}
        {detail.reprints.length > 0 && entry("reprints", `in run ${detail.reprints.join(", ")}`)}
      </dl>
      <div className="min-h-0 flex-1 overflow-auto px-4 py-3" tabIndex={0} role="region" aria-label="Run history">
        <h3 className="mb-1 text-[12px] text-faint">History</h3>
        <ol className="flex flex-col gap-1.5 text-[12.5px] leading-[17px]">
          {detail.log.map((l) => (
            <li key={l.id}>
              {l.text}
              <span className="block text-[11.5px] text-faint">{moment(l.at)}</span>
            </li>
          ))}
        </ol>
      </div>
    </Beside>
  );
}
