import { useQuery } from "@tanstack/react-query";
import { Download, Plus, Trash2 } from "lucide-react";
import { useState } from "react";
import { useSearchParams } from "react-router";
import { api, ask, queryClient, type Schema } from "../api/client";
import { printersQuery } from "../surfaces/queries";
import { accountsQuery } from "../mail/queries";
import { AccountForm, blankAccount } from "./AccountForm";
import { PostOfficePanel } from "./PostOfficePanel";
import { PracticePanel } from "./PracticePanel";
import { Empty } from "../ui/Empty";
import { Header } from "../ui/Header";
import { useActions } from "../ui/keys";
import { say, sayWrong } from "../ui/notices";
import { LengthInput } from "../ui/LengthInput";
import { customs, length, lengthUnit } from "../ui/customs";
import { keys } from "../api/keys";

type Printer = Schema["PrinterRow"];
const blank: Printer = {
  id: 0,
  name: "",
  envelopeEdge: "short",
  envelopeFace: "up",
  envelopeTurn: 0,
  envelopeRight: 0,
  envelopeDown: 0,
  sheetRight: 0,
  sheetDown: 0,
  kind: "paper",
  queue: null,
};

const kinds: Record<string, string> = {
  paper: "Printed elsewhere from files",
  practice: "Simulated printer, uses no paper",
  queue: "Print queue on this computer",
};

/** What makes and sends: printers and how each takes envelopes, accounts that email is sent with, the practice post office. */
export function DevicesPage() {
  const accounts = useQuery(accountsQuery()).data;
  const printers = useQuery(printersQuery()).data;
  const [asked] = useSearchParams();
  const [chosen, setChosen] = useState<number | null>(Number(asked.get("printer")) || null);
  const [account, setAccount] = useState<number | null>(asked.has("account") ? Number(asked.get("account")) : null);
  const adding = chosen === 0 && account === null;
  const choose = (printer: number | null) => (setAccount(null), setChosen(printer));
  useActions([
    { keys: "n", label: "Add printer", run: () => choose(0) },
    { keys: "m", label: "Add email account", run: () => setAccount(0) },
  ]);
  const shown = adding ? blank : (printers?.find((p) => p.id === chosen) ?? printers?.[0]);
  const begin = (
    <button className="btn btn-primary" onClick={() => choose(0)}>
      <Plus size={15} /> Add printer
    </button>
  );
  const sending = account === 0 ? blankAccount : accounts?.find((a) => a.id === account);
  const item = (key: string, current: boolean, name: string, hint: string, run: () => void) => (
    <li key={key}>
      <button
        className={`w-full cursor-pointer rounded px-2 py-1.5 text-left ${current ? "chosen" : "hover:bg-base-200"}`}
        aria-current={current || undefined}
        onClick={run}
      >
        {name}
        <span className="block text-[12px] text-faint">{hint}</span>
      </button>
    </li>
  );
  return (
    <>
      <Header kind="Printers and email accounts" title="Devices">
        <button className="btn btn-quiet" onClick={() => setAccount(0)}>
          <Plus size={15} /> Add email account
        </button>
        {begin}
      </Header>
      {printers?.length === 0 && !adding && account === null && (
        <Empty title="No printers yet" actions={begin}>
          A printer profile stores how envelopes are fed and how far the print is off, such as {length(2)} too low. Set it once, and it
          applies to every envelope and label sheet produced for that printer.
        </Empty>
      )}
      {(shown || sending) && (
        <div className="flex min-h-0 flex-1">
          <nav className="w-60 shrink-0 overflow-auto border-r border-line p-2" aria-label="Devices">
            <h2 className="px-2 pt-1 pb-0.5 text-[12px] text-faint">Printers</h2>
            <ul aria-label="Printers">
              {printers?.map((p) => item(`p${p.id}`, !sending && shown?.id === p.id, p.name, kinds[p.kind] ?? "", () => choose(p.id)))}
            </ul>
            <h2 className="px-2 pt-4 pb-0.5 text-[12px] text-faint">Email</h2>
            <ul aria-label="Email accounts">
              {accounts?.map((a) =>
                item(
                  `a${a.id}`,
                  sending?.id === a.id,
                  a.name,
                  a.kind === "practice" ? "Stores messages, delivers nothing" : `${a.host}, port ${a.port}`,
                  () => setAccount(a.id),
                ),
              )}
            </ul>
          </nav>
          {sending ? (
            <div className="min-w-0 flex-1 overflow-auto">
              {sending.kind === "practice" && <PostOfficePanel />}
              <AccountForm key={`account${sending.id}`} account={sending} onSaved={(id) => setAccount(id)} />
            </div>
          ) : shown ? (
            <>
              {shown.kind === "practice" && shown.id !== 0 ? (
                <div className="min-w-0 flex-1 overflow-auto">
                  <PracticePanel key={`practice${shown.id}`} id={shown.id} />
                  <details className="border-t border-line">
                    <summary className="cursor-pointer px-6 py-3 font-semibold">Name, envelope feed, and offsets</summary>
                    <PrinterForm key={shown.id} printer={shown} onSaved={setChosen} />
                  </details>
                </div>
              ) : (
                <PrinterForm key={shown.id} printer={shown} onSaved={setChosen} />
              )}
            </>
          ) : null}
        </div>
      )}
    </>
  );
}

