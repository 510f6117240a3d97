import { useQuery } from "@tanstack/react-query";
import { ListFilter, Save } from "lucide-react";
import { useState } from "react";
import { api, ask, queryClient, type Schema } from "../../api/client";
import { Dialog } from "../../ui/Dialog";
import { say, sayWrong } from "../../ui/notices";
import { customs } from "../../ui/customs";
import { count, many } from "../../ui/words";
import { FilterBuilder } from "./FilterBuilder";
import { segmentsQuery } from "../../api/queries";
import { keys } from "../../api/keys";

/** What the table is asked for: a typed filter, or a saved segment. */
export interface Question {
  where: string;
  segment: number | null;
}

interface Props {
  list: Schema["ListView"];
  question: Question;
  sorts: string;
  wrong: boolean;
  onAsk: (question: Question) => void;
}

/** The segment line: pick a saved one, type a filter, or pick one together. */
export function SegmentBar({ list, question, sorts, wrong, onAsk }: Props) {
  const [open, setOpen] = useState<"build" | "save" | null>(null);
  const [name, setName] = useState("");
  const segments = useQuery(segmentsQuery(list.id)).data ?? [];
  const current = segments.find((s) => s.id === question.segment);
  const text = current ? current.filter : question.where;
  // A name that is taken never writes over by itself: what would change is shown, and replacing it is an act of its own.
  const taken = segments.find((s) => s.name.toLowerCase() === name.trim().toLowerCase());
  const effect = useQuery({
    queryKey: keys.lists(list.id, "segments", taken?.id, "effect", text, list.revision),
    queryFn: () => ask(api.POST("/api/segments/{id}/effect", { params: { path: { id: taken?.id ?? 0 } }, body: { text, shape: null } })),
    enabled: open === "save" && taken !== undefined,
    retry: false,
  });
  const save = async (as: string, filter: string) => {
    try {
      const id = taken
        ? (await ask(
            api.PUT("/api/segments/{id}", {
              params: { path: { id: taken.id } },
              body: { name: taken.name, filter, sorts, revision: taken.revision },
            }),
          ),
          taken.id)
        : await ask(api.POST("/api/lists/{id}/segments", { params: { path: { id: list.id } }, body: { name: as, filter, sorts } }));
      await queryClient.invalidateQueries({ queryKey: keys.lists(list.id, "segments") });
      onAsk({ where: "", segment: id });
      setOpen(null);
      say(`Saved the segment “${as}”.`);
    } catch (e) {
      sayWrong(e);
    }
  };
  const remove = async () => {
    if (!current) return;
    try {
      await ask(api.DELETE("/api/segments/{id}", { params: { path: { id: current.id } } }));
      onAsk({ where: current.filter, segment: null });
      say(`Removed the segment “${current.name}”. Its filter is still applied.`);
    } catch (e) {
      sayWrong(e);
    }
  };
  return (
    <>
      <div className={`flex h-8 w-[430px] shrink-0 items-center rounded border ${wrong ? "border-error" : "border-base-300"}`}>
        <select
          aria-label="Segment"
          className="h-full max-w-36 cursor-pointer rounded-l border-r border-base-300 bg-base-200 px-2 font-semibold"
          value={question.segment ?? ""}
          onChange={(e) => onAsk({ where: "", segment: e.target.value ? Number(e.target.value) : null })}
        >
          <option value="">Segment</option>
          {segments.map((s) => (
            <option key={s.id} value={s.id}>
              {s.name} ({s.problem ? "broken" : count(s.recipients)})
            </option>
          ))}
        </select>
        <input
          aria-label="Filter"
          className="h-full min-w-0 flex-1 bg-transparent px-2"
          placeholder={example(list.columns)}
          value={text}
          onChange={(e) => onAsk({ where: e.target.value, segment: null })}
        />
        <button
          className="btn btn-ghost btn-xs btn-square"
          aria-label="Build a filter"
          title="Build a filter"
          onClick={() => setOpen("build")}
        >
          <ListFilter size={14} />
        </button>
        {text.trim() !== "" && !wrong && (
          <button
            className="btn btn-ghost btn-xs btn-square"
            aria-label="Save as a segment"
            title={current ? "Save as new segment or remove" : "Save as a segment"}
            onClick={() => (setName(current?.name ?? ""), setOpen("save"))}
          >
            <Save size={14} />
          </button>
        )}
      </div>
      {current?.problem && (
        <span className="max-w-60 truncate text-[12px] text-error" role="alert" title={current.problem}>
          {current.problem}
        </span>
      )}
      {open === "build" && (
        <FilterBuilder
          list={list}
          text={text}
          onClose={() => setOpen(null)}
          onUse={(where) => {
            onAsk({ where, segment: null });
            setOpen(null);
          }}
        />
      )}
      {open === "save" && (
        <Dialog title="Save as a segment" onClose={() => setOpen(null)}>
          <form
            className="flex flex-col gap-3"
            onSubmit={(e) => {
              e.preventDefault();
              void save(name.trim(), text);
            }}
          >
            <p className="font-mono text-[12.5px]">{text}</p>
            <label>
              <span className="mb-1 block font-semibold">Name</span>
              <input
                className="input input-sm w-full"
                autoFocus
                maxLength={120}
                value={name}
                placeholder="Spring renewals"
                onChange={(e) => setName(e.target.value)}
              />
            </label>
            {taken && (
              <p className="border-l-[3px] border-warning bg-doubt px-3 py-2 text-doubt-ink" role="alert">
                There is a segment “{taken.name}” already.{" "}
                {effect.data ? effectOf(effect.data) : (effect.error?.message ?? "Looking at what would change…")}
              </p>
            )}
            <p className="text-faint">
              A segment is a saved filter. It updates as the list changes, and you can start drops for it. You can also add or exclude
              individual recipients.
            </p>
            <div className="flex justify-end gap-2">
              {current && current.drops === 0 && (
                <button type="button" className="btn btn-quiet mr-auto" onClick={() => (setOpen(null), void remove())}>
                  Remove “{current.name}”
                </button>
              )}
              <button type="button" className="btn btn-quiet" onClick={() => setOpen(null)}>
                Cancel
              </button>
              <button className="btn btn-primary" disabled={!name.trim() || (taken !== undefined && !effect.data)}>
                {taken ? `Replace “${taken.name}”` : "Save"}
              </button>
            </div>
          </form>
        </Dialog>
      )}
    </>
  );
}

/** What replacing a segment changes: for how many, in which drops. */
function effectOf(e: Schema["SegmentEffect"]) {
  const size =
    e.before === null
      ? `It is broken now and would have ${many(e.after, "recipient")}.`
      : `It would go from ${count(e.before)} to ${many(e.after, "recipient")}: ${count(e.leave)} leave, ${count(e.join)} join.`;
  return e.drops.length === 0
    ? `${size} No drop uses it.`
    : `${size} ${e.drops.length === 1 ? "The drop" : "The drops"} ${e.drops.join(", ")} ${e.drops.length === 1 ? "follows" : "follow"} it.`;
}

/** An example of a filter in this list's own headings. */
function example(columns: Schema["Column"][]) {
  const region = customs().locale === "en-US" ? columns.find((c) => c.role === "Region") : undefined;
  const city = columns.find((c) => c.role === "City");
  if (region) return `${region.name} = "OR"`;
  return city || !columns[0] ? `${city?.name ?? "City"} = "Fernquay"` : `${columns[0].name} is not blank`;
}
