import { queryOptions } from "@tanstack/react-query";
import { api, ask } from "../api/client";

export const accountsQuery = () => queryOptions({ queryKey: ["accounts"], queryFn: () => ask(api.GET("/api/mail-accounts")) });
export const postOfficeQuery = () => queryOptions({ queryKey: ["post-office"], queryFn: () => ask(api.GET("/api/post-office")) });