function PrinterForm({ printer, onSaved }: { printer: Printer; onSaved: (id: number | null) => void }) {
  const [p, setP] = useState(printer);
  const save = async () => {
    const body = {
      name: p.name,
      envelopeEdge: p.envelopeEdge,
      envelopeFace: p.envelopeFace,
      envelopeTurn: p.envelopeTurn,
      envelopeRight: p.envelopeRight,
      envelopeDown: p.envelopeDown,
      sheetRight: p.sheetRight,
      sheetDown: p.sheetDown,
      kind: p.kind,
      queue: p.queue,
    };
    try {
      const id =
        p.id === 0
          ? await ask(api.POST("/api/printers", { body }))
          : (await ask(api.PUT("/api/printers/{id}", { params: { path: { id: p.id } }, body })), p.id);
      await queryClient.invalidateQueries({ queryKey: keys.printers() });
      say("Saved. Changes apply to new runs for this printer.");
      onSaved(id);
    } catch (e) {
      sayWrong(e);
    }
  };
  const remove = async () => {
    try {
      await ask(api.DELETE("/api/printers/{id}", { params: { path: { id: p.id } } }));
      await queryClient.invalidateQueries({ queryKey: keys.printers() });
      say(`Removed ${p.name}. Past runs for it are unchanged.`);
      onSaved(null);
    } catch (e) {
      sayWrong(e);
    }
  };
  const line = "grid grid-cols-[190px_1fr] items-center gap-3";
  const select = (label: string, value: string, choices: [string, string][], set: (value: string) => void) => (
    <label className={line}>
      <span>{label}</span>
      <select className="select w-72" value={value} onChange={(e) => set(e.target.value)}>
        {choices.map(([v, name]) => (
          <option key={v} value={v}>
            {name}
          </option>
        ))}
      </select>
    </label>
  );
  const offset = (label: string, right: "envelopeRight" | "sheetRight", down: "envelopeDown" | "sheetDown") => (
    <div className={line}>
      <span>{label}</span>
      <span className="flex items-center gap-2">
        <LengthInput
          className="input w-24"
          label={`${label}, right`}
          value={p[right]}
          low={-50}
          high={50}
          onSet={(mm) => setP({ ...p, [right]: mm })}
        />{" "}
        {lengthUnit()} right
        <LengthInput
          className="input ml-3 w-24"
          label={`${label}, down`}
          value={p[down]}
          low={-50}
          high={50}
          onSet={(mm) => setP({ ...p, [down]: mm })}
        />{" "}
        {lengthUnit()} down
      </span>
    </div>
  );
  return (
    <form
      className="flex min-w-0 flex-1 gap-8 overflow-auto p-6"
      onSubmit={(e) => {
        e.preventDefault();
        void save();
      }}
    >
      <div className="flex flex-col gap-3">
        <label className={line}>
          <span className="font-semibold">Name</span>
          <input
            className="input w-72"
            aria-label="Printer name"
            autoFocus={p.id === 0}
            value={p.name}
            maxLength={80}
            placeholder="Office printer, second floor"
            onChange={(e) => setP({ ...p, name: e.target.value })}
          />
        </label>
        {p.id === 0 && <Behind printer={p} set={setP} />}
        <h2 className="mt-3">Envelopes</h2>
        {select(
          "Leading edge",
          p.envelopeEdge,
          [
            ["short", "Short edge first"],
            ["long", "Long edge first"],
          ],
          (v) => setP({ ...p, envelopeEdge: v }),
        )}
        {select(
          "Printed side",
          p.envelopeFace,
          [
            ["up", "Up"],
            ["down", "Down"],
          ],
          (v) => setP({ ...p, envelopeFace: v }),
        )}
        {select(
          "Top edge",
          String(p.envelopeTurn),
          [
            ["0", p.envelopeEdge === "short" ? "On the right" : "Goes in first"],
            ["180", p.envelopeEdge === "short" ? "On the left" : "Goes in last"],
          ],
          (v) => setP({ ...p, envelopeTurn: Number(v) }),
        )}
        {offset("Print offset", "envelopeRight", "envelopeDown")}
        <p className="ml-[202px] max-w-md text-faint">
          Measured with the envelope held so you can read it. If the print is {length(2)} too low, enter -{length(2)} down.
        </p>
        <h2 className="mt-3">Label sheets</h2>
        {offset("Label offset", "sheetRight", "sheetDown")}
        <div className="mt-3 ml-[202px] flex gap-2">
          <button className="btn btn-primary" disabled={!p.name.trim()}>
            Save
          </button>
          {p.id !== 0 && (
            <>
              <a className="btn btn-quiet" href={`/api/printers/${p.id}/trial.pdf?format=no10`} download>
                <Download size={14} /> Download test envelope
              </a>
              <button type="button" className="btn btn-ghost" onClick={() => void remove()}>
                <Trash2 size={14} /> Remove
              </button>
            </>
          )}
        </div>
        {p.id !== 0 && (
          <p className="ml-[202px] max-w-md text-faint">
            The test envelope (No. 10) has a ruler along each edge. The offset is {customs().inches ? "0.5 in" : "10 mm"} minus the distance
            you measure.
          </p>
        )}
      </div>
      <figure className="flex flex-col items-center gap-2">
        <FeedDrawing printer={p} />
        <figcaption className="max-w-56 text-center text-faint">
          {p.envelopeFace === "up" ? "Printed side up" : "Printed side down, so the print shown is on the underside"}. The arrow shows which
          edge goes in first.
        </figcaption>
      </figure>
    </form>
  );
}

