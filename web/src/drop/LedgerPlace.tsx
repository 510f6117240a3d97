import { useQuery } from "@tanstack/react-query";
import { useVirtualizer } from "@tanstack/react-virtual";
import { CircleHelp, Download } from "lucide-react";
import { useMemo, useRef, useState } from "react";
import { Link } from "react-router";
import { api, ask, type Schema, type Tray } from "../api/client";
import { runsQuery } from "../api/queries";
import { useActions } from "../ui/keys";
import { useDelayed } from "../ui/useDelayed";
import { today } from "../ui/customs";
import { count, many, moment, pieceNumber, trayNames } from "../ui/words";
import { markMailed, returned, undo, unmarkMailed } from "./acts";
import { TraySign } from "./BenchList";
import { useDrop } from "./DropPage";
import { eventSentence } from "./events";
import { ReasonDialog } from "./ReasonDialog";
import { Reports } from "./Reports";
import { useBenchRows, type BenchQuery } from "./useBenchRows";
import { keys } from "../api/keys";

/** Who got it: mark runs as mailed, record returns, see and take away the record. */
export function LedgerPlace() {
  const drop = useDrop();
  const runs = useQuery(runsQuery(drop.id)).data ?? [];
  const waiting = runs.filter((r) => r.output !== "email" && ["done", "cancelled", "paused"].includes(r.state) && r.waiting > 0);
  const events =
    useQuery({
      queryKey: keys.drop(drop.id, "events"),
      queryFn: () => ask(api.GET("/api/drops/{id}/events", { params: { path: { id: drop.id } } })),
    }).data ?? [];
  useActions([{ keys: "u Ctrl+z", label: "Undo", run: () => void undo(drop.id) }]);
  return (
    <div className="flex min-h-0 flex-1 max-[1190px]:flex-col">
      <section
        className="on-sand flex w-[420px] shrink-0 flex-col border-r border-line bg-base-200 max-[1190px]:max-h-[50%] max-[1190px]:w-full max-[1190px]:overflow-auto max-[1190px]:border-b"
        aria-label="Waiting to be mailed"
      >
        <div className="max-h-[62%] shrink-0 overflow-auto p-4">
          <h2 className="mb-2">Waiting to be mailed</h2>
          {waiting.length === 0 && (
            <p className="text-faint">
              No produced pieces are waiting.{" "}
              {drop.trays.ready > 0 && (
                <>
                  {many(drop.trays.ready, "recipient")} {drop.trays.ready === 1 ? "is" : "are"} Ready. Go to{" "}
                  <Link className="underline" to="../produce">
                    produced
                  </Link>
                  .
                </>
              )}
            </p>
          )}
          <div className="flex flex-col gap-2">
            {waiting.map((run, i) => (
              <MarkRun key={run.id} run={run} dropId={drop.id} first={i === 0} />
            ))}
          </div>
          <TakeMailingBack runs={runs.filter((r) => r.mailed > 0 && r.output !== "email")} dropId={drop.id} />
          {drop.channels.ways !== "Paper" && <Reports dropId={drop.id} />}
        </div>
        <div className="flex min-h-0 flex-1 flex-col border-t border-line p-4">
          <div className="mb-1.5 flex items-center">
            <h2 className="flex-1">History</h2>
            <button
              className="btn btn-quiet btn-xs"
              disabled={!drop.undo}
              title={drop.undo ?? "Nothing to undo"}
              onClick={() => void undo(drop.id)}
            >
              Undo
            </button>
          </div>
          <ol className="min-h-0 flex-1 overflow-auto" tabIndex={0} aria-label="History">
            {gathered(events).map((g) => (
              <li key={g.id} className="grid grid-cols-[124px_1fr] gap-2 border-b border-line py-1.5">
                <span className="text-faint">{moment(g.at)}</span>
                <span>
                  {g.sentence}
                  <span className="block text-[12px] text-faint">
                    {g.count > 1 ? many(g.count, "recipient") : `piece ${pieceNumber(g.piece)}`} · {g.by}
                  </span>
                </span>
              </li>
            ))}
          </ol>
        </div>
      </section>
      <Pieces />
    </div>
  );
}

/** Many recipients' like events at one moment are one line. */
function gathered(events: Schema["EventRow"][]) {
  const lines: { id: number; at: string; by: string; sentence: string; count: number; piece: number }[] = [];
  for (const e of events) {
    const sentence = eventSentence(e);
    const last = lines.at(-1);
    if (last && last.at === e.at && last.sentence === sentence) last.count++;
    else lines.push({ id: e.id, at: e.at, by: e.by, sentence, count: 1, piece: e.pieceNumber });
  }
  return lines;
}

type Which = "all" | "upTo" | "without" | "pieces";

