import { useSyncExternalStore } from "react";
import { queryClient, type Schema } from "./client";
import { keys } from "./keys";

type Job = Schema["JobRow"];
const listeners = new Set<(job: Job) => void>();

/** Work that follows by itself from what somebody did: it is shown where it belongs, without notices. */
export const isQuiet = (kind: string) => ["check", "listcheck", "compute", "duplicates", "collect", "people"].includes(kind);

/** Calls back for every step of long work. */
export function onJob(listener: (job: Job) => void) {
  listeners.add(listener);
  return () => void listeners.delete(listener);
}

/**
 * Has answers asked for anew. One that is on its way for the first time may have been made before the change, and asking anew would
 * only join it; so it is asked for once more when it is here.
 */
export function refresh(queryKey?: readonly unknown[]) {
  const early = queryClient
    .getQueryCache()
    .findAll({ queryKey, predicate: (q) => q.state.data === undefined && q.state.fetchStatus === "fetching" });
  void queryClient.invalidateQueries({ queryKey });
  for (const query of early)
    void query
      .fetch()
      .catch(() => undefined)
      .then(() => queryClient.invalidateQueries({ queryKey: query.queryKey, exact: true }));
}

/** Listens to what the server says has changed and has it asked for anew. */
export function listen() {
  const source = new EventSource("/api/events");
  source.addEventListener("job", (e) => {
    const job = JSON.parse(e.data) as Job;
    if (!isQuiet(job.kind) || job.state !== "running") refresh(keys.jobs());
    for (const listener of listeners) listener(job);
    if (job.state !== "running" && job.state !== "queued")
      refresh(["check", "run", "print", "send", "remake", "collect"].includes(job.kind) ? keys.drop() : keys.lists());
  });
  source.addEventListener("drop", () => refresh(keys.drop()));
  source.addEventListener("printer", () => refresh(keys.printers()));
  source.addEventListener("accounts", () => refresh(keys.accounts()));
  source.addEventListener("post-office", () => refresh(keys.postOffice()));
  source.addEventListener("suppression", () => refresh(keys.suppressions()));
  source.addEventListener("list", () => refresh(keys.lists()));
  source.addEventListener("design", () => {
    refresh(keys.designs());
    refresh(keys.drop());
  });
  // After a break everything may have changed.
  source.onopen = () => {
    setAway(false);
    refresh();
  };
  source.onerror = () => setAway(true);
  return () => source.close();
}

let away = false;
const watchers = new Set<() => void>();

function setAway(now: boolean) {
  if (away === now) return;
  away = now;
  for (const watcher of watchers) watcher();
}

/** Whether the connection to the server is lost: what is on the screen may be out of date. */
export const useAway = () =>
  useSyncExternalStore(
    (watcher) => (watchers.add(watcher), () => void watchers.delete(watcher)),
    () => away,
  );
