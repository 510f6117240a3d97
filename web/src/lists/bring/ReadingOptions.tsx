import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Schema } from "../../api/client";
import { settingsQuery } from "../../api/queries";
import type { Options } from "./useReading";

/** How a file is read: sheet, encoding, divider, headings; and what was found in it. */
export function ReadingOptions({
  read,
  options,
  onOptions,
}: {
  read: Schema["SourceLook"];
  options: Options;
  onOptions: (options: Options) => void;
}) {
  const known = useQuery(settingsQuery()).data;
  const [query, setQuery] = useState(read.query ?? "");
  const select = "select select-sm w-full";
  return (
    <>
      {read.sheets.length > (read.kind === "database" ? 0 : 1) && (
        <label className="block">
          <span className="mb-1 block font-semibold">{known?.listFormats.find((f) => f.kind === read.kind)?.part ?? "Part"}</span>
          <select
            className={select}
            value={read.sheet ?? ""}
            disabled={read.query !== null}
            onChange={(e) => onOptions({ ...options, sheet: e.target.value, headingRow: null, headingSpan: null })}
          >
            {read.sheets.map((s) => (
              <option key={s.name} value={s.name}>
                {s.name}
                {s.hidden ? " (hidden)" : ""}
              </option>
            ))}
          </select>
        </label>
      )}
      {read.kind === "database" && (
        <form
          onSubmit={(e) => {
            e.preventDefault();
            onOptions({ ...options, query: query.trim() || null });
          }}
        >
          <label className="mb-1 block font-semibold" htmlFor="query">
            Or a SELECT query
          </label>
          <textarea
            id="query"
            className="textarea textarea-sm w-full font-mono text-[12px]"
            rows={4}
            placeholder={`SELECT * FROM ${read.sheet ?? "members"}`}
            value={query}
            onChange={(e) => setQuery(e.target.value)}
          />
          <button className="btn btn-quiet btn-sm mt-1">Run query</button>
        </form>
      )}
      {read.kind === "csv" && (
        <>
          {read.readings.length > 0 && (
            <fieldset className="rounded-box bg-doubt p-2 text-[12px]">
              <legend className="sr-only">Which reads right?</legend>
              <p className="mb-1 font-semibold">Which of these reads right?</p>
              {read.readings.map((r) => (
                <label key={r.encoding} className="flex cursor-pointer items-start gap-2 py-0.5">
                  <input
                    type="radio"
                    name="reading"
                    className="radio radio-xs mt-0.5"
                    checked={false}
                    onChange={() => onOptions({ ...options, encoding: r.encoding, headingRow: null })}
                  />
                  <span className="min-w-0 break-words">{r.sample}</span>
                </label>
              ))}
            </fieldset>
          )}
          <label className="block">
            <span className="mb-1 block font-semibold">Encoding</span>
            <select
              className={select}
              value={read.encoding ?? ""}
              onChange={(e) => onOptions({ ...options, encoding: e.target.value, headingRow: null })}
            >
              {known?.encodings.map((e) => (
                <option key={e}>{e}</option>
              ))}
            </select>
          </label>
          <label className="block">
            <span className="mb-1 block font-semibold">Delimiter</span>
            <select
              className={select}
              value={read.delimiter ?? ""}
              onChange={(e) => onOptions({ ...options, delimiter: e.target.value, headingRow: null })}
            >
              <option value=",">Comma</option>
              <option value=";">Semicolon</option>
              <option value={"\t"}>Tab</option>
              <option value="|">Vertical bar</option>
            </select>
          </label>
        </>
      )}
      {!read.namesItsColumns && (
        <div>
          <span className="mb-1 block font-semibold">Headings</span>
          <p className="mb-2 text-faint">
            {read.headingRow >= 0
              ? `In row ${read.firstRowNumbers[read.headingRow]}. Click another row to change it.`
              : "None found, so columns are numbered. If a row holds the headings, click it."}
          </p>
          <label className="flex items-center gap-2">
            <input
              type="checkbox"
              className="checkbox checkbox-sm"
              checked={(options.headingRow ?? read.headingRow) < 0}
              onChange={(e) => onOptions({ ...options, headingRow: e.target.checked ? -1 : null, headingSpan: null })}
            />
            No headings
          </label>
          {read.headingRow > 0 && (
            <label className="mt-1 flex items-center gap-2">
              <input
                type="checkbox"
                className="checkbox checkbox-sm"
                checked={read.headingSpan === 2}
                onChange={(e) => onOptions({ ...options, headingRow: read.headingRow, headingSpan: e.target.checked ? 2 : 1 })}
              />
              Headings span two rows
            </label>
          )}
        </div>
      )}
      {read.notes.length > 0 && (
        <div className="border-t border-line pt-3">
          <span className="mb-1 block font-semibold">Import notes</span>
          <ul className="flex flex-col gap-1.5 text-[12px] text-doubt-ink">
            {read.notes.map((n) => (
              <li key={n}>{n}</li>
            ))}
          </ul>
        </div>
      )}
    </>
  );
}
