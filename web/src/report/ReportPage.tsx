import { useQuery } from "@tanstack/react-query";
import { FileDown } from "lucide-react";
import { lazy, Suspense, useState } from "react";
import { Link, useParams } from "react-router";
import { api, ask, type Schema } from "../api/client";
import { campaignsQuery, listQuery } from "../api/queries";
import { campaignQuery, reportQuery } from "../campaigns/campaigns";
import { Header } from "../ui/Header";
import { count, day, many, money, percent } from "../ui/words";
import { MissingRecord } from "../shell/WentWrong";
import { Beside } from "../ui/Beside";
import { keys } from "../api/keys";

// The chart's library is large, and only this page needs it.
const CurveChart = lazy(() => import("./CurveChart"));

/** A campaign in numbers: who responded when, what it cost and brought, and in which parts of the list. */
export function ReportPage() {
  const id = Number(useParams().id);
  const query = useQuery(reportQuery(id));
  const campaign = useQuery(campaignQuery(id)).data;
  const drops = useQuery(campaignsQuery()).data?.find((c) => c.id === id)?.drops ?? [];
  const list = useQuery({ ...listQuery(campaign?.listId ?? 0), enabled: Boolean(campaign?.listId) }).data;
  const [table, setTable] = useState(false);
  const [by, setBy] = useState("Channel");
  const column = by.startsWith("column:") ? Number(by.slice(7)) : null;
  const kind = (column === null ? by : "Column") as Schema["ReportBy"];
  const shares = useQuery({
    queryKey: keys.drop("report", id, "by", by),
    queryFn: () =>
      ask(api.GET("/api/campaigns/{id}/report/by", { params: { path: { id }, query: { by: kind, columnId: column ?? undefined } } })),
  }).data;
  if (query.error) return <MissingRecord error={query.error} what="campaign" to="/campaigns" back="Go to Campaigns" />;
  const r = query.data;
  if (!r) return <p className="p-8 text-faint">Counting…</p>;
  const mailed = r.steps.filter((s) => s.mailed > 0);
  const lines = mailed.map((s) => ({ name: s.name, curve: s.curve }));
  const cents = (n: number | null) => (n === null ? "not known" : money(n, r.currency));
  const asked = `by=${kind}${column === null ? "" : `&columnId=${column}`}`;
  return (
    <>
      <Header
        kind={<Link to={`/campaigns/${id}`}>{r.name}</Link>}
        title="Report"
        state={r.from && r.to ? `${day(r.from)} to ${day(r.to)}, counted from the ledger` : "nothing mailed yet"}
      >
        <a className="btn btn-quiet" href={`/api/campaigns/${id}/report.xlsx`} download>
          <FileDown size={14} /> XLSX
        </a>
        <a className="btn btn-quiet" href={`/api/campaigns/${id}/report.csv`} download>
          <FileDown size={14} /> CSV
        </a>
        <a className="btn btn-primary" href={`/api/campaigns/${id}/report.pdf?${asked}`} target="_blank" rel="noreferrer">
          Two-page PDF
        </a>
      </Header>
      <div className="flex min-h-0 flex-1">
        <div className="min-w-0 flex-1 overflow-auto px-5 py-4" tabIndex={0} role="region" aria-label="Responses and steps">
          <div className="flex items-center">
            <h2>Responded, by days since mailing</h2>
            <div className="join ml-auto" role="group" aria-label="Chart or table">
              {[false, true].map((t) => (
                <button
                  key={String(t)}
                  className={`btn btn-xs join-item ${table === t ? "btn-primary" : "btn-quiet"}`}
                  aria-pressed={table === t}
                  onClick={() => setTable(t)}
                >
                  {t ? "table" : "chart"}
                </button>
              ))}
            </div>
          </div>
          {mailed.length === 0 ? (
            <p className="py-6 text-faint">Nothing was mailed yet, so there is nothing to count.</p>
          ) : table ? (
            <CurveTable lines={lines} />
          ) : (
            <Suspense fallback={<div className="h-[250px]" />}>
              <div
                role="img"
                aria-label={lines.map((l) => `${l.name}: ${percent(l.curve.at(-1) ?? 0, 1)} after ${r.window} days`).join("; ")}
              >
                <CurveChart lines={lines} />
              </div>
            </Suspense>
          )}
          <table className="mt-3 w-full" aria-label="Steps">
            <thead>
              <tr className="border-b border-base-300 text-[12px] text-faint">
                <th className="py-1.5 text-left font-normal">Step</th>
                {["Mailed", "Returned", "Responded", "Rate", "Cost", "Per piece", "Per response", "Received", "Per $1"].map((h) => (
                  <th key={h} className="py-1.5 pl-2 text-right font-normal">
                    {h}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {[...r.steps.map((s, i) => ({ ...s, name: `${i + 1} ${s.name}`, whole: false })), { ...r.whole, whole: true }].map((s) => (
                <tr key={s.name} className={`border-b border-line ${s.whole ? "font-semibold" : ""}`} data-testid="report-step">
                  <td className="max-w-52 truncate py-2">{s.name}</td>
                  <td className="pl-2 text-right">{count(s.mailed)}</td>
                  <td className="pl-2 text-right">{count(s.returned)}</td>
                  <td className="pl-2 text-right">{count(s.responses)}</td>
                  <td className="pl-2 text-right">{percent(s.responses, s.mailed)}</td>
                  <td className="pl-2 text-right">{s.mailed === 0 ? "–" : cents(s.cents)}</td>
                  <td className="pl-2 text-right">{s.cents === null || !s.mailed ? "–" : money(s.cents / s.mailed, r.currency)}</td>
                  <td className="pl-2 text-right">{s.cents === null || !s.responses ? "–" : money(s.cents / s.responses, r.currency)}</td>
                  <td className="pl-2 text-right">{money(s.received, r.currency)}</td>
                  <td className="pl-2 text-right">{s.cents ? (s.received / s.cents).toFixed(1) : "–"}</td>
                </tr>
              ))}
            </tbody>
          </table>
          <p className="mt-3 text-[12px] leading-4 text-faint">
            A response counts for the last piece mailed to that recipient within {r.window} days before it.
            {r.notCredited > 0 && ` ${many(r.notCredited, "response counts", "responses count")} for no piece.`} Costs are paper, envelopes,
            and the postage that was chosen as the pieces were produced.
          </p>
        </div>
        <Beside
          label="Shares"
          className="on-sand flex w-[330px] shrink-0 flex-col gap-5 overflow-auto border-l border-line bg-base-200 px-4 py-4"
        >
          <section>
            <label className="mb-2 flex items-center gap-2">
              <span className="text-[14px] font-semibold">By</span>
              <select className="select select-sm w-full" aria-label="By" value={by} onChange={(e) => setBy(e.target.value)}>
                <option value="Channel">channel</option>
                <option value="Version">design version</option>
                {list && <option value="Segment">segment</option>}
                {list?.columns.map((c) => (
                  <option key={c.id} value={`column:${c.id}`}>
                    {c.name}
                  </option>
                ))}
              </select>
            </label>
            <table className="w-full" aria-label="Shares">
              <tbody>
                {(shares ?? []).map((s) => (
                  <tr key={s.name}>
                    <th className="max-w-28 truncate py-1.5 pr-2 text-left font-normal" title={s.name}>
                      {s.name}
                    </th>
                    <td className="w-24">
                      <span className="block h-3 bg-base-300" aria-hidden>
                        <span
                          className="block h-3 bg-primary"
                          style={{ width: `${s.mailed ? Math.min(100, (100 * s.responded) / s.mailed) : 0}%` }}
                        />
                      </span>
                    </td>
                    <td className="pl-2 text-right font-semibold">{percent(s.responded, s.mailed)}</td>
                    <td className="pl-2 text-right text-[12px] text-faint">
                      {count(s.responded)} of {count(s.mailed)}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
            {shares?.length === 0 && <p className="text-faint">Nothing to divide yet.</p>}
          </section>
          <section>
            <h2 className="mb-1">In one sentence</h2>
            <p className="text-[15px] leading-6">{sentence(r)}</p>
          </section>
          {Object.keys(r.returns).length > 0 && (
            <section>
              <h2 className="mb-1">Returned</h2>
              <p>
                {many(
                  Object.values(r.returns).reduce<number>((n, x) => n + (x ?? 0), 0),
                  "piece was",
                  "pieces were",
                )}{" "}
                returned:{" "}
                {Object.entries(r.returns)
                  .map(([reason, n]) => `${count(n ?? 0)} ${reason}`)
                  .join(", ")}
                .
              </p>
            </section>
          )}
          {campaign?.mode === "Drops" && drops.length > 0 && (
            <p className="text-faint">This campaign has no steps; its drops are counted instead.</p>
          )}
        </Beside>
      </div>
    </>
  );
}

function sentence(r: Schema["CampaignReport"]) {
  if (r.people === 0) return "Nothing has been mailed yet.";
  const first = `${count(r.responded)} of ${count(r.people)} recipients who were mailed responded, ${percent(r.responded, r.people)}.`;
  const { cents, mailed, received } = r.whole;
  if (cents === null || mailed === 0) return received > 0 ? `${first} They brought ${money(received, r.currency)}.` : first;
  return `${first} Each piece cost ${money(cents / mailed, r.currency)}${received > 0 ? ` and brought ${money(received / mailed, r.currency)}` : ""}.`;
}

/** The same as the chart, in numbers: the share by the end of each week. */
function CurveTable({ lines }: { lines: { name: string; curve: number[] }[] }) {
  const last = Math.max(0, ...lines.map((l) => l.curve.length - 1));
  const days = [0, 3, 7, 14, 21, 30, 45, 60, 90, 120, 180, 365, 730].filter((d) => d < last).concat(last);
  return (
    <table className="my-3 w-full" aria-label="Responded, by days since mailing">
      <thead>
        <tr className="border-b border-base-300 text-[12px] text-faint">
          <th className="py-1 text-left font-normal">Step</th>
          {days.map((d) => (
            <th key={d} className="py-1 pl-2 text-right font-normal">
              day {d}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {lines.map((l) => (
          <tr key={l.name} className="border-b border-line">
            <th className="max-w-48 truncate py-1.5 text-left font-normal">{l.name}</th>
            {days.map((d) => (
              <td key={d} className="pl-2 text-right">
                {percent(l.curve[Math.min(d, l.curve.length - 1)] ?? 0, 1)}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
