import type { Schema } from "../api/client";

/** How the organization measures and counts its days; what every view writes follows it. */
export interface Customs {
  inches: boolean;
  /** IANA name; the browser's own until the settings are here. */
  timeZone: string | undefined;
  /** English, with the order of dates and the clock that its country has. */
  locale: "en-US" | "en-GB";
}

let now: Customs = { inches: false, timeZone: undefined, locale: "en-US" };

export const customs = () => now;

const known = (timeZone: string) => {
  try {
    new Intl.DateTimeFormat("en-US", { timeZone });
    return timeZone;
  } catch {
    return undefined;
  }
};

/** Countries that write the month before the day, and count hours to twelve, when they write English. */
const american = /-(US|CA|MX|PH)$/;

export function follow(settings: Pick<Schema["SettingsView"], "inInches" | "timeZone"> & { organization: { locale: string } }) {
  now = {
    inches: settings.inInches,
    timeZone: known(settings.timeZone),
    locale: american.test(settings.organization.locale) ? "en-US" : "en-GB",
  };
}

const inch = 25.4;

const shown = (mm: number) => Number(now.inches ? (mm / inch).toFixed(2) : mm.toFixed(1));

/** A length as the organization measures, to be read: 1.25 in, or 31.8 mm. */
export const length = (mm: number) => `${shown(mm)} ${lengthUnit()}`;

/** 8.5 × 11 in, or 210 × 297 mm. */
export const lengths = (...all: number[]) => `${all.map(shown).join(" × ")} ${lengthUnit()}`;

export const lengthUnit = () => (now.inches ? "in" : "mm");

/** The same in a field, where it can be set more finely. */
export const lengthNumber = (mm: number) => (now.inches ? Number((mm / inch).toFixed(4)) : Number(mm.toFixed(2)));

/** What was typed in the organization's unit, in millimeters. */
export const fromLength = (typed: number) => (now.inches ? Number((typed * inch).toFixed(4)) : typed);

/** By how much the arrows of a field change a length, in the organization's unit. */
export const lengthStep = () => (now.inches ? 0.0625 : 0.5);

// Basis weight of bond, writing, and ledger paper: 500 sheets of 17 by 22 inches (TAPPI T 410).
const gramsOfPound = (453.59237 / 500) * (1 / (17 * 22 * 0.0254 * 0.0254));

/** Grams of a square meter as the weight that paper is sold by: 20 lb, or 75 g/m². */
export const paperNumber = (grams: number) => (now.inches ? Number((grams / gramsOfPound).toFixed(1)) : Number(grams.toFixed(1)));
export const paperUnit = () => (now.inches ? "lb bond" : "g/m²");
export const fromPaper = (typed: number) => (now.inches ? Number((typed * gramsOfPound).toFixed(2)) : typed);

/** How far the organization's clock is ahead of UTC at a moment, in milliseconds. */
function ahead(at: number) {
  const part = Object.fromEntries(
    new Intl.DateTimeFormat("en-US", {
      timeZone: now.timeZone,
      hourCycle: "h23",
      year: "numeric",
      month: "numeric",
      day: "numeric",
      hour: "numeric",
      minute: "numeric",
      second: "numeric",
    })
      .formatToParts(at)
      .map((p) => [p.type, Number(p.value)]),
  ) as Record<string, number>;
  const { year = 0, month = 1, day = 1, hour = 0, minute = 0, second = 0 } = part;
  return Date.UTC(year, month - 1, day, hour, minute, second) - Math.floor(at / 1000) * 1000;
}

/** The moment that the organization's clock shows yyyy-MM-ddThh:mm; where a change of the clock skips it, the one after the gap. */
export function momentOf(local: string) {
  const wanted = Date.parse(`${local}Z`);
  const first = wanted - ahead(wanted);
  const second = wanted - ahead(first);
  return new Date(second + ahead(second) === wanted ? second : Math.max(first, second)).toISOString();
}

/** Today by the organization's calendar, yyyy-MM-dd. */
export const today = () =>
  new Intl.DateTimeFormat("en-CA", { timeZone: now.timeZone, year: "numeric", month: "2-digit", day: "2-digit" }).format(new Date());

/** A date with its words, such as Monday, March 1. */
export const writtenDay = (iso: string, options: Intl.DateTimeFormatOptions) =>
  new Date(`${iso}T00:00:00Z`).toLocaleDateString(now.locale, { timeZone: "UTC", ...options });

/** A time zone as people read it: America, New York. */
export const zoneName = (id: string) =>
  id
    .replace(/^Etc\//, "")
    .replaceAll("_", " ")
    .replaceAll("/", ", ");
