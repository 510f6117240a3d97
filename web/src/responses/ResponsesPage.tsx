import { useQuery } from "@tanstack/react-query";
import { Undo2 } from "lucide-react";
import { useRef, useState } from "react";
import { Link, useSearchParams } from "react-router";
import { api, ask, queryClient, type Schema } from "../api/client";
import { campaignsQuery, listQuery } from "../api/queries";
import { campaignQuery } from "../campaigns/campaigns";
import { soundNotFound } from "../returns/returns";
import { Dialog } from "../ui/Dialog";
import { Header } from "../ui/Header";
import { useActions } from "../ui/keys";
import { say, sayWrong } from "../ui/notices";
import { today } from "../ui/customs";
import { day, many } from "../ui/words";
import { useMoney } from "../ui/useMoney";
import { readAmount, readLines } from "./lines";
import { NotRecorded, PastedRows } from "./PastedRows";
import { Beside } from "../ui/Beside";
import { keys } from "../api/keys";

type Responder = Schema["Responder"];

const responsesQuery = () => ({ queryKey: keys.drop("responses"), queryFn: () => ask(api.GET("/api/responses")) });

/** Responses one after another: the number on the reply, where there is one the amount; or many of them at once. */
export function ResponsesPage() {
  const money = useMoney();
  const [params, setParams] = useSearchParams();
  const campaignId = Number(params.get("campaign") ?? 0) || null;
  const campaigns = (useQuery(campaignsQuery()).data ?? []).filter((c) => c.mode !== "Drops");
  const last = useQuery(responsesQuery()).data ?? [];
  const [code, setCode] = useState("");
  const [on, setOn] = useState(today());
  const [amount, setAmount] = useState("");
  const [note, setNote] = useState("");
  const [found, setFound] = useState<Responder[]>([]);
  const [at, setAt] = useState(0);
  const [missed, setMissed] = useState<string | null>(null);
  const [importing, setImporting] = useState(false);
  const entry = useRef<HTMLInputElement>(null);
  const amountField = useRef<HTMLInputElement>(null);
  const person = found[at];
  const wrongAmount = amount.trim() !== "" && readAmount(amount) === null;
  const next = () => {
    setFound([]);
    setAt(0);
    setCode("");
    setAmount("");
    setNote("");
    entry.current?.focus();
  };
  const find = async () => {
    const asked = code.trim();
    if (!asked) return;
    try {
      const people = await ask(
        api.GET("/api/responses/find", { params: { query: { code: asked, campaignId: campaignId ?? undefined, on } } }),
      );
      // Another number has been typed meanwhile: this answer is not about it.
      if (entry.current?.value.trim() !== asked) return;
      setFound(people);
      setAt(0);
      setMissed(people.length === 0 ? asked : null);
      if (people.length) amountField.current?.focus();
      else {
        soundNotFound();
        entry.current?.select();
      }
    } catch (e) {
      soundNotFound();
      sayWrong(e);
    }
  };
  const record = async () => {
    if (!person || wrongAmount) return;
    const entered = { code, amount, note, found, at };
    // At once: the next number may be typed before this one is stored, and a second Enter records nobody twice.
    next();
    try {
      const id = await ask(
        api.POST("/api/responses", {
          body: {
            listId: person.listId,
            recipientId: person.recipientId,
            on,
            kind: null,
            amount: amount.trim() ? readAmount(amount) : null,
            note: note.trim() || null,
            campaignId,
          },
        }),
      );
      say(`Recorded the response of ${person.name}.`, { action: { label: "Undo", run: () => void undo(id) } });
      await queryClient.invalidateQueries({ queryKey: keys.drop() });
    } catch (e) {
      sayWrong(new Error(`The response of ${person.name} was not recorded. ${e instanceof Error ? e.message : String(e)}`));
      // Whoever is at the next one already keeps what they typed.
      if (entry.current?.value !== "") return;
      setCode(entered.code);
      setAmount(entered.amount);
      setNote(entered.note);
      setFound(entered.found);
      setAt(entered.at);
    }
  };
  const undo = async (id: number) => {
    try {
      await ask(api.POST("/api/responses/{id}/undo", { params: { path: { id } } }));
      say("The response was undone.");
      await queryClient.invalidateQueries({ queryKey: keys.drop() });
    } catch (e) {
      sayWrong(e);
    }
  };
  const newest = last.find((r) => !r.undone);
  useActions([
    { keys: "Ctrl+z", label: "Undo the last response", run: () => newest && void undo(newest.id) },
    { keys: "Escape", label: "Another response", run: next, quiet: true },
  ]);
  return (
    <>
      <Header kind={<Link to="/">Today</Link>} title="Responses">
        <select
          className="select select-sm w-56"
          aria-label="Campaign"
          value={campaignId ?? ""}
          onChange={(e) => setParams(e.target.value ? { campaign: e.target.value } : {})}
        >
          <option value="">whichever was mailed last</option>
          {campaigns.map((c) => (
            <option key={c.id} value={c.id}>
              {c.name}
            </option>
          ))}
        </select>
        <button className="btn btn-quiet" onClick={() => setImporting(true)}>
          Import many…
        </button>
      </Header>
      <div className="flex min-h-0 flex-1">
        <section className="min-w-0 flex-1 overflow-auto p-6" aria-label="The response in hand">
          <form
            className="flex flex-wrap items-end gap-3"
            onSubmit={(e) => {
              e.preventDefault();
              void (person ? record() : find());
            }}
          >
            <label>
              <span className="mb-1 block font-semibold">Number</span>
              <input
                ref={entry}
                className="input input-lg w-64 tabular-nums"
                autoFocus
                autoComplete="off"
                placeholder="Recipient’s or piece number"
                value={code}
                onChange={(e) => {
                  setCode(e.target.value);
                  setFound([]);
                }}
              />
            </label>
            <label>
              <span className="mb-1 block font-semibold">Arrived</span>
              <input
                type="date"
                className="input input-lg w-44"
                value={on}
                max={today()}
                required
                onChange={(e) => setOn(e.target.value)}
              />
            </label>
            <label>
              <span className="mb-1 block font-semibold">Amount</span>
              <input
                ref={amountField}
                className={`input input-lg w-32 text-right tabular-nums ${wrongAmount ? "input-error" : ""}`}
                inputMode="decimal"
                placeholder="none"
                value={amount}
                onChange={(e) => setAmount(e.target.value)}
              />
            </label>
            <label>
              <span className="mb-1 block font-semibold">Note</span>
              <input className="input input-lg w-52" maxLength={500} value={note} onChange={(e) => setNote(e.target.value)} />
            </label>
            <button className="btn btn-lg btn-primary" disabled={wrongAmount || !code.trim()}>
              {person ? "Record" : "Find"}
            </button>
          </form>
          {wrongAmount && (
            <p className="mt-2 text-error" role="alert">
              Enter an amount such as 64 or 64.50.
            </p>
          )}
          {missed !== null && found.length === 0 && (
            <p className="mt-5 max-w-2xl border-l-[3px] border-error bg-doubt px-3 py-2" role="alert">
              No recipient or mailed piece has the number “{missed}”. Check it, or look the recipient up in their list.
            </p>
          )}
          {person && (
            <div className="mt-6 max-w-2xl border-l-[3px] border-primary px-4 py-2" data-testid="responder">
              <p className="text-[17px] font-semibold">{person.name}</p>
              <p className="text-faint">
                {person.place} · {person.list}
              </p>
              <p className="mt-2">
                {person.credited ? (
                  <>
                    Counts for <strong>{person.credited}</strong>.
                  </>
                ) : (
                  "Nothing was mailed to them lately, so it counts for no piece."
                )}
              </p>
              {person.responded && (
                <p className="mt-1 text-doubt-ink">
                  They responded to this campaign on {day(person.responded)} already. Recording it again counts the amount, not the
                  recipient.
                </p>
              )}
              <p className="mt-2 text-faint">
                Press Enter to record it. If the campaign has steps, they leave it and get no further steps.
              </p>
              {found.length > 1 && (
                <div className="mt-3 flex flex-wrap gap-2" role="group" aria-label="Who is meant">
                  {found.map((f, i) => (
                    <button
                      key={`${f.listId}.${f.recipientId}`}
                      className={`btn btn-xs ${i === at ? "btn-primary" : "btn-quiet"}`}
                      onClick={() => setAt(i)}
                    >
                      {f.name}, {f.list}
                    </button>
                  ))}
                </div>
              )}
            </div>
          )}
          {!person && missed === null && last.length === 0 && (
            <p className="mt-8 max-w-xl text-faint">
              For each reply: the number printed on it, the day, and the amount where there is one. It counts for the last piece that was
              mailed to that recipient, and the recipient leaves the campaign.
            </p>
          )}
        </section>
        <Beside label="Just entered" className="on-sand flex w-[300px] shrink-0 flex-col border-l border-line bg-base-200" from={960}>
          <div className="flex items-center justify-between px-4 py-3">
            <h2>Just entered</h2>
            {newest && (
              <button className="btn btn-xs bg-base-100" onClick={() => void undo(newest.id)} title="Undo the last one (Ctrl Z)">
                <Undo2 size={13} /> Undo
              </button>
            )}
          </div>
          <ul className="min-h-0 flex-1 overflow-auto px-4">
            {last.map((r) => (
              <li key={r.id} className={`border-b border-line py-2 ${r.undone ? "text-faint line-through" : ""}`}>
                <div className="flex gap-3">
                  <Link
                    className="min-w-0 flex-1 truncate font-semibold hover:underline"
                    to={`/lists/${r.listId}/recipients/${r.recipientId}`}
                  >
                    {r.name || "no longer on the list"}
                  </Link>
                  {r.cents !== null && <span className="tabular-nums">{money(r.cents)}</span>}
                </div>
                <p className="truncate text-[12px] text-faint">
                  {day(r.onDate, false)} · {r.credited ?? "counts for no piece"}
                </p>
              </li>
            ))}
          </ul>
        </Beside>
      </div>
      {importing && <ImportDialog campaignId={campaignId} onClose={() => setImporting(false)} />}
    </>
  );
}

