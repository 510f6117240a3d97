import { useState } from "react";
import type { Schema } from "../api/client";
import { many, moment } from "../ui/words";
import type { Drop } from "./DropPage";
import { needSignOff, signOff, withdraw } from "./proof";

/** Signing off on exactly this: who did, what lapsed it, what keeps it from being signed. */
export function SignOffPanel({ drop, set }: { drop: Drop; set: Schema["ProofSetView"] }) {
  const [note, setNote] = useState("");
  const s = set.signOff;
  const wrong = set.members.filter((m) => m.verdict === "wrong").length;
  const open = set.members.filter((m) => m.verdict === null).length;
  const blocked = [
    wrong ? `${many(wrong, "piece")} ${wrong === 1 ? "is" : "are"} marked wrong` : "",
    open ? `${open} ${open === 1 ? "is" : "are"} not reviewed` : "",
  ]
    .filter(Boolean)
    .join(" and ");
  return (
    <section aria-label="Sign off">
      <h2 className="mb-1">Sign off</h2>
      {s.state === "valid" ? (
        <>
          <p className="text-success" role="status">
            Signed off by {s.by}, {moment(s.at)}
            {s.note ? `: ${s.note}` : ""}
          </p>
          <p className="mt-1 text-[12px] leading-4 text-faint">
            Covers {set.subject}, this list, and this filter. It lapses if any of them changes.
          </p>
          <button className="btn btn-quiet btn-xs mt-2" onClick={() => void withdraw(drop.id)}>
            Withdraw sign-off
          </button>
        </>
      ) : (
        <>
          {s.state === "lapsed" && (
            <div className="mb-2 border-l-[3px] border-error bg-error/10 px-2 py-1.5 text-[12.5px]" role="alert">
              Sign-off by {s.by} ({moment(s.at)}) has lapsed:
              <ul className="list-disc pl-4">
                {s.changes.map((c) => (
                  <li key={c}>{c}</li>
                ))}
              </ul>
            </div>
          )}
          <p className="text-[12px] leading-4 text-faint">
            Covers {set.subject}, this list, and this filter. It lapses if any of them changes.
          </p>
          {blocked && <p className="mt-1.5 text-[12.5px] text-doubt-ink">{blocked}.</p>}
          {!blocked && set.population > 0 && (
            <input
              className="input input-sm mt-2 w-full"
              aria-label="Note"
              placeholder="Note (optional)"
              maxLength={300}
              value={note}
              onChange={(e) => setNote(e.target.value)}
            />
          )}
          <button
            className="btn btn-primary mt-2 w-full"
            disabled={blocked !== "" || set.population === 0 || drop.checking}
            onClick={() => void signOff(drop.id, note.trim() || null)}
          >
            {drop.checking ? "Checking the pieces…" : `Sign off ${many(set.population, "recipient")}`}
          </button>
        </>
      )}
      <label className="mt-2 flex cursor-pointer items-center gap-2 text-[12.5px]">
        <input
          type="checkbox"
          className="checkbox checkbox-sm"
          checked={s.needed}
          onChange={(e) => void needSignOff(drop.id, e.target.checked)}
        />
        Require sign-off before any run
      </label>
    </section>
  );
}
