import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate, useSearchParams } from "react-router";
import { api, ask, queryClient, type Schema } from "../api/client";
import { listsQuery } from "../api/queries";
import { Header } from "../ui/Header";
import { sayWrong } from "../ui/notices";
import { today } from "../ui/customs";
import { count } from "../ui/words";
import { campaignQuery, change, patternsQuery, type Campaign } from "./campaigns";
import { MissingRecord } from "../shell/WentWrong";
import { keys } from "../api/keys";

type Entry = Schema["Entry"];

/** A campaign with steps on one page: for which list, how its recipients go through it, from when. */
export function PlanPage() {
  const [params] = useSearchParams();
  const of = Number(params.get("campaign") ?? params.get("copy") ?? 0);
  const query = useQuery({ ...campaignQuery(of), enabled: of > 0 });
  if (of > 0 && !query.data)
    return query.error ? <MissingRecord error={query.error} what="campaign" to="/campaigns" back="Go to Campaigns" /> : null;
  return <PlanForm key={of} from={query.data ?? null} copies={params.has("copy")} />;
}

function PlanForm({ from, copies }: { from: Campaign | null; copies: boolean }) {
  const navigate = useNavigate();
  const lists = useQuery(listsQuery()).data ?? [];
  const patterns = useQuery(patternsQuery()).data ?? [];
  const changes = from !== null && !copies;
  const fixed = changes && from.steps.length > 0;
  const [name, setName] = useState(from ? (copies ? `${from.name}, again` : from.name) : "");
  const [list, setList] = useState(from?.listId ?? 0);
  const [mode, setMode] = useState<"Together" | "OneByOne">(from?.mode === "OneByOne" ? "OneByOne" : "Together");
  const [start, setStart] = useState((copies ? null : from?.startsOn) ?? today());
  const [entry, setEntry] = useState<Entry>(from && from.mode === "OneByOne" ? from.entry : "Added");
  const [entryFilter, setEntryFilter] = useState(from?.entryFilter ?? "");
  const [stayFilter, setStayFilter] = useState(from?.stayFilter ?? "");
  const [days, setDays] = useState(from?.responseDays ?? 60);
  const [pattern, setPattern] = useState("");
  const [busy, setBusy] = useState(false);
  const listId = list || lists[0]?.id || 0;
  const ready =
    name.trim() !== "" && listId > 0 && start !== "" && (mode === "Together" || entry !== "Condition" || entryFilter.trim() !== "");
  const removePattern = async () => {
    const done = await change(
      ask(api.DELETE("/api/patterns/{id}", { params: { path: { id: Number(pattern) } } })),
      "The pattern is removed. Campaigns keep their steps.",
    );
    if (done) setPattern("");
  };
  const save = async () => {
    setBusy(true);
    try {
      const id = await ask(
        api.POST("/api/campaigns/plan", {
          body: {
            campaignId: changes ? from.id : null,
            name,
            listId,
            mode,
            startsOn: start,
            entry: mode === "OneByOne" ? entry : "ByHand",
            entryFilter: mode === "OneByOne" && entry === "Condition" ? entryFilter : "",
            stayFilter,
            responseDays: days,
            patternId: pattern ? Number(pattern) : null,
            copyOf: copies && from ? from.id : null,
          },
        }),
      );
      await queryClient.invalidateQueries({ queryKey: keys.drop() });
      void navigate(`/campaigns/${id}`);
    } catch (e) {
      sayWrong(e);
      setBusy(false);
    }
  };
  const label = "grid grid-cols-[150px_340px_1fr] items-center gap-3";
  return (
    <>
      <Header
        kind={<Link to="/campaigns">Campaigns</Link>}
        title={changes ? `Settings of ${from.name}` : copies ? `Copy ${from?.name}` : "Plan a campaign"}
      />
      <form
        className="flex min-h-0 flex-1 flex-col gap-4 overflow-auto p-6"
        onSubmit={(e) => {
          e.preventDefault();
          if (ready) void save();
        }}
      >
        <label className={label}>
          <span className="font-semibold">Campaign name</span>
          <input
            className="input w-full"
            value={name}
            autoFocus
            maxLength={120}
            placeholder="Membership renewal"
            onChange={(e) => setName(e.target.value)}
          />
        </label>
        <label className={label}>
          <span className="font-semibold">List</span>
          <select className="select w-full" value={listId || ""} disabled={fixed} onChange={(e) => setList(Number(e.target.value))}>
            {lists.length === 0 && <option value="">no list yet</option>}
            {lists.map((l) => (
              <option key={l.id} value={l.id}>
                {l.name}, {count(l.recipients)}
              </option>
            ))}
          </select>
          {lists.length === 0 ? (
            <Link className="underline" to="/lists/new">
              Import a list first
            </Link>
          ) : (
            fixed && <span className="text-faint">cannot be changed after steps are added</span>
          )}
        </label>
        <fieldset className={`${label} items-start`} disabled={fixed}>
          <legend className="sr-only">How recipients go through the steps</legend>
          <span className="font-semibold">Through the steps</span>
          <div className="flex flex-col gap-2">
            {(
              [
                ["Together", "Together", "The whole list moves from step to step; each step is one drop."],
                [
                  "OneByOne",
                  "One by one",
                  "Each recipient has their own clock, from the day they enter. What is due on a day is collected into that day’s drop.",
                ],
              ] as const
            ).map(([value, title, text]) => (
              <label key={value} className="flex cursor-pointer gap-2.5">
                <input
                  type="radio"
                  name="mode"
                  className="radio radio-sm mt-0.5"
                  checked={mode === value}
                  onChange={() => setMode(value)}
                  aria-label={title}
                />
                <span>
                  <span className="font-semibold">{title}</span>
                  <span className="block text-[12px] leading-4 text-faint">{text}</span>
                </span>
              </label>
            ))}
          </div>
        </fieldset>
        {mode === "OneByOne" && (
          <label className={label}>
            <span className="font-semibold">Who enters</span>
            <select className="select w-full" value={entry} onChange={(e) => setEntry(e.target.value as Entry)}>
              <option value="Added">recipients added to the list from now on</option>
              <option value="Everyone">All recipients on the list, including any added later</option>
              <option value="Condition">recipients who meet a condition, from then on</option>
              <option value="ByHand">Only recipients I add</option>
            </select>
            {entry === "Condition" && (
              <input
                className="input w-full max-w-md font-mono text-[12.5px]"
                aria-label="Condition to enter"
                value={entryFilter}
                maxLength={4000}
                placeholder={'Status = "lapsed"'}
                onChange={(e) => setEntryFilter(e.target.value)}
              />
            )}
          </label>
        )}
        <label className={label}>
          <span className="font-semibold">First day</span>
          <input type="date" className="input w-full" value={start} required onChange={(e) => setStart(e.target.value)} />
          <span className="text-faint">{mode === "Together" ? "the first step is counted from it" : "no one enters before it"}</span>
        </label>
        <label className={label}>
          <span className="font-semibold">Stay while</span>
          <input
            className="input w-full font-mono text-[12.5px]"
            value={stayFilter}
            maxLength={4000}
            placeholder={'Status <> "renewed"'}
            onChange={(e) => setStayFilter(e.target.value)}
          />
          <span className="text-faint">Optional. Recipients who no longer match leave the campaign.</span>
        </label>
        <label className={label}>
          <span className="font-semibold">Responses count for</span>
          <span className="flex items-center gap-2">
            <input
              type="number"
              className="input w-24"
              min={1}
              max={3650}
              value={days}
              onChange={(e) => setDays(Math.max(1, Number(e.target.value) || 1))}
              aria-label="Days"
            />
            days after a piece is mailed
          </span>
        </label>
        {!fixed && !copies && patterns.length > 0 && (
          <label className={label}>
            <span className="font-semibold">Steps</span>
            <select className="select w-full" value={pattern} onChange={(e) => setPattern(e.target.value)}>
              <option value="">I add them myself</option>
              {patterns.map((p) => (
                <option key={p.id} value={p.id}>
                  same as {p.name}, {p.steps} {p.steps === 1 ? "step" : "steps"}
                </option>
              ))}
            </select>
            {pattern !== "" && (
              <button type="button" className="btn btn-sm btn-quiet justify-self-start" onClick={() => void removePattern()}>
                Remove this pattern
              </button>
            )}
          </label>
        )}
        <div className="ml-[162px] flex gap-2">
          <button className="btn btn-primary" disabled={!ready || busy}>
            {changes ? "Save" : copies ? "Copy campaign" : "Plan campaign"}
          </button>
          <button type="button" className="btn btn-quiet" onClick={() => void navigate(-1)}>
            Cancel
          </button>
        </div>
        <p className="ml-[162px] max-w-lg text-faint">
          Nothing is mailed by itself. Steps become drops that you review, produce, and mark as mailed; the dates of those that follow are
          counted from there.
        </p>
      </form>
    </>
  );
}
