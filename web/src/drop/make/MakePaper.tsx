import { useQuery } from "@tanstack/react-query";
import { useId } from "react";
import { pricesQuery } from "../../api/queries";
import { paged } from "../../designs/kinds";
import { StartPicker } from "../../surfaces/StartPicker";
import type { OwnStock } from "../../surfaces/surface";
import { Name, type PartProps } from "./parts";
import { PostagePicker } from "./PostagePicker";

/** What holds for all that is on paper: sides, postage, and from where a sheet of labels is used. */
export function MakePaper({ drop, o, plan }: PartProps) {
  const { form, set } = o;
  const id = useId();
  const prices = useQuery(pricesQuery()).data;
  const letters = paged(drop.package) !== undefined;
  return (
    <>
      {letters && (
        <>
          <Name of={`${id}duplex`}>Sides</Name>
          <label className="flex items-center gap-1.5">
            <input
              id={`${id}duplex`}
              type="checkbox"
              className="checkbox checkbox-sm"
              checked={form.duplex}
              onChange={(e) => set({ duplex: e.target.checked })}
            />{" "}
            Print on both sides; each piece starts on a new sheet
          </label>
        </>
      )}
      {prices && prices.postage.length > 0 && (
        <>
          <Name of={`${id}postage`}>Postage</Name>
          <span className="flex gap-2">
            <PostagePicker
              id={`${id}postage`}
              name="Postage"
              classes={prices.postage.filter((c) => !c.abroad)}
              value={form.postage}
              none="Not set"
              onChange={(postage) => set({ postage })}
            />
            <PostagePicker
              name="International postage"
              classes={prices.postage.filter((c) => c.abroad)}
              value={form.abroad}
              none="International: same"
              onChange={(abroad) => set({ abroad })}
            />
          </span>
        </>
      )}
      {plan?.designs.map((d) =>
        d.stock && form.who !== "reprint" ? (
          <details key={d.designId} className="col-span-2 mt-2" open={form.starts[d.designId] !== undefined || undefined}>
            <summary className="cursor-pointer font-semibold">
              Partly used sheet of {d.stock.name}
              {form.starts[d.designId] && form.starts[d.designId]?.start !== 1 ? `: start at ${form.starts[d.designId]?.start}` : ""}
            </summary>
            <div className="mt-2">
              <StartPicker
                stock={d.stock as OwnStock}
                byColumns={d.byColumns}
                width={240}
                value={form.starts[d.designId] ?? { start: 1, spoiled: [] }}
                onChange={(value) => set({ starts: { ...form.starts, [d.designId]: value } })}
              />
            </div>
          </details>
        ) : null,
      )}
    </>
  );
}
