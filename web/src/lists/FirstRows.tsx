import { useState } from "react";
import type { Schema } from "../api/client";
import { Dialog } from "../ui/Dialog";
import { PartsTable } from "./desk/ColumnMenu";
import { NameOrder } from "./NameOrder";
import { KeepTimes } from "./bring/KeepTimes";
import { UsualFormat } from "./UsualFormat";
import { dateOrders, isOpen, numberForms, roleNames, typeNames, type ChosenColumn } from "./columns";

/** How a column would be divided, by the order in which its names are said to stand. */
const partsOf = (chosen: ChosenColumn, read: Schema["SourceColumn"] | undefined) =>
  (chosen.familyFirst === read?.familyFirst ? read?.parts : read?.partsTurned) ?? [];

/** The first rows as they were read; a click on a row makes it the headings. Each column's type and role can be changed. */
export function FirstRows({
  look,
  chosen,
  onChosen,
  onHeadingRow,
}: {
  look: Schema["SourceLook"];
  chosen: ChosenColumn[];
  onChosen: (c: ChosenColumn[]) => void;
  onHeadingRow: (row: number) => void;
}) {
  const change = (position: number, part: Partial<ChosenColumn>) =>
    onChosen(chosen.map((c) => (c.position === position ? { ...c, ...part } : c)));
  const [dividing, setDividing] = useState<number | null>(null);
  const divided = chosen.find((c) => c.position === dividing);
  const plain = "w-full cursor-pointer rounded bg-transparent text-[12px] hover:bg-base-300";
  return (
    <div className="min-h-0 flex-1 overflow-auto">
      <table className="border-separate border-spacing-0 text-[12.5px]">
        <thead className="sticky top-0 z-10 bg-base-200">
          <tr>
            <th className="border-b border-r border-line px-2 py-1 text-left align-bottom font-normal text-faint">Row</th>
            {chosen.map((c) => (
              <th
                key={c.position}
                data-open={isOpen(c) || undefined}
                className={`min-w-40 border-b border-r border-line px-2 py-1 text-left align-top ${c.include ? "" : "text-faint"}`}
              >
                <span className="flex items-center gap-1.5">
                  <input
                    type="checkbox"
                    className="checkbox checkbox-xs"
                    title="Import this column"
                    aria-label={`Import ${c.name}`}
                    checked={c.include}
                    onChange={(e) => change(c.position, { include: e.target.checked })}
                  />
                  <input
                    className="w-full min-w-28 rounded bg-transparent px-1 font-semibold hover:bg-base-300 focus:bg-base-100"
                    title="Click to give the column another heading"
                    aria-label={`Heading of column ${c.position + 1}`}
                    maxLength={80}
                    value={c.name}
                    onChange={(e) => change(c.position, { name: e.target.value.replace(/[{}`]/g, "") })}
                  />
                </span>
                <select
                  aria-label={`Type of ${c.name}`}
                  className={plain}
                  value={c.type}
                  onChange={(e) => change(c.position, { type: e.target.value as ChosenColumn["type"] })}
                >
                  {Object.entries(typeNames).map(([value, label]) => (
                    <option key={value} value={value}>
                      {label}
                    </option>
                  ))}
                </select>
                {c.type === "Number" && (
                  <select
                    aria-label={`How ${c.name} writes numbers`}
                    className={`${plain} ${isOpen(c) ? "bg-doubt! font-semibold" : ""}`}
                    value={isOpen(c) ? "" : c.numberForm}
                    onChange={(e) => change(c.position, { numberForm: e.target.value as ChosenColumn["numberForm"], settled: true })}
                  >
                    {isOpen(c) && <option value="">written how?</option>}
                    {Object.entries(numberForms).map(([value, label]) => (
                      <option key={value} value={value}>
                        {label}
                      </option>
                    ))}
                  </select>
                )}
                {c.type === "Number" && (
                  <UsualFormat
                    column={c.name}
                    value={c.format ?? null}
                    className={`${plain} ${c.format ? "" : "text-faint"}`}
                    onChange={(format) => change(c.position, { format })}
                  />
                )}
                {c.type === "Date" ? (
                  <select
                    aria-label={`Date order in ${c.name}`}
                    className={`${plain} ${isOpen(c) ? "bg-doubt! font-semibold" : ""}`}
                    value={isOpen(c) ? "" : c.dateOrder}
                    onChange={(e) => change(c.position, { dateOrder: e.target.value as ChosenColumn["dateOrder"], settled: true })}
                  >
                    {isOpen(c) && <option value="">written how?</option>}
                    {Object.entries(dateOrders).map(([value, label]) => (
                      <option key={value} value={value}>
                        {label}
                      </option>
                    ))}
                  </select>
                ) : (
                  <select
                    aria-label={`Role of ${c.name}`}
                    className={`${plain} ${c.role === "None" ? "text-faint" : ""}`}
                    value={c.role}
                    onChange={(e) => change(c.position, { role: e.target.value as ChosenColumn["role"], divide: false })}
                  >
                    {Object.entries(roleNames).map(([value, label]) => (
                      <option key={value} value={value}>
                        {label}
                      </option>
                    ))}
                  </select>
                )}
                {c.role !== "None" && c.role === look.columns[c.position]?.role && c.confidence < 90 && (
                  <span className="block text-[11px] text-doubt-ink" title={`Based on ${c.why}`}>
                    {c.confidence}% sure, based on {c.why.split(":")[0]}
                  </span>
                )}
                {c.type === "Date" && c.time !== null && (
                  <KeepTimes
                    column={c.name}
                    time={c.time}
                    checked={c.keepTimes}
                    onChange={(keepTimes) => change(c.position, { keepTimes })}
                  />
                )}
                {["FullName", "WholeAddress"].includes(c.role) && (
                  <button
                    type="button"
                    className={`btn btn-xs mt-0.5 ${c.divide ? "btn-primary" : "btn-quiet"}`}
                    aria-pressed={c.divide}
                    onClick={() => setDividing(c.position)}
                  >
                    {c.divide ? "Will be split" : "Split…"}
                  </button>
                )}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {look.firstRows.map((row, i) => {
            const heading = i === look.headingRow;
            return (
              <tr
                key={i}
                title={heading ? "This row holds the headings" : "Click to use this row as headings"}
                className={`cursor-pointer ${heading ? "chosen" : i < look.headingRow ? "text-faint" : "hover:bg-base-200"}`}
                onClick={() => onHeadingRow(i)}
              >
                <td className="border-b border-r border-line px-2 py-1 text-right text-faint">{look.firstRowNumbers[i]}</td>
                {(i < look.headingRow ? row.map((_, p) => ({ position: p, include: true })) : chosen).map((c) => (
                  <td
                    key={c.position}
                    className={`max-w-60 truncate border-b border-r border-line px-2 py-1 ${c.include ? "" : "text-faint"}`}
                  >
                    {row[c.position] ?? <span className="text-faint">·</span>}
                  </td>
                ))}
              </tr>
            );
          })}
        </tbody>
      </table>
      {divided && (
        <Dialog title={`Split ${divided.name}`} onClose={() => setDividing(null)} wide>
          <p className="mb-2 text-faint">Each part gets its own column. {divided.name} is kept as well.</p>
          {divided.role === "FullName" && (
            <NameOrder familyFirst={divided.familyFirst} onChange={(familyFirst) => change(divided.position, { familyFirst })} />
          )}
          <PartsTable parts={partsOf(divided, look.columns[divided.position])} />
          <div className="mt-3 flex justify-end gap-2">
            <button className="btn btn-quiet" onClick={() => (change(divided.position, { divide: false }), setDividing(null))}>
              Don’t split
            </button>
            <button className="btn btn-primary" onClick={() => (change(divided.position, { divide: true }), setDividing(null))}>
              Split
            </button>
          </div>
        </Dialog>
      )}
    </div>
  );
}
