import { useQuery } from "@tanstack/react-query";
import { Plus } from "lucide-react";
import { Link, useNavigate } from "react-router";
import { campaignsQuery } from "../api/queries";
import type { Schema } from "../api/client";
import { Empty } from "../ui/Empty";
import { Header } from "../ui/Header";
import { useActions } from "../ui/keys";
import { CampaignLine } from "./CampaignLine";
import { campaignQuery } from "./campaigns";
import { DropTable } from "./DropTable";
import { StepTile } from "./StepTile";
import { useSeen } from "../ui/useSeen";

/** All campaigns, each along a line through time, with its drops as trays that fill up. */
export function CampaignsPage() {
  const navigate = useNavigate();
  const campaigns = useQuery(campaignsQuery()).data;
  useActions([
    { keys: "n", label: "Start drop", run: () => void navigate("/campaigns/new") },
    { keys: "p", label: "Plan a campaign", run: () => void navigate("/campaigns/plan") },
    { keys: "c", label: "Calendar", run: () => void navigate("/calendar") },
  ]);
  return (
    <>
      <Header kind="All campaigns" title="Campaigns">
        <Link className="btn btn-quiet" to="/calendar">
          Calendar
        </Link>
        <Link className="btn btn-quiet" to="/campaigns/new">
          <Plus size={15} /> Start drop
        </Link>
        <Link className="btn btn-primary" to="/campaigns/plan">
          <Plus size={15} /> Plan a campaign
        </Link>
      </Header>
      <div className="min-h-0 flex-1 overflow-auto">
        {campaigns?.length === 0 && (
          <Empty
            title="No campaigns yet"
            actions={
              <>
                <Link className="btn btn-primary" to="/campaigns/new">
                  Start drop
                </Link>
                <Link className="btn btn-quiet" to="/campaigns/plan">
                  Plan a campaign
                </Link>
              </>
            }
          >
            A drop mails one package to one list on a mail date. A campaign has one drop or more; with steps, they follow each other by
            themselves until a recipient responds.
          </Empty>
        )}
        {campaigns?.map((c) => (
          <CampaignBlock key={c.id} campaign={c} />
        ))}
      </div>
    </>
  );
}

function CampaignBlock({ campaign: c }: { campaign: Schema["CampaignView"] }) {
  const navigate = useNavigate();
  // With hundreds of campaigns, only those near the window are asked for.
  const [ref, seen] = useSeen<HTMLElement>();
  const standing = useQuery({ ...campaignQuery(c.id), enabled: seen && c.mode !== "Drops" }).data;
  const steps = standing?.steps ?? [];
  const marks = steps.length
    ? steps.flatMap((s) =>
        s.mailOn && !s.skipped ? [{ id: s.dropIds[0] ?? 0, name: s.name, on: s.mailOn, mailed: s.mailed, number: s.position }] : [],
      )
    : c.drops.flatMap((d) =>
        d.mailDate
          ? [
              {
                id: d.id,
                name: d.name,
                on: d.mailDate,
                mailed: d.trays.mailed > 0 && d.trays.ready + d.trays.needsReview + d.trays.produced === 0,
                number: d.number,
              },
            ]
          : [],
      );
  return (
    <section ref={ref} className="border-b border-base-300 pb-3" aria-label={c.name}>
      <h2 className="flex items-baseline gap-3 px-4 pt-4 pb-1">
        <Link className="hover:underline" to={`/campaigns/${c.id}`}>
          {c.name}
        </Link>
        <span className="text-[12px] font-normal text-faint">
          {c.mode === "Together" ? "in steps, together" : c.mode === "OneByOne" ? "in steps, one by one" : ""}
        </span>
        {c.mode === "Drops" && (
          <Link className="text-[12px] font-normal text-faint underline" to={`/campaigns/new?campaign=${c.id}`}>
            Start drop
          </Link>
        )}
      </h2>
      {marks.length > 0 && (
        <CampaignLine marks={marks} label={`${c.name} through time`} onChoose={(id) => id && void navigate(`/drops/${id}`)} />
      )}
      {standing?.steps.length ? (
        <ol className="mt-1 flex overflow-x-auto border-t border-line" aria-label={`Steps of ${c.name}`} tabIndex={0}>
          {standing.steps.map((s) => (
            <StepTile key={s.id} campaign={standing} step={s} />
          ))}
        </ol>
      ) : (
        c.drops.length > 0 && <DropTable drops={c.drops} />
      )}
    </section>
  );
}
