import { queryOptions } from "@tanstack/react-query";
import { api, ask, queryClient, type Schema } from "../api/client";
import { say, sayWrong } from "../ui/notices";
import { keys } from "../api/keys";

export type Campaign = Schema["CampaignStanding"];
export type Step = Schema["StepSight"];
export type Person = Schema["CampaignPerson"];
export type StepPlan = Schema["StepPlan"];
export type LeaveReason = Schema["LeaveReason"];

export const campaignQuery = (id: number) =>
  queryOptions({ queryKey: keys.drop("campaign", id), queryFn: () => ask(api.GET("/api/campaigns/{id}", { params: { path: { id } } })) });
export const patternsQuery = () => queryOptions({ queryKey: keys.drop("patterns"), queryFn: () => ask(api.GET("/api/patterns")) });
export const placesQuery = (listId: number, recipientId: number) =>
  queryOptions({
    queryKey: keys.drop("places", listId, recipientId),
    queryFn: () => ask(api.GET("/api/lists/{id}/recipients/{recipientId}/campaigns", { params: { path: { id: listId, recipientId } } })),
  });
export const reportQuery = (id: number) =>
  queryOptions({
    queryKey: keys.drop("report", id),
    queryFn: () => ask(api.GET("/api/campaigns/{id}/report", { params: { path: { id } } })),
  });

/** Why somebody leaves, as it is added by hand. */
export const leaveReasons: { reason: LeaveReason; label: string }[] = [
  { reason: "ByHand", label: "By hand" },
  { reason: "Responded", label: "Responded" },
  { reason: "Paid", label: "Paid" },
  { reason: "Undeliverable", label: "Returned as undeliverable" },
];

export const leaveNames: Record<LeaveReason, string> = {
  Responded: "Responded",
  Paid: "Paid",
  AskedNot: "Asked not to be mailed",
  Undeliverable: "Returned as undeliverable",
  Condition: "Condition no longer true",
  OffTheList: "Removed from the list",
  ByHand: "By hand",
};

export const left = (c: Campaign) => Object.values(c.left).reduce<number>((sum, n) => sum + (n ?? 0), 0);

/** Does something to a campaign and asks anew for what depends on it; what goes wrong is told. */
export async function change<T>(request: Promise<T>, done?: string, undo?: () => Promise<unknown>) {
  try {
    const answer = await request;
    if (done) say(done, undo ? { action: { label: "Undo", run: () => void change(undo()) } } : {});
    return { answer };
  } catch (e) {
    sayWrong(e);
    return null;
  } finally {
    void queryClient.invalidateQueries({ queryKey: keys.drop() });
  }
}

const path = (id: number) => ({ params: { path: { id } } });
export const leave = (id: number, recipients: number[], reason: LeaveReason, note: string | null, on: string | null) =>
  ask(api.POST("/api/campaigns/{id}/leave", { ...path(id), body: { campaignId: id, recipients, reason, note, on } }));
export const comeBack = (id: number, recipients: number[]) =>
  ask(api.POST("/api/campaigns/{id}/return", { ...path(id), body: { campaignId: id, recipients } }));

/** The plan of a step, as it is edited. */
export const planOf = (s: Step): StepPlan => ({
  name: s.name,
  designIds: s.designIds,
  timing: s.timing,
  who: s.who,
  segmentId: s.segmentId,
  condition: s.condition,
});

export const modeWords = { Drops: "", Together: "together", OneByOne: "one by one" } as const;
