import { useEffect, useRef } from "react";
import { fieldHint, fieldText, isOpen, offered, onlyField, type Form, type FormField } from "./form";

interface Props {
  form: Form;
  field: string | null;
  /** The names that can fill in a field: columns, then what is made for you. */
  names: { columns: string[]; made: string[] };
  /** The shown recipient's value of a column. */
  valueOf: (name: string) => string | null;
  mistakes: ReadonlyMap<string, string>;
  readOnly: boolean;
  onField: (name: string) => void;
  onAnswer: (name: string, answer: string | null, typed?: boolean) => void;
}

const own = "\u0000own";
const keep = "\u0000keep";

/** The fields that the form has, in the order of its pages, beside what fills them in. */
export function FormFields({ form, field, names, valueOf, mistakes, readOnly, onField, onAnswer }: Props) {
  const chosen = useRef<HTMLLIElement>(null);
  useEffect(() => {
    // Newer browsers answer it with a promise, which no effect may return.
    void chosen.current?.scrollIntoView({ block: "nearest" });
  }, [field]);
  const fields = form.facts.fields.filter((f) => f.kind !== "other");
  if (fields.length === 0)
    return (
      <p className="p-4 text-faint">
        This PDF has no fields of its own. Drag columns from the list onto the page, or add boxes from the bar above it.
      </p>
    );
  const row = (f: FormField) => {
    const answer = form.answers[f.name];
    const only = answer ? onlyField(answer) : null;
    const known = only !== null && (names.columns.includes(only) || names.made.includes(only));
    const state = answer === undefined ? keep : answer === "" ? "" : known ? only : own;
    const value = known ? valueOf(only) : null;
    const here = field === f.name;
    return (
      <li
        key={f.name}
        ref={here ? chosen : undefined}
        className={`border-b border-line px-3 py-1.5 ${here ? "bg-accent-soft" : ""}`}
        onFocus={() => !here && onField(f.name)}
      >
        <div className="grid grid-cols-[1fr_150px] items-start gap-2">
          <button className="min-w-0 cursor-pointer text-left" onClick={() => onField(f.name)}>
            <span className="block truncate font-semibold">{f.label}</span>
            <span className="block truncate text-[12px] text-faint">
              {[f.name === f.label ? null : f.name, fieldHint(f)].filter(Boolean).join(" · ")}
            </span>
          </button>
          <div className="min-w-0">
            <select
              className={`select select-sm w-full ${isOpen(form, f) ? "text-accent" : ""}`}
              aria-label={`Fills in ${f.label}`}
              disabled={readOnly}
              value={state}
              onChange={(e) => {
                onField(f.name);
                const v = e.target.value;
                onAnswer(f.name, v === keep ? null : v === "" ? "" : v === own ? (answer ?? "") || " " : fieldText(v));
              }}
            >
              <option value={keep}>{f.initial ? `as in the file: ${f.initial}` : f.readOnly ? "as in the file" : "choose…"}</option>
              <option value="">leave empty</option>
              <optgroup label="Columns">
                {names.columns.map((n) => (
                  <option key={n}>{n}</option>
                ))}
              </optgroup>
              <optgroup label="Built-in fields">
                {names.made.map((n) => (
                  <option key={n}>{n}</option>
                ))}
              </optgroup>
              <option value={own}>text with fields…</option>
            </select>
            <span className="block truncate text-[12px] text-faint">
              {value ?? (known ? "blank: stays blank" : state === "" ? "always blank" : "")}
            </span>
          </div>
        </div>
        {(here || state === own) && state !== keep && state !== "" && (
          <input
            className="input input-sm mt-1 w-full font-mono text-[12px]"
            aria-label={`Text for ${f.label}`}
            disabled={readOnly}
            value={answer}
            placeholder="{Street} {Street 2}"
            onChange={(e) => onAnswer(f.name, e.target.value, true)}
          />
        )}
        {here && offered(f).length > 0 && <p className="mt-1 text-[12px] text-faint">Choices: {offered(f).slice(0, 12).join(", ")}</p>}
        {here && f.format && (
          <p className="mt-1 text-[12px] text-faint">Written as the form has it: {f.format.replace(/^(date|number) /, "")}</p>
        )}
        {answer && mistakes.get(answer) && <p className="mt-1 text-[12px] text-error">{mistakes.get(answer)}</p>}
      </li>
    );
  };
  return <ul aria-label="Fields of the form">{fields.map(row)}</ul>;
}
