import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate, useSearchParams } from "react-router";
import { api, ask, queryClient } from "../api/client";
import { campaignsQuery, designsQuery, listsQuery } from "../api/queries";
import { Header } from "../ui/Header";
import { sayWrong } from "../ui/notices";
import { count, series } from "../ui/words";
import { PackagePicker } from "./PackagePicker";
import { paged } from "../designs/kinds";
import { segmentsQuery } from "../api/queries";
import { keys } from "../api/keys";

/** What was filled in for a drop, kept while a letter for it is written in the same tab. */
interface Draft {
  campaign: string;
  campaignName: string;
  name: string;
  list: string;
  chosen: number[] | null;
  segment: string;
  date: string;
}

const draftKey = "bandeja.drop-draft";

function keptDraft(): Partial<Draft> {
  try {
    return JSON.parse(sessionStorage.getItem(draftKey) ?? "{}") as Partial<Draft>;
  } catch {
    return {};
  }
}

/** A drop on one page: for which campaign, to whom, what, when. */
export function NewDropPage() {
  const navigate = useNavigate();
  const [params] = useSearchParams();
  const campaigns = useQuery(campaignsQuery()).data ?? [];
  const known = useQuery(listsQuery()).data;
  const lists = known ?? [];
  const designs = useQuery(designsQuery()).data ?? [];
  const [draft] = useState(() => (params.has("draft") ? keptDraft() : {}));
  const [campaign, setCampaign] = useState(draft.campaign ?? params.get("campaign") ?? "");
  const [campaignName, setCampaignName] = useState(draft.campaignName ?? "");
  const [name, setName] = useState(draft.name ?? "");
  const [list, setList] = useState(draft.list ?? params.get("list") ?? "");
  const [chosen, setChosen] = useState<number[] | null>(draft.chosen ?? (params.get("design") ? [Number(params.get("design"))] : null));
  const [segment, setSegment] = useState(draft.segment ?? params.get("segment") ?? "");
  const [date, setDate] = useState(draft.date ?? "");
  const [busy, setBusy] = useState(false);
  const listId = Number(list || lists[0]?.id || 0);
  const segmented = useQuery({ ...segmentsQuery(listId), enabled: listId > 0 }).data;
  const segments = segmented ?? [];
  const ofList = designs.filter((d) => d.listId === listId);
  // Only what was written for the list is chosen beforehand: another letter has other fields, and may say something else.
  const first = (paged(ofList) ?? ofList[0])?.id;
  const designIds = chosen ?? (first ? [first] : []);
  // Until it is known whether the segment is one of the list's, a drop would go to the whole list instead.
  const toWhom = listId > 0 && (segment === "" || segmented !== undefined);
  const missing = [
    campaign === "" && campaignName.trim() === "" && "a campaign name",
    name.trim() === "" && "a drop name",
    listId === 0 && "a list",
    designIds.length === 0 && "a design",
  ].filter((m) => m !== false);
  const ready = toWhom && missing.length === 0;
  const make = async () => {
    setBusy(true);
    try {
      const id = await ask(
        api.POST("/api/drops", {
          body: {
            name,
            listId,
            designIds,
            campaignId: campaign ? Number(campaign) : null,
            campaignName: campaign ? null : campaignName,
            mailDate: date || null,
            segmentId: segments.some((s) => String(s.id) === segment) ? Number(segment) : null,
          },
        }),
      );
      sessionStorage.removeItem(draftKey);
      await queryClient.invalidateQueries({ queryKey: keys.drop() });
      void navigate(`/drops/${id}/proof`);
    } catch (e) {
      sayWrong(e);
      setBusy(false);
    }
  };
  const writeLetter = async () => {
    try {
      const id = await ask(
        api.POST("/api/designs", { body: { name: name.trim() || "New letter", listId: listId || null, document: null } }),
      );
      const kept: Draft = { campaign, campaignName, name, list: String(listId || ""), chosen: [...(chosen ?? []), id], segment, date };
      sessionStorage.setItem(draftKey, JSON.stringify(kept));
      await queryClient.invalidateQueries({ queryKey: keys.designs() });
      void navigate(`/designs/${id}?drop`);
    } catch (e) {
      sayWrong(e);
    }
  };
  const label = "grid grid-cols-[120px_320px_1fr] items-center gap-3";
  return (
    <>
      <Header kind="Campaigns" title="Start a drop" />
      <form
        className="flex min-h-0 flex-1 flex-col gap-4 overflow-auto p-6"
        onSubmit={(e) => {
          e.preventDefault();
          if (ready) void make();
        }}
      >
        <label className={label}>
          <span className="font-semibold">Campaign</span>
          <select className="select w-full" value={campaign} onChange={(e) => setCampaign(e.target.value)}>
            <option value="">New campaign</option>
            {campaigns.map((c) => (
              <option key={c.id} value={c.id}>
                {c.name}
              </option>
            ))}
          </select>
        </label>
        {campaign === "" && (
          <label className={label}>
            <span className="font-semibold">Campaign name</span>
            <input
              className="input w-full"
              value={campaignName}
              maxLength={120}
              autoFocus
              placeholder="Membership renewal"
              onChange={(e) => setCampaignName(e.target.value)}
            />
          </label>
        )}
        <label className={label}>
          <span className="font-semibold">Drop name</span>
          <input
            className="input w-full"
            value={name}
            maxLength={120}
            placeholder="First notice"
            onChange={(e) => setName(e.target.value)}
          />
        </label>
        <label className={label}>
          <span className="font-semibold">List</span>
          <select className="select w-full" value={listId || ""} onChange={(e) => setList(e.target.value)} aria-label="List">
            {lists.length === 0 && <option value="">No lists yet</option>}
            {lists.map((l) => (
              <option key={l.id} value={l.id}>
                {l.name}, {count(l.recipients)}
              </option>
            ))}
          </select>
          {lists.length === 0 && (
            <Link className="underline" to="/lists/new">
              Import list
            </Link>
          )}
        </label>
        {segments.length > 0 && (
          <label className={label}>
            <span className="font-semibold">Segment</span>
            <select className="select w-full" value={segment} onChange={(e) => setSegment(e.target.value)} aria-label="Segment">
              <option value="">All recipients</option>
              {segments.map((s) => (
                <option key={s.id} value={s.id}>
                  {s.name}, {count(s.recipients)}
                </option>
              ))}
            </select>
            <span className="text-faint">{segment ? "The other recipients are held, so the trays still add up to the list." : ""}</span>
          </label>
        )}
        <div className="grid grid-cols-[120px_480px_1fr] items-start gap-3">
          <span className="pt-1 font-semibold">Package</span>
          <PackagePicker designs={designs} listId={listId} chosen={designIds} onChange={setChosen} />
          <button
            type="button"
            className="cursor-pointer pt-1 text-left underline"
            disabled={known === undefined}
            onClick={() => void writeLetter()}
          >
            Write letter
          </button>
        </div>
        <label className={label}>
          <span className="font-semibold">Mail date</span>
          <input type="date" className="input w-full" value={date} onChange={(e) => setDate(e.target.value)} />
          <span className="text-faint">You can set this later.</span>
        </label>
        <div className="ml-[132px]">
          <button className="btn btn-primary" disabled={!ready || busy}>
            Start drop
          </button>
          {known !== undefined && missing.length > 0 && <span className="ml-3 text-faint">Needs {series(missing)}.</span>}
          <p className="mt-3 max-w-md text-faint">
            Every recipient on the list gets a piece number. Nothing is produced or mailed yet. The bench opens so you can review the real
            pages first.
          </p>
        </div>
      </form>
    </>
  );
}
