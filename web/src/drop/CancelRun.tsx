import { useQuery } from "@tanstack/react-query";
import type { Schema } from "../api/client";
import { Dialog } from "../ui/Dialog";
import { count, many } from "../ui/words";
import { cancelRun } from "./acts";
import { runDetailQuery } from "./runs";

/** Asks before a run is canceled, and says what is under way: canceling makes nothing undone that is out already. */
export function CancelRun({ runId, close }: { runId: number; close: () => void }) {
  const detail = useQuery({ ...runDetailQuery(runId), refetchInterval: 1000 }).data;
  return (
    <Dialog title={`Cancel run ${detail?.run.number ?? ""}?`} onClose={close}>
      {!detail ? (
        <p className="text-faint">…</p>
      ) : (
        <ul className="mb-3 list-disc pl-5" aria-label="Work in progress">
          {underWay(detail).map((line) => (
            <li key={line}>{line}</li>
          ))}
        </ul>
      )}
      <div className="flex justify-end gap-2">
        <button className="btn btn-quiet" onClick={close} autoFocus>
          Keep the run
        </button>
        <button className="btn btn-primary" disabled={!detail} onClick={() => void cancelRun(runId).then(close)}>
          Cancel run {detail?.run.number ?? ""}
        </button>
      </div>
    </Dialog>
  );
}

/** What of a run is out, under way, in doubt, and still to come, a sentence each. */
export function underWay({ run, mails, batches }: Schema["RunDetail"]): string[] {
  if (mails)
    return [
      mails.sent
        ? `${many(mails.sent, "message has", "messages have")} been sent and ${mails.sent === 1 ? "stays" : "stay"} in the ledger.`
        : "No message has been sent.",
      mails.handing ? `${many(mails.handing, "message is", "messages are")} being sent right now and may still arrive.` : "",
      mails.doubt
        ? `${many(mails.doubt, "message is", "messages are")} in doubt and ${mails.doubt === 1 ? "stays" : "stay"} in doubt until you settle ${mails.doubt === 1 ? "it" : "them"}.`
        : "",
      mails.waiting + mails.later
        ? `${many(mails.waiting + mails.later, "message")} will not be sent; the recipients are Ready again.`
        : "",
    ].filter(Boolean);
  const doubt = batches.filter((b) => b.state === "doubt" || b.state === "handing");
  const printing = batches.filter((b) => b.state === "printing");
  return [
    run.output === "print"
      ? `${count(run.printed)} of ${many(run.pieces, "piece")} ${run.printed === 1 ? "is" : "are"} printed and ${run.printed === 1 ? "stays" : "stay"} produced.`
      : "No file of this run is kept.",
    printing.length
      ? `${many(printing.length, "batch is", "batches are")} at the printer: sheets that are out already stay out, the rest is given up.`
      : "",
    doubt.length
      ? `${many(doubt.length, "batch may have been printed", "batches may have been printed")}; ${doubt.length === 1 ? "it stays" : "they stay"} in doubt until you settle ${doubt.length === 1 ? "it" : "them"}.`
      : "",
    run.pieces > run.printed ? `${many(run.pieces - run.printed, "piece")} will not be produced; the recipients are Ready again.` : "",
  ].filter(Boolean);
}
