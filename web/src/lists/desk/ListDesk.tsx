import { useVirtualizer } from "@tanstack/react-virtual";
import { useCallback, useEffect, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { api, ask, ServerError, type Schema } from "../../api/client";
import { Dialog } from "../../ui/Dialog";
import { RemovalDialog } from "../../ui/RemovalDialog";
import { useActions } from "../../ui/keys";
import { say, sayWrong } from "../../ui/notices";
import { usePagedRows } from "../../ui/usePagedRows";
import { useColumnView } from "../useColumnView";
import { act, redo, setCells, undo } from "./acts";
import { ChooseColumns } from "./ChooseColumns";
import { ColumnDialog } from "./ColumnDialog";
import { ColumnMenu } from "./ColumnMenu";
import { ExportDialog } from "./ExportDialog";
import { FindReplace } from "./FindReplace";
import { Grid, rowHeight, type Editing } from "./Grid";
import { SidePane } from "./SidePane";
import { useSelection } from "./useSelection";
import { CellBar } from "./CellBar";
import { DeskBar } from "./DeskBar";
import { DeskHead } from "./DeskHead";
import { moveOf } from "./moves";
import { sorted } from "./sorting";
import { useCells } from "./useCells";
import { useQuestion } from "./useQuestion";
import { keys } from "../../api/keys";

type Column = Schema["Column"];
type Open = "columns" | "report" | "find" | "export" | "new-column" | "removal" | null;

/** Everything one does with a list: look, find, correct, check, choose. */
export function ListDesk({ list }: { list: Schema["ListView"] }) {
  const navigate = useNavigate();
  const asked = useQuestion();
  const { question, setQuestion, sorts, setSorts, side, issue, setPart, query, filtered } = asked;
  const [open, setOpen] = useState<Open>(null);
  const [menu, setMenu] = useState<{ column: Column; at: DOMRect } | null>(null);
  const [changing, setChanging] = useState<Column | null>(null);
  const [editing, setEditing] = useState<Editing | null>(null);
  const searchBox = useRef<HTMLInputElement>(null);
  const scroller = useRef<HTMLDivElement>(null);
  const view = useColumnView(list);

  const fetch = useCallback(
    (offset: number, limit: number) =>
      ask(api.GET("/api/lists/{id}/recipients", { params: { path: { id: list.id }, query: { ...query, offset, limit } } })),
    [list.id, query],
  );
  const [range, setRange] = useState({ first: 0, last: 40 });
  const rows = usePagedRows(keys.lists(list.id, "rows", query), range.first, range.last, fetch);
  const wrongFilter = rows.error instanceof ServerError && rows.error.status === 400 ? rows.error.message : null;
  const selection = useSelection(rows.total, view.shown.length);
  // A new question begins at the top again.
  const mark = JSON.stringify(query);
  useEffect(() => {
    selection.to({ row: 0, column: 0 });
    scroller.current?.scrollTo({ top: 0 });
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [mark]);

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

  const cells = useCells({ list, rows, view, selection, query, fetch });

  const seen = useRef<string | null>(null);
  const edit = (text?: string) => {
    if (!here || !column) return;
    if (column.kind === "Computed") return say(`${column.name} is computed. To change the formula, use the column menu.`);
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
  // One writes into the new row as soon as the whole list is shown and has it.
  const added = useRef<number | null>(null);
  useEffect(() => {
    if (added.current === null || filtered || query.sorts || rows.total <= added.current) return;
    go(added.current, 0);
    added.current = null;
    scroller.current?.focus();
  });
  const addRecipient = async () => {
    // Noted first: the new row may be shown before the answer is here, and nothing is drawn again after that.
    added.current = list.recipients;
    try {
      await ask(api.POST("/api/lists/{id}/recipients", { params: { path: { id: list.id } }, body: { rows: [[]] } }));
      asked.clear();
      await act(list.id, Promise.resolve({ label: "Added a recipient at the end of the list", changed: 1, skipped: [] }));
    } catch (e) {
      added.current = null;
      sayWrong(e);
    }
  };

  const onKey = (e: React.KeyboardEvent) => {
    if (editing || e.target !== scroller.current) return;
    const { row, column: at } = selection.focus;
    const ctrl = e.ctrlKey || e.metaKey;
    const page = Math.max(1, Math.floor((scroller.current?.clientHeight ?? 600) / rowHeight) - 2);
    const by = moveOf({ key: e.key, ctrl, shift: e.shiftKey }, { column: at, columns: view.shown.length, rows: rows.total, page });
    if (!by && e.key === "Tab") return;
    if (by) go(row + by[0], at + by[1], e.shiftKey && e.key !== "Tab");
    else if (e.key === "Enter" && ctrl) {
      if (here) void navigate(`/lists/${list.id}/recipients/${here.id}`);
    } else if (e.key === "Enter" || e.key === "F2") edit();
    else if (e.key === "Delete" || e.key === "Backspace") void cells.blank();
    else if (ctrl && e.key.toLowerCase() === "a") selection.rows(0, rows.total - 1);
    else if (e.key === " " && e.shiftKey) selection.rows(selection.range.top, selection.range.bottom);
    else if (e.key === "Escape" && selection.many) selection.to(selection.focus);
    else if (e.key.length === 1 && !ctrl && !e.altKey && e.key !== "/" && e.key !== "?") edit(e.key);
    else return;
    e.preventDefault();
  };

  useActions([
    { keys: "/", label: "Search list", run: () => searchBox.current?.focus() },
    { keys: "Ctrl+Z", label: list.undo ? `Undo: ${list.undo}` : "Undo last change", run: () => void undo(list.id) },
    {
      keys: "Ctrl+Y Ctrl+Shift+Z",
      label: list.redo ? `Redo: ${list.redo}` : "Redo last undone change",
      run: () => void redo(list.id),
    },
    { keys: "Ctrl+H", label: "Find and replace", run: () => setOpen("find") },
    {
      label: "Edit a cell with F2 or Enter. Move with the arrow keys and Tab. Hold Shift to select. Copy and paste with Ctrl+C and Ctrl+V.",
      keys: "F2",
      run: () => edit(),
    },
    { label: "Open recipient", keys: "Ctrl+Enter", run: () => here && void navigate(`/lists/${list.id}/recipients/${here.id}`) },
    { label: "Add recipient", run: () => void addRecipient() },
    { label: "Add column", run: () => setOpen("new-column") },
    { label: "Show or hide columns", run: () => setOpen("columns") },
    { label: "Update from file", run: () => void navigate(`/lists/${list.id}/reload`) },
    { label: "Export list (CSV, XLSX, JSON)", run: () => setOpen("export") },
    { label: "Remove this list, or erase its recipients", run: () => setOpen("removal") },
    { label: "Start drop with this list", run: () => void navigate(`/campaigns/new?list=${list.id}`) },
  ]);

  return (
    <>
      <DeskHead list={list} segment={question.segment} open={setOpen} />
      <DeskBar
        list={list}
        asked={asked}
        searchBox={searchBox}
        total={rows.total}
        loading={rows.loading}
        wrongFilter={wrongFilter}
        add={() => void addRecipient()}
        open={setOpen}
      />
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
            onCopy={(e) => !editing && cells.onCopy(e)}
            onPaste={(e) => {
              if (editing) return;
              e.preventDefault();
              void cells.paste(e.clipboardData.getData("text/plain"));
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
              onSort={(id, more) => setSorts((now) => sorted(now, id, more))}
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
                      ticked === null ? "Now follows the segment filter." : ticked ? "Added to the segment." : "Excluded from the segment.",
                    ),
                  )
                  .catch(sayWrong)
              }
            />
            {!rows.loading && rows.total === 0 && !wrongFilter && (
              <p className="sticky left-0 max-w-md p-6 text-faint">
                {filtered
                  ? "No recipients match. Change the search or the filter."
                  : "The list is empty. Add recipients with the button above, or paste rows from a spreadsheet here (Ctrl V)."}
              </p>
            )}
          </div>
          <CellBar list={list} here={here} column={column} view={view} selection={selection} cells={cells} segment={question.segment} />
        </div>
        <SidePane
          list={list}
          side={side}
          issue={issue}
          onSide={(s) => setPart({ pane: s, issue: null })}
          onIssue={(kind) => setPart({ issue: kind })}
          onFind={asked.setSearch}
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
      {open === "removal" && <RemovalDialog kind="list" id={list.id} close={() => setOpen(null)} gone={() => void navigate("/lists")} />}
      {open === "export" && (
        <ExportDialog list={list} query={query} shown={view.shown} total={rows.total} filtered={filtered} onClose={() => setOpen(null)} />
      )}
      {open === "report" && (
        <Dialog title="Import notes" onClose={() => setOpen(null)}>
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
