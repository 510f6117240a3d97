import { useVirtualizer } from "@tanstack/react-virtual";
import { ArrowDown, ArrowUp, BookCheck, Circle, CircleAlert, CircleCheckBig, CircleHelp, Hand, Search, Undo2 } from "lucide-react";
import { useEffect, useRef, type RefObject } from "react";
import type { Schema, Tray } from "../api/client";
import { count, many, pieceNumber, trayNames } from "../ui/words";
import type { Drop } from "./DropPage";
import type { BenchQuery, useBenchRows } from "./useBenchRows";

const icons: Record<string, { icon: typeof Circle; color: string }> = {
  NeedsReview: { icon: CircleAlert, color: "text-warning" },
  Ready: { icon: Circle, color: "text-success" },
  Held: { icon: Hand, color: "text-info" },
  Produced: { icon: BookCheck, color: "text-secondary" },
  Mailed: { icon: CircleCheckBig, color: "text-primary" },
  Returned: { icon: Undo2, color: "text-error" },
};

/** The sign and the word for a tray. */
export function TraySign({ tray, at }: { tray: string; at?: boolean }) {
  const { icon: Icon, color } = icons[tray] ?? { icon: Circle, color: "" };
  return <Icon size={15} strokeWidth={1.9} className={`shrink-0 ${at ? "" : color}`} aria-label={trayNames[tray]} role="img" />;
}

interface Props {
  drop: Drop;
  rows: ReturnType<typeof useBenchRows>;
  cursor: number;
  selected: ReadonlySet<number>;
  search: string;
  alike: string | null;
  only: "inDoubt" | "noted" | null;
  tray: Tray | null;
  sort: { by: BenchQuery["sort"]; descending: boolean };
  searchBox: RefObject<HTMLInputElement | null>;
  onSearch: (text: string) => void;
  onAlike: (alike: string | null) => void;
  onOnly: (only: "inDoubt" | "noted" | null) => void;
  onSort: (sort: { by: BenchQuery["sort"]; descending: boolean }) => void;
  onRange: (range: { first: number; last: number }) => void;
  onCursor: (index: number, extend: boolean) => void;
  onToggle: (id: number) => void;
  onEverybody: () => void;
  onNobody: () => void;
}

