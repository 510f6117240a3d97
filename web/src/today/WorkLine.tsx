import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { Dialog } from "../ui/Dialog";
import { day, pieceNumber } from "../ui/words";
import { addDays } from "../campaigns/line";
import { assign, finish, postpone, pull, workActs, workColors, type Work } from "./work";

/** What is told of a piece of work below its title. */
function about(w: Work) {
  const where = w.drop && !w.drop.startsWith(w.campaign) ? `${w.campaign} · ${w.drop}` : w.drop;
  const when =
    w.kind === "Produce" || w.kind === "Review" || w.kind === "SignOff" || w.kind === "Planned"
      ? w.mailOn
        ? `${w.dueOn && w.dueOn !== w.mailOn ? `by ${day(w.dueOn, false)}, ` : ""}mail date ${day(w.mailOn, false)}`
        : "no mail date"
      : w.kind === "MarkMailed" && w.mailOn
        ? `mail date ${day(w.mailOn, false)}`
        : "";
  return [where, when, w.reason && w.postponedUntil ? `until ${day(w.postponedUntil, false)}: ${w.reason}` : ""]
    .filter(Boolean)
    .join(" · ");
}

/** A piece of work on Today: one act away, and whose it is. */
export function WorkLine({ work: w, people, me, today }: { work: Work; people: string[]; me: string; today: string }) {
  const navigate = useNavigate();
  const [later, setLater] = useState(false);
  const names = [...new Set([me, ...people].filter(Boolean))];
  return (
    <li className="flex items-center gap-3 border-b border-line py-2.5" data-testid="work" aria-label={w.title}>
      <span className={`h-2.5 w-2.5 shrink-0 rounded-full ${workColors[w.kind]}`} aria-hidden />
      <div className="min-w-0 flex-1">
        <Link to={w.path} className="block truncate font-semibold hover:underline">
          {w.title}
          {w.pieces.length > 0 && `: ${w.pieces.map(pieceNumber).join(", ")}`}
        </Link>
        <p className="text-[12px] text-faint">{about(w)}</p>
      </div>
      <select
        className="select select-ghost select-sm w-[118px] shrink-0 text-[12.5px] text-faint"
        aria-label={`Whose: ${w.title}`}
        value={w.assignedTo ?? ""}
        onChange={(e) => void assign(w, e.target.value || null)}
      >
        <option value="">anyone</option>
        {names.map((n) => (
          <option key={n} value={n}>
            {n === me ? "you" : n}
          </option>
        ))}
        {w.assignedTo && !names.includes(w.assignedTo) && <option value={w.assignedTo}>{w.assignedTo}</option>}
      </select>
      {w.postponedUntil ? (
        <button className="btn btn-sm btn-quiet shrink-0" onClick={() => void postpone(w, null, null)}>
          Resume now
        </button>
      ) : (
        <span className="flex w-[226px] shrink-0 justify-end gap-1.5">
          <button className="btn btn-sm btn-ghost text-faint" onClick={() => setLater(true)}>
            Later…
          </button>
          {w.kind !== "PullPieces" && w.kind !== "Planned" && (
            <button className="btn btn-sm btn-ghost text-faint" title="Hide this until there is more to do" onClick={() => void finish(w)}>
              Done
            </button>
          )}
          <button
            className={`btn btn-sm min-w-[108px] ${w.group === "Overdue" ? "btn-primary" : "btn-quiet"}`}
            onClick={() => (w.kind === "PullPieces" ? void pull(w) : void navigate(w.path))}
          >
            {workActs[w.kind]}
          </button>
        </span>
      )}
      {later && <LaterDialog work={w} today={today} onClose={() => setLater(false)} />}
    </li>
  );
}

function LaterDialog({ work, today, onClose }: { work: Work; today: string; onClose: () => void }) {
  const [until, setUntil] = useState(addDays(today, 1));
  const [reason, setReason] = useState("");
  return (
    <Dialog title={`Postpone: ${work.title}`} onClose={onClose}>
      <form
        className="flex flex-col gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          void postpone(work, until, reason).then((done) => done && onClose());
        }}
      >
        <label>
          <span className="mb-1 block font-semibold">Until</span>
          <input
            type="date"
            className="input w-full"
            min={addDays(today, 1)}
            value={until}
            required
            onChange={(e) => setUntil(e.target.value)}
          />
        </label>
        <label>
          <span className="mb-1 block font-semibold">Why</span>
          <input
            className="input w-full"
            autoFocus
            maxLength={500}
            required
            value={reason}
            placeholder="the envelopes are not here yet"
            onChange={(e) => setReason(e.target.value)}
          />
        </label>
        <div className="flex gap-2">
          <button className="btn btn-primary">Postpone</button>
          <button type="button" className="btn btn-quiet" onClick={onClose}>
            Cancel
          </button>
        </div>
      </form>
    </Dialog>
  );
}
