import { queryOptions } from "@tanstack/react-query";
import { api, ask } from "../api/client";
import { keys } from "../api/keys";

export const stocksQuery = () => queryOptions({ queryKey: keys.stocks(), queryFn: () => ask(api.GET("/api/stocks")), staleTime: Infinity });
export const envelopesQuery = () =>
  queryOptions({ queryKey: keys.envelopes(), queryFn: () => ask(api.GET("/api/envelopes")), staleTime: Infinity });
export const printersQuery = () => queryOptions({ queryKey: keys.printers(), queryFn: () => ask(api.GET("/api/printers")) });
