import { useQuery } from "@tanstack/react-query";
import { useVirtualizer } from "@tanstack/react-virtual";
import { ArrowDown, ArrowUp, Columns3, Search } from "lucide-react";
import { useCallback, useMemo, useRef, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { api, ask, ServerError, type Schema } from "../api/client";
import { listQuery } from "../api/queries";
import { Dialog } from "../ui/Dialog";
import { Header } from "../ui/Header";
import { useActions } from "../ui/keys";
import { usePagedRows } from "../ui/usePagedRows";
import { useDelayed } from "../ui/useDelayed";
import { count, day, moment } from "../ui/words";
import { roleNames, typeNames } from "./columns";
import { useColumnView } from "./useColumnView";

type Column = Schema["Column"];

const rowHeight = 32;

export function ListPage() {
  const id = Number(useParams().id);
  const list = useQuery(listQuery(id));
  if (list.error) return <p className="p-8 text-error">{list.error.message}</p>;
  return list.data ? <Table key={id} list={list.data} /> : null;
}

function Table({ list }: { list: Schema["ListView"] }) {
  const navigate = useNavigate();
  const [search, setSearch] = useState("");
  const [where, setWhere] = useState("");
  const [sort, setSort] = useState<{ column: number; descending: boolean } | null>(null);
  const [choosing, setChoosing] = useState(false);
  const [report, setReport] = useState(false);
  const [cursor, setCursor] = useState(0);
  const searchBox = useRef<HTMLInputElement>(null);
  const scroller = useRef<HTMLDivElement>(null);
  const view = useColumnView(list);
  const query = useDelayed(useMemo(() => ({ search: search.trim() || undefined, where: where.trim() || undefined, sort: sort?.column, descending: sort?.descending }), [search, where, sort]), 180);

  const fetch = useCallback(
    (offset: number, limit: number) => ask(api.GET("/api/lists/{id}/recipients", { params: { path: { id: list.id }, query: { ...query, offset, limit } } })),
    [list.id, query],
  );
  const [range, setRange] = useState({ first: 0, last: 40 });
  const rows = usePagedRows(["lists", list.id, "rows", query], range.first, range.last, fetch);
  const wrongFilter = rows.error instanceof ServerError && rows.error.status === 400 ? rows.error.message : null;

  const vertical = useVirtualizer({
    count: rows.total,
    getScrollElement: () => scroller.current,
    estimateSize: () => rowHeight,
    overscan: 12,
    onChange: (v) => {
      const first = v.range?.startIndex ?? 0;
      const last = v.range?.endIndex ?? 40;
      setRange((r) => (r.first === first && r.last === last ? r : { first, last }));
    },
  });
  const horizontal = useVirtualizer({
    horizontal: true,
    count: view.shown.length,
    getScrollElement: () => scroller.current,
    estimateSize: (i) => view.width(view.shown[i] as Column),
    overscan: 4,
  });
  const columns = horizontal.getVirtualItems();
  const numberWidth = 56;
  const mailedWidth = 190;
  const width = numberWidth + mailedWidth + horizontal.getTotalSize();

  const move = (by: number) => {
    const to = Math.max(0, Math.min(rows.total - 1, cursor + by));
    setCursor(to);
    vertical.scrollToIndex(to);
  };
  const open = (row: Schema["RecipientView"] | undefined) => row && void navigate(`/lists/${list.id}/recipients/${row.id}`);
  useActions([
    { keys: "/", label: "Find in the list", run: () => searchBox.current?.focus() },
    { keys: "ArrowDown", label: "Next recipient", run: () => move(1), quiet: true },
    { keys: "ArrowUp", label: "Recipient before", run: () => move(-1), quiet: true },
    { keys: "PageDown", label: "A page down", run: () => move(18), quiet: true },
    { keys: "PageUp", label: "A page up", run: () => move(-18), quiet: true },
    { keys: "Enter", label: "Open the recipient", run: () => open(rows.row(cursor)) },
    { keys: "c", label: "Choose columns", run: () => setChoosing(true) },
    { label: "Start a drop with this list", run: () => void navigate(`/campaigns/new?list=${list.id}`) },
  ]);

  const cell = "flex items-center overflow-hidden border-r border-line px-2 whitespace-nowrap";
  return (
    <>
      <Header kind="List" title={list.name} state={<ListState list={list} onReport={() => setReport(true)} />}>
        <button className="btn btn-quiet" onClick={() => setChoosing(true)}>
          <Columns3 size={15} /> Columns
        </button>
        <Link className="btn btn-primary" to={`/campaigns/new?list=${list.id}`}>
          Start a drop with this list
        </Link>
      </Header>
      <div className="flex h-11 shrink-0 items-center gap-3 border-b border-line px-4">
        <label className="input input-sm w-60">
          <Search size={14} className="text-faint" />
          <input ref={searchBox} aria-label="Find" placeholder="Find" value={search} onChange={(e) => setSearch(e.target.value)} onKeyDown={(e) => e.key === "Escape" && (setSearch(""), e.currentTarget.blur())} />
          <kbd className="kbd">/</kbd>
        </label>
        <label className={`input input-sm w-[420px] ${wrongFilter ? "border-error" : ""}`}>
          <span className="font-semibold">Only</span>
          <input aria-label="Only recipients with" placeholder={example(list.columns)} value={where} onChange={(e) => setWhere(e.target.value)} />
        </label>
        <span className={wrongFilter ? "text-error" : "text-faint"} role="status">
          {wrongFilter ?? (rows.loading ? "…" : query.search || query.where ? `${count(rows.total)} of ${count(list.recipients)}` : "")}
        </span>
      </div>
      <div ref={scroller} className="min-h-0 flex-1 overflow-auto" role="grid" aria-label={`Recipients of ${list.name}`} aria-rowcount={rows.total} tabIndex={0}>
        <div style={{ width, height: vertical.getTotalSize() + 44 }} className="relative">
          <div className="sticky top-0 z-10 h-11 border-b border-base-300 bg-base-200" role="row" style={{ width }}>
            <div className={`${cell} absolute h-full justify-end text-faint`} style={{ left: 0, width: numberWidth }} role="columnheader">
              No.
            </div>
            <div className={`${cell} absolute h-full font-semibold`} style={{ left: numberWidth, width: mailedWidth }} role="columnheader">
              Mailed last
            </div>
            {columns.map((v) => {
              const column = view.shown[v.index] as Column;
              const sorted = sort?.column === column.id;
              return (
                <div key={column.id} className="absolute flex h-full items-center border-r border-line px-2 whitespace-nowrap" style={{ left: numberWidth + mailedWidth + v.start, width: v.size }} role="columnheader" aria-sort={sorted ? (sort.descending ? "descending" : "ascending") : "none"}>
                  <button
                    className="min-w-0 flex-1 cursor-pointer text-left"
                    title={`Sort by ${column.name}`}
                    onClick={() => setSort(sorted ? (sort.descending ? null : { column: column.id, descending: true }) : { column: column.id, descending: false })}
                  >
                    <span className="flex items-center gap-1 truncate font-semibold">
                      {column.name}
                      {sorted && (sort.descending ? <ArrowDown size={13} /> : <ArrowUp size={13} />)}
                    </span>
                    <span className="block truncate text-[11px] text-faint">{column.role === "None" ? typeNames[column.type] : roleNames[column.role]}</span>
                  </button>
                  <ColumnEdge
                    width={v.size}
                    label={`Width of ${column.name}`}
                    onWidth={(w) => {
                      view.setWidth(column.id, w);
                      horizontal.measure();
                    }}
                  />
                </div>
              );
            })}
          </div>
          {vertical.getVirtualItems().map((r) => {
            const row = rows.row(r.index);
            const at = r.index === cursor;
            return (
              <div
                key={r.key}
                role="row"
                aria-rowindex={r.index + 1}
                aria-selected={at}
                className={`absolute left-0 flex cursor-pointer border-b border-line ${at ? "bg-base-200" : "hover:bg-base-200/60"}`}
                style={{ top: r.start + 44, width, height: rowHeight }}
                onClick={() => setCursor(r.index)}
                onDoubleClick={() => open(row)}
              >
                <div className={`${cell} absolute h-full justify-end text-faint`} style={{ left: 0, width: numberWidth }} role="gridcell">
                  {row ? <Link to={`/lists/${list.id}/recipients/${row.id}`} className="hover:underline" tabIndex={-1}>{count(row.number)}</Link> : ""}
                </div>
                <div className={`${cell} absolute h-full`} style={{ left: numberWidth, width: mailedWidth }} role="gridcell" title={row?.lastMailed?.with}>
                  {row?.lastMailed && (
                    <span className={`truncate ${row.lastMailed.tray === "Returned" ? "text-error" : ""}`}>
                      {day(row.lastMailed.on, false)}
                      {row.lastMailed.tray === "Returned" ? ", returned" : ""} <span className="text-faint">{row.lastMailed.with}</span>
                    </span>
                  )}
                </div>
                {row &&
                  columns.map((v) => {
                    const column = view.shown[v.index] as Column;
                    const value = row.values[view.position(column)];
                    return (
                      <div key={column.id} role="gridcell" className={`${cell} absolute h-full ${column.type === "Number" ? "justify-end" : ""}`} style={{ left: numberWidth + mailedWidth + v.start, width: v.size }}>
                        <span className="truncate" title={value ?? undefined}>
                          {value}
                        </span>
                      </div>
                    );
                  })}
              </div>
            );
          })}
        </div>
        {!rows.loading && rows.total === 0 && !wrongFilter && <p className="sticky left-0 p-6 text-faint">Nobody on the list fits. Take something out of the search or the filter.</p>}
      </div>
      {choosing && (
        <Dialog title="Columns of the table" onClose={() => setChoosing(false)}>
          <div className="mb-3 flex gap-2">
            <button className="btn btn-quiet btn-sm" onClick={() => view.hide([])}>
              All
            </button>
            <button className="btn btn-quiet btn-sm" onClick={() => view.hide(list.columns.filter((c) => c.role === "None").map((c) => c.id))}>
              Name and address only
            </button>
          </div>
          <div className="flex max-h-96 flex-col gap-1 overflow-auto">
            {list.columns.map((c) => (
              <label key={c.id} className="flex items-center gap-2">
                <input type="checkbox" className="checkbox checkbox-sm" checked={!view.hidden.includes(c.id)} onChange={(e) => view.hide(e.target.checked ? view.hidden.filter((x) => x !== c.id) : [...view.hidden, c.id])} />
                {c.name} <span className="text-faint">{c.role === "None" ? typeNames[c.type] : roleNames[c.role]}</span>
              </label>
            ))}
          </div>
        </Dialog>
      )}
      {report && (
        <Dialog title="What was found when this list was brought in" onClose={() => setReport(false)}>
          <ul className="flex list-disc flex-col gap-2 pl-5">
            {list.report.map((r) => (
              <li key={r}>{r}</li>
            ))}
          </ul>
        </Dialog>
      )}
    </>
  );
}

function ListState({ list, onReport }: { list: Schema["ListView"]; onReport: () => void }) {
  return (
    <>
      <div>{count(list.recipients)} recipients</div>
      <div className="truncate">
        brought in {moment(list.createdAt)} from {list.sourceName}
        {list.report.length > 0 && (
          <>
            {" · "}
            <button className="cursor-pointer text-doubt-ink underline" onClick={onReport}>
              {list.report.length === 1 ? "1 remark" : `${list.report.length} remarks`}
            </button>
          </>
        )}
      </div>
    </>
  );
}

/** An example of a filter in this list's own headings. */
function example(columns: Column[]) {
  const number = columns.find((c) => c.type === "Number");
  const region = columns.find((c) => c.role === "Region" || c.role === "City") ?? columns[0];
  return number ? `${number.name} > 100` : `${region?.name ?? "City"} = "OR"`;
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
