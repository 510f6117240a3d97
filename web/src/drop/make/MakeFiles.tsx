import { useId } from "react";
import { kinds, onPaper } from "../../designs/kinds";
import { fieldOutputs } from "../../forms/form";
import { count } from "../../ui/words";
import { PasswordFields } from "../PasswordFields";
import { Amount, Name, type PartProps } from "./parts";

/** Files: how many pieces each holds, what they are called, the printer they are for, their passwords. */
export function MakeFiles({ drop, o, plan }: PartProps) {
  const { form, set } = o;
  const id = useId();
  return (
    <>
      {form.output === "parts" && (
        <>
          <Name of={`${id}part`}>File size</Name>
          <span className="flex items-center gap-2">
            <Amount id={`${id}part`} wide min={1} max={100000} value={form.partOf} onChange={(partOf) => set({ partOf })} /> pieces per file
          </span>
        </>
      )}
      {(form.output === "each" || form.output === "docxeach" || form.output === "eml") && (
        <>
          <Name of={`${id}name`}>File name</Name>
          <span>
            <input
              id={`${id}name`}
              className="input input-sm w-full font-mono text-[12px]"
              value={form.nameBy}
              maxLength={300}
              onChange={(e) => set({ nameBy: e.target.value })}
            />
          </span>
          {/* It stands there from the beginning: what is below must not move under the pointer as the names come. */}
          <p className="col-start-2 min-h-12 text-[12px] leading-4 text-faint" data-testid="file-names">
            {plan && plan.names.length > 0 && `${plan.names.slice(0, 3).join(", ")} … `}
            {plan && plan.numbered > 0 && `${count(plan.numbered)} duplicate names get a number. `}
            All files are in one ZIP, in a folder with the date and time.
          </p>
        </>
      )}
      {form.output === "each" && drop.package.some((d) => kinds[d.kind].isFile) && (
        <>
          <Name of={`${id}fields`}>Form fields</Name>
          <select
            id={`${id}fields`}
            className="select select-sm w-60"
            value={form.fields ?? ""}
            onChange={(e) => set({ fields: (e.target.value || null) as typeof form.fields })}
          >
            <option value="">as each form says</option>
            {fieldOutputs.map(([key, label]) => (
              <option key={key} value={key}>
                {label}
              </option>
            ))}
          </select>
        </>
      )}
      {!o.mailing && onPaper(drop.package).some((d) => !kinds[d.kind].hasPages) && (
        <>
          <Name of={`${id}for`}>Feed and offsets for</Name>
          <select
            id={`${id}for`}
            className="select select-sm w-60"
            value={form.printer ?? ""}
            onChange={(e) => set({ printer: e.target.value ? Number(e.target.value) : null })}
            title="Sets the feed and offsets for envelopes and label sheets"
          >
            <option value="">Any printer</option>
            {o.allPrinters.map((p) => (
              <option key={p.id} value={p.id}>
                {p.name}
              </option>
            ))}
          </select>
        </>
      )}
      {form.who !== "reprint" && !o.mailing && !form.output.startsWith("docx") && (
        <PasswordFields form={form} set={set} blank={(o.ready && plan?.blankPasswords) || []} />
      )}
    </>
  );
}
