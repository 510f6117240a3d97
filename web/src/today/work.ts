import { queryOptions } from "@tanstack/react-query";
import { api, ask, type Schema } from "../api/client";
import { change } from "../campaigns/campaigns";
import { keys } from "../api/keys";

export type Work = Schema["WorkRow"];
export type WorkToday = Schema["WorkToday"];

export const workQuery = () => queryOptions({ queryKey: keys.drop("work"), queryFn: () => ask(api.GET("/api/work")) });

export const groupNames = { Overdue: "Overdue", Today: "Today", ThisWeek: "This week", Later: "Later" } as const;

/** What the button of a piece of work says. */
export const workActs: Record<Work["kind"], string> = {
  SettleDoubts: "Decide",
  ResumeRun: "Open",
  PullPieces: "Pulled",
  MarkMailed: "Mark mailed…",
  Review: "Review",
  SignOff: "Open",
  Produce: "Produce…",
  Planned: "Open",
};

export const workColors: Record<Work["kind"], string> = {
  SettleDoubts: "bg-error",
  ResumeRun: "bg-warning",
  PullPieces: "bg-info",
  MarkMailed: "bg-secondary",
  Review: "bg-warning",
  SignOff: "bg-accent",
  Produce: "bg-success",
  Planned: "bg-base-300",
};

const blank = { assign: false, to: null, postpone: false, until: null, reason: null, done: false, as: null };
const mark = (key: string, some: Partial<Schema["WorkMark"]>) => ask(api.POST("/api/work/mark", { body: { ...blank, key, ...some } }));

export const assign = (w: Work, to: string | null) => change(mark(w.key, { assign: true, to }));
export const postpone = (w: Work, until: string | null, reason: string | null) =>
  change(mark(w.key, { postpone: true, until, reason }), until ? `Postponed: ${w.title}.` : undefined, () =>
    mark(w.key, { postpone: true, until: w.postponedUntil, reason: w.reason }),
  );
export const finish = (w: Work) =>
  change(mark(w.key, { done: true, as: w.as }), `Done: ${w.title}.`, () => mark(w.key, { done: true, as: null }));

/** Pieces that were pulled are kept out of the mailing, so that they are not marked with the others. */
export const pull = (w: Work) =>
  change(ask(api.POST("/api/drops/{id}/pull", { params: { path: { id: w.dropId } } })), `Pulled: ${w.title.replace(/^Pull /, "")}.`, () =>
    ask(api.POST("/api/drops/{id}/undo", { params: { path: { id: w.dropId } } })),
  );