/** What stands behind a new printer: nothing but what is known of it, the practice printer, or Print queue on this computer. */
function Behind({ printer, set }: { printer: Printer; set: (p: Printer) => void }) {
  const queues = useQuery({ queryKey: keys.printQueues(), queryFn: () => ask(api.GET("/api/print-queues")) }).data ?? [];
  return (
    <label className="grid grid-cols-[190px_1fr] items-center gap-3">
      <span>Type</span>
      <select
        className="select w-72"
        value={printer.kind === "queue" ? `queue ${printer.queue}` : printer.kind}
        onChange={(e) =>
          set({
            ...printer,
            kind: e.target.value.split(" ")[0] ?? "paper",
            queue: e.target.value.startsWith("queue ") ? e.target.value.slice(6) : null,
          })
        }
      >
        <option value="paper">Printer elsewhere, using exported files</option>
        <option value="practice">Practice printer</option>
        {queues.map((q) => (
          <option key={q} value={`queue ${q}`}>
            Print queue {q} on this computer
          </option>
        ))}
      </select>
    </label>
  );
}

/** How an envelope lies in the printer's feed. */
function FeedDrawing({ printer }: { printer: Printer }) {
  const short = printer.envelopeEdge === "short";
  const [w, h] = short ? [92, 200] : [200, 92];
  const down = printer.envelopeFace === "down";
  // As the page is turned: a quarter with the clock where the short edge is first.
  const turn = (short ? 90 : 0) + printer.envelopeTurn;
  return (
    <svg
      width={230}
      height={270}
      viewBox="0 0 230 270"
      role="img"
      aria-label={`Envelope with its ${printer.envelopeEdge} edge first, printed side ${printer.envelopeFace}`}
    >
      <path d="M115 34V8M115 8l-8 9M115 8l8 9" fill="none" stroke="currentColor" strokeWidth={2} />
      <g transform={`translate(115 ${46 + h / 2})`}>
        <rect x={-w / 2} y={-h / 2} width={w} height={h} className="fill-base-100" stroke="currentColor" strokeWidth={1.2} />
        <g transform={`rotate(${turn})`} opacity={down ? 0.35 : 1} stroke="currentColor" fill="none">
          <path d="M-90 -34h46M-90 -28h34M-90 -22h40" strokeWidth={2} />
          <path d="M-10 0h70M-10 8h60M-10 16h64" strokeWidth={2.5} />
          <rect x={70} y={-38} width={20} height={16} strokeWidth={1} />
        </g>
      </g>
    </svg>
  );
}