/** The recipients of the drop: search, issues, a long table that keeps up. */
export function BenchList(p: Props) {
  const scroller = useRef<HTMLDivElement>(null);
  const { onRange } = p;
  const virtual = useVirtualizer({
    count: p.rows.total,
    getScrollElement: () => scroller.current,
    estimateSize: (i) => (p.rows.row(i)?.why ? 47 : 32),
    overscan: 8,
    onChange: (v) => onRange({ first: v.range?.startIndex ?? 0, last: v.range?.endIndex ?? 30 }),
  });
  const { rows, cursor } = p;
  // Rows with something to say are taller; when others come in, heights are taken anew.
  const heights =
    rows.total +
    virtual
      .getVirtualItems()
      .map((v) => (rows.row(v.index)?.why ? "1" : "0"))
      .join("");
  useEffect(() => virtual.measure(), [heights, virtual]);
  useEffect(() => {
    if (cursor >= 0) virtual.scrollToIndex(cursor, { align: "auto" });
  }, [cursor, virtual]);
  const heading = (by: BenchQuery["sort"], label: string) => (
    <button
      className="flex cursor-pointer items-center gap-1 text-left hover:underline"
      onClick={() => p.onSort({ by, descending: p.sort.by === by && !p.sort.descending })}
      aria-label={`Sort by ${label}`}
    >
      {label}
      {p.sort.by === by && (p.sort.descending ? <ArrowDown size={12} /> : <ArrowUp size={12} />)}
    </button>
  );
  return (
    <section className="flex w-[392px] shrink-0 flex-col border-r border-line" aria-label="Recipients">
      <div className="flex h-10 shrink-0 items-center gap-2 border-b border-line px-2">
        <label className="input input-sm min-w-0 flex-1">
          <Search size={14} className="shrink-0 text-faint" />
          <input
            ref={p.searchBox}
            aria-label="Search recipients"
            placeholder="Search recipients"
            title="By name, street, or piece number"
            value={p.search}
            onChange={(e) => p.onSearch(e.target.value)}
            onKeyDown={(e) => {
              if (e.key === "Escape") p.onSearch("");
              if (e.key === "Escape" || e.key === "Enter" || e.key === "ArrowDown") {
                e.preventDefault();
                e.currentTarget.blur();
              }
            }}
          />
          <kbd className="kbd">/</kbd>
        </label>
        <select
          className="select select-sm w-36"
          aria-label="Issues"
          value={p.alike ?? ""}
          onChange={(e) => p.onAlike(e.target.value || null)}
        >
          <option value="">{p.drop.issues.length ? "All issues" : "No issues"}</option>
          {p.drop.issues.map((g) => (
            <option key={g.alike} value={g.alike}>
              {g.title} ({count(g.recipients)}
              {g.open < g.recipients ? `, ${count(g.open)} open` : ""})
            </option>
          ))}
        </select>
      </div>
      {(p.drop.trays.inDoubt > 0 || p.drop.trays.noted > 0 || p.only) && (
        <div className="flex shrink-0 gap-1.5 border-b border-line px-2 py-1.5" role="group" aria-label="Only those">
          {(p.drop.trays.inDoubt > 0 || p.only === "inDoubt") && (
            <button
              className={`btn btn-xs ${p.only === "inDoubt" ? "btn-primary" : "bg-doubt text-doubt-ink"}`}
              aria-pressed={p.only === "inDoubt"}
              title="Pieces that may have been sent: mark what happened to each"
              onClick={() => p.onOnly(p.only === "inDoubt" ? null : "inDoubt")}
            >
              In doubt {count(p.drop.trays.inDoubt)}
            </button>
          )}
          {(p.drop.trays.noted > 0 || p.only === "noted") && (
            <button
              className={`btn btn-xs ${p.only === "noted" ? "btn-primary" : "bg-doubt text-doubt-ink"}`}
              aria-pressed={p.only === "noted"}
              title="Produced pieces that the list’s rules would now hold"
              onClick={() => p.onOnly(p.only === "noted" ? null : "noted")}
            >
              Produced, would now be held {count(p.drop.trays.noted)}
            </button>
          )}
        </div>
      )}
      <div className="grid h-7 shrink-0 grid-cols-[30px_46px_1fr_132px] items-center border-b border-line pl-1 text-[12px] text-faint">
        <span />
        {heading("piece", "Piece")}
        {heading("name", "Recipient")}
        {heading("place", "Destination")}
      </div>
      <div
        ref={scroller}
        className="min-h-0 flex-1 overflow-auto"
        role="listbox"
        aria-label="Recipients"
        aria-multiselectable
        tabIndex={0}
        aria-activedescendant={cursor >= 0 ? `bench-${cursor}` : undefined}
      >
        <div className="relative" style={{ height: virtual.getTotalSize() }}>
          {virtual.getVirtualItems().map((v) => {
            const row = p.rows.row(v.index);
            return (
              <div
                key={v.key}
                id={`bench-${v.index}`}
                className="absolute left-0 w-full"
                style={{ top: v.start, height: v.size }}
                role="option"
                aria-selected={row ? p.selected.has(row.id) : false}
                data-cursor={v.index === cursor || undefined}
              >
                {row && (
                  <Row
                    row={row}
                    at={v.index === cursor}
                    selected={p.selected.has(row.id)}
                    onClick={(e) => (e.ctrlKey || e.metaKey ? p.onToggle(row.id) : p.onCursor(v.index, e.shiftKey))}
                    onToggle={() => p.onToggle(row.id)}
                  />
                )}
              </div>
            );
          })}
        </div>
      </div>
      <div className="flex h-8 shrink-0 items-center gap-2 border-t border-line px-3 text-[12px] text-faint">
        {p.selected.size > 0 ? (
          <>
            <strong className="text-base-content">{count(p.selected.size)} selected</strong>
            <button className="cursor-pointer underline" onClick={p.onNobody}>
              Clear selection
            </button>
            {p.selected.size < rows.total && (
              <button className="cursor-pointer underline" onClick={p.onEverybody}>
                Select all {count(rows.total)}
              </button>
            )}
          </>
        ) : (
          <span>{many(rows.total, "recipient")}</span>
        )}
        <span className="ml-auto flex items-center gap-1">
          <kbd className="kbd">↑</kbd>
          <kbd className="kbd">↓</kbd> move · <kbd className="kbd">Space</kbd> select · <kbd className="kbd">?</kbd>
        </span>
      </div>
    </section>
  );
}

function Row({
  row,
  at,
  selected,
  onClick,
  onToggle,
}: {
  row: Schema["BenchRow"];
  at: boolean;
  selected: boolean;
  onClick: (e: React.MouseEvent) => void;
  onToggle: () => void;
}) {
  const pale = !at && (row.tray === "Held" || row.tray === "Mailed");
  return (
    <div
      className={`grid h-full cursor-pointer grid-cols-[30px_46px_1fr_132px] items-center border-b border-line pl-1 ${at ? "chosen" : selected ? "bg-info/15" : "hover:bg-base-200"}`}
      onMouseDown={(e) => e.shiftKey && e.preventDefault()}
      onClick={onClick}
    >
      <span className="flex items-center justify-center">
        {selected ? (
          <input
            type="checkbox"
            className="checkbox checkbox-xs"
            checked
            readOnly
            tabIndex={-1}
            aria-label="Selected"
            onClick={(e) => (e.stopPropagation(), onToggle())}
          />
        ) : row.inDoubt ? (
          <CircleHelp size={15} strokeWidth={1.9} className={`shrink-0 ${at ? "" : "text-warning"}`} aria-label="In doubt" role="img" />
        ) : (
          <TraySign tray={row.tray} at={at} />
        )}
      </span>
      <span className={at ? "" : "text-faint"}>{pieceNumber(row.piece)}</span>
      <span className="min-w-0 pr-2">
        <span className={`block truncate text-[13.5px] ${pale ? "text-faint" : ""}`}>{row.name}</span>
        {row.why && (
          <span
            className={`block truncate text-[11.5px] leading-[15px] ${at ? "" : row.tray === "NeedsReview" ? "text-doubt-ink" : row.tray === "Returned" ? "text-error" : "text-faint"}`}
          >
            {row.why}
          </span>
        )}
      </span>
      <span className={`truncate pr-2 ${pale ? "text-faint" : ""}`} title={row.place}>
        {row.place}
      </span>
    </div>
  );
}
