import { CalendarDays, MoreHorizontal } from "lucide-react";
import { Link } from "react-router";
import type { Tray } from "../api/client";
import { Stack } from "../ui/Stack";
import { count, day, many, trayNames } from "../ui/words";
import type { Campaign, Step } from "./campaigns";

const order: { tray: Tray; color: string }[] = [
  { tray: "NeedsReview", color: "text-warning" },
  { tray: "Ready", color: "text-success" },
  { tray: "Held", color: "text-info" },
  { tray: "Produced", color: "text-secondary" },
  { tray: "Mailed", color: "text-primary" },
  { tray: "Returned", color: "text-error" },
];

/** What a step is doing now, in a few words. */
function state(s: Step) {
  if (s.skipped) return "skipped";
  const look = s.trays.NeedsReview ?? 0;
  if (look) return `${many(look, "recipient needs", "recipients need")} review`;
  if (s.mailed) return "mailed";
  if (s.due && s.nextDue) return `${many(s.due, "recipient")} next, the first ${day(s.nextDue, false)}`;
  return s.readyOn ? `produce by ${day(s.readyOn, false)}` : s.when;
}

/** A step of a campaign: its date, its trays, what is to be done with it. */
export function StepTile({ campaign, step, onEdit }: { campaign: Campaign; step: Step; onEdit?: () => void }) {
  const drop = step.dropIds[0];
  const all = Object.values(step.trays).reduce<number>((sum, n) => sum + (n ?? 0), 0);
  const shown = order.filter((t) => (step.trays[t.tray] ?? 0) > 0);
  const look = (step.trays.NeedsReview ?? 0) > 0;
  return (
    <li
      className={`relative flex min-w-[220px] flex-1 flex-col border-r border-line px-3.5 py-3 ${look ? "bg-base-200 on-sand" : ""} ${step.skipped ? "text-faint" : ""}`}
      data-testid="step"
      aria-label={step.name}
    >
      <div className="flex items-baseline gap-2">
        <span className="flex h-6 w-6 shrink-0 items-center justify-center rounded-full border-2 border-primary text-[12px] font-bold">
          {step.position}
        </span>
        <h2 className={`min-w-0 truncate ${step.skipped ? "line-through" : ""}`}>
          {drop ? (
            <Link to={`/drops/${drop}`} className="hover:underline">
              {step.name}
            </Link>
          ) : (
            step.name
          )}
        </h2>
        <span className="ml-auto shrink-0 font-semibold">
          {step.mailOn ? day(step.mailOn, false) : campaign.mode === "OneByOne" ? "rolling" : ""}
        </span>
        {onEdit && (
          <button
            className="btn btn-xs btn-square btn-ghost -mr-1 self-center"
            aria-label={`Change ${step.name}`}
            title="Change this step"
            onClick={onEdit}
          >
            <MoreHorizontal size={15} />
          </button>
        )}
      </div>
      <p className={`mt-0.5 pl-8 text-[12.5px] ${look ? "text-doubt-ink" : "text-faint"}`}>{state(step)}</p>
      <div className="mt-2.5 flex gap-2.5">
        {shown.length === 0 && (
          <p className="text-[12.5px] text-faint">{campaign.mode === "OneByOne" ? "No recipients collected yet" : "No recipients yet"}</p>
        )}
        {shown.map(({ tray, color }) => (
          <Link
            key={tray}
            to={drop && step.dropIds.length === 1 ? `/drops/${drop}/proof?tray=${tray}` : drop ? `/drops/${drop}` : "#"}
            className="tray flex h-[84px] min-w-0 flex-1 flex-col px-1.5 pb-1"
            data-testid={`step-${tray}`}
          >
            <span className="flex h-[30px] shrink-0 items-end">
              <Stack count={step.trays[tray] ?? 0} of={all} className={color} />
            </span>
            <span className="text-[15px] leading-5 font-bold">{count(step.trays[tray] ?? 0)}</span>
            <span className="text-[11.5px] leading-[13px] text-faint">{trayNames[tray]}</span>
          </Link>
        ))}
      </div>
      <p className="mt-2 text-[12px] leading-4 text-faint">
        {step.movedFor && (
          <>
            <CalendarDays size={12} className="mr-1 inline" aria-hidden />
            moved for {step.movedFor} ·{" "}
          </>
        )}
        {who(step) !== state(step) && who(step)}
        {step.responses > 0 && ` · ${many(step.responses, "response")}`}
      </p>
    </li>
  );
}

function who(s: Step) {
  if (s.who === "Segment") return `to “${s.segmentName}”`;
  if (s.who === "Condition") return `to recipients for whom ${s.condition}`;
  return s.when;
}
