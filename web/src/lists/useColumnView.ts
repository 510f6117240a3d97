import { useMemo, useState } from "react";
import type { Schema } from "../api/client";

interface Kept {
  widths: Record<number, number>;
  hidden: number[];
}

/** Which columns of a list are shown and how wide; kept in this browser. */
export function useColumnView(list: Schema["ListView"]) {
  const key = `bandeja.columns.${list.id}`;
  const [kept, setKept] = useState<Kept>(() => {
    try {
      return { widths: {}, hidden: [], ...(JSON.parse(localStorage.getItem(key) ?? "{}") as Partial<Kept>) };
    } catch {
      return { widths: {}, hidden: [] };
    }
  });
  const keep = (next: Kept) => {
    setKept(next);
    localStorage.setItem(key, JSON.stringify(next));
  };
  const positions = useMemo(() => new Map(list.columns.map((c, i) => [c.id, i])), [list.columns]);
  const shown = useMemo(() => list.columns.filter((c) => !kept.hidden.includes(c.id)), [list.columns, kept.hidden]);
  return {
    shown,
    hidden: kept.hidden,
    hide: (hidden: number[]) => keep({ ...kept, hidden }),
    width: (c: Schema["Column"]) => kept.widths[c.id] ?? usual(c),
    setWidth: (id: number, width: number) => keep({ ...kept, widths: { ...kept.widths, [id]: width } }),
    position: (c: Schema["Column"]) => positions.get(c.id) ?? 0,
  };
}

/** A width that fits what such a column usually holds. */
function usual(c: Schema["Column"]) {
  const least = Math.min(200, c.name.length * 7.4 + 62);
  const byRole: Partial<Record<Schema["Role"], number>> = {
    Street: 190,
    Email: 210,
    Organization: 150,
    FamilyName: 130,
    FullName: 170,
    GivenName: 110,
    City: 120,
    Phone: 120,
    Title: 96,
    Region: 98,
    PostalCode: 98,
  };
  return Math.max(least, byRole[c.role] ?? (c.type === "Text" ? 110 : 96));
}
