export interface Sort {
  column: number;
  descending: boolean;
}

/** The order after a heading was chosen: upward, downward, none. With `more`, the columns before it stay in front. */
export function sorted(now: Sort[], column: number, more: boolean): Sort[] {
  const known = now.find((s) => s.column === column);
  const next = known ? (known.descending ? null : { column, descending: true }) : { column, descending: false };
  const others = more ? now.filter((s) => s.column !== column) : [];
  if (!next) return others;
  return more && known ? now.map((s) => (s.column === column ? next : s)) : [...others, next];
}

/** As the server is asked for it. */
export const sortText = (sorts: Sort[]) => sorts.map((s) => `${s.descending ? "-" : ""}${s.column}`).join(",") || undefined;
