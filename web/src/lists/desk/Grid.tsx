import type { useVirtualizer } from "@tanstack/react-virtual";
import { ArrowDown, ArrowUp, Calculator, ChevronDown, Hand } from "lucide-react";
import { useEffect, useRef, useState } from "react";
import { Link } from "react-router";
import type { Schema } from "../../api/client";
import { count, day } from "../../ui/words";
import { cellText, roleNames, typeNames } from "../columns";
import type { useColumnView } from "../useColumnView";
import type { useSelection } from "./useSelection";

type Column = Schema["Column"];
type Row = Schema["RecipientView"];

export interface Editing {
  row: number;
  column: number;
  text: string;
}

interface Props {
  list: Schema["ListView"];
  row: (index: number) => Row | undefined;
  total: number;
  view: ReturnType<typeof useColumnView>;
  vertical: ReturnType<typeof useVirtualizer<HTMLDivElement, Element>>;
  horizontal: ReturnType<typeof useVirtualizer<HTMLDivElement, Element>>;
  selection: ReturnType<typeof useSelection>;
  editing: Editing | null;
  sorts: { column: number; descending: boolean }[];
  ticking: boolean;
  onEdit: (editing: Editing | null) => void;
  onCommit: (text: string, then: "down" | "right" | "left" | "stay") => void;
  onSort: (column: number, more: boolean) => void;
  onMenu: (column: Column, at: DOMRect) => void;
  onTick: (row: Row, ticked: boolean | null) => void;
}

export const rowHeight = 32;
export const headHeight = 44;
const numberWidth = 60;
const mailedWidth = 170;

