import { api, ask, queryClient, type Schema } from "../api/client";
import { say, sayWrong } from "../ui/notices";

type Outcome = Schema["ActOutcome"];

async function told(dropId: number, request: Promise<Outcome>, undoable = true) {
  try {
    const outcome = await request;
    const text = `${outcome.label}.${outcome.skipped.length ? ` Left alone: ${outcome.skipped.join(" ")}` : ""}`;
    say(text, undoable ? { action: { label: "Undo", run: () => void undo(dropId) } } : {});
    return true;
  } catch (e) {
    sayWrong(e);
    return false;
  } finally {
    void queryClient.invalidateQueries({ queryKey: ["drop"] });
    void queryClient.invalidateQueries({ queryKey: ["lists"] });
  }
}

const path = (id: number) => ({ params: { path: { id } } });

export const hold = (dropId: number, recipients: number[], reason: string) => told(dropId, ask(api.POST("/api/drops/{id}/hold", { ...path(dropId), body: { recipients, reason } })));
export const release = (dropId: number, recipients: number[]) => told(dropId, ask(api.POST("/api/drops/{id}/release", { ...path(dropId), body: { recipients } })));
export const takeBack = (dropId: number, recipients: number[]) => told(dropId, ask(api.POST("/api/drops/{id}/take-back", { ...path(dropId), body: { recipients } })));
export const returned = (dropId: number, recipients: number[], reason: string, date: string) => told(dropId, ask(api.POST("/api/drops/{id}/returned", { ...path(dropId), body: { recipients, reason, date } })));
export const accept = (dropId: number, alike: string, recipient: number | null) => told(dropId, ask(api.POST("/api/drops/{id}/accept", { ...path(dropId), body: { alike, recipient } })));
export const reopen = (dropId: number, recipient: number, key: string) => told(dropId, ask(api.POST("/api/drops/{id}/reopen", { ...path(dropId), body: { recipient, key } })));
export const undo = (dropId: number) => told(dropId, ask(api.POST("/api/drops/{id}/undo", path(dropId))), false);
export const correct = (dropId: number, recipientId: number, columnId: number, value: string) =>
  told(dropId, ask(api.PUT("/api/drops/{id}/recipients/{recipientId}/values/{columnId}", { params: { path: { id: dropId, recipientId, columnId } }, body: { value } })));
export const markMailed = (dropId: number, runId: number, date: string, pieces: string | null) => told(dropId, ask(api.POST("/api/runs/{id}/mailed", { ...path(runId), body: { date, pieces } })));
export const takeRunBack = (dropId: number, runId: number) => told(dropId, ask(api.POST("/api/runs/{id}/take-back", path(runId))));
