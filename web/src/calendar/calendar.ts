import { keepPreviousData, queryOptions } from "@tanstack/react-query";
import { api, ask, type Schema } from "../api/client";
import { change } from "../campaigns/campaigns";
import { writtenDay } from "../ui/customs";
import { keys } from "../api/keys";

export type MailDay = Schema["MailDay"];

export const calendarQuery = (from: string, to: string) =>
  queryOptions({
    queryKey: keys.drop("calendar", from, to),
    queryFn: () => ask(api.GET("/api/calendar", { params: { query: { from, to } } })),
    placeholderData: keepPreviousData,
  });

/** Mails something on another day. What depends on it follows. */
export const move = (d: MailDay, on: string) => {
  const to = (date: string) =>
    d.stepId !== null
      ? ask(
          api.POST("/api/campaigns/{id}/steps/{stepId}/move", {
            params: { path: { id: d.campaignId, stepId: d.stepId } },
            body: { campaignId: d.campaignId, stepId: d.stepId, mailOn: date },
          }),
        )
      : ask(
          api.PATCH("/api/drops/{id}", {
            params: { path: { id: d.dropId ?? 0 } },
            body: { name: null, mailDate: date, needsSignOff: null, noMailDate: false },
          }),
        );
  return change<unknown>(to(on), `${d.name} moves to ${writtenDay(on, { month: "long", day: "numeric" })}.`, () => to(d.on));
};
