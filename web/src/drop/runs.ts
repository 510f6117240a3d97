import { api, ask, type Schema } from "../api/client";
import { keys } from "../api/keys";

export type Run = Schema["RunRow"];

/** A run, asked for as often as it changes. */
export const runDetailQuery = (id: number) => ({
  queryKey: keys.drop("run", id),
  queryFn: () => ask(api.GET("/api/runs/{id}/detail", { params: { path: { id } } })),
});
