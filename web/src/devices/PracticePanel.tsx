import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, queryClient, type Schema } from "../api/client";
import { sayWrong } from "../ui/notices";
import { count, many, moment } from "../ui/words";
import { SheetStack } from "./SheetStack";
import { keys } from "../api/keys";

type Practice = Schema["PracticeView"];
const holds: Record<string, string> = { letter: "Letter paper", envelope: "Envelopes", labels: "Label sheets" };

export const practiceQuery = (id: number) => ({
  queryKey: keys.printers(id, "practice"),
  queryFn: () => ask(api.GET("/api/printers/{id}/practice", { params: { path: { id } } })),
});

async function act(request: Promise<unknown>) {
  try {
    await request;
  } catch (e) {
    sayWrong(e);
  } finally {
    void queryClient.invalidateQueries({ queryKey: keys.printers() });
    void queryClient.invalidateQueries({ queryKey: keys.drop() });
  }
}

/** The practice printer as it stands there: trays and paper, what is in its way, its jobs, the stack of sheets. */
export function PracticePanel({ id }: { id: number }) {
  const practice = useQuery({
    ...practiceQuery(id),
    refetchInterval: (q) => (q.state.data?.jobs.some((j) => j.state === "printing" || j.state === "waiting") ? 700 : false),
  }).data;
  const [looking, setLooking] = useState(false);
  if (!practice) return null;
  const path = { params: { path: { id } } };
  const printing = practice.jobs.find((j) => j.state === "printing");
  return (
    <section className="flex max-w-[820px] flex-col gap-4 p-6" aria-label="Practice printer">
      <div className={`flex items-center gap-3 px-3 py-2 ${practice.trouble ? "bg-doubt text-doubt-ink" : "bg-base-200"}`} role="status">
        <span className="flex-1">
          {practice.trouble ??
            (printing
              ? `Printing: ${printing.title}, ${count(printing.sheetsOut)} of ${many(printing.total, "sheet")}`
              : "Ready. Nothing to print.")}
        </span>
        {practice.jammed ? (
          <button className="btn btn-primary btn-sm" onClick={() => void act(ask(api.DELETE("/api/printers/{id}/practice/jam", path)))}>
            Remove jammed sheet
          </button>
        ) : (
          <button
            className="btn btn-quiet btn-sm"
            onClick={() => void act(ask(api.POST("/api/printers/{id}/practice/jam", path)))}
            title="The next sheet will jam and be spoiled"
          >
            Simulate a jam
          </button>
        )}
      </div>
      <div className="flex gap-3" role="group" aria-label="Paper trays">
        {practice.trays.map((t) => (
          <Tray key={t.number} id={id} tray={t} />
        ))}
      </div>
      <Speed key={`${practice.sheetsAMinute}.${practice.jamsIn10000}`} practice={practice} />
      <div>
        <div className="mb-1 flex items-center gap-2">
          <h2 className="flex-1">{many(practice.sheets, "sheet")} in the output stack</h2>
          <button className="btn btn-quiet btn-sm" disabled={practice.sheets === 0} onClick={() => setLooking(true)}>
            View output stack
          </button>
          <button
            className="btn btn-quiet btn-sm"
            disabled={practice.sheets === 0}
            onClick={() => void act(ask(api.DELETE("/api/printers/{id}/practice/stack", path)))}
          >
            Clear output stack
          </button>
        </div>
        <ul aria-label="Print jobs">
          {practice.jobs.slice(0, 8).map((j) => (
            <li key={j.id} className="grid grid-cols-[1fr_auto] gap-3 border-b border-line py-1">
              <span className="truncate" title={j.title}>
                {j.title}
              </span>
              <span className="text-faint">
                {j.state === "done" ? many(j.total, "sheet") : `${count(j.sheetsOut)} of ${count(j.total)}, ${j.state}`}
                {j.spoiled ? `, ${count(j.spoiled)} spoiled` : ""} · {moment(j.at)}
              </span>
            </li>
          ))}
          {practice.jobs.length === 0 && (
            <li className="text-faint">Nothing printed yet. To print here, choose “Print” when you produce a drop.</li>
          )}
        </ul>
      </div>
      {looking && <SheetStack id={id} close={() => setLooking(false)} />}
    </section>
  );
}

function Tray({ id, tray }: { id: number; tray: Schema["PracticeTray"] }) {
  const [sheets, setSheets] = useState<string | null>(null);
  const fill = (n: number) =>
    void act(
      ask(api.PUT("/api/printers/{id}/practice/trays/{tray}", { params: { path: { id, tray: tray.number } }, body: { sheets: n } })),
    ).then(() => setSheets(null));
  return (
    <div className="flex-1 border border-line px-2.5 py-2">
      <p className="text-[12px] text-faint">
        Tray {tray.number}: {holds[tray.holds]}
      </p>
      <input
        className="input input-sm my-1 w-full font-semibold tabular-nums"
        aria-label={`Sheets in tray ${tray.number}`}
        inputMode="numeric"
        value={sheets ?? String(tray.sheets)}
        onChange={(e) => setSheets(e.target.value)}
        onKeyDown={(e) => e.key === "Enter" && /^\d+$/.test(sheets ?? "") && fill(Number(sheets))}
        onBlur={() => (sheets !== null && /^\d+$/.test(sheets) ? fill(Number(sheets)) : setSheets(null))}
      />
      <progress
        className={`progress h-1.5 w-full ${tray.sheets === 0 ? "progress-error" : "progress-primary"}`}
        value={tray.sheets}
        max={tray.capacity}
        aria-label={`Tray ${tray.number} fill level`}
      />
      <button className="btn btn-quiet btn-xs mt-1.5" disabled={tray.sheets >= tray.capacity} onClick={() => fill(tray.capacity)}>
        Fill to {count(tray.capacity)}
      </button>
    </div>
  );
}

function Speed({ practice }: { practice: Practice }) {
  const [speed, setSpeed] = useState(String(practice.sheetsAMinute));
  const [jams, setJams] = useState(String(practice.jamsIn10000));
  const changed = speed !== String(practice.sheetsAMinute) || jams !== String(practice.jamsIn10000);
  return (
    <form
      className="flex flex-wrap items-center gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        void act(
          ask(
            api.PUT("/api/printers/{id}/practice", {
              params: { path: { id: practice.printerId } },
              body: { sheetsAMinute: Number(speed), jamsIn10000: Number(jams) },
            }),
          ),
        );
      }}
    >
      <input
        className="input input-sm w-24 tabular-nums"
        aria-label="Sheets per minute"
        inputMode="numeric"
        value={speed}
        onChange={(e) => setSpeed(e.target.value)}
      />{" "}
      sheets per minute,
      <input
        className="input input-sm w-20 tabular-nums"
        aria-label="Jams per 10,000 sheets"
        inputMode="numeric"
        value={jams}
        onChange={(e) => setJams(e.target.value)}
      />{" "}
      jams per 10,000 sheets
      {changed && (
        <button className="btn btn-quiet btn-sm" disabled={!/^\d+$/.test(speed) || !/^\d+$/.test(jams)}>
          Apply
        </button>
      )}
    </form>
  );
}
