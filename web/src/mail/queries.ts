import { queryOptions } from "@tanstack/react-query";
import { api, ask } from "../api/client";

export const accountsQuery = () => queryOptions({ queryKey: ["accounts"], queryFn: () => ask(api.GET("/api/mail-accounts")) });
export const mailboxQuery = (accountId: number) =>
  queryOptions({
    queryKey: ["accounts", "mailbox", accountId],
    queryFn: async () => (await ask(api.GET("/api/mail-accounts/{id}/mailbox", { params: { path: { id: accountId } } }))) ?? null,
  });
export const postOfficeQuery = () => queryOptions({ queryKey: ["post-office"], queryFn: () => ask(api.GET("/api/post-office")) });
