import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { api, ask, type Schema } from "../../api/client";
import { jobQuery } from "../../api/queries";
import { isOpen, type ChosenColumn } from "../columns";
import type { Upload } from "./FileDrop";
import { keys } from "../../api/keys";

export type Options = Schema["SourceOptions"];

const unsaid: Options = { sheet: null, headingRow: null, encoding: null, delimiter: null, headingSpan: null, query: null };

/** An upload as it would be read, the options to read it otherwise, and what is chosen of its columns; for a list of recipients the server
 *  proposes which are split. */
export function useReading(upload: Upload, ofRecipients = false) {
  const [options, setOptions] = useState<Options>(unsaid);
  const [chosen, setChosen] = useState<ChosenColumn[]>([]);
  const look = useQuery({
    queryKey: keys.look(upload.id, options),
    queryFn: () => ask(api.POST("/api/uploads/{id}/look", { params: { path: { id: upload.id } }, body: options })),
    placeholderData: (previous) => previous,
    staleTime: Infinity,
  });
  const read = look.data;
  useEffect(() => {
    if (read)
      setChosen(read.columns.map((c, position) => ({ ...c, position, include: true, divide: ofRecipients && c.split, settled: false })));
  }, [read, ofRecipients]);
  const twice = chosen
    .filter((c) => c.include)
    .find((c, i, all) => all.findIndex((o) => o.name.trim().toLowerCase() === c.name.trim().toLowerCase()) !== i);
  const unnamed = chosen.find((c) => c.include && c.name.trim() === "");
  const problem =
    read?.problem ??
    (look.error instanceof Error ? look.error.message : null) ??
    (unnamed
      ? `Column ${unnamed.position + 1} needs a heading.`
      : twice
        ? `Two columns are called “${twice.name}”. Give one of them another heading.`
        : null);
  // What only a person can say: in which encoding the file is, how a column writes its dates or numbers.
  const open = chosen.filter(isOpen);
  const question =
    !read || read.problem
      ? null
      : read.readings.length > 0
        ? "Say which of the readings on the left is right."
        : open.length > 0
          ? `Say how ${open.map((c) => `“${c.name}”`).join(", ")} ${open.length === 1 ? "is" : "are"} written: the values can be read two ways.`
          : null;
  const body = read && {
    options: {
      sheet: read.sheet,
      headingRow: read.headingRow,
      encoding: read.encoding,
      delimiter: read.delimiter,
      headingSpan: read.headingSpan,
      query: read.query,
    },
    width: read.columns.length,
    columns: chosen
      .filter((c) => c.include)
      .map((c) => ({
        position: c.position,
        name: c.name.trim(),
        type: c.type,
        dateOrder: c.dateOrder,
        numberForm: c.numberForm,
        role: c.role,
        divide: c.divide,
        familyFirst: c.divide && c.familyFirst,
        format: c.type === "Number" ? c.format : null,
        time: c.time,
        keepTimes: c.type === "Date" && c.keepTimes,
      })),
  };
  return { read, options, setOptions, chosen, setChosen, problem, question, body, busy: look.isFetching };
}

/** Waits for long work that was begun here. */
export function useWaiting(onDone: (message: string | null) => void, onFailed: (message: string) => void) {
  const [waiting, setWaiting] = useState<number | null>(null);
  // Asked for again and again, and not only told by events: the work may end before anybody listens.
  const job = useQuery({ ...jobQuery(waiting ?? 0), enabled: waiting !== null, refetchInterval: 300 }).data;
  useEffect(() => {
    if (!job || job.id !== waiting) return;
    if (job.state === "done") onDone(job.message);
    if (job.state === "failed") onFailed(job.message ?? "The file could not be read.");
    if (job.state !== "queued" && job.state !== "running") setWaiting(null);
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [job, waiting]);
  return { waiting: waiting !== null, done: waiting === null ? 0 : (job?.done ?? 0), wait: setWaiting };
}
