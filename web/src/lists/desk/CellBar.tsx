import type { Schema } from "../../api/client";
import type { useColumnView } from "../useColumnView";
import { fix } from "./acts";
import { SelectionBar } from "./SelectionBar";
import type { useCells } from "./useCells";
import type { useSelection } from "./useSelection";

interface Props {
  list: Schema["ListView"];
  here: Schema["RecipientPage"]["rows"][number] | undefined;
  column: Schema["Column"] | undefined;
  view: ReturnType<typeof useColumnView>;
  selection: ReturnType<typeof useSelection>;
  cells: ReturnType<typeof useCells>;
  segment: number | null;
}

/** What the cell holds and what is wrong with it; for several, what can be done with them. */
export function CellBar({ list, here, column, view, selection, cells, segment }: Props) {
  const { selectedColumns, selectedIds } = cells;
  const selectedRows = selection.range.bottom - selection.range.top + 1;
  const issueHere = here && column ? here.issues.find((d) => d.columnId === column.id) : undefined;
  return (
    <div className="flex h-10 shrink-0 items-center gap-3 border-t border-line bg-base-200 px-4" role="group" aria-label="Cell details">
      {selectedRows > 1 || selection.many ? (
        <SelectionBar
          list={list}
          rows={selectedRows}
          columns={selectedColumns}
          ids={selectedIds}
          segment={segment}
          done={() => selection.to(selection.focus)}
        />
      ) : here && column ? (
        <>
          <span className="shrink-0 font-semibold">
            {column.name} of {here.values[view.position(list.columns.find((c) => c.role === "Key") ?? column)] ?? `No. ${here.number}`}
          </span>
          {issueHere ? (
            <>
              <span className="truncate text-doubt-ink">{issueHere.message}</span>
              {issueHere.fix !== null && (
                <button className="btn btn-primary btn-xs" onClick={() => void fix(list.id, issueHere.kind, [here.id])}>
                  {issueHere.fix === "" ? "Make it blank" : `Make it ${issueHere.fix}`}
                </button>
              )}
            </>
          ) : (
            <span className="truncate text-faint">
              {column.kind === "Computed" ? `Formula: ${column.expression ?? ""}` : (here.values[view.position(column)] ?? "blank")}
            </span>
          )}
        </>
      ) : null}
      <span className="ml-auto shrink-0 text-[12px] text-faint">
        {list.undo && selectedRows === 1 ? `Ctrl Z to undo: ${list.undo}` : ""}
      </span>
    </div>
  );
}
