import { queryOptions } from "@tanstack/react-query";
import { api, ask } from "./client";

export const settingsQuery = () => queryOptions({ queryKey: ["settings"], queryFn: () => ask(api.GET("/api/settings")) });
export const listsQuery = () => queryOptions({ queryKey: ["lists"], queryFn: () => ask(api.GET("/api/lists")) });
export const listQuery = (id: number) =>
  queryOptions({ queryKey: ["lists", id], queryFn: () => ask(api.GET("/api/lists/{id}", { params: { path: { id } } })) });
export const recipientQuery = (id: number, recipientId: number) =>
  queryOptions({
    queryKey: ["lists", id, "recipient", recipientId],
    queryFn: () => ask(api.GET("/api/lists/{id}/recipients/{recipientId}", { params: { path: { id, recipientId } } })),
  });
export const suppressionsQuery = () => queryOptions({ queryKey: ["suppressions"], queryFn: () => ask(api.GET("/api/suppressions")) });
export const designsQuery = () => queryOptions({ queryKey: ["designs"], queryFn: () => ask(api.GET("/api/designs")) });
export const designQuery = (id: number) =>
  queryOptions({ queryKey: ["designs", id], queryFn: () => ask(api.GET("/api/designs/{id}", { params: { path: { id } } })) });
export const versionsQuery = (id: number) =>
  queryOptions({
    queryKey: ["designs", id, "versions"],
    queryFn: () => ask(api.GET("/api/designs/{id}/versions", { params: { path: { id } } })),
  });
export const campaignsQuery = () => queryOptions({ queryKey: ["drop", "campaigns"], queryFn: () => ask(api.GET("/api/campaigns")) });
export const dropQuery = (id: number) =>
  queryOptions({
    queryKey: ["drop", id],
    queryFn: () => ask(api.GET("/api/drops/{id}", { params: { path: { id } } })),
    refetchInterval: (q) => (q.state.data?.checking ? 1000 : false),
  });
export const runsQuery = (id: number) =>
  queryOptions({ queryKey: ["drop", id, "runs"], queryFn: () => ask(api.GET("/api/drops/{id}/runs", { params: { path: { id } } })) });
export const jobQuery = (id: number) =>
  queryOptions({ queryKey: ["jobs", id], queryFn: () => ask(api.GET("/api/jobs/{id}", { params: { path: { id } } })) });
export const jobsQuery = () => queryOptions({ queryKey: ["jobs"], queryFn: () => ask(api.GET("/api/jobs")) });
export const detailsQuery = (listId: number) =>
  queryOptions({
    queryKey: ["lists", listId, "details"],
    queryFn: () => ask(api.GET("/api/lists/{id}/details", { params: { path: { id: listId } } })),
  });
/** What a recipient gets of a document that is being written: the one at a place of the list, or the one with an id. */
export const previewQuery = (designId: number, listId: number | null, offset: number, recipientId: number | null, document: object) =>
  queryOptions({
    queryKey: ["preview", designId, listId, offset, recipientId, document],
    queryFn: ({ signal }) =>
      ask(
        api.POST("/api/designs/preview", {
          body: { document: document as Record<string, never>, listId, offset, designId, recipientId },
          signal,
        }),
      ),
  });
/** Designs to start from. */
export const startersQuery = () =>
  queryOptions({ queryKey: ["starters"], queryFn: () => ask(api.GET("/api/starters")), staleTime: Infinity });
/** A starter's document, with the organization's words in it. */
export const starterQuery = (id: string) =>
  queryOptions({
    queryKey: ["settings", "starter", id],
    queryFn: () => ask(api.GET("/api/starters/{id}", { params: { path: { id } } })),
  });
export const countriesQuery = () =>
  queryOptions({ queryKey: ["countries"], queryFn: () => ask(api.GET("/api/countries")), staleTime: Infinity });
export const segmentsQuery = (listId: number) =>
  queryOptions({
    queryKey: ["lists", listId, "segments"],
    queryFn: () => ask(api.GET("/api/lists/{id}/segments", { params: { path: { id: listId } } })),
  });
/** The typefaces that can be chosen, and what prints those that documents name. */
export const typefacesQuery = () => queryOptions({ queryKey: ["settings", "typefaces"], queryFn: () => ask(api.GET("/api/typefaces")) });
export const pricesQuery = () => queryOptions({ queryKey: ["settings", "prices"], queryFn: () => ask(api.GET("/api/settings/prices")) });
