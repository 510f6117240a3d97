import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, queryClient, type Schema } from "../api/client";
import { designsQuery, segmentsQuery } from "../api/queries";
import { Dialog } from "../ui/Dialog";
import { sayWrong } from "../ui/notices";
import { useDelayed } from "../ui/useDelayed";
import { change, planOf, type Campaign, type Step, type StepPlan } from "./campaigns";
import { PackagePicker } from "./PackagePicker";
import { keys } from "../api/keys";

const weekdays = ["Sunday", "Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday"] as const;

/** A step that is added or changed: what is mailed, to whom, when; with what that changes for whom, before it is done. */
export function StepDialog({
  campaign,
  step,
  before,
  onClose,
}: {
  campaign: Campaign;
  step: Step | null;
  before: Step | null;
  onClose: () => void;
}) {
  const [plan, setPlan] = useState<StepPlan>(
    step
      ? planOf(step)
      : {
          name: "",
          designIds: [],
          timing: { on: null, after: campaign.steps.length ? 20 : 0, unit: "Days", readyDays: 1, weekday: null },
          who: "Everyone",
          segmentId: null,
          condition: "",
        },
  );
  const [busy, setBusy] = useState(false);
  const designs = useQuery(designsQuery()).data ?? [];
  const segments = useQuery({ ...segmentsQuery(campaign.listId ?? 0), enabled: campaign.listId !== null }).data ?? [];
  const position = step?.position ?? before?.position ?? campaign.steps.length + 1;
  const earlier = campaign.steps.filter((s) => s.position < position);
  const later = campaign.steps.filter((s) => s.position >= position);
  const complete = plan.name.trim() !== "" && plan.designIds.length > 0;
  const settled = useDelayed(plan, 400);
  const body = (p: StepPlan) =>
    step
      ? { change: { campaignId: campaign.id, stepId: step.id, step: p } }
      : { add: { campaignId: campaign.id, step: p, beforeStepId: before?.id ?? null } };
  const look = useQuery({
    queryKey: keys.drop("campaign", campaign.id, "look", step?.id, before?.id, settled),
    queryFn: () => ask(api.POST("/api/campaigns/{id}/steps/look", { params: { path: { id: campaign.id } }, body: body(settled) })),
    enabled: settled.name.trim() !== "" && settled.designIds.length > 0,
    retry: false,
  });
  const set = (some: Partial<StepPlan>) => setPlan({ ...plan, ...some });
  const time = (some: Partial<Schema["StepTiming"]>) => setPlan({ ...plan, timing: { ...plan.timing, ...some } });
  const writeLetter = async () => {
    try {
      const id = await ask(
        api.POST("/api/designs", { body: { name: plan.name.trim() || "New letter", listId: campaign.listId, document: null } }),
      );
      await queryClient.invalidateQueries({ queryKey: keys.designs() });
      set({ designIds: [...plan.designIds, id] });
    } catch (e) {
      sayWrong(e);
    }
  };
  const save = async () => {
    setBusy(true);
    const path = { id: campaign.id };
    const done = await change<unknown>(
      step
        ? ask(api.PUT("/api/campaigns/{id}/steps/{stepId}", { params: { path: { ...path, stepId: step.id } }, body: plan }))
        : ask(
            api.POST("/api/campaigns/{id}/steps", {
              params: { path },
              body: { campaignId: campaign.id, step: plan, beforeStepId: before?.id ?? null },
            }),
          ),
    );
    setBusy(false);
    if (done) onClose();
  };
  const skip = async () => {
    if (!step) return;
    const to = (skipped: boolean) =>
      ask(
        api.POST("/api/campaigns/{id}/steps/{stepId}/skip", {
          params: { path: { id: campaign.id, stepId: step.id } },
          body: { campaignId: campaign.id, stepId: step.id, skipped },
        }),
      );
    if (
      await change(to(!step.skipped), step.skipped ? `${step.name} is no longer skipped.` : `${step.name} is skipped.`, () =>
        to(step.skipped),
      )
    )
      onClose();
  };
  const remove = async () => {
    if (!step) return;
    if (
      await change(
        ask(api.DELETE("/api/campaigns/{id}/steps/{stepId}", { params: { path: { id: campaign.id, stepId: step.id } } })),
        `${step.name} is removed.`,
      )
    )
      onClose();
  };
  const row = "grid grid-cols-[110px_1fr] items-start gap-3";
  const together = campaign.mode === "Together";
  return (
    <Dialog
      title={step ? `Step ${step.position}: ${step.name}` : before ? `New step before ${before.name}` : "New step"}
      onClose={onClose}
      wide
    >
      <form
        className="flex flex-col gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          if (complete && !look.error) void save();
        }}
      >
        <label className={row}>
          <span className="pt-1.5 font-semibold">Name</span>
          <input
            className="input w-full"
            value={plan.name}
            autoFocus
            maxLength={120}
            placeholder="Second notice"
            onChange={(e) => set({ name: e.target.value })}
          />
        </label>
        <div className={row}>
          <span className="pt-1 font-semibold">Package</span>
          <div>
            <PackagePicker
              designs={designs}
              listId={campaign.listId ?? 0}
              chosen={plan.designIds}
              onChange={(designIds) => set({ designIds })}
            />
            <button type="button" className="mt-1 cursor-pointer underline" onClick={() => void writeLetter()}>
              Add a new letter
            </button>
          </div>
        </div>
        <div className={row}>
          <span className="pt-1.5 font-semibold">To</span>
          <div className="flex flex-col gap-2">
            <select
              className="select w-full"
              aria-label="To"
              value={plan.who}
              onChange={(e) => set({ who: e.target.value as StepPlan["who"] })}
            >
              <option value="Everyone">All recipients still in the campaign</option>
              <option value="Segment" disabled={segments.length === 0}>
                {segments.length === 0 ? "a segment (the list has none)" : "a segment"}
              </option>
              <option value="Condition">recipients who meet a condition</option>
            </select>
            {plan.who === "Segment" && (
              <select
                className="select w-full"
                aria-label="Segment"
                value={plan.segmentId ?? ""}
                onChange={(e) => set({ segmentId: e.target.value ? Number(e.target.value) : null })}
              >
                <option value="">choose a segment</option>
                {segments.map((s) => (
                  <option key={s.id} value={s.id}>
                    {s.name}
                  </option>
                ))}
              </select>
            )}
            {plan.who === "Condition" && (
              <>
                <input
                  className="input w-full font-mono text-[12.5px]"
                  aria-label="Condition"
                  value={plan.condition}
                  maxLength={4000}
                  placeholder={earlier[0] ? `Days since ${earlier[0].name} >= 20 and Responded = no` : 'Level = "Patron"'}
                  onChange={(e) => set({ condition: e.target.value })}
                />
                <p className="text-[12px] leading-4 text-faint">
                  Besides the list’s columns: {campaign.fields.filter((f) => !later.some((s) => f.endsWith(` ${s.name}`))).join(", ")}.
                </p>
              </>
            )}
          </div>
        </div>
        <div className={row}>
          <span className="pt-1.5 font-semibold">When</span>
          <div className="flex flex-wrap items-center gap-2">
            <select
              className="select w-44"
              aria-label="When"
              value={plan.timing.on === null ? "after" : "on"}
              onChange={(e) => time({ on: e.target.value === "on" ? (step?.mailOn ?? campaign.startsOn ?? "") : null })}
            >
              <option value="after">
                {position === 1 ? (together ? "after the first day" : "after they enter") : "after the step before"}
              </option>
              <option value="on">on a date</option>
            </select>
            {plan.timing.on === null ? (
              <>
                <CountField label="How long after" value={plan.timing.after} most={1000} onSet={(after) => time({ after })} />
                <select
                  className="select w-28"
                  aria-label="Unit"
                  value={plan.timing.unit}
                  onChange={(e) => time({ unit: e.target.value as "Days" })}
                >
                  <option value="Days">days</option>
                  <option value="Weeks">weeks</option>
                  <option value="Months">months</option>
                </select>
              </>
            ) : (
              <input
                type="date"
                className="input w-40"
                aria-label="Date"
                value={plan.timing.on}
                onChange={(e) => time({ on: e.target.value || null })}
              />
            )}
            {!together && (
              <select
                className="select w-48"
                aria-label="Collected"
                value={plan.timing.weekday ?? ""}
                onChange={(e) => time({ weekday: e.target.value === "" ? null : (e.target.value as "Monday") })}
              >
                <option value="">collected every day</option>
                {weekdays.slice(1, 6).map((d) => (
                  <option key={d} value={d}>
                    collected on {d}s
                  </option>
                ))}
              </select>
            )}
          </div>
        </div>
        <label className={row}>
          <span className="pt-1.5 font-semibold">Ready</span>
          <span className="flex items-center gap-2">
            <CountField label="Working days before" value={plan.timing.readyDays} most={60} onSet={(readyDays) => time({ readyDays })} />
            working {plan.timing.readyDays === 1 ? "day" : "days"} before the mail date
          </span>
        </label>
        <div className="min-h-[60px] border-l-[3px] border-base-300 px-3 py-1 text-[12.5px]" role="status" aria-label="What this changes">
          {look.error ? (
            <p className="text-error">{look.error.message}</p>
          ) : look.data?.sentences.length ? (
            <ul className="flex flex-col gap-0.5">
              {look.data.sentences.map((s) => (
                <li key={s}>{s}</li>
              ))}
            </ul>
          ) : (
            <p className="text-faint">
              {complete
                ? "No recipient in the campaign is affected."
                : "Enter a name and choose what is mailed. What that changes is shown here."}
            </p>
          )}
        </div>
        <div className="flex items-center gap-2">
          <button className="btn btn-primary" disabled={!complete || busy || look.isError}>
            {step ? "Save step" : "Add step"}
          </button>
          <button type="button" className="btn btn-quiet" onClick={onClose}>
            Cancel
          </button>
          {step && (
            <span className="ml-auto flex gap-2">
              <button type="button" className="btn btn-quiet" onClick={() => void skip()} disabled={step.mailed && together}>
                {step.skipped ? "Stop skipping" : "Skip this step"}
              </button>
              <button type="button" className="btn btn-quiet" onClick={() => void remove()} disabled={step.mailed}>
                Remove step
              </button>
            </span>
          )}
        </div>
      </form>
    </Dialog>
  );
}

function CountField({ label, value, most, onSet }: { label: string; value: number; most: number; onSet: (value: number) => void }) {
  return (
    <input
      type="number"
      className="input w-20"
      aria-label={label}
      value={value}
      min={0}
      max={most}
      step={1}
      onChange={(e) => e.target.value !== "" && onSet(Math.max(0, Math.min(most, Math.round(Number(e.target.value)))))}
    />
  );
}
