// @vitest-environment jsdom
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, renderHook, waitFor } from "@testing-library/react";
import type { ReactNode } from "react";
import { afterEach, expect, test } from "vitest";
import { usePagedRows, type Page } from "./usePagedRows";

afterEach(cleanup);

const rows = (total: number) => {
  const asked: number[] = [];
  const fetch = async (offset: number, limit: number): Promise<Page<string>> => {
    asked.push(offset);
    const length = Math.max(0, Math.min(limit, total - offset));
    return { total, rows: Array.from({ length }, (_, i) => `row ${offset + i}`) };
  };
  return { asked, fetch };
};

const open = (first: number, last: number, fetch: (offset: number, limit: number) => Promise<Page<string>>) => {
  const client = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  return renderHook(({ first, last }) => usePagedRows(["rows"], first, last, fetch), {
    initialProps: { first, last },
    wrapper: ({ children }: { children: ReactNode }) => <QueryClientProvider client={client}>{children}</QueryClientProvider>,
  });
};

test("only the pages in view are asked for, and the first, which says how many there are", async () => {
  const { asked, fetch } = rows(1000);
  const { result, rerender } = open(0, 20, fetch);
  expect(result.current.loading).toBe(true);
  await waitFor(() => expect(result.current.total).toBe(1000));
  expect(asked).toEqual([0]);
  rerender({ first: 590, last: 610 });
  await waitFor(() => expect(result.current.row(610)).toBe("row 610"));
  expect(result.current.row(590)).toBe("row 590");
  expect(result.current.row(300)).toBeUndefined();
  expect(asked).toEqual([0, 500, 600]);
  // What was seen before is there at once.
  rerender({ first: 0, last: 20 });
  expect(result.current.row(3)).toBe("row 3");
});

test("there are no rows past the end, and a failed request shows its error", async () => {
  const { fetch } = rows(3);
  const { result } = open(0, 20, fetch);
  await waitFor(() => expect(result.current.total).toBe(3));
  expect([result.current.row(2), result.current.row(3)]).toEqual(["row 2", undefined]);
  const { result: broken } = open(0, 20, () => Promise.reject(new Error("The server is away.")));
  await waitFor(() => expect(broken.current.error?.message).toBe("The server is away."));
});
