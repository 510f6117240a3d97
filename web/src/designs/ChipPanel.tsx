import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { X } from "lucide-react";
import { useEffect, useState, type ReactNode } from "react";
import { api, ask, type Schema } from "../api/client";
import { many } from "../ui/words";
import { readField, writeField } from "./fieldSource";
import { ConditionButton } from "./ConditionButton";
import { keys } from "../api/keys";

/** The formats that are offered for a kind of value; what each prints is asked of the server. */
const formatsOf: Record<Schema["ColumnType"], string[]> = {
  Number: ["", "money", "money 0", "money code", "number", "number 2", "percent", "words", "ordinal"],
  Date: ["", "date long", "date short", 'date "EEEE, MMMM d"', 'date "MMMM yyyy"', 'date "d MMMM yyyy"'],
  Text: ["", "upper", "lower", "title", "phone"],
  YesNo: [""],
};

interface Props {
  source: string;
  within: string | null;
  columns: Schema["Column"][];
  sets: Schema["DetailView"][];
  listId: number | null;
  designId: number;
  offset: number;
  mistake: ReactNode;
  onChange: (source: string) => void;
  onRemove: () => void;
}

/**
 * The field that is selected: what it prints for the recipient shown, its format chosen by what comes out, what to print when it is
 * blank.
 */
export function ChipPanel({ source, within, columns, sets, listId, designId, offset, mistake, onChange, onRemove }: Props) {
  const [text, setText] = useState(source);
  useEffect(() => setText(source), [source]);
  const field = readField(source);
  const named = (c: { name: string }) => c.name.toLowerCase() === field.expression.toLowerCase();
  const column = columns.find(named);
  const rowColumn = within === null ? undefined : sets.find((s) => s.name === within)?.columns.find(named);
  const facts = useQuery({
    queryKey: keys.lists(listId, "facts", column?.id),
    queryFn: () =>
      ask(api.GET("/api/lists/{id}/columns/{columnId}/facts", { params: { path: { id: listId ?? 0, columnId: column?.id ?? 0 } } })),
    enabled: listId !== null && column !== undefined,
  }).data;
  const type: Schema["ColumnType"] =
    rowColumn?.type ??
    column?.type ??
    (/^(today|add days|add months)\b/i.test(field.expression)
      ? "Date"
      : /[-+*/]|^(sum|count|average|round|age|days|year|month|day|page number|page count|row number)\b/i.test(field.expression)
        ? "Number"
        : "Text");
  const offered = formatsOf[type];
  const results = useQuery({
    queryKey: keys.printed(designId, listId, offset, field.expression, within, type),
    queryFn: () =>
      ask(
        api.POST("/api/designs/print", {
          body: {
            designId,
            listId,
            offset,
            fields: offered.map((f) => ({ source: writeField({ ...field, formats: f ? [f] : [], whenBlank: "" }), within })),
          },
        }),
      ),
    placeholderData: keepPreviousData,
  }).data;
  const blank = field.whenBlank === null ? "tell" : field.whenBlank === "" ? "nothing" : "text";
  // Formats that print the same for this recipient are told apart by their names.
  const label = (format: string, i: number) => {
    const printed = results?.[i]?.text.trim();
    return printed ? printed : format || "As is";
  };
  return (
    <section className="max-h-[55%] shrink-0 overflow-auto border-t border-line bg-base-100 p-3" aria-label="Field">
      <div className="mb-2 flex items-center gap-2">
        <h2 className="min-w-0 flex-1 truncate">{field.expression}</h2>
        <span className="text-faint">{{ Text: "text", Number: "number", Date: "date", YesNo: "yes/no" }[type]}</span>
        <button className="btn btn-ghost btn-xs btn-square" aria-label="Remove field" title="Remove field" onClick={onRemove}>
          <X size={14} />
        </button>
      </div>
      {mistake}
      <div className="mb-2 flex flex-wrap gap-1" role="group" aria-label="Format">
        {offered.map((format, i) => {
          const chosen = (field.formats[0] ?? "") === format && field.formats.length <= 1;
          if (format && results?.[i]?.wrong && !chosen) return null;
          // Of formats that print the same here, one is enough to choose from.
          if (!chosen && format && results?.findIndex((r) => r.text === results[i]?.text) !== i && results?.[i]?.text) return null;
          return (
            <button
              key={format}
              className={`btn btn-xs max-w-full ${chosen ? "btn-primary" : "btn-quiet"}`}
              aria-pressed={chosen}
              title={format || "As is"}
              data-format={format}
              onClick={() => onChange(writeField({ ...field, formats: format ? [format] : [] }))}
            >
              <span className="truncate">{label(format, i)}</span>
            </button>
          );
        })}
      </div>
      <div className="mb-2 flex items-center gap-2">
        <span className={facts && facts.blank > 0 ? "text-doubt-ink" : "text-faint"}>
          {facts ? `Blank for ${many(facts.blank, "recipient")}.` : ""} When blank
        </span>
        <select
          className="select select-xs w-32"
          aria-label="When blank"
          value={blank}
          onChange={(e) =>
            onChange(writeField({ ...field, whenBlank: e.target.value === "tell" ? null : e.target.value === "nothing" ? "" : "—" }))
          }
        >
          <option value="tell">Flag as an issue</option>
          <option value="nothing">Print nothing</option>
          <option value="text">Print this text</option>
        </select>
      </div>
      {blank === "text" && <Instead value={field.whenBlank ?? ""} onSet={(whenBlank) => onChange(writeField({ ...field, whenBlank }))} />}
      <label className="block">
        <span className="mb-0.5 block text-[12px] text-faint">Field code</span>
        <span className="flex items-center gap-1">
          {"{"}
          <input
            className="input input-sm flex-1 font-mono text-[12px]"
            aria-label="Field code"
            value={text}
            onChange={(e) => setText(e.target.value)}
            onBlur={() => text.trim() && text !== source && onChange(text.trim())}
            onKeyDown={(e) => e.key === "Enter" && text.trim() && onChange(text.trim())}
          />
          {"}"}
        </span>
      </label>
    </section>
  );
}

