import { useVirtualizer } from "@tanstack/react-virtual";
import { useRef, useState } from "react";
import { Link } from "react-router";
import { api, ask } from "../api/client";
import { Dialog } from "../ui/Dialog";
import { useDelayed } from "../ui/useDelayed";
import { usePagedRows } from "../ui/usePagedRows";
import { today } from "../ui/customs";
import { count, day } from "../ui/words";
import { change, comeBack, leave, leaveReasons, left, type Campaign, type LeaveReason, type Person } from "./campaigns";
import { keys } from "../api/keys";

const height = 40;

/** Where each recipient of a campaign is: what they got, what comes next, why they left. */
export function CampaignPeople({ campaign: c }: { campaign: Campaign }) {
  const [search, setSearch] = useState("");
  const [which, setWhich] = useState<"All" | "In" | "Left">("All");
  const [leaving, setLeaving] = useState<Person | null>(null);
  const box = useRef<HTMLDivElement>(null);
  const wanted = useDelayed(search, 250);
  const [range, setRange] = useState([0, 30] as [number, number]);
  const rows = usePagedRows<Person>(keys.drop("campaign", c.id, "people", wanted, which), range[0], range[1], (offset, limit) =>
    ask(
      api.GET("/api/campaigns/{id}/people", {
        params: { path: { id: c.id }, query: { search: wanted || undefined, which, offset, limit } },
      }),
    ),
  );
  const virtual = useVirtualizer({
    count: rows.total,
    getScrollElement: () => box.current,
    estimateSize: () => height,
    overscan: 12,
    onChange: (v) => {
      const items = v.getVirtualItems();
      const [first, last] = [items[0]?.index ?? 0, items.at(-1)?.index ?? 0];
      if (Math.floor(first / 100) !== Math.floor(range[0] / 100) || Math.floor(last / 100) !== Math.floor(range[1] / 100))
        setRange([first, last]);
    },
  });
  const gone = left(c);
  const grid = "grid grid-cols-[minmax(150px,1.2fr)_minmax(150px,1.3fr)_minmax(170px,1.6fr)_auto] items-center gap-3 px-4";
  return (
    <section className="flex min-w-0 flex-1 flex-col" aria-label="Recipients of the campaign">
      <div className="flex shrink-0 items-center gap-2.5 px-4 py-2.5">
        <h2>Progress of {count(c.people)} recipients</h2>
        <input
          className="input input-sm ml-1 w-48"
          aria-label="Search recipients"
          placeholder="Name or number"
          value={search}
          onChange={(e) => setSearch(e.target.value)}
        />
        {(
          [
            ["All", "all"],
            ["In", `still in ${count(c.people - gone)}`],
            ["Left", `left ${count(gone)}`],
          ] as const
        ).map(([value, label]) => (
          <button
            key={value}
            className={`btn btn-xs ${which === value ? "btn-primary" : "btn-quiet"}`}
            aria-pressed={which === value}
            onClick={() => setWhich(value)}
          >
            {label}
          </button>
        ))}
      </div>
      <div className={`${grid} shrink-0 border-b border-line pb-1 text-[12px] text-faint`}>
        <span>Recipient</span>
        <span>So far</span>
        <span>Next</span>
        <span className="w-16" />
      </div>
      <div ref={box} className="min-h-0 flex-1 overflow-auto" tabIndex={0} role="region" aria-label="Recipients">
        {rows.total === 0 && !rows.loading && (
          <p className="px-4 py-4 text-faint">
            {search || which !== "All"
              ? "No recipient matches."
              : c.mode === "OneByOne"
                ? "No one has entered yet. Recipients enter by the campaign’s rule, or from their page."
                : "The list is empty."}
          </p>
        )}
        <div style={{ height: virtual.getTotalSize(), position: "relative" }}>
          {virtual.getVirtualItems().map((item) => {
            const p = rows.row(item.index);
            return (
              <div
                key={item.key}
                className={`${grid} absolute inset-x-0 border-b border-line`}
                style={{ top: item.start, height }}
                data-testid="campaign-person"
              >
                {p && <Row campaign={c} person={p} onLeave={() => setLeaving(p)} />}
              </div>
            );
          })}
        </div>
      </div>
      {leaving && <LeaveDialog campaign={c} person={leaving} onClose={() => setLeaving(null)} />}
    </section>
  );
}

