import { queryOptions } from "@tanstack/react-query";
import { api, ask } from "../api/client";

export const stocksQuery = () => queryOptions({ queryKey: ["stocks"], queryFn: () => ask(api.GET("/api/stocks")), staleTime: Infinity });
export const envelopesQuery = () =>
  queryOptions({ queryKey: ["envelopes"], queryFn: () => ask(api.GET("/api/envelopes")), staleTime: Infinity });
export const printersQuery = () => queryOptions({ queryKey: ["printers"], queryFn: () => ask(api.GET("/api/printers")) });
