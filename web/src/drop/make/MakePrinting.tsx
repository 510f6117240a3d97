import { useId } from "react";
import { paged } from "../../designs/kinds";
import { Amount, Name, type PartProps } from "./parts";

/** Printing: on which printer, in which batches, how many copies. */
export function MakePrinting({ drop, o }: PartProps) {
  const { form, set } = o;
  const id = useId();
  const letters = paged(drop.package) !== undefined;
  return (
    <>
      <Name of={`${id}printer`}>Printer</Name>
      <select
        id={`${id}printer`}
        className="select select-sm w-60"
        value={o.printer?.id ?? ""}
        onChange={(e) => set({ printer: Number(e.target.value) })}
      >
        {o.printing.map((p) => (
          <option key={p.id} value={p.id}>
            {p.name}
          </option>
        ))}
      </select>
      <Name of={`${id}batch`}>Batch size</Name>
      <span className="flex flex-wrap items-center gap-x-2">
        <Amount
          id={`${id}batch`}
          min={0}
          max={100000}
          value={form.batchOf}
          title="0 = one batch"
          onChange={(batchOf) => set({ batchOf })}
        />{" "}
        pieces
        {form.batchOf > 0 && letters && (
          <label className="flex items-center gap-1.5">
            <input
              type="checkbox"
              className="checkbox checkbox-sm"
              checked={form.breakSheets}
              onChange={(e) => set({ breakSheets: e.target.checked })}
            />{" "}
            Separator sheet between batches
          </label>
        )}
      </span>
      <Name of={`${id}copies`}>Copies</Name>
      <span className="flex items-center gap-2">
        <Amount id={`${id}copies`} min={1} max={100} value={form.copies} onChange={(copies) => set({ copies })} />
        {form.copies > 1 && (
          <label className="flex items-center gap-1.5">
            <input
              type="checkbox"
              className="checkbox checkbox-sm"
              checked={form.collated}
              onChange={(e) => set({ collated: e.target.checked })}
            />{" "}
            Collate
          </label>
        )}
      </span>
    </>
  );
}
