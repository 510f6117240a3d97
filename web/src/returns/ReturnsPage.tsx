import { useQuery } from "@tanstack/react-query";
import { Undo2 } from "lucide-react";
import { useEffect, useLayoutEffect, useRef, useState } from "react";
import { Link } from "react-router";
import { api, ask, queryClient } from "../api/client";
import { Header } from "../ui/Header";
import { useActions } from "../ui/keys";
import { say, sayWrong } from "../ui/notices";
import { useDelayed } from "../ui/useDelayed";
import { count, day, many, pieceNumber } from "../ui/words";
import { ImportReturns } from "./ImportReturns";
import { ReturnRules } from "./ReturnRules";
import {
  changedCells,
  corrects,
  followed,
  followNames,
  reasonNames,
  returnsQuery,
  rulesQuery,
  soundNotFound,
  type FollowUp,
  type FoundPiece,
  type ReturnRule,
} from "./returns";
import { Beside } from "../ui/Beside";
import { keys } from "../api/keys";

/** Pieces that the post brought back, one after another: the number, a key for the reason, where there is one the new address. */
export function ReturnsPage() {
  const [code, setCode] = useState("");
  const [found, setFound] = useState<FoundPiece[]>([]);
  const [at, setAt] = useState(0);
  const [missed, setMissed] = useState<string | null>(null);
  const [setting, setSetting] = useState(false);
  const [importing, setImporting] = useState(false);
  const entry = useRef<HTMLInputElement>(null);
  const entered = useQuery(returnsQuery()).data;
  const rules = useQuery(rulesQuery()).data ?? [];
  const piece = found[at];
  const next = () => {
    setFound([]);
    setAt(0);
    setCode("");
    entry.current?.focus();
  };
  const find = async () => {
    const asked = code.trim();
    if (!asked) return;
    try {
      const pieces = await ask(api.GET("/api/returns/find", { params: { query: { code: asked } } }));
      // Another number has been typed meanwhile: this answer is not about it.
      if (entry.current?.value.trim() !== asked) return;
      setAt(0);
      // A tray of returns is mostly of one mailing: its pieces come first.
      const drop = entered?.rows[0]?.dropId;
      setFound([...pieces.filter((p) => p.dropId === drop), ...pieces.filter((p) => p.dropId !== drop)]);
      setMissed(pieces.length === 0 ? asked : null);
      if (pieces.length > 0) return;
      soundNotFound();
      entry.current?.select();
    } catch (e) {
      soundNotFound();
      sayWrong(e);
      entry.current?.select();
    }
  };
  const undo = async (id: number) => {
    try {
      const row = await ask(api.POST("/api/returns/{id}/undo", { params: { path: { id } } }));
      say(`Undid the return of piece ${pieceNumber(row.piece)}.`);
      await queryClient.invalidateQueries({ queryKey: keys.drop() });
    } catch (e) {
      sayWrong(e);
    }
  };
  const last = entered?.rows.find((r) => !r.undone);
  useActions([
    { keys: "Ctrl+z", label: "Take the last return back", run: () => last && void undo(last.id) },
    { keys: "Escape", label: "Another piece", run: next, quiet: true },
  ]);
  return (
    <>
      <Header kind={<Link to="/">Today</Link>} title="Returns" state={entered && `${many(entered.today, "return")} entered today`}>
        <button className="btn btn-quiet" onClick={() => setImporting(true)}>
          Import many…
        </button>
        <button className="btn btn-quiet" onClick={() => setSetting(true)}>
          Rules by reason
        </button>
      </Header>
      <div className="flex min-h-0 flex-1">
        <section className="min-w-0 flex-1 overflow-auto p-6" aria-label="The piece in hand">
          <form
            className="flex items-center gap-4"
            onSubmit={(e) => {
              e.preventDefault();
              void find();
            }}
          >
            <input
              ref={entry}
              className="input input-lg w-[420px] tabular-nums"
              aria-label="Number or barcode on the piece"
              placeholder="Number on the piece"
              autoFocus
              autoComplete="off"
              value={code}
              onChange={(e) => setCode(e.target.value)}
              onKeyDown={(e) => {
                // Nothing is typed here that could be taken back: the last return is meant.
                if (code !== "" || e.key.toLowerCase() !== "z" || !(e.ctrlKey || e.metaKey) || !last) return;
                e.preventDefault();
                void undo(last.id);
              }}
            />
            <p className="text-faint">Enter the piece number, or scan the barcode or QR code, then press Enter.</p>
          </form>
          {missed !== null && found.length === 0 && (
            <p className="mt-5 max-w-2xl border-l-[3px] border-error bg-doubt px-3 py-2" role="alert">
              No produced piece has “{missed}”. Check the number, or look the recipient up on the bench of their drop.
            </p>
          )}
          {piece && (
            <Piece
              key={`${piece.dropId}.${piece.recipientId}`}
              piece={piece}
              others={found}
              at={at}
              rules={rules}
              onOther={setAt}
              onBack={next}
              onDone={next}
            />
          )}
          {!piece && missed === null && entered?.rows.length === 0 && (
            <p className="mt-8 max-w-xl text-faint">
              For each returned piece, enter its number, then press one key for the reason on the label. Set what happens for each reason
              under “Rules by reason.”
            </p>
          )}
        </section>
        <Beside label="Just entered" className="on-sand flex w-[300px] shrink-0 flex-col border-l border-line bg-base-200" from={960}>
          <div className="flex items-center justify-between px-4 py-3">
            <h2>Just entered</h2>
            {last && (
              <button className="btn btn-xs bg-base-100" onClick={() => void undo(last.id)} title="Take the last one back (Ctrl Z)">
                <Undo2 size={13} /> Undo
              </button>
            )}
          </div>
          <ul className="min-h-0 flex-1 overflow-auto px-4">
            {(entered?.rows ?? []).map((r) => (
              <li key={r.id} className={`border-b border-line py-2 ${r.undone ? "text-faint line-through" : ""}`}>
                <div className="flex gap-3">
                  <span className="text-faint tabular-nums">{pieceNumber(r.piece)}</span>
                  <Link className="min-w-0 truncate font-semibold hover:underline" to={`/drops/${r.dropId}/proof?piece=${r.piece}`}>
                    {r.name || "no longer on the list"}
                  </Link>
                </div>
                <p className="text-[12px] text-faint">
                  {reasonNames[r.reason]}: {followed[r.followUp]}
                  {r.remailDropId !== null && !r.undone && (
                    <>
                      {" in "}
                      <Link className="underline" to={`/drops/${r.remailDropId}/proof`}>
                        {r.drop}, mailed again
                      </Link>
                    </>
                  )}
                </p>
              </li>
            ))}
            {entered?.rows.length === 0 && <li className="text-faint">Nothing yet.</li>}
          </ul>
        </Beside>
      </div>
      {importing && <ImportReturns onClose={() => setImporting(false)} />}
      {setting && <ReturnRules rules={rules} close={() => setSetting(false)} />}
    </>
  );
}

