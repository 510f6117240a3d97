import { useVirtualizer } from "@tanstack/react-virtual";
import { ArrowUpDown, Columns3, Download, Plus, Replace, Search, Upload, UserRoundPlus } from "lucide-react";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { Link, useNavigate, useSearchParams } from "react-router";
import { api, ask, ServerError, type Schema } from "../../api/client";
import { Dialog } from "../../ui/Dialog";
import { Header } from "../../ui/Header";
import { useActions } from "../../ui/keys";
import { say, sayWrong } from "../../ui/notices";
import { usePagedRows } from "../../ui/usePagedRows";
import { useDelayed } from "../../ui/useDelayed";
import { count, many, moment } from "../../ui/words";
import { useColumnView } from "../useColumnView";
import { act, fix, redo, setCells, undo } from "./acts";
import { fromClipboard, toClipboard } from "./clipboard";
import { ChooseColumns } from "./ChooseColumns";
import { ColumnDialog } from "./ColumnDialog";
import { ColumnMenu } from "./ColumnMenu";
import { ExportDialog } from "./ExportDialog";
import { FindReplace } from "./FindReplace";
import { Grid, rowHeight, type Editing } from "./Grid";
import { SegmentBar, type Question } from "./SegmentBar";
import { SelectionBar } from "./SelectionBar";
import { SidePane, type Side } from "./SidePane";
import { useSelection } from "./useSelection";

type Column = Schema["Column"];
type Open = "columns" | "report" | "find" | "export" | "new-column" | null;

