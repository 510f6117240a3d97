import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, type Schema } from "../../api/client";
import { count, many } from "../../ui/words";
import { useDuplicates } from "../useDuplicates";
import { act } from "./acts";
import { keys } from "../../api/keys";

type Duplicate = Schema["DuplicateView"];

const reasons: Record<Schema["DuplicateReason"], string> = {
  SameKey: "Same key",
  SameEmail: "Same email address",
  SameNameAndAddress: "Same name and address",
  Near: "Similar",
};

/** Possible duplicates, side by side, and households. */
export function DuplicatesPane({ list, onFind }: { list: Schema["ListView"]; onFind: (text: string) => void }) {
  const path = { id: list.id };
  const [part, setPart] = useState<"pairs" | "households">("pairs");
  // Whoever opens this wants to know how it is now.
  const counts = useDuplicates(list.id);
  const pairs = useQuery({
    queryKey: keys.lists(list.id, "duplicates", "pairs"),
    queryFn: () => ask(api.GET("/api/lists/{id}/duplicates/pairs", { params: { path } })),
    enabled: part === "pairs",
  }).data;
  const stale = counts?.stale;
  if (!counts) return null;
  const open = counts.sure + counts.toCompare;
  return (
    <div className="min-h-0 flex-1 overflow-auto px-3 py-2">
      <div className="mb-2 flex gap-1">
        <button
          className={`btn btn-xs ${part === "pairs" ? "btn-primary" : "btn-quiet"}`}
          aria-pressed={part === "pairs"}
          onClick={() => setPart("pairs")}
        >
          Pairs {count(open)}
        </button>
        <button
          className={`btn btn-xs ${part === "households" ? "btn-primary" : "btn-quiet"}`}
          aria-pressed={part === "households"}
          onClick={() => setPart("households")}
        >
          Households {count(counts.households)}
        </button>
        {stale && (
          <span className="ml-auto text-[12px] text-faint" role="status">
            Searching…
          </span>
        )}
      </div>
      {part === "pairs" ? (
        <>
          <p className="mb-2 text-faint">
            {open === 0 ? "No duplicates found." : `${many(counts.sure, "pair")} certain, ${count(counts.toCompare)} to compare.`}
          </p>
          {counts.sure > 0 && (
            <button
              className="btn btn-quiet btn-xs mb-2"
              title="Keeps the first of each pair, fills its blanks from the second, and removes the second from the list"
              onClick={() => void act(list.id, ask(api.POST("/api/lists/{id}/duplicates/keep-sure", { params: { path } })))}
            >
              {counts.sure === 1 ? "Merge the certain match" : `Merge all ${count(counts.sure)} certain matches`}
            </button>
          )}
          {pairs?.map((t) => (
            <Pair key={`${t.a.id}-${t.b.id}`} list={list} duplicate={t} onFind={onFind} />
          ))}
          {pairs && open > pairs.length && <p className="text-[12px] text-faint">More pairs appear as you resolve these.</p>}
        </>
      ) : (
        <Households list={list} counts={counts} />
      )}
    </div>
  );
}

