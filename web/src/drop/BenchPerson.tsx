import { Check, FilePenLine, Hand, PencilLine, Undo2 } from "lucide-react";
import { useEffect, useRef, useState } from "react";
import { Link } from "react-router";
import type { Schema } from "../api/client";
import { ValueField } from "../ui/ValueField";
import { day, many, moment, pieceNumber, trayNames } from "../ui/words";
import { DoubtAnswers } from "./DoubtAnswers";
import { accept, correct, goBy, reopen, settleBatch, settleMail, undo } from "./acts";
import type { Drop } from "./DropPage";
import { eventSentence } from "./events";
import { Beside } from "../ui/Beside";

type Person = Schema["BenchPerson"];
type Value = Schema["UsedValue"];

interface Props {
  drop: Drop;
  person: Person | undefined;
  /** The recipient at the cursor, who may still be on the way. */
  awaited: number | undefined;
  /** Counts up each time the key for fixing is pressed. */
  fixing: number;
  selectedCount: number;
  onHold: () => void;
  onRelease: () => void;
  /** Without a reason, somebody is asked for one. */
  onTakeBack: (reason?: string) => void;
  /** Changes the letter or form for this recipient only; null where the package has neither. */
  onEdit: (() => void) | null;
}

/** What is wrong about this recipient and its fix, the values the letter prints, mail so far. */
export function BenchPerson({ drop, person, awaited, fixing, selectedCount, onHold, onRelease, onTakeBack, onEdit }: Props) {
  const [editing, setEditing] = useState<number | null>(null);
  const [others, setOthers] = useState(false);
  const id = person?.id;
  useEffect(() => setEditing(null), [id]);
  /** Opens the value with an issue, or else the first one. */
  const fix = () => {
    if (!person) return;
    const values = [...person.inThisLetter, ...person.others];
    const open = person.issues.find((f) => !f.accepted);
    setEditing((values.find((v) => v.name === open?.subject) ?? values[0])?.columnId ?? null);
  };
  const done = useRef(0);
  useEffect(() => {
    // A press of the key means the one at the cursor: where that person is still on the way, it waits for them.
    if (fixing <= done.current || id === undefined || id !== awaited) return;
    done.current = fixing;
    fix();
    // Only a new press of the key counts, not a new person.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [fixing, id, awaited]);
  if (!person)
    return (
      <Beside label="This recipient" className="w-[266px] shrink-0 border-l border-line">
        {null}
      </Beside>
    );
  const group = (alike: string) => drop.issues.find((g) => g.alike === alike);
  const columnOf = (f: Schema["PieceIssueRow"]) => [...person.inThisLetter, ...person.others].find((v) => v.name === f.subject);
  const save = (v: Value) => (text: string) =>
    void correct(drop.id, person.id, v.columnId, text, v.value).then((ok) => ok && setEditing(null));
  const value = (v: Value) => (
    <div key={v.columnId} className="grid grid-cols-[96px_1fr] items-start gap-2 py-[3px]">
      <span className="truncate text-faint" title={v.name}>
        {v.name}
      </span>
      {editing === v.columnId ? (
        <ValueField label={v.name} value={v.value ?? ""} onSave={save(v)} onCancel={() => setEditing(null)} />
      ) : (
        <button
          className="min-w-0 cursor-text truncate rounded px-1 text-left hover:bg-base-200"
          title={`Correct ${v.name}`}
          onClick={() => setEditing(v.columnId)}
        >
          {v.value ? v.type === "Date" ? day(v.value) : v.value : <span className="text-faint italic">blank</span>}
        </button>
      )}
      {v.listIssue && editing !== v.columnId && (
        <span className="col-span-2 bg-doubt px-1 text-[12px] text-doubt-ink" title="Found by the list’s checks">
          {v.listIssue}
        </span>
      )}
    </div>
  );
  return (
    <Beside label="This recipient" className="flex w-[266px] shrink-0 flex-col border-l border-line" opens={fixing}>
      <div className="min-h-0 flex-1 overflow-auto px-3 py-2.5" role="region" tabIndex={0} aria-label="Issues, values and history">
        <div className="flex items-baseline gap-2">
          <h2 className="min-w-0 flex-1 text-[15px]">
            <Link to={`/lists/${drop.listId}/recipients/${person.id}`} className="hover:underline" title="Open recipient page">
              {person.name}
            </Link>
          </h2>
          <span className="text-faint">{pieceNumber(person.piece)}</span>
        </div>
        <p className="mb-2 text-[12px] text-faint">
          {trayNames[person.tray]}
          {person.holdReason && `: ${person.holdReason}`}
          {person.returnReason && `: ${person.returnReason}`}
          {person.mailedOn && !person.returnReason && ` on ${day(person.mailedOn)}`}
        </p>
        {drop.channels.ways === "Both" && (
          <p className="mb-2 flex items-center gap-2 text-[12px]">
            <label className="text-faint" htmlFor="goes-by">
              Channel
            </label>
            <select
              id="goes-by"
              className="select select-xs w-36"
              value={person.channelByHand ? person.channel : ""}
              onChange={(e) => void goBy(drop.id, [person.id], (e.target.value || null) as "Paper" | "Email" | "Both" | null)}
            >
              <option value="">{{ Paper: "Paper", Email: "Email", Both: "Paper and email" }[person.channel]} (by rule)</option>
              <option value="Paper">Paper</option>
              <option value="Email">Email</option>
              <option value="Both">Paper and email</option>
            </select>
            {person.channelByHand && <span className="text-faint">Set by hand</span>}
          </p>
        )}
        {person.pieces.some((p) => p.alone) && (
          <div className="mb-2 border-l-[3px] border-primary bg-base-200 px-2.5 py-2">
            <strong className="block">Changed for this recipient only</strong>
            <span>
              {person.pieces
                .filter((p) => p.alone)
                .map((p) => p.name)
                .join(", ")}
              .
            </span>
            {onEdit && (
              <button className="btn btn-quiet btn-xs mt-1.5" onClick={onEdit}>
                View change
              </button>
            )}
          </div>
        )}
        {person.changedSince.length > 0 && (
          <div className="mb-2 border-l-[3px] border-accent bg-base-200 px-2.5 py-2">
            <strong className="block">Data changed after this was produced</strong>
            <dl aria-label="Data changed after this was produced">
              {person.changedSince.map((c) => (
                <div key={c.name}>
                  <dt className="text-[12px] text-faint">{c.name}</dt>
                  <dd className="break-words">
                    <span className="line-through decoration-faint">{c.then ?? "blank"}</span> → <strong>{c.now ?? "blank"}</strong>
                  </dd>
                </div>
              ))}
            </dl>
            <span className="mt-1 block text-[12px] text-faint">
              {person.shownAsOfRun !== null ? `The pages show what run ${person.shownAsOfRun} produced. ` : ""}A reprint can use the
              corrections.
            </span>
            <button className="btn btn-quiet btn-xs mt-1.5" onClick={() => onTakeBack("corrected since")}>
              Move back to Ready
            </button>
          </div>
        )}
        {person.inDoubt.map((d) => (
          <InDoubt key={`${person.id} ${d.runId} ${d.email}`} doubt={d} recipientId={person.id} dropId={drop.id} />
        ))}
        {person.ruleNote && (
          <div className="mb-2 border-l-[3px] border-warning bg-doubt px-2.5 py-2 text-doubt-ink" role="note">
            <strong className="block">This piece is produced, but would now be held</strong>
            <span>{person.ruleNote.replace(/[.]?$/, ".")} Nothing changes automatically: pull the piece with H, or leave it.</span>
          </div>
        )}
        {person.pieces.some((p) => p.omitted) && (
          <div className="mb-2 border-l-[3px] border-base-300 bg-base-200 px-2.5 py-2">
            {person.pieces
              .filter((p) => p.omitted)
              .map((p) => p.name)
              .join(", ")}{" "}
            prints nothing for this recipient and is excluded from the package.
          </div>
        )}
        {person.issues.map((f) => {
          const column = columnOf(f);
          const alike = group(f.alike);
          return f.accepted ? (
            <div key={f.key} className="mb-2 flex items-start gap-2 border-l-[3px] border-base-300 bg-base-200 px-2.5 py-1.5 text-[12px]">
              <span className="flex-1 text-faint">Accepted: {f.message}</span>
              <button className="cursor-pointer underline" onClick={() => void reopen(drop.id, person.id, f.key)}>
                Reopen
              </button>
            </div>
          ) : (
            <div key={f.key} className="mb-2 border-l-[3px] border-warning bg-doubt px-2.5 py-2" role="note">
              <strong className="block">{f.title}</strong>
              <span className="block">{f.message}</span>
              <div className="mt-1.5 flex flex-wrap gap-1.5">
                {f.kind === "OneOff" && onEdit && (
                  <button className="btn btn-primary btn-xs" onClick={onEdit}>
                    Resolve
                  </button>
                )}
                {column && editing !== column.columnId && (
                  <button className="btn btn-primary btn-xs" onClick={() => setEditing(column.columnId)}>
                    Fix value
                  </button>
                )}
                {/* A mistake of the design is mended in the design; nobody can call it right for one recipient. */}
                {f.kind !== "Design" && (
                  <button className="btn btn-xs bg-base-100" onClick={() => void accept(drop.id, f.alike, person.id)}>
                    Accept as is
                  </button>
                )}
                {f.kind !== "Design" && alike && alike.open > 1 && (
                  <button className="btn btn-xs bg-base-100" onClick={() => void accept(drop.id, f.alike, null)}>
                    Accept all {alike.open} like this
                  </button>
                )}
              </div>
            </div>
          );
        })}
        <h3 className="mt-1 mb-0.5 text-[12px] text-faint">In this package</h3>
        {person.inThisLetter.length === 0 && <p className="text-faint">This package uses no values from the list.</p>}
        {person.inThisLetter.map(value)}
        {person.others.length > 0 && (
          <>
            <button
              className="mt-1 cursor-pointer text-[12px] text-faint underline"
              onClick={() => setOthers(!others)}
              aria-expanded={others}
            >
              {others ? "Hide other columns" : many(person.others.length, "other column")}
            </button>
            {others && person.others.map(value)}
          </>
        )}
        <h3 className="mt-3 mb-0.5 text-[12px] text-faint">Mail history</h3>
        {person.mail.map((m) => (
          <div key={m.dropId} className="grid grid-cols-[78px_1fr_auto] gap-2 py-[2px]">
            <span className="text-faint">{m.mailedOn ? day(m.mailedOn, false) : m.producedAt ? day(m.producedAt, false) : ""}</span>
            <span className="truncate" title={`${m.campaignName} · ${m.dropName}`}>
              {m.dropName}
            </span>
            <span className={m.tray === "Returned" ? "text-error" : "text-faint"}>
              {m.tray === "NeedsReview" ? "needs review" : m.tray.toLowerCase()}
            </span>
          </div>
        ))}
        <details className="mt-3">
          <summary className="cursor-pointer text-[12px] text-faint">Full history</summary>
          <ul className="mt-1 flex flex-col gap-1.5 text-[12px]">
            {person.events.map((e) => (
              <li key={e.id}>
                {eventSentence(e)}
                <span className="block text-faint">
                  {moment(e.at)} · {e.by} · {e.dropName}
                </span>
              </li>
            ))}
          </ul>
        </details>
      </div>
      <div className="on-sand grid shrink-0 grid-cols-2 gap-1.5 border-t border-line p-3">
        {person.holdReason && selectedCount < 2 ? (
          <BenchButton icon={Check} label="Release" hint="R" onClick={onRelease} />
        ) : (
          <BenchButton icon={Hand} label={selectedCount > 1 ? `Hold ${selectedCount}` : "Hold"} hint="H" onClick={onHold} />
        )}
        <BenchButton icon={PencilLine} label="Fix value" hint="F" onClick={fix} />
        <BenchButton
          icon={FilePenLine}
          label="This piece"
          hint="E"
          onClick={() => onEdit?.()}
          off={!onEdit || person.tray === "Produced" || person.tray === "Mailed" || person.tray === "Returned"}
          title="Change the letter or form for this recipient only"
        />
        {selectedCount > 1 ? (
          <BenchButton icon={Check} label={`Release ${selectedCount}`} hint="R" onClick={onRelease} />
        ) : (
          <BenchButton
            icon={Undo2}
            label="To Ready"
            hint="T"
            onClick={() => onTakeBack()}
            off={person.tray !== "Produced"}
            title="Move the produced piece back to Ready so it can be produced again"
          />
        )}
        <BenchButton
          icon={Undo2}
          label="Undo"
          hint="U"
          onClick={() => void undo(drop.id)}
          off={!drop.undo}
          title={drop.undo ?? "Nothing to undo"}
        />
      </div>
    </Beside>
  );
}

/** A piece nobody knows the fate of: which run it was in, and the two answers. */
function InDoubt({ doubt: d, recipientId, dropId }: { doubt: Schema["DoubtView"]; recipientId: number; dropId: number }) {
  return (
    <div className="mb-2 border-l-[3px] border-warning bg-doubt px-2.5 py-2 text-doubt-ink" role="group" aria-label="In doubt">
      <strong className="block">In doubt: may have been sent</strong>
      <span className="block">
        {d.email ? "The message" : "The piece"} of{" "}
        <Link className="underline" to={`/drops/${dropId}/produce/${d.runId}`}>
          run {d.runNumber}
        </Link>
        {d.words ? `: ${d.words}` : d.email ? " may have been sent." : " may have been printed."} No other run includes this recipient until
        you mark what happened.
      </span>
      <div className="mt-1.5 flex flex-wrap gap-1.5">
        <DoubtAnswers
          done={d.email ? "Mark as sent" : "Mark as printed"}
          size="btn-xs bg-base-100"
          settle={(out) => (d.email ? settleMail(d.runId, recipientId, out) : settleBatch(d.runId, d.batch ?? 0, out))}
        />
      </div>
      {!d.email && <span className="mt-1 block text-[12px]">Your answer applies to the whole batch.</span>}
    </div>
  );
}

function BenchButton({
  icon: Icon,
  label,
  hint,
  onClick,
  off,
  title,
}: {
  icon: typeof Hand;
  label: string;
  hint: string;
  onClick: () => void;
  off?: boolean;
  title?: string;
}) {
  return (
    <button className="btn btn-quiet btn-sm justify-start gap-1.5 px-2" onClick={onClick} disabled={off} title={title}>
      <Icon size={14} />
      <span className="flex-1 text-left whitespace-nowrap">{label}</span>
      <kbd className="kbd">{hint}</kbd>
    </button>
  );
}
