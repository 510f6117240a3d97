import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { api, ask, type Schema } from "../api/client";
import { builtIns } from "../designs/FieldsPane";
import { Count } from "../designs/nodes/BracketNodes";
import { many } from "../ui/words";
import type { Answer, Placeholder } from "./useDocument";
import { keys } from "../api/keys";

const sorts: Record<Placeholder["sort"], string> = {
  Typed: "typed",
  Code: "field code",
  Condition: "condition",
  Sample: "sample text?",
};

/** A heading as the field language takes it; what the server suggests is written the same way. */
const plainWords = /^[\p{L}][\p{L}\p{N} ]*$/u;
const quoted = (heading: string) => (plainWords.test(heading) ? heading : `\`${heading.replaceAll("`", "")}\``);

interface Props {
  placeholders: Placeholder[];
  columns: Schema["Column"][];
  sets: Schema["DetailView"][];
  listId: number | null;
  onAnswer: (key: string, answer: Answer) => void;
  /** Leads to a place in the letter. */
  onPlace: (block: number | null) => void;
}

/** Each placeholder of the document beside what it becomes. */
export function PlaceholderTable({ placeholders, columns, sets, listId, onAnswer, onPlace }: Props) {
  const fields = useMemo(
    () =>
      placeholders
        .filter((p) => p.answer?.kind === "Field" && !p.isRows && p.sort !== "Condition")
        .map((p) => ({ key: p.key, source: (p.answer?.value ?? "") + (p.answer?.value.includes("|") ? "" : p.format), within: p.within })),
    [placeholders],
  );
  const asked = useMemo(() => fields.slice(0, 500), [fields]);
  const printed = useQuery({
    queryKey: keys.printed(0, listId, 0, asked),
    queryFn: () =>
      ask(
        api.POST("/api/designs/print", {
          body: { designId: 0, listId, offset: 0, fields: asked.map(({ source, within }) => ({ source, within })) },
        }),
      ),
    enabled: asked.length > 0 && listId !== null,
    placeholderData: keepPreviousData,
    gcTime: 10_000,
  }).data;
  const unsettled = placeholders.filter((x) => x.answer === null).map((x) => `\`${x.name}\``);
  const examples = new Map(asked.map((f, i) => [f.key, printed?.[i]]));
  return (
    <table className="w-full table-fixed" aria-label="Placeholders">
      <thead>
        <tr className="border-b border-line text-left text-[12px] text-faint">
          <th className="w-[48%] px-2 py-1.5 font-normal">In the file</th>
          <th className="px-2 py-1.5 font-normal">Field</th>
        </tr>
      </thead>
      <tbody>
        {placeholders.map((p) => (
          <tr key={p.key} className="border-b border-line align-top" data-key={p.key}>
            <td className="px-2 py-2">
              <button
                className="block max-w-full cursor-pointer text-left hover:underline"
                title={p.written}
                onClick={() => onPlace(p.block ?? null)}
              >
                <span className="line-clamp-3 font-mono text-[12px] break-words">{p.written}</span>
                <span className="text-[12px] text-faint">
                  {p.sort === "Sample" ? sorts.Sample : `${many(p.places, "place", "places")}, ${sorts[p.sort]}`}
                  {p.within && `, row of ${p.within}`}
                </span>
              </button>
            </td>
            <td className="px-2 py-2">
              {p.sort === "Condition" ? (
                <span className="break-words">
                  when {p.answer?.value}
                  <span className="block text-[12px] text-faint">
                    {!unsettled.some((name) => p.answer?.value.includes(name)) && <Count test={p.answer?.value ?? ""} />}
                  </span>
                </span>
              ) : (
                <Choice of={p} columns={columns} sets={sets} onAnswer={(a) => onAnswer(p.key, a)} />
              )}
              {examples.get(p.key) && (
                <span className={`block truncate text-[12px] ${examples.get(p.key)?.wrong ? "text-error" : "text-faint"}`}>
                  {examples.get(p.key)?.wrong ?? (examples.get(p.key)?.text.replaceAll("\n", ", ") || "blank for the first recipient")}
                </span>
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** What a placeholder becomes: a column, something the letter knows by itself, an expression, a text, or nothing. */
function Choice({
  of: p,
  columns,
  sets,
  onAnswer,
}: {
  of: Placeholder;
  columns: Schema["Column"][];
  sets: Schema["DetailView"][];
  onAnswer: (answer: Answer) => void;
}) {
  const [writing, setWriting] = useState<"Text" | "Field" | null>(null);
  const rows = sets.find((s) => s.name.toLowerCase() === p.within?.toLowerCase());
  const known = [
    ...(p.isRows ? sets.map((s) => s.name) : []),
    ...(rows?.columns ?? []).map((c) => quoted(c.name)),
    ...(p.isRows ? [] : columns.map((c) => quoted(c.name))),
    ...(p.isRows ? [] : [...builtIns.map((b) => b.name), "Today | date long"]),
  ];
  const value = p.answer?.kind === "Field" ? `=${p.answer.value}` : (p.answer?.kind ?? "");
  const own = p.answer?.kind === "Field" && !known.includes(p.answer.value);
  return (
    <>
      <select
        className={`select select-sm w-full ${p.answer === null ? "border-doubt-ink bg-doubt text-doubt-ink" : ""}`}
        aria-label={`Field for ${p.written}`}
        value={writing ? `write ${writing}` : value}
        onChange={(e) => {
          const chosen = e.target.value;
          if (chosen === "write Text" || chosen === "write Field") return setWriting(chosen === "write Text" ? "Text" : "Field");
          setWriting(null);
          if (chosen.startsWith("=")) onAnswer({ kind: "Field", value: chosen.slice(1) });
          else onAnswer({ kind: chosen as Answer["kind"], value: "" });
        }}
      >
        {p.answer === null && <option value="">Choose…</option>}
        {p.sort === "Sample" && <option value="Keep">Keep as text</option>}
        {p.sort === "Sample" && <option value={`=${p.name}`}>{p.name}</option>}
        {own && p.sort !== "Sample" && <option value={value}>{p.answer?.value}</option>}
        {p.sort !== "Sample" && p.isRows && (
          <optgroup label="Detail rows">
            {sets.map((s) => (
              <option key={s.id} value={`=${s.name}`}>
                {s.name}
              </option>
            ))}
          </optgroup>
        )}
        {p.sort !== "Sample" && !p.isRows && (
          <>
            {rows && (
              <optgroup label={`Rows of ${rows.name}`}>
                {rows.columns.map((c) => (
                  <option key={c.id} value={`=${quoted(c.name)}`}>
                    {c.name}
                  </option>
                ))}
              </optgroup>
            )}
            {columns.length > 0 && (
              <optgroup label="Columns">
                {columns.map((c) => (
                  <option key={c.id} value={`=${quoted(c.name)}`}>
                    {c.name}
                  </option>
                ))}
              </optgroup>
            )}
            <optgroup label="Built-in fields">
              {builtIns.map((b) => (
                <option key={b.name} value={`=${b.name}`}>
                  {b.name}
                </option>
              ))}
              <option value="=Today | date long">Today, long</option>
            </optgroup>
            {p.answer?.kind === "Text" && <option value="Text">Fixed text: {p.answer.value}</option>}
            <option value="write Text">Fixed text…</option>
            <option value="write Field">Expression…</option>
          </>
        )}
        {p.sort !== "Sample" && <option value="Remove">Remove</option>}
      </select>
      {writing && (
        <Writing
          kind={writing}
          start={p.answer?.kind === writing ? p.answer.value : ""}
          done={(text) => {
            setWriting(null);
            if (text !== null) onAnswer({ kind: writing, value: text });
          }}
        />
      )}
    </>
  );
}

function Writing({ kind, start, done }: { kind: "Text" | "Field"; start: string; done: (text: string | null) => void }) {
  const [text, setText] = useState(start);
  return (
    <form
      className="mt-1 flex gap-1"
      onSubmit={(e) => {
        e.preventDefault();
        done(kind === "Field" && !text.trim() ? null : text);
      }}
    >
      <input
        className="input input-sm min-w-0 flex-1"
        autoFocus
        aria-label={kind === "Text" ? "Text" : "Expression"}
        placeholder={kind === "Text" ? "Marisol Quint" : "Amount due * 1.05 | money"}
        value={text}
        maxLength={kind === "Text" ? 1000 : 4000}
        onChange={(e) => setText(e.target.value)}
        onKeyDown={(e) => e.key === "Escape" && done(null)}
      />
      <button className="btn btn-primary btn-sm">Apply</button>
    </form>
  );
}