/** Everything one does with a list: look, find, correct, check, choose. */
export function ListDesk({ list }: { list: Schema["ListView"] }) {
  const navigate = useNavigate();
  const [params, setParams] = useSearchParams();
  const [search, setSearch] = useState("");
  const [question, setQuestion] = useState<Question>({ where: "", segment: null });
  const [sorts, setSorts] = useState<{ column: number; descending: boolean }[]>([]);
  const [open, setOpen] = useState<Open>(null);
  const [menu, setMenu] = useState<{ column: Column; at: DOMRect } | null>(null);
  const [changing, setChanging] = useState<Column | null>(null);
  const [editing, setEditing] = useState<Editing | null>(null);
  const side = (params.get("pane") ?? "checks") as Side;
  const doubt = params.get("doubt") as Schema["CheckKind"] | null;
  const setPart = (part: Record<string, string | null>) =>
    setParams(
      (p) => {
        for (const [key, value] of Object.entries(part))
          if (value === null) p.delete(key);
          else p.set(key, value);
        return p;
      },
      { replace: true },
    );
  const searchBox = useRef<HTMLInputElement>(null);
  const scroller = useRef<HTMLDivElement>(null);
  const view = useColumnView(list);

  const query = useDelayed(
    useMemo(
      () => ({
        search: search.trim() || undefined,
        where: question.segment === null ? question.where.trim() || undefined : undefined,
        segment: question.segment ?? undefined,
        doubt: doubt ?? undefined,
        sorts: sorts.map((s) => `${s.descending ? "-" : ""}${s.column}`).join(",") || undefined,
      }),
      [search, question, doubt, sorts],
    ),
    180,
  );
  const fetch = useCallback(
    (offset: number, limit: number) =>
      ask(api.GET("/api/lists/{id}/recipients", { params: { path: { id: list.id }, query: { ...query, offset, limit } } })),
    [list.id, query],
  );
  const [range, setRange] = useState({ first: 0, last: 40 });
  const rows = usePagedRows(["lists", list.id, "rows", query], range.first, range.last, fetch);
  const wrongFilter = rows.error instanceof ServerError && rows.error.status === 400 ? rows.error.message : null;
  const selection = useSelection(rows.total, view.shown.length);
  // A new question begins at the top again.
  const asked = JSON.stringify(query);
  useEffect(() => {
    selection.to({ row: 0, column: 0 });
    scroller.current?.scrollTo({ top: 0 });
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [asked]);

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

  const go = (row: number, column: number, extend = false) => {
    const to = selection.to({ row, column }, extend);
    vertical.scrollToIndex(to.row);
    horizontal.scrollToIndex(to.column);
  };
  const here = rows.row(selection.focus.row);
  const column = view.shown[selection.focus.column];
  const filtered = Boolean(query.search ?? query.where ?? query.segment ?? query.doubt);

  /** The ids of the rows in the selection, in the order of the table. */
  const selectedIds = async () => {
    const loaded = Array.from(
      { length: selection.range.bottom - selection.range.top + 1 },
      (_, i) => rows.row(selection.range.top + i)?.id,
    );
    if (loaded.every((id) => id !== undefined)) return loaded;
    const all = await ask(api.GET("/api/lists/{id}/recipient-ids", { params: { path: { id: list.id }, query } }));
    return all.slice(selection.range.top, selection.range.bottom + 1);
  };
  const selectedColumns = view.shown.slice(selection.range.left, selection.range.right + 1);

  const seen = useRef<string | null>(null);
  const edit = (text?: string) => {
    if (!here || !column) return;
    if (column.kind === "Computed") return say(`${column.name} is computed. Its expression is changed in its heading's menu.`);
    // What one sees as one begins: where somebody else has written since, nothing of theirs is written over.
    seen.current = here.values[view.position(column)] ?? null;
    setEditing({ ...selection.focus, text: text ?? here.values[view.position(column)] ?? "" });
  };
  const commit = (text: string, then: "down" | "right" | "left" | "stay") => {
    const value = text.trim() === "" ? null : text;
    const changed = here && column && value !== (here.values[view.position(column)] ?? null);
    setEditing(null);
    if (then !== "stay") {
      go(selection.focus.row + (then === "down" ? 1 : 0), selection.focus.column + (then === "right" ? 1 : then === "left" ? -1 : 0));
      scroller.current?.focus();
    }
    if (changed) void setCells(list.id, [{ recipientId: here.id, columnId: column.id, value, was: seen.current }]);
  };
  const blank = async () => {
    const ids = await selectedIds();
    await setCells(
      list.id,
      ids.flatMap((recipientId) =>
        selectedColumns.filter((c) => c.kind !== "Computed").map((c) => ({ recipientId, columnId: c.id, value: null })),
      ),
      !selection.many,
    );
  };

  const copy = async () => {
    try {
      const taken: (string | null)[][] = [];
      for (let offset = selection.range.top; offset <= selection.range.bottom; offset += 1000) {
        const page = await fetch(offset, Math.min(1000, selection.range.bottom + 1 - offset));
        taken.push(...page.rows.map((r) => selectedColumns.map((c) => r.values[view.position(c)] ?? null)));
      }
      await navigator.clipboard.writeText(toClipboard(taken));
      say(`Copied ${many(taken.length * selectedColumns.length, "cell")}.`);
    } catch (e) {
      sayWrong(e);
    }
  };
  const onCopy = (e: React.ClipboardEvent) => {
    if (editing) return;
    e.preventDefault();
    const loaded = Array.from({ length: selection.range.bottom - selection.range.top + 1 }, (_, i) => rows.row(selection.range.top + i));
    if (!loaded.every((r) => r !== undefined)) return void copy();
    e.clipboardData.setData("text/plain", toClipboard(loaded.map((r) => selectedColumns.map((c) => r.values[view.position(c)] ?? null))));
    say(`Copied ${many(loaded.length * selectedColumns.length, "cell")}.`);
  };
  const paste = async (text: string) => {
    const cells = fromClipboard(text);
    if (cells.length === 0) return;
    const one = cells.length === 1 && cells[0]?.length === 1 && selection.many;
    const targets = view.shown.slice(
      selection.range.left,
      one ? selection.range.right + 1 : selection.range.left + Math.max(...cells.map((r) => r.length)),
    );
    const computed = targets.find((c) => c.kind === "Computed");
    if (computed) return say(`${computed.name} is computed, so nothing can be pasted over it.`, { wrong: true });
    const width = Math.max(...cells.map((r) => r.length));
    if (!one && targets.length < width)
      say(`The table has ${many(targets.length, "column")} from here on; ${width - targets.length} more were not pasted.`);
    try {
      const ids = one ? await selectedIds() : (await fetch(selection.range.top, Math.min(1000, cells.length))).rows.map((r) => r.id);
      if (!one && cells.length > 1000)
        return say("At most 1,000 rows can be pasted over others at once. More rows are brought in as a list.", { wrong: true });
      const edits = ids.flatMap((recipientId, r) =>
        targets.map((c, i) => ({ recipientId, columnId: c.id, value: (one ? cells[0]?.[0] : cells[r]?.[i]) ?? null })),
      );
      if (edits.length > 0) await setCells(list.id, edits, false);
      const beyond = one ? [] : cells.slice(ids.length);
      if (beyond.length === 0) return;
      await ask(
        api.POST("/api/lists/{id}/recipients", {
          params: { path: { id: list.id } },
          body: { rows: beyond.map((r) => targets.map((c, i) => ({ columnId: c.id, value: r[i] || null }))) },
        }),
      );
      await act(list.id, Promise.resolve({ label: `Added ${many(beyond.length, "recipient")}`, changed: beyond.length, skipped: [] }));
    } catch (e) {
      sayWrong(e);
    }
  };

  const addRecipient = async () => {
    try {
      await ask(api.POST("/api/lists/{id}/recipients", { params: { path: { id: list.id } }, body: { rows: [[]] } }));
      setSearch("");
      setQuestion({ where: "", segment: null });
      setSorts([]);
      setPart({ doubt: null });
      await act(list.id, Promise.resolve({ label: "Added a recipient at the end", changed: 1, skipped: [] }));
      setTimeout(() => {
        go(list.recipients, 0);
        scroller.current?.focus();
      }, 350);
    } catch (e) {
      sayWrong(e);
    }
  };

  const sort = (id: number, more: boolean) =>
    setSorts((now) => {
      const known = now.find((s) => s.column === id);
      const next = known ? (known.descending ? null : { column: id, descending: true }) : { column: id, descending: false };
      const others = more ? now.filter((s) => s.column !== id) : [];
      if (!next) return others;
      return more && known ? now.map((s) => (s.column === id ? next : s)) : [...others, next];
    });

  const onKey = (e: React.KeyboardEvent) => {
    if (editing || e.target !== scroller.current) return;
    const { row, column: at } = selection.focus;
    const ctrl = e.ctrlKey || e.metaKey;
    const page = Math.max(1, Math.floor((scroller.current?.clientHeight ?? 600) / rowHeight) - 2);
    const moves: Record<string, [number, number]> = {
      ArrowDown: [ctrl ? rows.total : 1, 0],
      ArrowUp: [ctrl ? -rows.total : -1, 0],
      ArrowRight: [0, ctrl ? 9999 : 1],
      ArrowLeft: [0, ctrl ? -9999 : -1],
      PageDown: [page, 0],
      PageUp: [-page, 0],
      Tab: [0, e.shiftKey ? -1 : 1],
      Home: [ctrl ? -rows.total : 0, -9999],
      End: [ctrl ? rows.total : 0, 9999],
    };
    const by = moves[e.key];
    if (by && e.key === "Tab" && (e.shiftKey ? at === 0 : at === view.shown.length - 1)) return; // out of the table, as everywhere
    if (by) go(row + by[0], at + by[1], e.shiftKey && e.key !== "Tab");
    else if (e.key === "Enter" && ctrl) {
      if (here) void navigate(`/lists/${list.id}/recipients/${here.id}`);
    } else if (e.key === "Enter" || e.key === "F2") edit();
    else if (e.key === "Delete" || e.key === "Backspace") void blank();
    else if (ctrl && e.key.toLowerCase() === "a") selection.rows(0, rows.total - 1);
    else if (e.key === " " && e.shiftKey) selection.rows(selection.range.top, selection.range.bottom);
    else if (e.key === "Escape" && selection.many) selection.to(selection.focus);
    else if (e.key.length === 1 && !ctrl && !e.altKey && e.key !== "/" && e.key !== "?") edit(e.key);
    else return;
    e.preventDefault();
  };

  useActions([
    { keys: "/", label: "Find in the list", run: () => searchBox.current?.focus() },
    { keys: "Ctrl+Z", label: list.undo ? `Take back: ${list.undo}` : "Take back the last change", run: () => void undo(list.id) },
    {
      keys: "Ctrl+Y Ctrl+Shift+Z",
      label: list.redo ? `Do again: ${list.redo}` : "Do again what was taken back",
      run: () => void redo(list.id),
    },
    { keys: "Ctrl+H", label: "Find and replace", run: () => setOpen("find") },
    {
      label: "Edit a cell: F2 or Enter; walk with the arrows and Tab; Shift selects; Ctrl+C and Ctrl+V copy and paste",
      keys: "F2",
      run: () => edit(),
    },
    { label: "Open the recipient", keys: "Ctrl+Enter", run: () => here && void navigate(`/lists/${list.id}/recipients/${here.id}`) },
    { label: "Add a recipient", run: () => void addRecipient() },
    { label: "Add a column", run: () => setOpen("new-column") },
    { label: "Choose the columns of the table", run: () => setOpen("columns") },
    { label: "Load a newer file", run: () => void navigate(`/lists/${list.id}/reload`) },
    { label: "Take the list out: CSV, XLSX, JSON", run: () => setOpen("export") },
    { label: "Start a drop with this list", run: () => void navigate(`/campaigns/new?list=${list.id}`) },
  ]);

  const doubtHere = here && column ? here.doubts.find((d) => d.columnId === column.id) : undefined;
  const selectedRows = selection.range.bottom - selection.range.top + 1;
  return (
    <>
      <Header kind="List" title={list.name} state={<ListState list={list} onReport={() => setOpen("report")} />}>
        <button className="btn btn-quiet" onClick={() => setOpen("export")}>
          <Download size={15} /> Take out
        </button>
        <Link className="btn btn-quiet" to={`/lists/${list.id}/reload`}>
          <Upload size={15} /> Load a newer file
        </Link>
        <button className="btn btn-quiet" onClick={() => setOpen("new-column")}>
          <Plus size={15} /> Column
        </button>
        <Link
          className="btn btn-primary"
          to={`/campaigns/new?list=${list.id}${question.segment === null ? "" : `&segment=${question.segment}`}`}
        >
          Start a drop
        </Link>
      </Header>
      <div className="flex h-11 shrink-0 items-center gap-2 border-b border-line px-3">
        <label className="input input-sm w-44">
          <Search size={14} className="text-faint" />
          <input
            ref={searchBox}
            aria-label="Find"
            placeholder="Find"
            value={search}
            onChange={(e) => setSearch(e.target.value)}
            onKeyDown={(e) => e.key === "Escape" && (setSearch(""), e.currentTarget.blur())}
          />
          <kbd className="kbd">/</kbd>
        </label>
        <SegmentBar list={list} question={question} sorts={query.sorts ?? ""} wrong={wrongFilter !== null} onAsk={setQuestion} />
        <span
          className={`min-w-0 flex-1 truncate ${wrongFilter ? "text-error" : "text-faint"}`}
          role="status"
          title={wrongFilter ?? undefined}
        >
          {wrongFilter ?? (rows.loading ? "…" : filtered ? `${count(rows.total)} of ${count(list.recipients)}` : "")}
        </span>
        {sorts.length > 0 && (
          <button className="btn btn-quiet btn-sm" title="Back to the order of the list" onClick={() => setSorts([])}>
            <ArrowUpDown size={13} /> {sorts.map((s) => list.columns.find((c) => c.id === s.column)?.name).join(", ")} ×
          </button>
        )}
        <button
          className="btn btn-quiet btn-sm btn-square"
          aria-label="Add a recipient"
          title="Add a recipient"
          onClick={() => void addRecipient()}
        >
          <UserRoundPlus size={15} />
        </button>
        <button
          className="btn btn-quiet btn-sm btn-square"
          aria-label="Find and replace"
          title="Find and replace (Ctrl H)"
          onClick={() => setOpen("find")}
        >
          <Replace size={15} />
        </button>
        <button
          className="btn btn-quiet btn-sm btn-square"
          aria-label="Columns"
          title="Which columns are shown"
          onClick={() => setOpen("columns")}
        >
          <Columns3 size={15} />
        </button>
      </div>
      <div className="flex min-h-0 flex-1">
        <div className="flex min-w-0 flex-1 flex-col">
          <div
            ref={scroller}
            className="min-h-0 flex-1 overflow-auto outline-none"
            role="grid"
            aria-label={`Recipients of ${list.name}`}
            aria-rowcount={rows.total}
            aria-multiselectable
            tabIndex={0}
            onKeyDown={onKey}
            onCopy={onCopy}
            onPaste={(e) => {
              if (editing) return;
              e.preventDefault();
              void paste(e.clipboardData.getData("text/plain"));
            }}
          >
            <Grid
              list={list}
              row={rows.row}
              total={rows.total}
              view={view}
              vertical={vertical}
              horizontal={horizontal}
              selection={selection}
              editing={editing}
              sorts={sorts}
              ticking={question.segment !== null}
              onEdit={setEditing}
              onCommit={commit}
              onSort={sort}
              onMenu={(c, at) => setMenu({ column: c, at })}
              onTick={(row, ticked) =>
                void ask(
                  api.POST("/api/segments/{id}/tick", {
                    params: { path: { id: question.segment ?? 0 } },
                    body: { recipients: [row.id], ticked },
                  }),
                )
                  .then(() =>
                    say(
                      ticked === null
                        ? "Left to the segment's filter again."
                        : ticked
                          ? "Ticked in."
                          : "Unticked: left out of the segment.",
                    ),
                  )
                  .catch(sayWrong)
              }
            />
            {!rows.loading && rows.total === 0 && !wrongFilter && (
              <p className="sticky left-0 max-w-md p-6 text-faint">
                {filtered
                  ? "Nobody on the list fits. Take something out of the search or the filter."
                  : "The list is empty. Add recipients with the button above, or paste rows from a spreadsheet here (Ctrl V)."}
              </p>
            )}
          </div>
          <div className="flex h-10 shrink-0 items-center gap-3 border-t border-line bg-base-200 px-4" role="group" aria-label="The cell">
            {selectedRows > 1 || selection.many ? (
              <SelectionBar
                list={list}
                rows={selectedRows}
                columns={selectedColumns}
                ids={selectedIds}
                segment={question.segment}
                done={() => selection.to(selection.focus)}
              />
            ) : here && column ? (
              <>
                <span className="shrink-0 font-semibold">
                  {column.name} of{" "}
                  {here.values[view.position(list.columns.find((c) => c.role === "Key") ?? column)] ?? `No. ${here.number}`}
                </span>
                {doubtHere ? (
                  <>
                    <span className="truncate text-doubt-ink">{doubtHere.message}</span>
                    {doubtHere.fix !== null && (
                      <button className="btn btn-primary btn-xs" onClick={() => void fix(list.id, doubtHere.kind, [here.id])}>
                        {doubtHere.fix === "" ? "Make it blank" : `Make it ${doubtHere.fix}`}
                      </button>
                    )}
                  </>
                ) : (
                  <span className="truncate text-faint">
                    {column.kind === "Computed" ? `computed: ${column.expression ?? ""}` : (here.values[view.position(column)] ?? "blank")}
                  </span>
                )}
              </>
            ) : null}
            <span className="ml-auto shrink-0 text-[12px] text-faint">
              {list.undo && selectedRows === 1 ? `Ctrl Z takes back: ${list.undo}` : ""}
            </span>
          </div>
        </div>
        <SidePane
          list={list}
          side={side}
          doubt={doubt}
          onSide={(s) => setPart({ pane: s, doubt: null })}
          onDoubt={(kind) => setPart({ doubt: kind })}
          onFind={(text) => setSearch(text)}
          onWhere={(where) => setQuestion({ where, segment: null })}
        />
      </div>
      {menu && (
        <ColumnMenu
          list={list}
          column={menu.column}
          at={menu.at}
          onClose={() => setMenu(null)}
          onSort={(descending) => setSorts([{ column: menu.column.id, descending }])}
          onChange={() => setChanging(menu.column)}
          onHide={() => view.hide([...view.hidden, menu.column.id])}
        />
      )}
      {changing && <ColumnDialog list={list} column={changing} onClose={() => setChanging(null)} />}
      {open === "new-column" && <ColumnDialog list={list} column={null} onClose={() => setOpen(null)} />}
      {open === "columns" && <ChooseColumns list={list} view={view} onClose={() => setOpen(null)} />}
      {open === "find" && <FindReplace list={list} onClose={() => setOpen(null)} />}
      {open === "export" && (
        <ExportDialog list={list} query={query} shown={view.shown} total={rows.total} filtered={filtered} onClose={() => setOpen(null)} />
      )}
      {open === "report" && (
        <Dialog title="What was found when this list was brought in" onClose={() => setOpen(null)}>
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
      <div>{many(list.recipients, "recipient")}</div>
      <div className="truncate">
        {list.sourceName ? `version ${list.version}, from ${list.sourceName}` : `typed here, ${moment(list.createdAt)}`}
        {list.report.length > 0 && (
          <>
            {" · "}
            <button className="cursor-pointer text-doubt-ink underline" onClick={onReport}>
              {many(list.report.length, "remark")}
            </button>
          </>
        )}
        {list.reload !== null && (
          <>
            {" · "}
            <Link className="text-doubt-ink underline" to={`/lists/${list.id}/reload`}>
              a newer file waits
            </Link>
          </>
        )}
      </div>
    </>
  );
}
