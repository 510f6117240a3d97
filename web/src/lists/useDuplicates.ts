import { useQuery } from "@tanstack/react-query";
import { useEffect } from "react";
import { api, ask } from "../api/client";
import { keys } from "../api/keys";
import { listQuery } from "../api/queries";
import { sayWrong } from "../ui/notices";

/** How many duplicates of a list are open; has it searched where it has changed since the last search. */
export function useDuplicates(listId: number) {
  const revision = useQuery(listQuery(listId)).data?.revision;
  const counts = useQuery({
    queryKey: keys.lists(listId, "duplicates"),
    queryFn: () => ask(api.GET("/api/lists/{id}/duplicates", { params: { path: { id: listId } } })),
  }).data;
  const stale = counts?.stale;
  useEffect(() => {
    if (stale && revision !== undefined)
      void ask(api.POST("/api/lists/{id}/duplicates", { params: { path: { id: listId } } })).catch(sayWrong);
  }, [stale, revision, listId]);
  return counts;
}
