import { queryClient, type Schema } from "./client";

type Job = Schema["JobRow"];
const listeners = new Set<(job: Job) => void>();

/** Work that follows by itself from what somebody did: it is shown where it belongs, without notices. */
export const isQuiet = (kind: string) => ["check", "listcheck", "compute", "twins"].includes(kind);

/** Calls back for every step of long work. */
export function onJob(listener: (job: Job) => void) {
  listeners.add(listener);
  return () => void listeners.delete(listener);
}

/** Listens to what the server says has changed and has it asked for anew. */
export function listen() {
  const source = new EventSource("/api/events");
  source.addEventListener("job", (e) => {
    const job = JSON.parse(e.data) as Job;
    if (!isQuiet(job.kind) || job.state !== "running") void queryClient.invalidateQueries({ queryKey: ["jobs"] });
    for (const listener of listeners) listener(job);
    if (job.state !== "running" && job.state !== "queued") void queryClient.invalidateQueries({ queryKey: [["check", "run"].includes(job.kind) ? "drop" : "lists"] });
  });
  source.addEventListener("drop", () => void queryClient.invalidateQueries({ queryKey: ["drop"] }));
  source.addEventListener("suppression", () => void queryClient.invalidateQueries({ queryKey: ["suppressions"] }));
  source.addEventListener("list", () => void queryClient.invalidateQueries({ queryKey: ["lists"] }));
  source.addEventListener("design", () => {
    void queryClient.invalidateQueries({ queryKey: ["designs"] });
    void queryClient.invalidateQueries({ queryKey: ["drop"] });
  });
  // After a break everything may have changed.
  source.onopen = () => void queryClient.invalidateQueries();
  return () => source.close();
}
