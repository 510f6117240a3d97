import { useQuery } from "@tanstack/react-query";
import { useId } from "react";
import { listQuery, segmentsQuery } from "../../api/queries";
import { onPaper } from "../../designs/kinds";
import { count } from "../../ui/words";
import type { Who } from "../order";
import { Name, type PartProps } from "./parts";
import { SortPicker } from "./SortPicker";

/** Who is made, and in which order; for reprints, what of it and with which values. */
export function MakeWho({ drop, o, plan, selected }: PartProps & { selected: number }) {
  const { form, set } = o;
  const id = useId();
  const list = useQuery(listQuery(drop.listId)).data;
  const segments = useQuery(segmentsQuery(drop.listId)).data ?? [];
  return (
    <>
      <Name of={`${id}who`}>Recipients</Name>
      <span className="flex gap-2">
        <select
          id={`${id}who`}
          className="select select-sm w-52"
          value={form.who}
          onChange={(e) =>
            set({ who: e.target.value as Who, ...(e.target.value === "reprint" && o.mailing ? { output: "one" as const } : {}) })
          }
        >
          <option value="ready">All Ready, {count(drop.trays.ready)}</option>
          <option value="pieces">Piece numbers…</option>
          <option value="selected" disabled={selected === 0}>
            Selected{selected ? `, ${count(selected)}` : ""}
          </option>
          <option value="segment" disabled={segments.length === 0}>
            Segment…
          </option>
          <option value="reprint" disabled={drop.trays.produced + drop.trays.mailed + drop.trays.returned + drop.trays.held === 0}>
            Reprints…
          </option>
        </select>
        {(form.who === "pieces" || form.who === "reprint") && (
          <input
            className="input input-sm min-w-0 flex-1"
            aria-label="Piece numbers"
            autoFocus
            placeholder={form.who === "reprint" ? "118-123" : "1-200, 350"}
            value={form.pieces}
            onChange={(e) => set({ pieces: e.target.value })}
          />
        )}
        {form.who === "segment" && (
          <select
            className="select select-sm min-w-0 flex-1"
            aria-label="Segment"
            value={form.segment ?? ""}
            onChange={(e) => set({ segment: e.target.value ? Number(e.target.value) : null })}
          >
            <option value="">Choose a segment…</option>
            {segments.map((s) => (
              <option key={s.id} value={s.id}>
                {s.name}, {count(s.recipients)}
              </option>
            ))}
          </select>
        )}
      </span>
      {form.who === "reprint" && onPaper(drop.package).length > 1 && (
        <>
          <Name>what</Name>
          <span className="flex flex-wrap gap-x-3">
            {onPaper(drop.package).map((d) => (
              <label key={d.designId} className="flex items-center gap-1.5">
                <input
                  type="checkbox"
                  className="checkbox checkbox-sm"
                  checked={!form.leave.includes(d.designId)}
                  onChange={(e) =>
                    set({ leave: e.target.checked ? form.leave.filter((x) => x !== d.designId) : [...form.leave, d.designId] })
                  }
                />{" "}
                {d.name}
              </label>
            ))}
          </span>
        </>
      )}
      {form.who === "reprint" && ((plan?.corrected ?? 0) > 0 || form.corrected !== null) && (
        <>
          <Name>values</Name>
          <div role="radiogroup" aria-label="Values of the reprint">
            <label className="flex items-center gap-1.5">
              <input
                type="radio"
                className="radio radio-sm"
                name={`${id}values`}
                checked={form.corrected === false}
                onChange={() => set({ corrected: false })}
              />{" "}
              As it was printed
            </label>
            <label className="flex items-center gap-1.5">
              <input
                type="radio"
                className="radio radio-sm"
                name={`${id}values`}
                checked={form.corrected === true}
                onChange={() => set({ corrected: true })}
              />{" "}
              With corrections made since
            </label>
          </div>
        </>
      )}
      {form.who !== "reprint" && (
        <>
          <Name of={`${id}sort`}>Sort by</Name>
          <SortPicker id={`${id}sort`} columns={list?.columns ?? []} value={form.sort} onChange={(sort) => set({ sort })} />
        </>
      )}
    </>
  );
}
