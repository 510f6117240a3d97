import { useQuery } from "@tanstack/react-query";
import { BarChart3, Plus } from "lucide-react";
import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { api, ask } from "../api/client";
import { campaignsQuery } from "../api/queries";
import { Dialog } from "../ui/Dialog";
import { Empty } from "../ui/Empty";
import { Header } from "../ui/Header";
import { useActions } from "../ui/keys";
import { today } from "../ui/customs";
import { count, day, many } from "../ui/words";
import { CampaignLine } from "./CampaignLine";
import { campaignQuery, change, left, leaveNames, type Campaign, type LeaveReason, type Step } from "./campaigns";
import { CampaignPeople } from "./CampaignPeople";
import { DropTable } from "./DropTable";
import { StepDialog } from "./StepDialog";
import { StepTile } from "./StepTile";
import { MissingRecord } from "../shell/WentWrong";
import { Beside } from "../ui/Beside";

/** A campaign: its steps through time, where each recipient is, who left. */
export function CampaignPage() {
  const id = Number(useParams().id);
  const navigate = useNavigate();
  const query = useQuery(campaignQuery(id));
  const drops = useQuery(campaignsQuery()).data?.find((c) => c.id === id)?.drops ?? [];
  const [editing, setEditing] = useState<{ step: Step | null; before: Step | null } | null>(null);
  const [naming, setNaming] = useState(false);
  useActions([
    { keys: "n", label: "Add a step", run: () => query.data?.listId && setEditing({ step: null, before: null }) },
    { keys: "r", label: "Report", run: () => void navigate(`/campaigns/${id}/report`) },
  ]);
  if (query.error) return <MissingRecord error={query.error} what="campaign" to="/campaigns" back="Go to Campaigns" />;
  const c = query.data;
  if (!c) return null;
  const steps = c.steps;
  const marks = steps.flatMap((s) =>
    s.mailOn && !s.skipped ? [{ id: s.id, name: s.name, on: s.mailOn, mailed: s.mailed, number: s.position }] : [],
  );
  const look = steps.find((s) => (s.trays.NeedsReview ?? 0) > 0 && s.dropIds[0]);
  const other = drops.filter((d) => !steps.some((s) => s.dropIds.includes(d.id)));
  return (
    <>
      <Header
        kind={<Link to="/campaigns">Campaigns</Link>}
        title={c.name}
        state={
          c.mode !== "Drops" && (
            <>
              {c.listName} · {many(c.people, "recipient")} {c.mode === "OneByOne" ? "so far, one by one" : "together"}
              <span className="block">{c.startsOn && `${c.startsOn > today() ? "Starts" : "Started"} ${day(c.startsOn)}`}</span>
            </>
          )
        }
      >
        <Link className="btn btn-quiet" to={`/campaigns/${id}/report`}>
          <BarChart3 size={15} /> Report
        </Link>
        {look ? (
          <Link className="btn btn-primary" to={`/drops/${look.dropIds[0]}/proof?tray=NeedsReview`}>
            Review {count(look.trays.NeedsReview ?? 0)} for {look.name}
          </Link>
        ) : (
          c.mode !== "Drops" && (
            <button className="btn btn-primary" onClick={() => setEditing({ step: null, before: null })}>
              <Plus size={15} /> Add a step
            </button>
          )
        )}
      </Header>
      <div className="flex min-h-0 flex-1 flex-col">
        {c.mode === "Drops" ? (
          <div className="min-h-0 flex-1 overflow-auto">
            <Empty
              title="This campaign has no steps"
              actions={
                <>
                  <Link className="btn btn-primary" to={`/campaigns/plan?campaign=${id}`}>
                    Plan steps
                  </Link>
                  <Link className="btn btn-quiet" to={`/campaigns/new?campaign=${id}`}>
                    Add a drop
                  </Link>
                </>
              }
            >
              Steps are mailings in a fixed order, days or weeks apart: a first notice, a second notice, a last call. Recipients who respond
              get no further steps.
            </Empty>
            {other.length > 0 && <DropTable drops={other} />}
          </div>
        ) : (
          <>
            {marks.length > 0 && (
              <div className="shrink-0 border-b border-line">
                <CampaignLine
                  marks={marks}
                  label={`${c.name} through time`}
                  onChoose={(step) => setEditing({ step: steps.find((s) => s.id === step) ?? null, before: null })}
                />
              </div>
            )}
            <ol className="flex shrink-0 overflow-x-auto border-b border-line" aria-label="Steps" tabIndex={0}>
              {steps.map((s) => (
                <StepTile key={s.id} campaign={c} step={s} onEdit={() => setEditing({ step: s, before: null })} />
              ))}
              {steps.length === 0 && (
                <li className="p-5">
                  <Empty
                    title="No step yet"
                    actions={
                      <button className="btn btn-primary" onClick={() => setEditing({ step: null, before: null })}>
                        Add the first step
                      </button>
                    }
                  >
                    Choose what is mailed first. It becomes a drop right away, so you can write and proof its letter early.
                  </Empty>
                </li>
              )}
            </ol>
            <div className="flex min-h-0 flex-1">
              <CampaignPeople campaign={c} />
              <LeftPanel
                campaign={c}
                onAdd={() => setEditing({ step: null, before: null })}
                onInsert={(before) => setEditing({ step: null, before })}
                onPattern={() => setNaming(true)}
                others={other}
              />
            </div>
          </>
        )}
      </div>
      {editing && <StepDialog campaign={c} step={editing.step} before={editing.before} onClose={() => setEditing(null)} />}
      {naming && <PatternDialog campaign={c} onClose={() => setNaming(false)} />}
    </>
  );
}