/** The table of recipients: cells that are walked through, selected and edited in place. */
export function Grid(p: Props) {
  const { list, view, vertical, horizontal, selection, editing } = p;
  const columns = horizontal.getVirtualItems();
  const tickWidth = p.ticking ? 34 : 0;
  const lead = tickWidth + numberWidth;
  const end = lead + horizontal.getTotalSize();
  const width = end + mailedWidth;
  const pulling = useRef(false);
  useEffect(() => {
    const stop = () => (pulling.current = false);
    window.addEventListener("pointerup", stop);
    return () => window.removeEventListener("pointerup", stop);
  }, []);
  const plain = "flex items-center overflow-hidden border-r border-line px-2 whitespace-nowrap";
  return (
    <div style={{ width, height: vertical.getTotalSize() + headHeight }} className="relative">
      <div className="sticky top-0 z-20 border-b border-base-300 bg-base-200" role="row" style={{ width, height: headHeight }}>
        <div
          className={`${plain} sticky z-10 h-full justify-end bg-base-200 text-faint`}
          style={{ left: 0, width: lead }}
          role="columnheader"
        >
          {p.ticking ? "In · No." : "No."}
        </div>
        {columns.map((v) => {
          const column = view.shown[v.index] as Column;
          return (
            <Heading
              key={column.id}
              column={column}
              left={lead + v.start}
              width={v.size}
              sorts={p.sorts}
              onSort={p.onSort}
              onMenu={p.onMenu}
              onWidth={(w) => (view.setWidth(column.id, w), horizontal.measure())}
            />
          );
        })}
        <div className={`${plain} absolute top-0 h-full font-semibold`} style={{ left: end, width: mailedWidth }} role="columnheader">
          Last mailed
        </div>
      </div>
      {vertical.getVirtualItems().map((r) => {
        const row = p.row(r.index);
        const rowSelected = r.index >= selection.range.top && r.index <= selection.range.bottom;
        return (
          <div
            key={r.key}
            role="row"
            aria-rowindex={r.index + 1}
            className="absolute left-0 border-b border-line"
            style={{ top: r.start + headHeight, width, height: rowHeight }}
          >
            <div
              className={`${plain} sticky z-10 h-full justify-end ${rowSelected ? "bg-base-300" : "bg-base-100 text-faint"}`}
              style={{ left: 0, width: lead }}
              role="rowheader"
            >
              {row && p.ticking && (
                <input
                  type="checkbox"
                  className={`checkbox checkbox-xs mr-auto ${row.ticked === null ? "" : "checkbox-primary"}`}
                  checked={row.ticked ?? true}
                  aria-label={`${row.number} is in the segment`}
                  title={row.ticked === null ? "Included by the filter. Clear the box to exclude." : "Included by hand"}
                  onChange={(e) =>
                    p.onTick(row, e.target.checked ? (row.ticked === false ? null : true) : row.ticked === true ? null : false)
                  }
                />
              )}
              {row ? (
                <Link to={`/lists/${list.id}/recipients/${row.id}`} className="hover:underline" tabIndex={-1} title="Open recipient">
                  {count(row.number)}
                </Link>
              ) : (
                ""
              )}
            </div>
            {row &&
              columns.map((v) => {
                const column = view.shown[v.index] as Column;
                const value = row.values[view.position(column)] ?? null;
                const issue = row.issues.find((d) => d.columnId === column.id);
                const at = selection.focus.row === r.index && selection.focus.column === v.index;
                const style = { left: lead + v.start, width: v.size };
                if (at && editing?.row === r.index && editing.column === v.index)
                  return (
                    <Editor
                      key={column.id}
                      column={column}
                      style={style}
                      text={editing.text}
                      onCommit={p.onCommit}
                      onCancel={() => p.onEdit(null)}
                    />
                  );
                const ground = issue
                  ? "bg-doubt"
                  : selection.many && selection.within(r.index, v.index)
                    ? "bg-primary/10"
                    : column.kind === "Computed"
                      ? "bg-base-200/60"
                      : "";
                return (
                  <div
                    key={column.id}
                    role="gridcell"
                    aria-selected={at}
                    data-issue={issue?.kind}
                    title={issue?.message ?? value ?? undefined}
                    className={`${plain} absolute top-0 h-full cursor-cell ${ground} ${column.type === "Number" ? "justify-end" : ""} ${at ? "z-[5] outline-2 -outline-offset-2 outline-primary" : ""}`}
                    style={style}
                    onPointerDown={(e) => {
                      if (e.button !== 0) return;
                      pulling.current = true;
                      selection.to({ row: r.index, column: v.index }, e.shiftKey);
                    }}
                    onPointerEnter={() => pulling.current && selection.to({ row: r.index, column: v.index }, true)}
                    onDoubleClick={() => column.kind !== "Computed" && p.onEdit({ row: r.index, column: v.index, text: value ?? "" })}
                  >
                    {value !== null ? (
                      <span className="truncate">{cellText(column.type, value)}</span>
                    ) : issue ? (
                      <span className="text-faint italic">blank</span>
                    ) : null}
                  </div>
                );
              })}
            <div
              className={`${plain} absolute top-0 h-full`}
              style={{ left: end, width: mailedWidth }}
              role="gridcell"
              title={row?.lastMailed?.with}
            >
              {row?.lastMailed && (
                <span className={`truncate ${row.lastMailed.tray === "Returned" ? "text-error" : ""}`}>
                  {day(row.lastMailed.on, false)}
                  {row.lastMailed.tray === "Returned" ? ", returned" : ""} <span className="text-faint">{row.lastMailed.with}</span>
                </span>
              )}
            </div>
          </div>
        );
      })}
    </div>
  );
}

