import { useSyncExternalStore } from "react";

/** Who is selected in a drop; kept while one goes from place to place, so that "the selected" can be produced. */
const byDrop = new Map<number, ReadonlySet<number>>();
const listeners = new Set<() => void>();
const nobody: ReadonlySet<number> = new Set();

export function useSelection(dropId: number) {
  const selected = useSyncExternalStore(
    (listener) => (listeners.add(listener), () => listeners.delete(listener)),
    () => byDrop.get(dropId) ?? nobody,
  );
  const set = (ids: Iterable<number>) => {
    byDrop.set(dropId, new Set(ids));
    for (const listener of listeners) listener();
  };
  return [selected, set] as const;
}
