import { queryOptions } from "@tanstack/react-query";
import { api, ask } from "../api/client";
import { keys } from "../api/keys";

export const accountsQuery = () => queryOptions({ queryKey: keys.accounts(), queryFn: () => ask(api.GET("/api/mail-accounts")) });
export const mailboxQuery = (accountId: number) =>
  queryOptions({
    queryKey: keys.accounts("mailbox", accountId),
    queryFn: async () => (await ask(api.GET("/api/mail-accounts/{id}/mailbox", { params: { path: { id: accountId } } }))) ?? null,
  });
export const postOfficeQuery = () => queryOptions({ queryKey: keys.postOffice(), queryFn: () => ask(api.GET("/api/post-office")) });
