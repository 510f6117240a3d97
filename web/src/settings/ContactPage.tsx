import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { api, ask, queryClient, type Schema } from "../api/client";
import { Header } from "../ui/Header";
import { say, sayWrong } from "../ui/notices";
import { keys } from "../api/keys";

type Limit = Schema["ContactLimit"];

export const limitsQuery = () => ({
  queryKey: keys.settings("contact-limits"),
  queryFn: () => ask(api.GET("/api/settings/contact-limits")),
});

/** The most mail a recipient gets. */
export function ContactPage() {
  const limits = useQuery(limitsQuery()).data;
  return (
    <>
      <Header kind={<Link to="/settings">Settings</Link>} title="Contact limit" state="the most mail a recipient gets" />
      {limits && <LimitsForm first={limits} />}
    </>
  );
}

function LimitsForm({ first }: { first: Limit[] }) {
  const [limits, setLimits] = useState(first);
  const set = (at: number, change: Partial<Limit>) => setLimits(limits.map((l, i) => (i === at ? { ...l, ...change } : l)));
  const save = async () => {
    try {
      await ask(api.PUT("/api/settings/contact-limits", { body: { limits } }));
      say("Contact limits saved. Drops that are not produced yet are being checked again.");
      await queryClient.invalidateQueries();
    } catch (e) {
      sayWrong(e);
    }
  };
  return (
    <form
      className="flex min-h-0 max-w-3xl flex-1 flex-col gap-4 overflow-auto p-6"
      onSubmit={(e) => {
        e.preventDefault();
        void save();
      }}
    >
      <p>
        Pieces are counted across all lists and campaigns. Recipients over the limit are held, and the reason names the other mail. To
        override it, release them. When only one of two drops can be mailed, the priority decides, then the earlier mail date.
      </p>
      {limits.length === 0 && <p className="text-faint">No limit is set. All recipients get every piece they are on the list for.</p>}
      <ul className="flex flex-col gap-2" aria-label="Contact limits">
        {limits.map((l, i) => (
          <li key={i} className="flex flex-wrap items-center gap-2">
            <span>At most</span>
            <input
              type="number"
              className="input input-sm w-20"
              aria-label="How many"
              value={l.pieces}
              min={1}
              max={1000}
              required
              onChange={(e) => set(i, { pieces: e.target.valueAsNumber })}
            />
            <select
              className="select select-sm w-44"
              aria-label="Of what"
              value={l.channel}
              onChange={(e) => set(i, { channel: e.target.value as Limit["channel"] })}
            >
              <option value="Paper">pieces on paper</option>
              <option value="Email">emails</option>
              <option value="Both">pieces and emails</option>
            </select>
            <span>in</span>
            <input
              type="number"
              className="input input-sm w-20"
              aria-label="In how many days"
              value={l.days}
              min={1}
              max={366}
              required
              onChange={(e) => set(i, { days: e.target.valueAsNumber })}
            />
            <span>days for a</span>
            <select
              className="select select-sm w-36"
              aria-label="For whom"
              value={l.per}
              onChange={(e) => set(i, { per: e.target.value as Limit["per"] })}
            >
              <option value="Person">person</option>
              <option value="Household">household</option>
            </select>
            <button type="button" className="btn btn-sm btn-quiet" onClick={() => setLimits(limits.filter((_, n) => n !== i))}>
              Remove
            </button>
          </li>
        ))}
      </ul>
      <div className="flex gap-2">
        <button className="btn btn-primary">Save the limits</button>
        <button
          type="button"
          className="btn btn-quiet"
          disabled={limits.length >= 6}
          onClick={() => setLimits([...limits, { channel: "Paper", pieces: 2, days: 30, per: "Person" }])}
        >
          Add a limit
        </button>
      </div>
    </form>
  );
}