function MarkRun({ run, dropId, first }: { run: Schema["RunRow"]; dropId: number; first: boolean }) {
  const [date, setDate] = useState(today());
  const [which, setWhich] = useState<Which>("all");
  const [text, setText] = useState("");
  const sound = which === "all" || (which === "upTo" ? /^\s*\d+\s*$/.test(text) : text.trim() !== "");
  const send = () =>
    markMailed(dropId, run.id, {
      date,
      pieces: which === "pieces" ? text : null,
      upTo: which === "upTo" ? Number(text) : null,
      without: which === "without" ? text : null,
    });
  return (
    <form
      className="rounded-box border border-line bg-base-100 p-3"
      aria-label={`Mark run ${run.number} as mailed`}
      onSubmit={(e) => {
        e.preventDefault();
        void send().then((ok) => ok && setText(""));
      }}
    >
      <p className="mb-2">
        <strong>Run {run.number}</strong>{" "}
        <span className="text-faint">
          {count(run.waiting)} waiting{run.heldBack ? `, ${count(run.heldBack)} held back` : ""} · produced {moment(run.finishedAt)}
        </span>
      </p>
      <div className="grid grid-cols-[64px_1fr] items-center gap-2">
        <label className="text-faint" htmlFor={`date-${run.id}`}>
          Mailed on
        </label>
        <input
          id={`date-${run.id}`}
          type="date"
          className="input input-sm w-40"
          value={date}
          max={today()}
          required
          onChange={(e) => setDate(e.target.value)}
        />
        <label className="text-faint" htmlFor={`which-${run.id}`}>
          {" "}
          Pieces{" "}
        </label>
        <select id={`which-${run.id}`} className="select select-sm w-60" value={which} onChange={(e) => setWhich(e.target.value as Which)}>
          <option value="all">All {count(run.waiting)}</option>
          <option value="upTo">Up to a piece number…</option>
          <option value="without">All except pieces pulled out…</option>
          <option value="pieces">Only these pieces…</option>
        </select>
        {which !== "all" && (
          <>
            <label className="text-faint" htmlFor={`pieces-${run.id}`}>
              {which === "upTo" ? "Up to piece" : "Piece numbers"}
            </label>
            <input
              id={`pieces-${run.id}`}
              className="input input-sm w-40"
              autoFocus
              placeholder={which === "upTo" ? "350" : which === "without" ? "118, 204" : "1-200, 350"}
              value={text}
              onChange={(e) => setText(e.target.value)}
            />
          </>
        )}
        {which === "without" && (
          <p className="col-start-2 text-[12px] text-faint">Pieces pulled out will be held with the reason “pulled out of the mailing.”</p>
        )}
        {which === "upTo" && <p className="col-start-2 text-[12px] text-faint">In run order, including this piece.</p>}
      </div>
      <button className="btn btn-primary btn-sm mt-3" disabled={!sound} autoFocus={first}>
        Mark as mailed
      </button>
    </form>
  );
}

/** Runs with mailed pieces: a mailing that was recorded by mistake is taken back, with a reason. */
function TakeMailingBack({ runs, dropId }: { runs: Schema["RunRow"][]; dropId: number }) {
  const [asking, setAsking] = useState<Schema["RunRow"] | null>(null);
  if (runs.length === 0) return null;
  return (
    <p className="mt-3 text-[12px] text-faint">
      Marked by mistake?{" "}
      {runs.slice(0, 4).map((r) => (
        <button key={r.id} className="mr-2 cursor-pointer underline" onClick={() => setAsking(r)}>
          Undo mailing of run {r.number}…
        </button>
      ))}
      {asking && (
        <ReasonDialog
          title={`Undo mailing of run ${asking.number}`}
          explanation={`${many(asking.mailed, "piece")} ${asking.mailed === 1 ? "goes" : "go"} back to Produced. The ledger keeps both entries and the reason.`}
          suggestions={["Mail is still here", "Wrong run", "Wrong date"]}
          action="Undo mailing"
          onClose={() => setAsking(null)}
          onReason={(reason) => {
            setAsking(null);
            void unmarkMailed(dropId, asking.id, reason, null);
          }}
        />
      )}
    </p>
  );
}

const shown: (Tray | null)[] = [null, "Produced", "Mailed", "Returned", "Held", "Ready"];