/** Many responses at once: pasted, from a file, or from a column of the campaign's list. */
function ImportDialog({ campaignId, onClose }: { campaignId: number | null; onClose: () => void }) {
  const [text, setText] = useState("");
  const [came, setCame] = useState<Schema["ResponseImport"] | null>(null);
  const [busy, setBusy] = useState(false);
  const [dateColumn, setDateColumn] = useState("");
  const [amountColumn, setAmountColumn] = useState("");
  const campaign = useQuery({ ...campaignQuery(campaignId ?? 0), enabled: campaignId !== null }).data;
  const list = useQuery({ ...listQuery(campaign?.listId ?? 0), enabled: Boolean(campaign?.listId) }).data;
  const { lines, problems } = readLines(text);
  const byColumn = dateColumn !== "";
  const go = async () => {
    setBusy(true);
    try {
      setCame(
        await ask(
          api.POST("/api/responses/import", {
            body: {
              lines: byColumn ? [] : lines,
              campaignId,
              dateColumnId: byColumn ? Number(dateColumn) : null,
              amountColumnId: byColumn && amountColumn ? Number(amountColumn) : null,
            },
          }),
        ),
      );
      await queryClient.invalidateQueries({ queryKey: keys.drop() });
    } catch (e) {
      sayWrong(e);
    } finally {
      setBusy(false);
    }
  };
  const undo = async () => {
    if (came?.batch == null) return;
    try {
      await ask(api.POST("/api/responses/imports/{batch}/undo", { params: { path: { batch: came.batch } } }));
      say("The import was undone.");
      await queryClient.invalidateQueries({ queryKey: keys.drop() });
      onClose();
    } catch (e) {
      sayWrong(e);
    }
  };
  return (
    <Dialog title="Import responses" onClose={onClose} wide>
      {came ? (
        <div className="flex flex-col gap-3">
          <p role="status">
            {many(came.recorded, "response was", "responses were")} recorded.
            {came.known > 0 && ` ${many(came.known, "response was", "responses were")} already recorded and not changed.`}
            {came.notCredited > 0 &&
              ` ${many(came.notCredited, "response counts", "responses count")} for no piece, because nothing was mailed to them lately.`}
          </p>
          <NotRecorded rows={came.notFound} />
          <div className="flex gap-2">
            <button className="btn btn-primary" onClick={onClose}>
              Close
            </button>
            {came.batch !== null && (
              <button className="btn btn-quiet" onClick={() => void undo()}>
                Undo this import
              </button>
            )}
          </div>
        </div>
      ) : (
        <form
          className="flex flex-col gap-3"
          onSubmit={(e) => {
            e.preventDefault();
            void go();
          }}
        >
          <PastedRows
            label="Paste rows, or choose a CSV file"
            example={"F-00412\t11/5/2026\t64.00\nF-00007\t11/6/2026"}
            help="Each row begins with the recipient’s own number or a piece number; then, in any order, the date, the amount, and a note. Without a date, today counts."
            text={text}
            problems={problems}
            disabled={byColumn}
            onText={setText}
          />
          {list && (
            <fieldset className="grid grid-cols-2 gap-3 border-t border-line pt-3">
              <legend className="pr-2 text-faint">Or from the list</legend>
              <label>
                <span className="mb-1 block font-semibold">Column with the date</span>
                <select className="select w-full" value={dateColumn} onChange={(e) => setDateColumn(e.target.value)}>
                  <option value="">none</option>
                  {list.columns
                    .filter((c) => c.type === "Date")
                    .map((c) => (
                      <option key={c.id} value={c.id}>
                        {c.name}
                      </option>
                    ))}
                </select>
              </label>
              <label>
                <span className="mb-1 block font-semibold">Column with the amount</span>
                <select
                  className="select w-full"
                  value={amountColumn}
                  disabled={!byColumn}
                  onChange={(e) => setAmountColumn(e.target.value)}
                >
                  <option value="">none</option>
                  {list.columns
                    .filter((c) => c.type === "Number")
                    .map((c) => (
                      <option key={c.id} value={c.id}>
                        {c.name}
                      </option>
                    ))}
                </select>
              </label>
            </fieldset>
          )}
          <div className="flex gap-2">
            <button className="btn btn-primary" disabled={busy || (!byColumn && (lines.length === 0 || problems.length > 0))}>
              {byColumn ? "Import from the column" : lines.length ? `Import ${many(lines.length, "response")}` : "Import responses"}
            </button>
            <button type="button" className="btn btn-quiet" onClick={onClose}>
              Cancel
            </button>
          </div>
        </form>
      )}
    </Dialog>
  );
}
