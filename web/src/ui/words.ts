import { customs } from "./customs";

const numbers = new Intl.NumberFormat("en-US");

/** 1257 as 1,257. */
export const count = (n: number) => numbers.format(n);

/** "1 recipient", "14 recipients". */
export const many = (n: number, one: string, more = `${one}s`) => `${count(n)} ${n === 1 ? one : more}`;

/** Several things in a sentence: “a name, a list, and a design”. */
export const series = (parts: string[]) => new Intl.ListFormat("en-US", { type: "conjunction" }).format(parts);

/** 2027-03-12 as Mar 12, 2027, or 12 Mar 2027; the year is left out where it is this one. */
export function day(iso: string | null | undefined, withYear = true) {
  if (!iso) return "";
  const { locale, timeZone } = customs();
  const isDate = iso.length === 10;
  const date = new Date(isDate ? `${iso}T00:00:00Z` : iso);
  const zone = isDate ? "UTC" : timeZone;
  const yearOf = (at: Date) => at.toLocaleDateString("en-US", { timeZone: zone, year: "numeric" });
  const year = withYear || yearOf(date) !== yearOf(new Date());
  return date.toLocaleDateString(locale, { timeZone: zone, month: "short", day: "numeric", ...(year ? { year: "numeric" } : {}) });
}

/** A moment as Mar 2, 4:20 PM, or 2 Mar, 16:20. */
export function moment(iso: string | null | undefined) {
  if (!iso) return "";
  const { locale, timeZone } = customs();
  return `${day(iso, false)}, ${new Date(iso).toLocaleTimeString(locale, { timeZone, hour: locale === "en-GB" ? "2-digit" : "numeric", minute: "2-digit" })}`;
}

/** 0412: piece numbers are always written the same way. */
export const pieceNumber = (n: number) => String(n).padStart(4, "0");

/** Bytes as 1.4 MB. */
export const size = (bytes: number) =>
  bytes < 1 << 20 ? `${Math.max(1, Math.round(bytes / 1024))} KB` : `${(bytes / (1 << 20)).toFixed(1)} MB`;

export const trayNames: Record<string, string> = {
  NeedsReview: "Needs review",
  Ready: "Ready",
  Held: "Held",
  Produced: "Produced",
  Mailed: "Mailed",
  Returned: "Returned",
};

/** Cents as $1,234.50. */
export const money = (cents: number, currency: string) =>
  new Intl.NumberFormat("en-US", { style: "currency", currency }).format(cents / 100);

/** A part of a whole as 15.2%; a dash where there is nothing to divide. */
export const percent = (part: number, of: number) => (of === 0 ? "–" : `${((100 * part) / of).toFixed(1)}%`);
