import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { Plus, X } from "lucide-react";
import { useEffect, useState } from "react";
import { api, ask, type Schema } from "../../api/client";
import { Dialog } from "../../ui/Dialog";
import { useDelayed } from "../../ui/useDelayed";
import { many } from "../../ui/words";
import { keys } from "../../api/keys";

type Item = Schema["FilterItem"];
type Comparison = NonNullable<Item["comparison"]>;

const names: Record<Comparison, string> = {
  Is: "is",
  IsNot: "is not",
  Contains: "contains",
  ContainsNot: "does not contain",
  StartsWith: "starts with",
  EndsWith: "ends with",
  Less: "is less than",
  AtMost: "is at most",
  Greater: "is more than",
  AtLeast: "is at least",
  Between: "is between",
  OneOf: "is one of",
  NotOneOf: "is none of",
  Blank: "is blank",
  NotBlank: "is not blank",
};
const dates: Partial<Record<Comparison, string>> = {
  Less: "is before",
  AtMost: "is on or before",
  Greater: "is after",
  AtLeast: "is on or after",
};
const byType: Record<Schema["ColumnType"], Comparison[]> = {
  Text: ["Is", "IsNot", "Contains", "ContainsNot", "StartsWith", "EndsWith", "OneOf", "NotOneOf", "Blank", "NotBlank"],
  Number: ["Is", "IsNot", "Greater", "AtLeast", "Less", "AtMost", "Between", "OneOf", "Blank", "NotBlank"],
  Date: ["Is", "Greater", "AtLeast", "Less", "AtMost", "Between", "Blank", "NotBlank"],
  YesNo: ["Is", "Blank", "NotBlank"],
};

const condition = (columns: Schema["Column"][]): Item => ({
  all: null,
  items: null,
  column: columns[0]?.name ?? "",
  comparison: "Is",
  values: [],
});

/**
 * A filter picked together: conditions in groups of which all or any must hold, one in the other. It is the typed filter in another
 * form.
 */
