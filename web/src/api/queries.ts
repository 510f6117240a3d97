import { queryOptions } from "@tanstack/react-query";
import { api, ask } from "./client";
import { keys } from "./keys";

export const settingsQuery = () => queryOptions({ queryKey: keys.settings(), queryFn: () => ask(api.GET("/api/settings")) });
export const listsQuery = () => queryOptions({ queryKey: keys.lists(), queryFn: () => ask(api.GET("/api/lists")) });
export const listQuery = (id: number) =>
  queryOptions({ queryKey: keys.lists(id), queryFn: () => ask(api.GET("/api/lists/{id}", { params: { path: { id } } })) });
export const recipientQuery = (id: number, recipientId: number) =>
  queryOptions({
    queryKey: keys.lists(id, "recipient", recipientId),
    queryFn: () => ask(api.GET("/api/lists/{id}/recipients/{recipientId}", { params: { path: { id, recipientId } } })),
  });
export const suppressionsQuery = () => queryOptions({ queryKey: keys.suppressions(), queryFn: () => ask(api.GET("/api/suppressions")) });
export const designsQuery = () => queryOptions({ queryKey: keys.designs(), queryFn: () => ask(api.GET("/api/designs")) });
export const designQuery = (id: number) =>
  queryOptions({ queryKey: keys.designs(id), queryFn: () => ask(api.GET("/api/designs/{id}", { params: { path: { id } } })) });
export const versionsQuery = (id: number) =>
  queryOptions({
    queryKey: keys.designs(id, "versions"),
    queryFn: () => ask(api.GET("/api/designs/{id}/versions", { params: { path: { id } } })),
  });
export const campaignsQuery = () => queryOptions({ queryKey: keys.drop("campaigns"), queryFn: () => ask(api.GET("/api/campaigns")) });
export const dropQuery = (id: number) =>
  queryOptions({
    queryKey: keys.drop(id),
    queryFn: () => ask(api.GET("/api/drops/{id}", { params: { path: { id } } })),
    refetchInterval: (q) => (q.state.data?.checking ? 1000 : false),
  });
export const runsQuery = (id: number) =>
  queryOptions({ queryKey: keys.drop(id, "runs"), queryFn: () => ask(api.GET("/api/drops/{id}/runs", { params: { path: { id } } })) });
export const jobQuery = (id: number) =>
  queryOptions({ queryKey: keys.jobs(id), queryFn: () => ask(api.GET("/api/jobs/{id}", { params: { path: { id } } })) });
export const jobsQuery = () => queryOptions({ queryKey: keys.jobs(), queryFn: () => ask(api.GET("/api/jobs")) });
export const detailsQuery = (listId: number) =>
  queryOptions({
    queryKey: keys.lists(listId, "details"),
    queryFn: () => ask(api.GET("/api/lists/{id}/details", { params: { path: { id: listId } } })),
  });
/** What a recipient gets of a document that is being written: the one at a place of the list, or the one with an id. */
export const previewQuery = (designId: number, listId: number | null, offset: number, recipientId: number | null, document: object) =>
  queryOptions({
    queryKey: keys.preview(designId, listId, offset, recipientId, document),
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
  queryOptions({ queryKey: keys.starters(), queryFn: () => ask(api.GET("/api/starters")), staleTime: Infinity });
/** A starter's document, with the organization's words in it. */
export const starterQuery = (id: string) =>
  queryOptions({
    queryKey: keys.settings("starter", id),
    queryFn: () => ask(api.GET("/api/starters/{id}", { params: { path: { id } } })),
  });
export const countriesQuery = () =>
  queryOptions({ queryKey: keys.countries(), queryFn: () => ask(api.GET("/api/countries")), staleTime: Infinity });
export const segmentsQuery = (listId: number) =>
  queryOptions({
    queryKey: keys.lists(listId, "segments"),
    queryFn: () => ask(api.GET("/api/lists/{id}/segments", { params: { path: { id: listId } } })),
  });
/** The typefaces that can be chosen, and what prints those that documents name. */
export const typefacesQuery = () => queryOptions({ queryKey: keys.settings("typefaces"), queryFn: () => ask(api.GET("/api/typefaces")) });
export const pricesQuery = () => queryOptions({ queryKey: keys.settings("prices"), queryFn: () => ask(api.GET("/api/settings/prices")) });
export const timeZonesQuery = () =>
  queryOptions({ queryKey: keys.timeZones(), queryFn: () => ask(api.GET("/api/time-zones")), staleTime: Infinity });
