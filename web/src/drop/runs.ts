import { api, ask, type Schema } from "../api/client";

export type Run = Schema["RunRow"];

/** A run, asked for as often as it changes. */
export const runDetailQuery = (id: number) => ({
  queryKey: ["drop", "run", id] as const,
  queryFn: () => ask(api.GET("/api/runs/{id}/detail", { params: { path: { id } } })),
});
