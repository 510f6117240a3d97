import { useQuery } from "@tanstack/react-query";
import { X } from "lucide-react";
import { useEffect, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { api, ask, type Schema } from "../api/client";
import { isQuiet, onJob } from "../api/events";
import { jobsQuery, runsQuery } from "../api/queries";
import { queryClient } from "../api/client";
import { CancelRun } from "../drop/CancelRun";
import { say, sayWrong } from "../ui/notices";
import { count } from "../ui/words";

type Job = Schema["JobRow"];

/** Where a job's outcome is to be seen; and whether it waits for somebody there. */
async function whereTo(job: Job): Promise<{ to: string | null; waits?: boolean }> {
  const to = (path: string | null) => ({ to: path });
  if (job.kind === "import" && job.state === "done" && job.message)
    return to(`/lists/${(JSON.parse(job.message) as { listId: number }).listId}`);
  if (job.kind === "reload" && job.state === "done") return to(`/lists/${job.subjectId}/reload`);
  if (job.kind === "details" && job.state === "done") return to(`/lists/${job.subjectId}?pane=rows`);
  if (job.kind === "suppress") return to(`/suppressions/${job.subjectId}`);
  if (["run", "print", "send", "remake"].includes(job.kind)) {
    const run = await ask(api.GET("/api/runs/{id}", { params: { path: { id: job.subjectId } } }));
    void queryClient.invalidateQueries({ queryKey: runsQuery(run.dropId).queryKey });
    return run.state === "paused" ? { to: `/drops/${run.dropId}/produce/${run.id}`, waits: true } : to(`/drops/${run.dropId}/produce`);
  }
  return to(null);
}

/** Long work that goes on, wherever one is, and the notice when it is done. */
export function JobStrip() {
  const navigate = useNavigate();
  const known = useQuery(jobsQuery()).data ?? [];
  const [live, setLive] = useState<Record<number, Job>>({});
  const told = useRef(new Set<number>());
  useEffect(
    () =>
      onJob((job) => {
        setLive((all) => ({ ...all, [job.id]: job }));
        if (job.state === "queued" || job.state === "running" || told.current.has(job.id)) return;
        told.current.add(job.id);
        if (job.state === "failed") say(`${job.label} failed: ${job.message ?? ""}`, { wrong: true });
        else if (!isQuiet(job.kind) && job.state === "cancelled") say(`${job.label} was canceled.`);
        else if (!isQuiet(job.kind))
          void whereTo(job).then(
            ({ to, waits }) =>
              to?.split("?")[0] !== window.location.pathname &&
              say(
                waits ? `${job.label} is paused and waits for you.` : `${job.label} is done.`,
                to ? { action: { label: "Show", run: () => void navigate(to) } } : {},
              ),
            sayWrong,
          );
      }),
    [navigate],
  );
  const going = known.map((job) => live[job.id] ?? job).filter((job) => job.state === "running" || job.state === "queued");
  const shown = going.filter((job) => !isQuiet(job.kind) || job.total > 5000);
  if (shown.length === 0) return null;
  return (
    <section aria-label="Tasks in progress" className="flex shrink-0 flex-col border-t border-line bg-base-200">
      {shown.map((job) => (
        <JobLine key={job.id} job={job} />
      ))}
    </section>
  );
}

function JobLine({ job }: { job: Job }) {
  const rate = useRate(job);
  const [asking, setAsking] = useState(false);
  // A run may have sent or printed already: what canceling leaves behind is said before.
  const isRun = ["run", "print", "send"].includes(job.kind);
  return (
    <div className="flex h-9 items-center gap-3 px-4">
      <span className="font-semibold">{job.label}</span>
      <progress
        className="progress progress-primary w-56"
        value={job.total ? job.done : undefined}
        max={job.total || undefined}
        aria-label={job.label}
      />
      <span className="text-faint">
        {job.state === "queued"
          ? "Waiting…"
          : `${count(job.done)}${job.total ? ` of ${count(job.total)}` : ""}${rate > 0 ? ` · ${count(Math.round(rate))} a second` : ""}`}
      </span>
      {!isQuiet(job.kind) && (
        <button
          className="btn btn-quiet btn-xs ml-auto"
          onClick={() =>
            isRun ? setAsking(true) : void ask(api.POST("/api/jobs/{id}/cancel", { params: { path: { id: job.id } } })).catch(sayWrong)
          }
        >
          <X size={13} /> Cancel{isRun ? "…" : ""}
        </button>
      )}
      {asking && <CancelRun runId={job.subjectId} close={() => setAsking(false)} />}
    </div>
  );
}

/** How fast a job goes, in its own units a second. */
export function useRate(job: Job | undefined) {
  const seen = useRef<{ id: number; at: number; done: number } | null>(null);
  const [rate, setRate] = useState(0);
  const id = job?.id;
  const done = job?.done;
  useEffect(() => {
    if (id === undefined || done === undefined) return;
    const now = performance.now();
    if (seen.current?.id !== id || done < seen.current.done) seen.current = { id, at: now, done };
    else if (now - seen.current.at > 400) setRate((done - seen.current.done) / ((now - seen.current.at) / 1000));
  }, [id, done]);
  return rate;
}