function Instead({ value, onSet }: { value: string; onSet: (text: string) => void }) {
  const [text, setText] = useState(value === "—" ? "" : value);
  return (
    <input
      className="input input-sm mb-2 w-full"
      aria-label="Text to print when blank"
      // Only who has just asked to print something else is taken to this box; whoever selects the chip later stays in the letter.
      autoFocus={value === "—"}
      placeholder="friend of the garden"
      value={text}
      onChange={(e) => setText(e.target.value)}
      onBlur={() => text && text !== value && onSet(text)}
      onKeyDown={(e) => e.key === "Enter" && text && text !== value && onSet(text)}
    />
  );
}

/** A bracket within a line that is selected: its condition, and the way to take it out. */
export function MarkerPanel({
  source,
  listId,
  mistake,
  onChange,
  onRemove,
}: {
  source: string;
  listId: number | null;
  mistake: ReactNode;
  onChange: (source: string) => void;
  onRemove: () => void;
}) {
  const [text, setText] = useState(source);
  useEffect(() => setText(source), [source]);
  const set = () => text.trim() && text !== source && onChange(text.trim());
  const when = /^\s*(or\s+)?when\b\s*/i.exec(source);
  return (
    <section className="shrink-0 border-t border-line bg-base-100 p-3" aria-label="Condition or repeat">
      <div className="mb-2 flex items-center gap-2">
        <h2 className="flex-1">Condition or repeat</h2>
        {listId !== null && when && (
          <ConditionButton listId={listId} test={source.slice(when[0].length)} onSet={(test) => onChange(`${when[0].trim()} ${test}`)} />
        )}
        <button className="btn btn-quiet btn-xs" onClick={onRemove}>
          Remove
        </button>
      </div>
      {mistake}
      <label className="block">
        <span className="mb-0.5 block text-[12px] text-faint">Use when + a condition, otherwise, each + rows, or end.</span>
        <input
          className="input input-sm w-full font-mono text-[12px]"
          aria-label="Condition or repeat as text"
          autoFocus={/^(when|each)\s*$/i.test(source)}
          value={text}
          onChange={(e) => setText(e.target.value)}
          onBlur={set}
          onKeyDown={(e) => e.key === "Enter" && set()}
        />
      </label>
    </section>
  );
}