function Row({ campaign, person: p, onLeave }: { campaign: Campaign; person: Person; onLeave: () => void }) {
  const sofar = p.soFar.map((s) => s.words.replace(/^mailed /, "")).join(", ");
  const back = () => void change(comeBack(campaign.id, [p.recipientId]), `${p.name} is in the campaign again.`);
  return (
    <>
      <Link className="truncate font-semibold hover:underline" to={`/lists/${campaign.listId}/recipients/${p.recipientId}`}>
        {p.name}
      </Link>
      <span className="truncate" title={p.soFar.map((s) => `${s.step}: ${s.words}`).join("\n")}>
        {sofar ? `mailed ${sofar}` : p.enteredOn ? `entered ${day(p.enteredOn, false)}` : ""}
      </span>
      {p.leftOn ? (
        <span className="truncate text-success" title={`${p.leftFor}`}>
          left {day(p.leftOn, false)}: {p.leftFor}
        </span>
      ) : (
        <span className={`truncate ${/needs review|held/.test(p.next) ? "text-doubt-ink" : ""}`} title={p.next}>
          {p.next}
        </span>
      )}
      {p.leftOn ? (
        <button className="btn btn-xs btn-quiet w-16" onClick={back} aria-label={`Undo: ${p.name} left`}>
          Undo
        </button>
      ) : (
        <button className="btn btn-xs btn-quiet w-16" onClick={onLeave} aria-label={`Leave…: ${p.name}`}>
          Leave…
        </button>
      )}
    </>
  );
}

/** Lets a recipient leave, with the reason and the day. */
export function LeaveDialog({
  campaign,
  person,
  onClose,
}: {
  campaign: { id: number; name: string };
  person: { recipientId: number; name: string };
  onClose: () => void;
}) {
  const [reason, setReason] = useState<LeaveReason>("ByHand");
  const [note, setNote] = useState("");
  const [on, setOn] = useState(today());
  const go = async () => {
    const done = await change(
      leave(campaign.id, [person.recipientId], reason, note.trim() || null, on || null),
      `${person.name} left ${campaign.name}.`,
      () => comeBack(campaign.id, [person.recipientId]),
    );
    if (done) onClose();
  };
  return (
    <Dialog title={`${person.name} leaves ${campaign.name}`} onClose={onClose}>
      <form
        className="flex flex-col gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          void go();
        }}
      >
        <p className="text-faint">
          They get no further steps. A piece that is waiting is held. If it was already produced, Today lists it to pull from the trays.
        </p>
        <label>
          <span className="mb-1 block font-semibold">Reason</span>
          <select className="select w-full" autoFocus value={reason} onChange={(e) => setReason(e.target.value as LeaveReason)}>
            {leaveReasons.map((r) => (
              <option key={r.reason} value={r.reason}>
                {r.label}
              </option>
            ))}
          </select>
        </label>
        <label>
          <span className="mb-1 block font-semibold">Note</span>
          <input
            className="input w-full"
            maxLength={500}
            value={note}
            placeholder="renewed at the gate"
            onChange={(e) => setNote(e.target.value)}
          />
        </label>
        <label>
          <span className="mb-1 block font-semibold">On</span>
          <input type="date" className="input w-full" value={on} max={today()} onChange={(e) => setOn(e.target.value)} />
        </label>
        <div className="flex gap-2">
          <button className="btn btn-primary">Leave the campaign</button>
          <button type="button" className="btn btn-quiet" onClick={onClose}>
            Cancel
          </button>
        </div>
      </form>
    </Dialog>
  );
}
