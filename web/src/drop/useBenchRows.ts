import { useCallback } from "react";
import { api, ask, type Tray } from "../api/client";
import { usePagedRows } from "../ui/usePagedRows";
import { keys } from "../api/keys";

export interface BenchQuery {
  tray: Tray | null;
  search: string;
  alike: string | null;
  /** Only those in doubt, or only those a rule has something to say about. */
  only?: "inDoubt" | "noted" | null;
  sort: "piece" | "name" | "place";
  descending: boolean;
}

export const benchParams = (q: BenchQuery) => ({
  tray: q.tray ?? undefined,
  search: q.search.trim() || undefined,
  alike: q.alike ?? undefined,
  inDoubt: q.only === "inDoubt" || undefined,
  noted: q.only === "noted" || undefined,
  sort: q.sort,
  descending: q.descending,
});

/** The recipients at the bench, as they come into view. */
export function useBenchRows(dropId: number, query: BenchQuery, range: { first: number; last: number }) {
  const fetch = useCallback(
    (offset: number, limit: number) =>
      ask(api.GET("/api/drops/{id}/recipients", { params: { path: { id: dropId }, query: { ...benchParams(query), offset, limit } } })),
    [dropId, query],
  );
  return usePagedRows(keys.drop(dropId, "rows", query), range.first, range.last, fetch);
}
