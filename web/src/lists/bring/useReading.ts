import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { api, ask, type Schema } from "../../api/client";
import { jobQuery } from "../../api/queries";
import type { ChosenColumn } from "../columns";
import type { Upload } from "./FileDrop";

export type Options = Schema["SourceOptions"];

const open: Options = { sheet: null, headingRow: null, encoding: null, delimiter: null, headingSpan: null, query: null };

/** An upload as it would be read, the options to read it otherwise, and what is chosen of its columns. */
export function useReading(upload: Upload) {
  const [options, setOptions] = useState<Options>(open);
  const [chosen, setChosen] = useState<ChosenColumn[]>([]);
  const look = useQuery({
    queryKey: ["look", upload.id, options],
    queryFn: () => ask(api.POST("/api/uploads/{id}/look", { params: { path: { id: upload.id } }, body: options })),
    placeholderData: (previous) => previous,
    staleTime: Infinity,
  });
  const read = look.data;
  useEffect(() => {
    if (read) setChosen(read.columns.map((c, position) => ({ ...c, position, include: true, divide: false })));
  }, [read]);
  const problem = read?.problem ?? (look.error instanceof Error ? look.error.message : null);
  const body = read && {
    options: { sheet: read.sheet, headingRow: read.headingRow, encoding: read.encoding, delimiter: read.delimiter, headingSpan: read.headingSpan, query: read.query },
    width: read.columns.length,
    columns: chosen.filter((c) => c.include).map((c) => ({ position: c.position, name: c.name, type: c.type, dateOrder: c.dateOrder, role: c.role, divide: c.divide })),
  };
  return { read, options, setOptions, chosen, setChosen, problem, body, busy: look.isFetching };
}

/** Waits for long work that was begun here. */
export function useWaiting(onDone: (message: string | null) => void, onFailed: (message: string) => void) {
  const [waiting, setWaiting] = useState<number | null>(null);
  // Asked for again and again, and not only told by events: the work may end before anybody listens.
  const job = useQuery({ ...jobQuery(waiting ?? 0), enabled: waiting !== null, refetchInterval: 300 }).data;
  useEffect(() => {
    if (!job || job.id !== waiting) return;
    if (job.state === "done") onDone(job.message);
    if (job.state === "failed") onFailed(job.message ?? "It did not work.");
    if (job.state !== "queued" && job.state !== "running") setWaiting(null);
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [job, waiting]);
  return { waiting: waiting !== null, done: waiting === null ? 0 : (job?.done ?? 0), wait: setWaiting };
}