function LeftPanel({
  campaign: c,
  others,
  onAdd,
  onInsert,
  onPattern,
}: {
  campaign: Campaign;
  others: { id: number; name: string }[];
  onAdd: () => void;
  onInsert: (before: Step) => void;
  onPattern: () => void;
}) {
  const open = c.steps.filter((s) => !s.mailed && s.position > 1);
  return (
    <Beside
      label="Left the campaign"
      className="on-sand flex w-[272px] shrink-0 flex-col gap-3 overflow-auto border-l border-line bg-base-200 px-4 py-3"
    >
      <h2>Left the campaign: {count(left(c))}</h2>
      {left(c) === 0 && (
        <p className="text-faint">
          No recipients yet. Recipients who respond, are returned as undeliverable, or ask not to be mailed get no further steps.
        </p>
      )}
      <dl className="flex flex-col">
        {(Object.keys(leaveNames) as LeaveReason[])
          .filter((r) => (c.left[r] ?? 0) > 0)
          .map((r) => (
            <div key={r} className="flex justify-between border-b border-line py-1.5">
              <dt>{leaveNames[r]}</dt>
              <dd className="tabular-nums">{count(c.left[r] ?? 0)}</dd>
            </div>
          ))}
      </dl>
      <p className="text-[12px] leading-4 text-faint">If one of them was produced already, Today lists the piece numbers to pull.</p>
      <div className="flex flex-wrap gap-2">
        <button className="btn btn-sm bg-base-100" onClick={onAdd}>
          Add a step
        </button>
        {open.map((s) => (
          <button key={s.id} className="btn btn-sm bg-base-100" onClick={() => onInsert(s)}>
            Insert before {s.name}
          </button>
        ))}
        {c.steps.length > 0 && (
          <>
            <button className="btn btn-sm bg-base-100" onClick={onPattern}>
              Save as pattern
            </button>
            <Link className="btn btn-sm bg-base-100" to={`/campaigns/plan?copy=${c.id}`}>
              Copy campaign
            </Link>
          </>
        )}
        <Link className="btn btn-sm bg-base-100" to={`/campaigns/plan?campaign=${c.id}`}>
          Settings
        </Link>
        <Link className="btn btn-sm bg-base-100" to={`/responses?campaign=${c.id}`}>
          Enter responses
        </Link>
      </div>
      {others.length > 0 && (
        <>
          <h2 className="mt-2">Other drops</h2>
          <ul>
            {others.map((d) => (
              <li key={d.id}>
                <Link className="hover:underline" to={`/drops/${d.id}`}>
                  {d.name}
                </Link>
              </li>
            ))}
          </ul>
        </>
      )}
    </Beside>
  );
}

function PatternDialog({ campaign, onClose }: { campaign: Campaign; onClose: () => void }) {
  const [name, setName] = useState(campaign.name);
  const save = async () => {
    if (await change(ask(api.POST("/api/patterns", { body: { campaignId: campaign.id, name } })), `Saved the pattern “${name.trim()}”.`))
      onClose();
  };
  return (
    <Dialog title="Save as pattern" onClose={onClose}>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          if (name.trim()) void save();
        }}
      >
        <p className="mb-3 text-faint">The steps can be used with another list. Dates are then counted from the new first day.</p>
        <label className="mb-4 block">
          <span className="mb-1 block font-semibold">Name</span>
          <input className="input w-full" autoFocus maxLength={120} value={name} onChange={(e) => setName(e.target.value)} />
        </label>
        <div className="flex gap-2">
          <button className="btn btn-primary" disabled={!name.trim()}>
            Save pattern
          </button>
          <button type="button" className="btn btn-quiet" onClick={onClose}>
            Cancel
          </button>
        </div>
      </form>
    </Dialog>
  );
}
