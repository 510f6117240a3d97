import { useQuery } from "@tanstack/react-query";
import { Inbox, Plus, X } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";
import { api, ask, queryClient } from "../api/client";
import { postOfficeQuery } from "../mail/queries";
import { sayWrong } from "../ui/notices";
import { keys } from "../api/keys";

export const behaviors: Record<string, string> = {
  refuse: "Reject the address permanently",
  later: "Defer (“try again later”)",
  slow: "Respond slowly",
  drop: "Drop the connection before accepting the message",
  "drop after": "Accept the message, then drop the connection before replying",
  report: "Accept the message, then send a delivery report",
};

/** The practice post office as one finds it: its inbox, and what it is told to do to whom. */
export function PostOfficePanel() {
  const office = useQuery(postOfficeQuery()).data;
  const inbox = useQuery({
    queryKey: keys.postOffice("count"),
    queryFn: () => ask(api.GET("/api/post-office/messages", { params: { query: { limit: 1 } } })),
  }).data;
  const [kind, setKind] = useState("refuse");
  const [address, setAddress] = useState("");
  const [times, setTimes] = useState("");
  const [words, setWords] = useState("");
  const did = async (request: Promise<unknown>) => {
    try {
      await request;
      await queryClient.invalidateQueries({ queryKey: keys.postOffice() });
      return true;
    } catch (e) {
      sayWrong(e);
      return false;
    }
  };
  return (
    <div className="border-b border-line p-6">
      <div className="mb-4 flex items-center gap-4">
        <Link className="btn btn-primary" to="/devices/post-office">
          <Inbox size={15} /> Open inbox{inbox ? `, ${inbox.total.toLocaleString("en-US")}` : ""}
        </Link>
        <p className="text-faint">
          A mail server on this computer{office && office.port > 0 ? `, at 127.0.0.1 port ${office.port}` : ""}. It stores every message so
          you can read it here. Nothing is sent out.
        </p>
      </div>
      <h2 className="mb-1">Behavior</h2>
      {office?.behaviors.length === 0 && (
        <p className="mb-2 text-faint">
          It accepts every message. Add a behavior to simulate mail server problems and see how a run handles them.
        </p>
      )}
      <ul className="mb-2" aria-label="Active behaviors">
        {office?.behaviors.map((b) => (
          <li key={b.id} className="flex items-center gap-2 border-b border-line py-1">
            <span className="flex-1">
              {behaviors[b.kind]}: <strong>{b.address === "*" ? "all addresses" : b.address}</strong>
              {b.times !== null ? `, ${b.times === 1 ? "once" : `${b.times} times`} more` : ""}
              {b.words ? `, with the reply “${b.words}”` : ""}
            </span>
            <button
              className="btn btn-ghost btn-xs btn-square"
              aria-label={`Remove behavior: ${behaviors[b.kind]}, ${b.address}`}
              onClick={() => void did(ask(api.DELETE("/api/post-office/behaviors/{id}", { params: { path: { id: b.id } } })))}
            >
              <X size={14} />
            </button>
          </li>
        ))}
      </ul>
      <form
        className="flex flex-wrap items-center gap-2"
        aria-label="Add a behavior"
        onSubmit={(e) => {
          e.preventDefault();
          void did(
            ask(
              api.POST("/api/post-office/behaviors", {
                body: { kind, address, times: times ? Number(times) : null, words: words || null },
              }),
            ),
          ).then((ok) => ok && (setAddress(""), setWords("")));
        }}
      >
        <select className="select select-sm w-72" aria-label="Behavior" value={kind} onChange={(e) => setKind(e.target.value)}>
          {Object.entries(behaviors).map(([value, name]) => (
            <option key={value} value={value}>
              {name}
            </option>
          ))}
        </select>
        <input
          className="input input-sm w-48"
          aria-label="Address"
          required
          placeholder="Address, @domain, or * for all"
          value={address}
          onChange={(e) => setAddress(e.target.value)}
        />
        <input
          type="number"
          className="input input-sm w-24"
          aria-label="Number of times"
          min={1}
          placeholder="No limit"
          value={times}
          onChange={(e) => setTimes(e.target.value)}
        />
        {kind !== "slow" && !kind.startsWith("drop") && (
          <input
            className="input input-sm w-52"
            aria-label="Reply text"
            maxLength={300}
            placeholder="Standard reply"
            value={words}
            onChange={(e) => setWords(e.target.value)}
          />
        )}
        <button className="btn btn-quiet btn-sm">
          <Plus size={14} /> Add behavior
        </button>
      </form>
    </div>
  );
}