function Pair({ list, duplicate, onFind }: { list: Schema["ListView"]; duplicate: Duplicate; onFind: (text: string) => void }) {
  const path = { id: list.id };
  const [join, setJoin] = useState(true);
  const [a, b] = [duplicate.a, duplicate.b];
  const told = list.columns
    .map((c, i) => ({ c, a: a.values[i] ?? null, b: b.values[i] ?? null }))
    .filter(
      (x) =>
        (x.a !== null || x.b !== null) &&
        (x.a !== x.b || ["GivenName", "FamilyName", "FullName", "Street", "PostalCode"].includes(x.c.role)),
    );
  const fills = told.some((x) => (x.a === null) !== (x.b === null));
  const keep = (one: number, other: number) =>
    void act(list.id, ask(api.POST("/api/lists/{id}/duplicates/keep", { params: { path }, body: { keep: one, other, join } })));
  const key = list.columns.findIndex((c) => c.role === "Key");
  return (
    <section className="mb-2 bg-base-100 p-2 text-[12px]" aria-label={`${a.number} and ${b.number}`}>
      <p className="mb-1 text-faint">
        {reasons[duplicate.reason]}
        {duplicate.reason === "Near" ? `, ${duplicate.likeness} %` : ""}
      </p>
      <table className="w-full table-fixed">
        <thead>
          <tr className="text-left">
            <th className="w-[62px]" />
            {[a, b].map((r) => (
              <th key={r.id} className="font-normal">
                <button
                  className="cursor-pointer text-faint underline"
                  title="Show in the table"
                  onClick={() => onFind((key >= 0 ? r.values[key] : null) ?? r.values.find((v) => v !== null) ?? "")}
                >
                  No. {r.number}
                </button>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {told.map((x) => (
            <tr key={x.c.id} className="border-t border-line align-top">
              <td className="truncate pr-1 text-[11px] text-faint" title={x.c.name}>
                {x.c.name}
              </td>
              <td className={`break-words pr-1 ${x.a !== x.b ? "bg-doubt" : ""}`}>{x.a ?? ""}</td>
              <td className={`break-words ${x.a !== x.b ? "bg-doubt" : ""}`}>{x.b ?? ""}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {fills && (
        <label className="mt-1 flex items-center gap-1.5">
          <input type="checkbox" className="checkbox checkbox-xs" checked={join} onChange={(e) => setJoin(e.target.checked)} /> Fill blanks
          from the other
        </label>
      )}
      <div className="mt-1.5 flex flex-wrap gap-1">
        <button className="btn btn-primary btn-xs" onClick={() => keep(a.id, b.id)}>
          Keep No. {a.number}
        </button>
        <button className="btn btn-quiet btn-xs" onClick={() => keep(b.id, a.id)}>
          Keep No. {b.number}
        </button>
        <button
          className="btn btn-quiet btn-xs"
          onClick={() =>
            void act(list.id, ask(api.POST("/api/lists/{id}/duplicates/different", { params: { path }, body: { a: a.id, b: b.id } })))
          }
        >
          Not duplicates
        </button>
      </div>
    </section>
  );
}

function Households({ list, counts }: { list: Schema["ListView"]; counts: Schema["DuplicateCounts"] }) {
  const path = { id: list.id };
  const [form, setForm] = useState<Schema["HouseholdForm"]>("GivenNames");
  const found = useQuery({
    queryKey: keys.lists(list.id, "households"),
    queryFn: () => ask(api.GET("/api/lists/{id}/households", { params: { path } })),
  }).data;
  const address = (households: number[][] | null) =>
    void act(list.id, ask(api.POST("/api/lists/{id}/households", { params: { path }, body: { form, households } })));
  if (counts.households === 0) return <p className="text-faint">No households found. No two recipients share an address.</p>;
  return (
    <>
      <p className="mb-2 text-faint">
        Send one piece to everyone at the same address. In each drop, the first member who can get the piece gets it, addressed to all; the
        others are held. A member who moves, dies, or is suppressed is no longer addressed.
      </p>
      <label className="mb-2 flex items-center gap-2">
        Address as
        <FormPicker label="Household address form" value={form} onChange={setForm} />
      </label>
      {counts.households > counts.addressed && (
        <button className="btn btn-quiet btn-xs mb-2" onClick={() => address(null)}>
          Combine all {count(counts.households - counts.addressed)} households
        </button>
      )}
      {found?.map((h) => (
        <HouseholdCard key={h.id ?? `at ${h.members[0]?.row.id}`} list={list} household={h} onAddress={(members) => address([members])} />
      ))}
      {found && counts.households > found.length && <p className="text-[12px] text-faint">The next come up as these are addressed.</p>}
    </>
  );
}

function FormPicker({
  label,
  value,
  onChange,
}: {
  label: string;
  value: Schema["HouseholdForm"];
  onChange: (form: Schema["HouseholdForm"]) => void;
}) {
  return (
    <select
      className="select select-xs w-full"
      aria-label={label}
      value={value}
      onChange={(e) => onChange(e.target.value as Schema["HouseholdForm"])}
    >
      <option value="GivenNames">Ana and Luis Ortega</option>
      <option value="Family">The Ortega family</option>
    </select>
  );
}

/** Recipients at the same address: who of them belongs, in which order, and what the piece is addressed to. */
function HouseholdCard({
  list,
  household: h,
  onAddress,
}: {
  list: Schema["ListView"];
  household: Schema["HouseholdView"];
  onAddress: (members: number[]) => void;
}) {
  const path = { id: list.id };
  const [chosen, setChosen] = useState<number[]>(() => h.members.map((m) => m.row.id));
  const at = (role: Schema["Role"]) => list.columns.findIndex((c) => c.role === role);
  const called = (r: Schema["RecipientRow"]) =>
    [r.values[at("GivenName")], r.values[at("FamilyName")]].filter(Boolean).join(" ") ||
    r.values[at("FullName")] ||
    r.values[at("Organization")] ||
    `No. ${r.number}`;
  const belong = h.members.filter((m) => m.belongs).map((m) => m.row.id);
  const change = (members: number[], form = h.form) =>
    h.id !== null &&
    void act(
      list.id,
      ask(api.PUT("/api/lists/{id}/households/{household}", { params: { path: { ...path, household: h.id } }, body: { members, form } })),
    );
  const addressed = h.id !== null;
  const first = h.members.find((m) => m.belongs && m.apart === null)?.row.id;
  return (
    <section
      className="mb-1.5 bg-base-100 p-2 text-[12px]"
      aria-label={h.name ?? called(h.members[0]?.row ?? { id: 0, number: 0, values: [] })}
    >
      {addressed && (
        <p className="mb-1 flex flex-col gap-1">
          <strong>{h.name ?? "addressed to one alone"}</strong>
          <FormPicker label="Addressed as" value={h.form} onChange={(form) => change(belong, form)} />
        </p>
      )}
      {h.members.map(({ row, belongs, apart }) => (
        <div key={row.id} className="flex items-center gap-1.5 py-px">
          <label className="flex min-w-0 flex-1 items-center gap-1.5">
            <input
              type="checkbox"
              className="checkbox checkbox-xs"
              aria-label={`${called(row)} belongs to the household`}
              checked={addressed ? belongs : chosen.includes(row.id)}
              onChange={(e) => {
                const now = addressed ? belong : chosen;
                // In the order in which they stand on the list, whoever was ticked last.
                const next = e.target.checked ? [...now, row.id] : now.filter((x) => x !== row.id);
                if (addressed) change(next);
                else setChosen(next);
              }}
            />
            <span className="truncate">{called(row)}</span>
          </label>
          <span className="truncate text-faint" title={apart ?? undefined}>
            {apart ??
              (!addressed
                ? `No. ${row.number}`
                : row.id === first
                  ? "Gets the piece"
                  : belongs
                    ? "named with them"
                    : "gets one of their own")}
          </span>
          {addressed && belongs && row.id !== belong[0] && (
            <button
              className="cursor-pointer underline"
              title={`${called(row)} is named first and gets the piece`}
              onClick={() => change([row.id, ...belong.filter((x) => x !== row.id)])}
            >
              first
            </button>
          )}
        </div>
      ))}
      {addressed ? (
        <button className="btn btn-quiet btn-xs mt-1" title="Each recipient gets a separate piece again" onClick={() => change([])}>
          A piece for each
        </button>
      ) : (
        <button
          className="btn btn-quiet btn-xs mt-1"
          disabled={chosen.length < 2}
          onClick={() => onAddress(h.members.map((m) => m.row.id).filter((x) => chosen.includes(x)))}
        >
          One piece for {chosen.length === h.members.length ? "all" : count(chosen.length)}
        </button>
      )}
    </section>
  );
}
