import { api, ask, type Schema } from "../../api/client";
import { say, sayWrong } from "../../ui/notices";
import type { usePagedRows } from "../../ui/usePagedRows";
import { many } from "../../ui/words";
import type { useColumnView } from "../useColumnView";
import { act, setCells } from "./acts";
import { fromClipboard, toClipboard } from "./clipboard";
import type { Asked } from "./useQuestion";
import type { useSelection } from "./useSelection";

type Row = Schema["RecipientPage"]["rows"][number];

interface Of {
  list: Schema["ListView"];
  rows: ReturnType<typeof usePagedRows<Row>>;
  view: ReturnType<typeof useColumnView>;
  selection: ReturnType<typeof useSelection>;
  query: Asked["query"];
  fetch: (offset: number, limit: number) => Promise<{ rows: Row[] }>;
}

/** What is done with the selected cells together: blank, copied, pasted over. */
export function useCells({ list, rows, view, selection, query, fetch }: Of) {
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
    if (computed) return say(`${computed.name} is computed, so you cannot paste over it.`, { wrong: true });
    const width = Math.max(...cells.map((r) => r.length));
    if (!one && targets.length < width)
      say(`Only ${many(targets.length, "column")} fit from here. ${width - targets.length} more were not pasted.`);
    try {
      const ids = one ? await selectedIds() : (await fetch(selection.range.top, Math.min(1000, cells.length))).rows.map((r) => r.id);
      if (!one && cells.length > 1000)
        return say("You can paste over up to 1,000 rows at a time. To add more rows, import them as a list.", { wrong: true });
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

  return { selectedIds, selectedColumns, blank, onCopy, paste };
}