function Pieces() {
  const drop = useDrop();
  const [tray, setTray] = useState<Tray | null>(null);
  const [search, setSearch] = useState("");
  const [only, setOnly] = useState<BenchQuery["only"]>(null);
  const [back, setBack] = useState<Schema["BenchRow"] | null>(null);
  const delayed = useDelayed(search, 150);
  const query = useMemo<BenchQuery>(
    () => ({ tray, search: delayed, alike: null, only, sort: "piece", descending: false }),
    [tray, delayed, only],
  );
  const [range, setRange] = useState({ first: 0, last: 30 });
  const rows = useBenchRows(drop.id, query, range);
  const scroller = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: rows.total,
    getScrollElement: () => scroller.current,
    estimateSize: () => 32,
    overscan: 10,
    onChange: (v) =>
      setRange((r) =>
        (v.range?.startIndex ?? 0) === r.first && (v.range?.endIndex ?? 30) === r.last
          ? r
          : { first: v.range?.startIndex ?? 0, last: v.range?.endIndex ?? 30 },
      ),
  });
  const grid = "grid grid-cols-[58px_minmax(140px,1.1fr)_minmax(120px,1fr)_130px_minmax(120px,1fr)_96px] items-center gap-2 px-4";
  return (
    <section className="flex min-h-0 min-w-0 flex-1 flex-col" aria-label="Pieces">
      <div className="flex min-h-11 shrink-0 flex-wrap items-center gap-2 border-b border-line px-4 py-1">
        <input
          className="input input-sm w-48"
          aria-label="Search pieces"
          placeholder="Search name or piece number"
          value={search}
          onChange={(e) => setSearch(e.target.value)}
        />
        <select
          className="select select-sm w-36"
          aria-label="Tray"
          value={tray ?? ""}
          onChange={(e) => setTray((e.target.value || null) as Tray | null)}
        >
          {shown.map((t) => (
            <option key={t ?? ""} value={t ?? ""}>
              {t ? trayNames[t] : "All trays"}
            </option>
          ))}
        </select>
        <span className="text-faint">{many(rows.total, "piece")}</span>
        <span className="ml-auto flex gap-2">
          <a className="btn btn-quiet btn-sm" href={`/api/ledger.csv?dropId=${drop.id}`} download>
            <Download size={14} /> Export CSV
          </a>
          <a className="btn btn-quiet btn-sm" href={`/api/ledger.xlsx?dropId=${drop.id}`} download>
            <Download size={14} /> Export XLSX
          </a>
        </span>
      </div>
      {drop.trays.inDoubt > 0 && (
        <p className="flex shrink-0 items-center gap-3 border-b border-line bg-doubt px-4 py-1.5 text-doubt-ink" role="status">
          <span className="flex-1">
            {many(drop.trays.inDoubt, "piece")} {drop.trays.inDoubt === 1 ? "is" : "are"} in doubt:{" "}
            {drop.trays.inDoubt === 1 ? "it" : "they"} may have gone out. Say what became of {drop.trays.inDoubt === 1 ? "it" : "them"}.
          </span>
          <button className="btn btn-xs bg-base-100" aria-pressed={only === "inDoubt"} onClick={() => setOnly(only ? null : "inDoubt")}>
            {only ? "Show all" : "Show only these"}
          </button>
          <Link className="btn btn-xs bg-base-100" to="../proof?inDoubt=1">
            Settle at the bench
          </Link>
        </p>
      )}
      <div className={`${grid} h-7 shrink-0 border-b border-line text-[12px] text-faint`}>
        <span>Piece</span>
        <span>Recipient</span>
        <span>Destination</span>
        <span>Tray</span>
        <span>Date and reason</span>
        <span />
      </div>
      <div ref={scroller} className="min-h-0 flex-1 overflow-auto" role="region" tabIndex={0} aria-label="Pieces">
        <div className="relative" style={{ height: virtual.getTotalSize() }}>
          {virtual.getVirtualItems().map((v) => {
            const row = rows.row(v.index);
            return (
              <div
                key={v.key}
                className={`${grid} group absolute w-full border-b border-line hover:bg-base-200`}
                style={{ top: v.start, height: 32 }}
                data-testid="ledger-row"
              >
                {row && (
                  <>
                    <span className="text-faint">{pieceNumber(row.piece)}</span>
                    <Link className="truncate hover:underline" to={`/lists/${drop.listId}/recipients/${row.id}`}>
                      {row.name}
                    </Link>
                    <span className="truncate text-faint">{row.place}</span>
                    <span className="flex items-center gap-1.5">
                      {row.inDoubt ? (
                        <CircleHelp size={15} strokeWidth={1.9} className="shrink-0 text-warning" aria-hidden />
                      ) : (
                        <TraySign tray={row.tray} />
                      )}{" "}
                      {row.inDoubt ? "In doubt" : trayNames[row.tray]}
                    </span>
                    <span className="truncate" title={row.why ?? undefined}>
                      {row.why}
                    </span>
                    <span className="text-right">
                      {row.tray === "Mailed" && (
                        <button
                          className="btn btn-quiet btn-xs opacity-0 group-hover:opacity-100 focus:opacity-100"
                          onClick={() => setBack(row)}
                        >
                          Record return…
                        </button>
                      )}
                    </span>
                  </>
                )}
              </div>
            );
          })}
        </div>
      </div>
      {back && (
        <ReasonDialog
          title={`Record return of piece ${pieceNumber(back.piece)}, ${back.name}`}
          explanation="The piece moves to Returned. The reason is kept in the ledger and on the recipient page."
          suggestions={["Moved, left no address", "No such number", "Refused", "Deceased", "Unclaimed"]}
          action="Record return"
          date={today()}
          onClose={() => setBack(null)}
          onReason={(reason, date) => {
            void returned(drop.id, [back.id], reason, date);
            setBack(null);
          }}
        />
      )}
    </section>
  );
}
