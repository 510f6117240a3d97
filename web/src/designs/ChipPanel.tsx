import { useQuery } from "@tanstack/react-query";
import { X } from "lucide-react";
import { useEffect, useState } from "react";
import { api, ask, type Schema } from "../api/client";
import { many } from "../ui/words";
import { readField, writeField } from "./fieldSource";

const formatsOf: Record<Schema["ColumnType"], { format: string; label: string }[]> = {
  Number: [
    { format: "", label: "as it is" },
    { format: "money", label: "money" },
    { format: "money 0", label: "money, no cents" },
    { format: "number", label: "1,250" },
    { format: "number 2", label: "1,250.00" },
    { format: "percent", label: "percent" },
  ],
  Date: [
    { format: "", label: "Mar 3, 2027" },
    { format: "date long", label: "March 3, 2027" },
    { format: "date short", label: "3/3/2027" },
    { format: 'date "EEEE, MMMM d"', label: "Wednesday, March 3" },
    { format: 'date "MMMM yyyy"', label: "March 2027" },
  ],
  Text: [
    { format: "", label: "as it is" },
    { format: "upper", label: "CAPITALS" },
    { format: "lower", label: "small letters" },
    { format: "title", label: "Name Capitals" },
  ],
  YesNo: [{ format: "", label: "yes or no" }],
};

interface Props {
  source: string;
  columns: Schema["Column"][];
  listId: number | null;
  mistake: string | undefined;
  onChange: (source: string) => void;
  onRemove: () => void;
}

/** The field that is selected: what it prints, its format, what to print when it is blank. */
export function ChipPanel({ source, columns, listId, mistake, onChange, onRemove }: Props) {
  const [text, setText] = useState(source);
  useEffect(() => setText(source), [source]);
  const field = readField(source);
  const column = columns.find((c) => c.name.toLowerCase() === field.expression.toLowerCase());
  const facts = useQuery({
    queryKey: ["lists", listId, "facts", column?.id],
    queryFn: () => ask(api.GET("/api/lists/{id}/columns/{columnId}/facts", { params: { path: { id: listId ?? 0, columnId: column?.id ?? 0 } } })),
    enabled: listId !== null && column !== undefined,
  }).data;
  const type = column?.type ?? (field.expression.toLowerCase() === "today" ? "Date" : /[-+*/]/.test(field.expression) ? "Number" : "Text");
  const blank = field.whenBlank === null ? "tell" : field.whenBlank === "" ? "nothing" : "text";
  return (
    <section className="border-t border-line bg-base-100 p-3" aria-label="Field">
      <div className="mb-2 flex items-center gap-2">
        <h2 className="min-w-0 flex-1 truncate text-[13.5px]">{field.expression || "Field"}</h2>
        <span className="text-faint">{column ? { Text: "text", Number: "number", Date: "date", YesNo: "yes/no" }[column.type] : "expression"}</span>
        <button className="btn btn-ghost btn-xs btn-square" aria-label="Take the field out" title="Take the field out" onClick={onRemove}>
          <X size={14} />
        </button>
      </div>
      {mistake && <p className="mb-2 bg-doubt px-2 py-1">{mistake}</p>}
      <div className="mb-2 flex flex-wrap gap-1">
        {formatsOf[type].map((f) => {
          const chosen = (field.formats[0] ?? "") === f.format && field.formats.length <= 1;
          return (
            <button key={f.format} className={`btn btn-xs ${chosen ? "btn-primary" : "btn-quiet"}`} aria-pressed={chosen} onClick={() => onChange(writeField({ ...field, formats: f.format ? [f.format] : [] }))}>
              {f.label}
            </button>
          );
        })}
      </div>
      <div className="mb-2 flex items-center gap-2">
        <span className={facts && facts.blank > 0 ? "text-doubt-ink" : "text-faint"}>{facts ? `blank for ${facts.blank === 0 ? "nobody" : many(facts.blank, "person", "people")};` : ""} when blank</span>
        <select className="select select-xs w-32" aria-label="When blank" value={blank} onChange={(e) => onChange(writeField({ ...field, whenBlank: e.target.value === "tell" ? null : e.target.value === "nothing" ? "" : "—" }))}>
          <option value="tell">tell me</option>
          <option value="nothing">print nothing</option>
          <option value="text">print</option>
        </select>
      </div>
      {blank === "text" && <Instead value={field.whenBlank ?? ""} onSet={(whenBlank) => onChange(writeField({ ...field, whenBlank }))} />}
      <label className="block">
        <span className="mb-0.5 block text-[12px] text-faint">As text</span>
        <span className="flex items-center gap-1">
          {"{"}
          <input
            className="input input-sm flex-1 font-mono text-[12px]"
            aria-label="Field as text"
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
      aria-label="What to print when blank"
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
