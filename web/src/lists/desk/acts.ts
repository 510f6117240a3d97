import { api, ask, queryClient, type Schema } from "../../api/client";
import { say, sayWrong } from "../../ui/notices";
import { keys } from "../../api/keys";

type Outcome = Schema["ActOutcome"];

const fresh = (list: number) =>
  Promise.all([queryClient.invalidateQueries({ queryKey: keys.lists(list) }), queryClient.invalidateQueries({ queryKey: keys.drop() })]);

/** Does something to a list, says what it came to with the way back, and has everything asked for anew. False where it went wrong. */
export async function act(list: number, doing: Promise<Outcome>, quiet = false) {
  try {
    const outcome = await doing;
    await fresh(list);
    if (!quiet || outcome.skipped.length > 0)
      say([`${outcome.label}.`, ...outcome.skipped].join(" "), { action: { label: "Undo", run: () => void undo(list) } });
    return true;
  } catch (e) {
    sayWrong(e);
    return false;
  }
}

export async function undo(list: number) {
  try {
    const outcome = await ask(api.POST("/api/lists/{id}/undo", { params: { path: { id: list } } }));
    await fresh(list);
    say([`${outcome.label}.`, ...outcome.skipped].join(" "));
  } catch (e) {
    sayWrong(e);
  }
}

export async function redo(list: number) {
  try {
    const outcome = await ask(api.POST("/api/lists/{id}/redo", { params: { path: { id: list } } }));
    await fresh(list);
    say(`${outcome.label}.`);
  } catch (e) {
    sayWrong(e);
  }
}

export interface CellValue {
  recipientId: number;
  columnId: number;
  value: string | null;
  /** What the cell held when it was seen: where it holds something else by now, nothing is written over. */
  was?: string | null;
}

export const setCells = (list: number, cells: CellValue[], quiet = cells.length === 1) =>
  act(
    list,
    ask(
      api.POST("/api/lists/{id}/cells", {
        params: { path: { id: list } },
        body: { cells: cells.map(({ was, ...cell }) => ({ ...cell, was: was === undefined ? null : { value: was } })) },
      }),
    ),
    quiet,
  );

export const fix = (list: number, kind: Schema["CheckKind"], recipients: number[] | null) =>
  act(list, ask(api.POST("/api/lists/{id}/checks/{kind}/fix", { params: { path: { id: list, kind } }, body: { recipients } })));

export const leave = (list: number, kind: Schema["CheckKind"], recipients: number[] | null) =>
  act(list, ask(api.POST("/api/lists/{id}/checks/{kind}/leave", { params: { path: { id: list, kind } }, body: { recipients } })));
