import { useQuery } from "@tanstack/react-query";
import { Inbox, Plus, X } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";
import { api, ask, queryClient } from "../api/client";
import { postOfficeQuery } from "../mail/queries";
import { sayWrong } from "../ui/notices";

export const behaviours: Record<string, string> = {
  refuse: "refuse the address, for good",
  later: "answer “later”",
  slow: "be slow",
  drop: "drop the connection before it keeps the message",
  "drop after": "keep the message, and drop the connection before answering",
  report: "take the message, and send a delivery report back",
};

/** The practice post office as one finds it: its inbox, and what it is told to do to whom. */
export function PostOfficePanel() {
  const office = useQuery(postOfficeQuery()).data;
  const inbox = useQuery({
    queryKey: ["post-office", "count"],
    queryFn: () => ask(api.GET("/api/post-office/messages", { params: { query: { limit: 1 } } })),
  }).data;
  const [kind, setKind] = useState("refuse");
  const [address, setAddress] = useState("");
  const [times, setTimes] = useState("");
  const [words, setWords] = useState("");
  const did = async (request: Promise<unknown>) => {
    try {
      await request;
      await queryClient.invalidateQueries({ queryKey: ["post-office"] });
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
          <Inbox size={15} /> Read its inbox{inbox ? `, ${inbox.total.toLocaleString("en-US")}` : ""}
        </Link>
        <p className="text-faint">
          A mail server in this very machine{office && office.port > 0 ? `, at 127.0.0.1 port ${office.port}` : ""}. What it gets it keeps,
          to be read here; nothing leaves the building.
        </p>
      </div>
      <h2 className="mb-1">It is told to</h2>
      {office?.behaviours.length === 0 && (
        <p className="mb-2 text-faint">
          Nothing yet: it takes everything. Tell it to behave as real servers do on a bad day, and see what becomes of a run.
        </p>
      )}
      <ul className="mb-2" aria-label="What it is told to do">
        {office?.behaviours.map((b) => (
          <li key={b.id} className="flex items-center gap-2 border-b border-line py-1">
            <span className="flex-1">
              {behaviours[b.kind]}: <strong>{b.address === "*" ? "everybody" : b.address}</strong>
              {b.times !== null ? `, ${b.times === 1 ? "once" : `${b.times} times`} more` : ""}
              {b.words ? `, saying “${b.words}”` : ""}
            </span>
            <button
              className="btn btn-ghost btn-xs btn-square"
              aria-label={`No more: ${behaviours[b.kind]}, ${b.address}`}
              onClick={() => void did(ask(api.DELETE("/api/post-office/behaviours/{id}", { params: { path: { id: b.id } } })))}
            >
              <X size={14} />
            </button>
          </li>
        ))}
      </ul>
      <form
        className="flex flex-wrap items-center gap-2"
        aria-label="Tell it something"
        onSubmit={(e) => {
          e.preventDefault();
          void did(
            ask(
              api.POST("/api/post-office/behaviours", {
                body: { kind, address, times: times ? Number(times) : null, words: words || null },
              }),
            ),
          ).then((ok) => ok && (setAddress(""), setWords("")));
        }}
      >
        <select className="select select-sm w-72" aria-label="What it is to do" value={kind} onChange={(e) => setKind(e.target.value)}>
          {Object.entries(behaviours).map(([value, name]) => (
            <option key={value} value={value}>
              {name}
            </option>
          ))}
        </select>
        <input
          className="input input-sm w-48"
          aria-label="For which address"
          required
          placeholder="address, @domain or *"
          value={address}
          onChange={(e) => setAddress(e.target.value)}
        />
        <input
          type="number"
          className="input input-sm w-24"
          aria-label="How often"
          min={1}
          placeholder="for ever"
          value={times}
          onChange={(e) => setTimes(e.target.value)}
        />
        {kind !== "slow" && !kind.startsWith("drop") && (
          <input
            className="input input-sm w-52"
            aria-label="Its words"
            maxLength={300}
            placeholder="in the usual words"
            value={words}
            onChange={(e) => setWords(e.target.value)}
          />
        )}
        <button className="btn btn-quiet btn-sm">
          <Plus size={14} /> Tell it
        </button>
      </form>
    </div>
  );
}
