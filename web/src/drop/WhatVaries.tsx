import { useQuery } from "@tanstack/react-query";
import { Check, ChevronDown, ChevronRight } from "lucide-react";
import { useState } from "react";
import { api, ask, type Schema } from "../api/client";
import { useDelayed } from "../ui/useDelayed";
import { count, pieceNumber } from "../ui/words";
import type { Drop } from "./DropPage";
import { addOwn } from "./proof";
import { keys } from "../api/keys";

type Variation = Schema["VariationView"];

const kinds: [string, string][] = [
  ["Condition", "Conditions: met and not met"],
  ["Field", "Fields: blank and filled"],
  ["Extreme", "Longest and shortest"],
  ["Salutation", "Salutation forms"],
  ["Country", "Countries"],
  ["Pages", "Page counts"],
  ["Rows", "Detail rows"],
  ["Issue", "Kinds of issues"],
  ["Character", "Substitute characters"],
  ["Picture", "Pictures"],
  ["OneOff", "Changed for one recipient"],
];

/** All that can differ from piece to piece: how much of it occurs, in whom it is seen, and what nobody has. */
export function WhatVaries({ drop, set, onSee }: { drop: Drop; set: Schema["ProofSetView"]; onSee: (recipient: number) => void }) {
  const [open, setOpen] = useState<string | null>(null);
  const nobody = set.variations.filter((v) => v.recipients === 0);
  return (
    <>
      <h2 className="mb-1">Variations</h2>
      <table className="w-full text-[13px]">
        <tbody>
          {kinds.map(([kind, label]) => {
            const all = set.variations.filter((v) => v.kind === kind);
            if (all.length === 0) return null;
            const there = all.filter((v) => v.recipients > 0);
            return (
              <Kind
                key={kind}
                label={label}
                all={all}
                there={there.length}
                open={open === kind}
                onToggle={() => setOpen(open === kind ? null : kind)}
                onSee={onSee}
              />
            );
          })}
        </tbody>
      </table>
      {nobody.length > 0 && (
        <p className="mt-2 text-[12px] leading-4 text-faint">
          No recipient has:{" "}
          {nobody
            .slice(0, 6)
            .map((v) => v.text)
            .join("; ")}
          {nobody.length > 6 ? ` and ${nobody.length - 6} more. Open a line above to see them.` : ""}
        </p>
      )}
      <AlsoLookAt drop={drop} />
    </>
  );
}

function Kind({
  label,
  all,
  there,
  open,
  onToggle,
  onSee,
}: {
  label: string;
  all: Variation[];
  there: number;
  open: boolean;
  onToggle: () => void;
  onSee: (recipient: number) => void;
}) {
  return (
    <>
      <tr className="border-b border-line">
        <td className="py-1">
          <button className="flex cursor-pointer items-center gap-1 text-left hover:underline" aria-expanded={open} onClick={onToggle}>
            {open ? <ChevronDown size={13} /> : <ChevronRight size={13} />} {label}
          </button>
        </td>
        <td className="py-1 text-right font-semibold whitespace-nowrap">
          {there === all.length ? count(there) : `${count(there)} of ${count(all.length)}`}
        </td>
        <td className="w-6 py-1 text-right">
          {there > 0 && <Check size={14} className="ml-auto inline text-success" aria-label="All seen in the proof set" />}
        </td>
      </tr>
      {open &&
        all.map((v) => (
          <tr key={`${v.subject}|${v.case}`} className="text-[12px]">
            <td className="py-0.5 pl-4" colSpan={2}>
              {v.seenIn === null ? (
                <span className="text-faint">{v.text}: no recipients</span>
              ) : (
                <button
                  className="cursor-pointer text-left hover:underline"
                  onClick={() => onSee(v.seenIn ?? 0)}
                  title="Show the piece that has this"
                >
                  {v.text}
                </button>
              )}
            </td>
            <td className="py-0.5 text-right text-faint">{v.recipients > 0 ? count(v.recipients) : ""}</td>
          </tr>
        ))}
    </>
  );
}

function AlsoLookAt({ drop }: { drop: Drop }) {
  const [search, setSearch] = useState("");
  const delayed = useDelayed(search, 200);
  const found = useQuery({
    queryKey: keys.drop(drop.id, "find", delayed),
    queryFn: () => ask(api.GET("/api/drops/{id}/recipients", { params: { path: { id: drop.id }, query: { search: delayed, limit: 6 } } })),
    enabled: delayed.trim() !== "",
  }).data;
  return (
    <>
      <h2 className="mt-4 mb-1">Add recipient</h2>
      <input
        className="input input-sm w-full"
        aria-label="Add a recipient to the proof set"
        placeholder="Name or piece number"
        value={search}
        onChange={(e) => setSearch(e.target.value)}
      />
      {delayed.trim() !== "" && found && (
        <ul className="mt-1">
          {found.rows.length === 0 && <li className="text-[12px] text-faint">No recipients match your search.</li>}
          {found.rows.map((r) => (
            <li key={r.id}>
              <button
                className="w-full cursor-pointer truncate rounded px-1.5 py-0.5 text-left hover:bg-base-200"
                onClick={() => void addOwn(drop.id, r.id).then((ok) => ok && setSearch(""))}
              >
                <span className="text-faint">{pieceNumber(r.piece)}</span> {r.name}
              </button>
            </li>
          ))}
        </ul>
      )}
    </>
  );
}