export function FilterBuilder({
  list,
  text,
  title = "Only recipients with",
  onUse,
  onClose,
}: {
  list: Pick<Schema["ListView"], "id" | "columns">;
  text: string;
  title?: string;
  onUse: (where: string) => void;
  onClose: () => void;
}) {
  const [shape, setShape] = useState<Item | null>(null);
  const read = useQuery({
    queryKey: keys.lists(list.id, "filter", "text", text),
    queryFn: () => ask(api.POST("/api/lists/{id}/filter", { params: { path: { id: list.id } }, body: { text, shape: null } })),
  }).data;
  const empty = (): Item => ({ all: true, items: [condition(list.columns)], column: null, comparison: null, values: null });
  useEffect(() => {
    if (!read || shape) return;
    if (!read.shape) return;
    setShape(read.shape.items ? (read.shape.items.length > 0 ? read.shape : empty()) : { ...empty(), items: [read.shape] });
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [read]);
  const asked = useDelayed(JSON.stringify(shape), 200);
  const answer = useQuery({
    queryKey: keys.lists(list.id, "filter", "shape", asked),
    queryFn: () =>
      ask(
        api.POST("/api/lists/{id}/filter", { params: { path: { id: list.id } }, body: { text: null, shape: JSON.parse(asked) as Item } }),
      ),
    enabled: shape !== null && asked !== "null",
    placeholderData: keepPreviousData,
  }).data;
  const onlyTyped = read !== undefined && read.shape === null && shape === null;
  return (
    <Dialog title={title} onClose={onClose} wide>
      {onlyTyped ? (
        <>
          <p className="mb-2">
            {read.errors.length > 0
              ? "The typed filter has an error, so it cannot be shown here."
              : "The typed filter is too complex to show here. It still works as typed."}
          </p>
          <button className="btn btn-quiet btn-sm" onClick={() => setShape(empty())}>
            Start a new filter
          </button>
        </>
      ) : shape ? (
        <div className="max-h-[380px] overflow-auto">
          <Group item={shape} columns={list.columns} onChange={setShape} />
        </div>
      ) : (
        <p className="text-faint">…</p>
      )}
      {shape && (
        <div className="mt-3 border-t border-line pt-2">
          <p className="min-h-5 truncate font-mono text-[12px] text-faint" title={answer?.text}>
            {answer?.text}
          </p>
          <div className="mt-2 flex items-center gap-2">
            <span className="mr-auto" role="status">
              {answer?.missing ? (
                <span className="text-doubt-ink">{answer.missing}</span>
              ) : answer && answer.count !== null ? (
                <b>{many(answer.count, "recipient")}</b>
              ) : (
                ""
              )}
            </span>
            <button className="btn btn-quiet" onClick={onClose}>
              Cancel
            </button>
            <button
              className="btn btn-primary"
              disabled={!answer || answer.missing !== null || answer.count === null}
              onClick={() => answer && onUse(answer.text)}
            >
              Apply filter
            </button>
          </div>
        </div>
      )}
    </Dialog>
  );
}

function Group({
  item,
  columns,
  onChange,
  onRemove,
}: {
  item: Item;
  columns: Schema["Column"][];
  onChange: (item: Item) => void;
  onRemove?: () => void;
}) {
  const items = item.items ?? [];
  const put = (i: number, next: Item | null) =>
    onChange({ ...item, items: next ? items.map((x, n) => (n === i ? next : x)) : items.filter((_, n) => n !== i) });
  return (
    <div className="border-l-2 border-primary/40 pl-3">
      <div className="mb-1 flex items-center gap-2">
        <select
          aria-label="Match"
          className="select select-xs w-auto"
          value={item.all === false ? "any" : "all"}
          onChange={(e) => onChange({ ...item, all: e.target.value === "all" })}
        >
          <option value="all">All of these</option>
          <option value="any">Any of these</option>
        </select>
        {onRemove && (
          <button className="btn btn-ghost btn-xs btn-square" aria-label="Remove group" onClick={onRemove}>
            <X size={13} />
          </button>
        )}
      </div>
      <div className="flex flex-col gap-1.5">
        {items.map((x, i) =>
          x.items ? (
            <Group key={i} item={x} columns={columns} onChange={(n) => put(i, n)} onRemove={() => put(i, null)} />
          ) : (
            <Condition
              key={i}
              item={x}
              columns={columns}
              onChange={(n) => put(i, n)}
              onRemove={items.length > 1 || onRemove ? () => put(i, null) : undefined}
            />
          ),
        )}
      </div>
      <div className="mt-1.5 flex gap-2">
        <button className="btn btn-quiet btn-xs" onClick={() => onChange({ ...item, items: [...items, condition(columns)] })}>
          <Plus size={12} /> Condition
        </button>
        <button
          className="btn btn-quiet btn-xs"
          onClick={() =>
            onChange({
              ...item,
              items: [...items, { all: item.all === false, items: [condition(columns)], column: null, comparison: null, values: null }],
            })
          }
        >
          <Plus size={12} /> Group
        </button>
      </div>
    </div>
  );
}

function Condition({
  item,
  columns,
  onChange,
  onRemove,
}: {
  item: Item;
  columns: Schema["Column"][];
  onChange: (item: Item) => void;
  onRemove?: (() => void) | undefined;
}) {
  const column = columns.find((c) => c.name === item.column) ?? columns[0];
  const type = column?.type ?? "Text";
  const comparison = item.comparison ?? "Is";
  const known = byType[type].includes(comparison) ? byType[type] : [...byType[type], comparison];
  const values = item.values ?? [];
  const set = (i: number, v: string) =>
    onChange({ ...item, values: Array.from({ length: Math.max(values.length, i + 1) }, (_, n) => (n === i ? v : (values[n] ?? ""))) });
  const box = (i: number, label: string) =>
    type === "YesNo" ? (
      <select aria-label={label} className="select select-xs w-24" value={values[i] ?? ""} onChange={(e) => set(i, e.target.value)}>
        <option value="">…</option>
        <option value="yes">yes</option>
        <option value="no">no</option>
      </select>
    ) : (
      <input
        aria-label={label}
        className={`input input-xs ${type === "Date" ? "w-31" : "w-36"}`}
        type={type === "Date" ? "date" : "text"}
        value={values[i] ?? ""}
        onChange={(e) => set(i, e.target.value)}
      />
    );
  return (
    <div className="flex flex-wrap items-center gap-1.5">
      <select
        aria-label="Column"
        className="select select-xs w-40"
        value={item.column ?? ""}
        onChange={(e) =>
          onChange({
            ...item,
            column: e.target.value,
            comparison: byType[columns.find((c) => c.name === e.target.value)?.type ?? "Text"].includes(comparison) ? comparison : "Is",
            values: [],
          })
        }
      >
        {columns.map((c) => (
          <option key={c.id}>{c.name}</option>
        ))}
      </select>
      <select
        aria-label="Comparison"
        className="select select-xs w-36"
        value={comparison}
        onChange={(e) => onChange({ ...item, comparison: e.target.value as Comparison })}
      >
        {known.map((c) => (
          <option key={c} value={c}>
            {(type === "Date" ? dates[c] : undefined) ?? names[c]}
          </option>
        ))}
      </select>
      {comparison === "OneOf" || comparison === "NotOneOf" ? (
        <input
          aria-label="Values, separated by commas"
          className="input input-xs w-56"
          placeholder="Cork, Malmö"
          defaultValue={values.join(", ")}
          onChange={(e) =>
            onChange({
              ...item,
              values: e.target.value
                .split(",")
                .map((v) => v.trim())
                .filter(Boolean),
            })
          }
        />
      ) : comparison === "Blank" || comparison === "NotBlank" ? null : (
        <>
          {box(0, comparison === "Between" ? "From" : "Value")}
          {comparison === "Between" && <>and {box(1, "To")}</>}
        </>
      )}
      {onRemove && (
        <button className="btn btn-ghost btn-xs btn-square" aria-label="Remove condition" onClick={onRemove}>
          <X size={13} />
        </button>
      )}
    </div>
  );
}
