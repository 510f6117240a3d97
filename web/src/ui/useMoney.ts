import { useQuery } from "@tanstack/react-query";
import { settingsQuery } from "../api/queries";
import { money } from "./words";

export type Money = (cents: number) => string;

/** Writes amounts in the organization's currency. */
export function useMoney(): Money {
  const currency = useQuery(settingsQuery()).data?.organization.currency || "USD";
  return (cents) => money(cents, currency);
}
