import { keepPreviousData, useQueries } from "@tanstack/react-query";
import { useMemo } from "react";

const pageSize = 100;

export interface Page<Row> {
  total: number;
  rows: Row[];
}

/**
 * Rows of a long answer, asked for in pages as they come into view. The first page is always asked for: it says how many rows
 * there are.
 */
export function usePagedRows<Row>(
  key: readonly unknown[],
  first: number,
  last: number,
  fetch: (offset: number, limit: number) => Promise<Page<Row>>,
) {
  const pages = useMemo(() => {
    const wanted = new Set([0]);
    for (let p = Math.max(0, Math.floor(first / pageSize)); p <= Math.floor(Math.max(first, last) / pageSize); p++) wanted.add(p);
    return [...wanted];
  }, [first, last]);
  return useQueries({
    queries: pages.map((page) => ({
      queryKey: [...key, "page", page],
      queryFn: () => fetch(page * pageSize, pageSize),
      placeholderData: keepPreviousData,
    })),
    combine: (results) => {
      const byPage = new Map(results.map((r, i) => [pages[i], r.data]));
      return {
        total: results[0]?.data?.total ?? 0,
        loading: results[0]?.isPending ?? true,
        error: results.find((r) => r.error)?.error ?? null,
        row: (index: number): Row | undefined => byPage.get(Math.floor(index / pageSize))?.rows[index % pageSize],
      };
    },
  });
}
