import { api, ask, queryClient, type Schema } from "../api/client";
import { say, sayWrong } from "../ui/notices";
import { keys } from "../api/keys";

type Outcome = Schema["ActOutcome"];

async function told(dropId: number, request: Promise<Outcome>, undoable = true) {
  try {
    const outcome = await request;
    const text = `${outcome.label}.${outcome.skipped.length ? ` Skipped: ${outcome.skipped.join(" ")}` : ""}`;
    say(text, undoable ? { action: { label: "Undo", run: () => void undo(dropId) } } : {});
    return true;
  } catch (e) {
    sayWrong(e);
    return false;
  } finally {
    void queryClient.invalidateQueries({ queryKey: keys.drop() });
    void queryClient.invalidateQueries({ queryKey: keys.lists() });
  }
}

const path = (id: number) => ({ params: { path: { id } } });

export const hold = (dropId: number, recipients: number[], reason: string) =>
  told(dropId, ask(api.POST("/api/drops/{id}/hold", { ...path(dropId), body: { recipients, reason } })));
export const release = (dropId: number, recipients: number[]) =>
  told(dropId, ask(api.POST("/api/drops/{id}/release", { ...path(dropId), body: { recipients } })));
export const takeBack = (dropId: number, recipients: number[], reason: string) =>
  told(dropId, ask(api.POST("/api/drops/{id}/take-back", { ...path(dropId), body: { recipients, reason } })));
export const returned = (dropId: number, recipients: number[], reason: string, date: string) =>
  told(dropId, ask(api.POST("/api/drops/{id}/returned", { ...path(dropId), body: { recipients, reason, date } })));
/** Chooses how recipients' pieces go out; null for what the drop's rule says. */
export const goBy = (dropId: number, recipients: number[], channel: "Paper" | "Email" | "Both" | null) =>
  told(dropId, ask(api.POST("/api/drops/{id}/go-by", { ...path(dropId), body: { recipients, channel } })));
export const accept = (dropId: number, alike: string, recipient: number | null) =>
  told(dropId, ask(api.POST("/api/drops/{id}/accept", { ...path(dropId), body: { alike, recipient } })));
export const reopen = (dropId: number, recipient: number, key: string) =>
  told(dropId, ask(api.POST("/api/drops/{id}/reopen", { ...path(dropId), body: { recipient, key } })));
export const undo = (dropId: number) => told(dropId, ask(api.POST("/api/drops/{id}/undo", path(dropId))), false);
/** Corrects a value; where it is another by now than the one that was seen, nothing is written over. */
export const correct = (dropId: number, recipientId: number, columnId: number, value: string, was: string | null) =>
  told(
    dropId,
    ask(
      api.PUT("/api/drops/{id}/recipients/{recipientId}/values/{columnId}", {
        params: { path: { id: dropId, recipientId, columnId } },
        body: { value, was: { value: was } },
      }),
    ),
  );
/** Gives a column one value for several recipients, as an act of the drop. */
export const setForAll = (dropId: number, listId: number, columnId: number, recipients: number[], value: string) =>
  told(dropId, ask(api.POST("/api/lists/{id}/set", { ...path(listId), body: { columnId, recipients, value, dropId } })));
export const markMailed = (
  dropId: number,
  runId: number,
  mailing: { date: string; pieces?: string | null; upTo?: number | null; without?: string | null },
) =>
  told(dropId, ask(api.POST("/api/runs/{id}/mailed", { ...path(runId), body: { pieces: null, upTo: null, without: null, ...mailing } })));
export const unmarkMailed = (dropId: number, runId: number, reason: string, pieces: string | null) =>
  told(dropId, ask(api.POST("/api/runs/{id}/mailed/undo", { ...path(runId), body: { reason, pieces } })));
export const takeRunBack = (dropId: number, runId: number, reason: string) =>
  told(dropId, ask(api.POST("/api/runs/{id}/take-back", { ...path(runId), body: { reason } })));
/** Why pieces usually go back. */
export const backReasons = ["smeared", "torn", "wrong paper", "wrong version", "corrected since"];

/** Does something that is not taken back with U; what goes wrong is told. */
export async function did(request: Promise<unknown>) {
  try {
    await request;
    return true;
  } catch (e) {
    sayWrong(e);
    return false;
  } finally {
    void queryClient.invalidateQueries({ queryKey: keys.drop() });
    void queryClient.invalidateQueries({ queryKey: keys.jobs() });
  }
}

export const pauseRun = (id: number) => did(ask(api.POST("/api/runs/{id}/pause", path(id))));
export const resumeRun = (id: number, from: number | null) => did(ask(api.POST("/api/runs/{id}/resume", { ...path(id), body: { from } })));
export const cancelRun = (id: number) => did(ask(api.POST("/api/runs/{id}/cancel", path(id))));
export const settleBatch = (id: number, batch: number, printed: boolean) =>
  did(ask(api.POST("/api/runs/{id}/settle", { ...path(id), body: { batch, printed } })));
export const settleMail = (id: number, recipientId: number, sent: boolean) =>
  did(ask(api.POST("/api/runs/{id}/settle-mail", { ...path(id), body: { recipientId, sent } })));
export const settleReports = (dropId: number, ids: number[], suppress: boolean) =>
  did(ask(api.POST("/api/drops/{id}/mail-reports/settle", { ...path(dropId), body: { ids, suppress } })));
/** Checks a drop’s pieces again, where the check has stopped. */
export const checkAgain = (id: number) => did(ask(api.POST("/api/drops/{id}/check", path(id))));
export const remake = (id: number) => did(ask(api.POST("/api/runs/{id}/remake", path(id))));