interface PieceProps {
  piece: FoundPiece;
  others: FoundPiece[];
  at: number;
  rules: ReturnRule[];
  onOther: (at: number) => void;
  onBack: () => void;
  onDone: () => void;
}

/** The piece that was found: whose it is, why it came back, and where there is one the new address. */
function Piece({ piece, others, at, rules, onOther, onBack, onDone }: PieceProps) {
  const [reason, setReason] = useState<ReturnRule["reason"] | null>(null);
  const [follow, setFollow] = useState<FollowUp | null>(null);
  const [typed, setTyped] = useState<Record<number, string>>({});
  const same = piece.otherLists.filter((o) => o.sameAddress);
  const different = piece.otherLists.filter((o) => !o.sameAddress);
  const [apart, setApart] = useState<ReadonlySet<number>>(new Set());
  const [busy, setBusy] = useState(false);
  const panel = useRef<HTMLDivElement>(null);
  const street = useRef<HTMLInputElement>(null);
  // With the panel, not after it: the key for the reason may come at once.
  useLayoutEffect(() => panel.current?.focus(), []);
  const what = follow ?? rules.find((r) => r.reason === reason)?.followUp ?? null;
  const writes = what !== null && corrects(what);
  const cells = changedCells(piece, typed);
  const asked = useDelayed(cells, 250);
  const wrong = useQuery({
    queryKey: keys.returns("check", piece.recipientId, asked),
    queryFn: () => ask(api.POST("/api/returns/check", { body: { listId: piece.listId, recipientId: piece.recipientId, address: asked } })),
    enabled: writes && Object.keys(asked).length > 0,
  }).data;
  useEffect(() => {
    if (writes) street.current?.focus();
  }, [writes]);
  const record = async (why: ReturnRule["reason"], followUp: FollowUp | null) => {
    if (busy || piece.objection) return;
    setBusy(true);
    try {
      const row = await ask(
        api.POST("/api/returns", {
          body: {
            dropId: piece.dropId,
            recipientId: piece.recipientId,
            reason: why,
            followUp,
            address: corrects(followUp ?? "record") ? cells : null,
            also: same.map((o) => o.person.recipientId).filter((id) => !apart.has(id)),
          },
        }),
      );
      const also = row.alsoOn.length > 0 ? `, also on ${row.alsoOn.join(", ")}` : "";
      say(`Piece ${pieceNumber(row.piece)}, ${row.name}: ${followed[row.followUp]}${also}.`);
      void queryClient.invalidateQueries({ queryKey: keys.drop() });
      void queryClient.invalidateQueries({ queryKey: keys.suppressions() });
      onDone();
    } catch (e) {
      sayWrong(e);
      setBusy(false);
    }
  };
  const choose = (rule: ReturnRule, atOnce: boolean) => {
    setReason(rule.reason);
    setFollow(null);
    if (atOnce && !corrects(rule.followUp)) void record(rule.reason, rule.followUp);
  };
  return (
    <div
      ref={panel}
      tabIndex={-1}
      className="mt-6"
      // It has the keys, and is no control itself.
      style={{ outline: "none" }}
      onKeyDown={(e) => {
        if (e.key === "Escape") {
          e.stopPropagation();
          onBack();
          return;
        }
        if (e.target instanceof HTMLInputElement || e.ctrlKey || e.altKey || e.metaKey) return;
        const rule = rules[Number(/^Digit(\d)$|^Numpad(\d)$/.exec(e.code)?.slice(1).find(Boolean)) - 1];
        if (rule) {
          e.preventDefault();
          choose(rule, !e.shiftKey);
        } else if (e.key === "Enter" && e.target === panel.current && reason && what) {
          e.preventDefault();
          void record(reason, what);
        } else if (e.key === "ArrowDown" || e.key === "ArrowUp") {
          e.preventDefault();
          onOther(Math.max(0, Math.min(others.length - 1, at + (e.key === "ArrowDown" ? 1 : -1))));
        }
      }}
    >
      {others.length > 1 && (
        <fieldset className="mb-4">
          <legend className="mb-1 text-faint">{many(others.length, "piece")} have this number; ↑ ↓ choose.</legend>
          {others.map((o, i) => (
            <label
              key={`${o.dropId}.${o.recipientId}`}
              className={`flex cursor-pointer items-center gap-2 rounded px-2 py-1 ${i === at ? "bg-base-200" : ""}`}
            >
              <input type="radio" className="radio radio-sm" name="which" checked={i === at} onChange={() => onOther(i)} />
              <span className="w-44 truncate font-semibold">{o.name}</span>
              <span className="min-w-0 flex-1 truncate">
                {o.campaign} · {o.drop}
              </span>
              <span className="text-faint">{o.mailedOn ? `mailed ${day(o.mailedOn)}` : "not mailed"}</span>
            </label>
          ))}
        </fieldset>
      )}
      <div className="mb-6 flex gap-10">
        <div className="w-[340px] rounded border border-line bg-base-100 p-4" aria-label="Address">
          <strong className="block">{piece.name}</strong>
          {(piece.addressLines.length > 0 ? piece.addressLines : piece.address.flatMap((a) => a.value || [])).map((line, i) => (
            <span key={i} className="block">
              {line}
            </span>
          ))}
        </div>
        <div className="min-w-0 flex-1">
          <p className="font-semibold">
            {piece.campaign} · {piece.drop}
          </p>
          <p className="text-faint">
            piece {pieceNumber(piece.piece)} · {piece.list}
            {piece.mailedOn ? ` · mailed ${day(piece.mailedOn)}` : ""}
          </p>
          {piece.objection && (
            <p className="mt-2 border-l-[3px] border-error bg-doubt px-3 py-1.5" role="alert">
              This piece {piece.objection}
              {piece.returned ? `: ${piece.returned}` : ""}. Nothing can be recorded.
            </p>
          )}
          {piece.open.length > 0 ? (
            <p className="mt-2">
              This also affects {many(piece.open.length, "open drop")}: {piece.open.map((o) => `${o.campaign} · ${o.name}`).join(", ")}.
            </p>
          ) : (
            <p className="mt-2 text-faint">No open drop has another piece for this recipient.</p>
          )}
          {different.length > 0 && (
            <p className="mt-2">
              The same person has another address on{" "}
              {different.map((o, i) => (
                <span key={o.person.recipientId}>
                  {i > 0 && ", "}
                  <Link className="underline" to={`/lists/${o.person.listId}/recipients/${o.person.recipientId}`}>
                    {o.person.listName}
                  </Link>
                </span>
              ))}
              . It will not be changed.
            </p>
          )}
        </div>
      </div>
      <div className="flex gap-10">
        <div className="w-[340px]" role="group" aria-label="Reason for return">
          <h2 className="mb-2">Reason for return</h2>
          {rules.map((r, i) => (
            <button
              key={r.reason}
              className={`mb-0.5 flex w-full cursor-pointer items-center gap-3 rounded px-2 py-1.5 text-left ${reason === r.reason ? "chosen" : "hover:bg-base-200"}`}
              aria-pressed={reason === r.reason}
              disabled={!!piece.objection || busy}
              onClick={() => choose(r, false)}
            >
              <kbd className="kbd kbd-sm text-base-content">{i + 1}</kbd>
              <span className="flex-1">{reasonNames[r.reason]}</span>
              <span className={`text-[12px] ${reason === r.reason ? "" : "text-faint"}`}>{followNames[r.followUp].toLowerCase()}</span>
            </button>
          ))}
          <p className="mt-2 text-[12px] text-faint">Press a number to record the return. Hold Shift to choose what happens first.</p>
        </div>
        {reason && what && (
          <form
            className="min-w-0 flex-1"
            onSubmit={(e) => {
              e.preventDefault();
              void record(reason, what);
            }}
          >
            {writes && (
              <>
                <h2 className="mb-2">New address</h2>
                {piece.address.map((a, i) => (
                  <label key={a.columnId} className="mb-1.5 grid grid-cols-[110px_180px_1fr] items-center gap-3">
                    <span className="text-faint">{a.name}</span>
                    <span className={`truncate ${cells[a.columnId] === undefined ? "" : "text-error line-through"}`}>{a.value ?? "—"}</span>
                    <input
                      ref={i === 0 ? street : undefined}
                      className="input input-sm w-full max-w-xs"
                      aria-label={`New ${a.name}`}
                      placeholder={a.value ?? ""}
                      value={typed[a.columnId] ?? ""}
                      onChange={(e) => setTyped({ ...typed, [a.columnId]: e.target.value })}
                    />
                  </label>
                ))}
                <p className="mb-3 min-h-5 text-[12px]" aria-live="polite">
                  {Object.keys(cells).length === 0 ? (
                    <span className="text-faint">Enter only what changed. Blank parts stay the same.</span>
                  ) : wrong && wrong.length > 0 ? (
                    <span className="text-error">{wrong.join(" ")}</span>
                  ) : wrong ? (
                    <span className="text-success">No issues found with this address.</span>
                  ) : null}
                </p>
                {same.length > 0 && (
                  <fieldset className="mb-3">
                    <legend className="mb-1 text-faint">The same person has the old address on other lists. Correct it there, too:</legend>
                    {same.map((o) => (
                      <label key={o.person.recipientId} className="flex min-h-7 items-center gap-2">
                        <input
                          type="checkbox"
                          className="checkbox checkbox-sm"
                          checked={!apart.has(o.person.recipientId)}
                          onChange={() => {
                            const next = new Set(apart);
                            if (!next.delete(o.person.recipientId)) next.add(o.person.recipientId);
                            setApart(next);
                          }}
                        />
                        {o.person.listName}
                        <span className="text-faint">
                          {o.person.name}
                          {o.open.length > 0 && `; affects ${o.open.map((d) => `${d.campaign} · ${d.name}`).join(", ")}`}
                        </span>
                      </label>
                    ))}
                  </fieldset>
                )}
              </>
            )}
            <div className="flex flex-wrap gap-2" role="group" aria-label="What happens next">
              <button className="btn btn-primary btn-sm" disabled={busy || (writes && Object.keys(cells).length === 0)}>
                {followNames[what]} <kbd className="kbd kbd-sm text-base-content">Enter</kbd>
              </button>
              {(Object.keys(followNames) as FollowUp[])
                .filter((f) => f !== what)
                .map((f) => (
                  <button key={f} type="button" className="btn btn-quiet btn-sm" disabled={busy} onClick={() => setFollow(f)}>
                    {followNames[f]}
                  </button>
                ))}
            </div>
            <p className="mt-2 text-[12px] text-faint">{explained[what]}</p>
          </form>
        )}
      </div>
      <p className="sr" role="status">
        {count(others.length)} found: {piece.name}
      </p>
    </div>
  );
}

/** What a choice does, before it is done. */
const explained: Record<FollowUp, string> = {
  record: "The return is recorded in the ledger. Nothing else changes.",
  hold: "Nothing more is mailed to this name at this address, in any drop, until the address changes.",
  suppress: "This person gets no more mail, on paper or by email, until the entry is removed from the suppression list.",
  correct: "The list has the new address; open drops use it.",
  remail: "The list gets the new address, and the piece is mailed again in a separate drop.",
};
