/** A stretch of time along which dates are drawn. */
export interface Stretch {
  from: string;
  to: string;
}

const dayMs = 86_400_000;
export const dayNumber = (iso: string) => Math.round(Date.parse(`${iso}T00:00:00Z`) / dayMs);
export const isoOf = (day: number) => new Date(day * dayMs).toISOString().slice(0, 10);
export const addDays = (iso: string, days: number) => isoOf(dayNumber(iso) + days);

/** The stretch that holds all dates with some room at both ends; at least two months. */
export function stretchOf(dates: string[], today: string): Stretch {
  const days = [...dates, today].map(dayNumber);
  const [first, last] = [Math.min(...days), Math.max(...days)];
  const room = Math.max(7, Math.round((last - first) * 0.06));
  return { from: isoOf(first - room), to: isoOf(Math.max(last + room, first - room + 60)) };
}

/** Where a day stands in a stretch, from 0 to 1. */
export const placeOf = (iso: string, s: Stretch) => (dayNumber(iso) - dayNumber(s.from)) / Math.max(1, dayNumber(s.to) - dayNumber(s.from));

/** The first days of the months within a stretch. */
export function monthsOf(s: Stretch) {
  const months: string[] = [];
  const [year, month] = s.from.split("-").map(Number) as [number, number];
  for (let i = 1; ; i++) {
    const first = new Date(Date.UTC(year, month - 1 + i, 1)).toISOString().slice(0, 10);
    if (first > s.to) return months;
    months.push(first);
  }
}

/** The days of the weeks that show a month, from Sunday to Saturday. */
export function weeksOf(month: string) {
  const [year, m] = month.split("-").map(Number) as [number, number];
  const first = dayNumber(`${month.slice(0, 7)}-01`);
  const last = dayNumber(new Date(Date.UTC(year, m, 0)).toISOString().slice(0, 10));
  // 1970-01-01 was a Thursday.
  const weekday = (day: number) => (((day + 4) % 7) + 7) % 7;
  const weeks: string[][] = [];
  for (let day = first - weekday(first); day <= last; day += 7) weeks.push(Array.from({ length: 7 }, (_, i) => isoOf(day + i)));
  return weeks;
}

export const monthAfter = (month: string, by: number) => {
  const [year, m] = month.split("-").map(Number) as [number, number];
  return new Date(Date.UTC(year, m - 1 + by, 1)).toISOString().slice(0, 7);
};
