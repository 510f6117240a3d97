import { useQuery } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { settingsQuery } from "../../api/queries";
import { Header } from "../../ui/Header";
import { size } from "../../ui/words";
import { FirstRows } from "../FirstRows";
import type { Upload } from "./FileDrop";
import { ReadingOptions } from "./ReadingOptions";
import type { useReading } from "./useReading";

interface Props {
  kind: ReactNode;
  upload: Upload;
  reading: ReturnType<typeof useReading>;
  wrong: string | null;
  /** What is asked beside how the file is read. */
  aside: ReactNode;
  actions: ReactNode;
}

/** A file's first rows as they would be read, and how it is read; nothing is stored yet. */
export function Reading({ kind, upload, reading, wrong, aside, actions }: Props) {
  const { read, options, setOptions, chosen, setChosen } = reading;
  const formats = useQuery(settingsQuery()).data?.listFormats;
  const problem = wrong ?? reading.problem;
  const question = problem ? null : reading.question;
  return (
    <>
      <Header
        kind={kind}
        title={upload.name}
        state={`${size(upload.size)}${read ? ` · ${formats?.find((f) => f.kind === read.kind)?.word ?? read.kind}` : ""}`}
      >
        {actions}
      </Header>
      <div className="flex min-h-0 flex-1">
        <aside className="flex w-60 shrink-0 flex-col gap-3 overflow-auto border-r border-line p-4">
          {aside}
          {read && <ReadingOptions key={read.kind} read={read} options={options} onOptions={setOptions} />}
        </aside>
        <div className="flex min-w-0 flex-1 flex-col">
          {problem && (
            <p role="alert" className="m-4 rounded-box border-l-4 border-error bg-error/10 px-4 py-3">
              {problem}
            </p>
          )}
          {question && (
            <p className="m-4 flex items-center gap-3 rounded-box border-l-4 border-warning bg-doubt px-4 py-3">
              <span className="flex-1">{question}</span>
              {read && read.readings.length === 0 && (
                <button
                  type="button"
                  className="btn btn-quiet btn-sm"
                  onClick={() => document.querySelector("[data-open]")?.scrollIntoView({ inline: "center", block: "nearest" })}
                >
                  Show the column
                </button>
              )}
            </p>
          )}
          {read && read.firstRows.length > 0 && (
            <FirstRows
              look={read}
              chosen={chosen}
              onChosen={setChosen}
              onHeadingRow={(row) => !read.namesItsColumns && setOptions({ ...options, headingRow: row, headingSpan: null })}
            />
          )}
          {!read && !problem && <p className="p-6 text-faint">Reading the first rows…</p>}
        </div>
      </div>
    </>
  );
}