function Heading({
  column,
  left,
  width,
  sorts,
  onSort,
  onMenu,
  onWidth,
}: {
  column: Column;
  left: number;
  width: number;
  sorts: Props["sorts"];
  onSort: Props["onSort"];
  onMenu: Props["onMenu"];
  onWidth: (w: number) => void;
}) {
  const at = sorts.findIndex((s) => s.column === column.id);
  const sorted = sorts[at];
  return (
    <div
      className="absolute top-0 flex h-full items-center border-r border-line pr-3 pl-2 whitespace-nowrap"
      style={{ left, width }}
      role="columnheader"
      aria-sort={sorted ? (sorted.descending ? "descending" : "ascending") : "none"}
    >
      <button
        className="min-w-0 flex-1 cursor-pointer text-left"
        title={`Sort by ${column.name}. Hold Shift to add to the current sort.`}
        onClick={(e) => onSort(column.id, e.shiftKey)}
      >
        <span className="flex items-center gap-1 font-semibold">
          <span className="truncate">{column.name}</span>
          {sorted && (sorted.descending ? <ArrowDown size={13} className="shrink-0" /> : <ArrowUp size={13} className="shrink-0" />)}
          {sorted && sorts.length > 1 && <span className="text-[10px]">{at + 1}</span>}
        </span>
        <span className="flex items-center gap-1 text-[11px] text-faint">
          {column.kind === "Computed" && <Calculator size={11} aria-label="Computed" />}
          {column.kind === "Hand" && <Hand size={11} aria-label="Added column" />}
          <span className="truncate">{column.role === "None" ? typeNames[column.type] : roleNames[column.role]}</span>
        </span>
      </button>
      <button
        className="flex size-6 shrink-0 cursor-pointer items-center justify-center rounded text-faint hover:bg-base-300"
        aria-label={`${column.name} column menu`}
        title="Column menu"
        onClick={(e) => onMenu(column, e.currentTarget.getBoundingClientRect())}
      >
        <ChevronDown size={14} />
      </button>
      <ColumnEdge width={width} label={`Width of ${column.name}`} onWidth={onWidth} />
    </div>
  );
}

function Editor({
  column,
  style,
  text,
  onCommit,
  onCancel,
}: {
  column: Column;
  style: React.CSSProperties;
  text: string;
  onCommit: Props["onCommit"];
  onCancel: () => void;
}) {
  const [value, setValue] = useState(text);
  const done = useRef(false);
  const commit = (then: "down" | "right" | "left" | "stay") => {
    if (done.current) return;
    done.current = true;
    onCommit(value, then);
  };
  return (
    <input
      aria-label={`Edit ${column.name}`}
      className="absolute top-0 z-[6] h-full bg-base-100 px-2 outline-2 -outline-offset-2 outline-primary"
      style={style}
      autoFocus
      value={value}
      onChange={(e) => setValue(e.target.value)}
      onFocus={(e) => e.target.setSelectionRange(e.target.value.length, e.target.value.length)}
      onBlur={() => commit("stay")}
      onKeyDown={(e) => {
        e.stopPropagation();
        if (e.key === "Enter") commit("down");
        else if (e.key === "Tab") commit(e.shiftKey ? "left" : "right");
        else if (e.key === "Escape") {
          done.current = true;
          onCancel();
        } else return;
        e.preventDefault();
      }}
    />
  );
}

/** The right edge of a heading: drag it, or use the arrow keys, to make the column wider or narrower. */
function ColumnEdge({ width, label, onWidth }: { width: number; label: string; onWidth: (w: number) => void }) {
  const clamp = (w: number) => Math.max(48, Math.min(900, Math.round(w)));
  return (
    <div
      role="slider"
      aria-label={label}
      aria-valuenow={width}
      aria-valuemin={48}
      aria-valuemax={900}
      aria-orientation="horizontal"
      tabIndex={0}
      className="absolute top-0 -right-3 z-10 flex h-full w-6 cursor-col-resize justify-center hover:bg-primary/20"
      onKeyDown={(e) => {
        if (e.key !== "ArrowLeft" && e.key !== "ArrowRight") return;
        e.preventDefault();
        e.stopPropagation();
        onWidth(clamp(width + (e.key === "ArrowRight" ? 12 : -12)));
      }}
      onPointerDown={(e) => {
        e.preventDefault();
        const start = e.clientX;
        const target = e.currentTarget;
        target.setPointerCapture(e.pointerId);
        const drag = (m: PointerEvent) => onWidth(clamp(width + m.clientX - start));
        target.addEventListener("pointermove", drag);
        target.addEventListener("pointerup", () => target.removeEventListener("pointermove", drag), { once: true });
      }}
    />
  );
}
